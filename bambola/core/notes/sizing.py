"""The shape of a part from its typed sizes; the others are taken in proportion."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from statistics import fmean

from bambola.core.facts import Fact, Mm, fact
from bambola.core.frozen import frozen
from bambola.core.notes.kinds import Form, PartKind
from bambola.core.notes.reading import Entry, Role

SIDES: Mapping[Form, tuple[str, ...]] = {
    "ball": ("width", "depth", "height"),
    "pad": ("width", "depth", "height"),
    "cone": ("length", "base", "tip"),
    "limb": ("length", "thickness", "tip"),
    "sausage": ("length", "thickness"),
    "leaf": ("length", "width", "thickness"),
    "ring": ("thickness", "height"),
    "eyes": ("width",),
}
"""The sizes of each form, in the order they are kept."""
_TOLD_AS: Mapping[str, Mapping[Role, str]] = {
    "ball": {"width": "width", "depth": "depth", "height": "height", "length": "depth", "thickness": "depth"},
    "cone": {"length": "length", "height": "length", "width": "base", "thickness": "base", "depth": "base",
             "to": "tip"},
    "limb": {"length": "length", "height": "length", "width": "thickness", "thickness": "thickness",
             "depth": "thickness", "to": "tip"},
    "leaf": {"length": "length", "height": "length", "width": "width", "thickness": "thickness",
             "depth": "thickness"},
    "ring": {"thickness": "thickness", "width": "height", "height": "height", "length": "height",
             "depth": "thickness"},
    "eyes": {"width": "width", "thickness": "width", "height": "width", "length": "width", "depth": "width"},
}  # fmt: skip
"""Which size of a form a word tells of. A pad is told as a ball is, and a sausage as a limb."""
_ALSO: Mapping[Form, str] = {"pad": "ball", "sausage": "limb"}


LEAST_LEAF_MM = 2.0
"""A flat part of which no thickness is told is at least so thick. Judged. See craft.md, 9."""


@frozen
class FormSizes:
    """The sizes of a part (mm) in the order of its form, with what was assumed and what is doubtful."""

    form: Form
    sizes: tuple[float, ...]
    taken: tuple[Fact, ...] = ()
    doubts: tuple[Fact, ...] = ()


def size_item(
    kind: PartKind, entry: Entry, shares: Sequence[float], wide: float, lies: bool, scale: float
) -> FormSizes:
    """Return the sizes of an entry's part. ``shares`` are the usual ones beside ``wide`` (mm), the width of
    what it sits on; one that ``lies`` is as long as its largest side is. What was typed is multiplied by
    ``scale``."""
    form = kind.form
    if (
        kind.site == "snout"
        and form == "cone"
        and len(entry.sizes) == 1
        and not entry.sizes[0].role
    ):
        form, shares = "ball", (shares[1], shares[0], shares[1])  # a snout of one size is round
    if form in ("cone", "limb") and {"width", "depth"} <= {size.role for size in entry.sizes}:
        form, shares = "ball", (shares[1], shares[1], shares[0])  # it is told as a ball is
    usual = [share * wide for share in shares]
    if form == "limb" and len(usual) == 2:
        usual.append(usual[1])
    if form == "ring":
        usual.append(usual[0])
    sides = SIDES[form]
    expected = dict(zip(sides, usual, strict=True))
    told, doubts = _sizes_by_words(form, entry, kind, expected, lies, scale)
    made = _complete_sizes(form, told, expected, LEAST_LEAF_MM * scale)
    if lies and form == "ball" and "height" not in told:
        made["height"] = made["width"]
    missing = [side for side in sides if side not in told and side not in ("tip",)]
    missing = [side for side in missing if not (form == "ring" and side == "height")]
    taken = tuple(
        fact("notes.taken", name=entry.name, side=Fact(f"notes.side.{side}"), mm=Mm(made[side]))
        for side in missing
    )
    return FormSizes(form, tuple(made[side] for side in sides), taken, tuple(doubts))


def _sizes_by_words(
    form: Form,
    entry: Entry,
    kind: PartKind,
    expected: Mapping[str, float],
    lies: bool,
    scale: float,
) -> tuple[dict[str, float], list[Fact]]:
    """Return the sizes given by words in the line, by the sides of the form."""
    named = _TOLD_AS[_ALSO.get(form, form)]
    told: dict[str, float] = {}
    doubts: list[Fact] = []
    loose: list[float] = []
    for size in entry.sizes:
        mm = size.mm * scale
        if size.role == "girth":
            mm, doubt = _round_width(entry, mm, expected)
            doubts += doubt
            for side in ("width", "depth", "base", "thickness"):
                if side in expected and not (form == "leaf" and side == "thickness"):
                    told.setdefault(side, mm)
            if form in ("ball", "pad") and len(entry.sizes) == 1:
                told.setdefault("height", mm)
            continue
        role = size.role
        if role == "length" and form in ("ball", "pad") and not (lies or kind.site == "foot"):
            role = "height"
        side = named.get(role, "")
        if side and side not in told:
            told[side] = mm
        else:
            loose.append(mm)
    _assigned_sizes(form, kind, told, loose, lies)
    return told, doubts


def _assigned_sizes(
    form: Form, kind: PartKind, told: dict[str, float], loose: list[float], lies: bool
) -> None:
    """Assign sizes without a word to the remaining sides."""
    free = [side for side in SIDES[form] if side not in told]
    if not loose:
        return
    if form in ("ball", "pad"):
        if len(loose) == 1 and len(free) == 3:
            if form == "ball":
                told |= dict.fromkeys(free, loose[0])
            else:
                told["depth" if kind.site == "foot" else "width"] = loose[0]
            return
        if len(loose) == 2 and len(free) == 3 and kind.site != "foot":
            small, large = sorted(loose)
            if lies:
                told |= {"width": small, "height": small, "depth": large}
            else:
                told |= {"width": loose[0], "depth": loose[0], "height": loose[1]}
            return
        if len(free) == 3 and (lies or kind.site == "foot"):
            long = max(loose[:2] if kind.site == "foot" else loose)
            rest = list(loose)
            rest.remove(long)
            told |= {"depth": long, **dict(zip(("width", "height"), rest, strict=False))}
            return
    elif form in ("limb", "cone", "leaf", "sausage") and "length" in free and len(loose) > 1:
        long = max(loose[:2])
        told["length"] = long
        loose.remove(long)
        free.remove("length")
    told |= dict(zip(free, loose, strict=False))


def _round_width(
    entry: Entry, mm: float, expected: Mapping[str, float]
) -> tuple[float, list[Fact]]:
    """Return the width of something given as "round": its girth by tape, or its width, whichever is nearer to
    the usual."""
    usual = fmean(mm for side, mm in expected.items() if side not in ("length", "tip"))
    girth, width = mm / math.pi, mm
    is_girth = abs(math.log(girth / usual)) < abs(math.log(width / usual))
    across = girth if is_girth else width
    kind = "notes.girth" if is_girth else "notes.across"
    return across, [fact(kind, name=entry.name, round=Mm(mm), wide=Mm(across))]


def _complete_sizes(
    form: Form, told: Mapping[str, float], expected: Mapping[str, float], least: float
) -> dict[str, float]:
    """Return all sizes: missing ones in the usual proportion to given ones; a leaf is at ``least`` this
    thick."""
    known = [math.log(told[side] / expected[side]) for side in told if side != "tip"]
    times = math.exp(fmean(known)) if known else 1.0
    made = {side: told.get(side, expected[side] * times) for side in expected}
    if form in ("ball", "pad") and "depth" not in told and "width" in told:
        made["depth"] = told["width"] * expected["depth"] / expected["width"]
    if form in ("limb", "sausage") and set(told) == {"length"} and times < 1:
        made["thickness"] = expected["thickness"] * math.sqrt(times)  # what is short is stubby
    if form == "limb" and "tip" not in told:
        made["tip"] = made["thickness"] * expected["tip"] / expected["thickness"]
    if form == "cone":
        made["tip"] = min(
            told.get("tip", made["base"] * expected["tip"] / expected["base"]), made["base"]
        )
    if form == "leaf" and "thickness" not in told:
        made["thickness"] = max(least, made["length"] * expected["thickness"] / expected["length"])
    return made
