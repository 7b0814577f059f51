"""From parts, wires and fittings to the tasks of making, before they are put in order.

Tasks hold nothing that changes smoothly with height, so the order of two heights that are made in
the same way is the same value and is found once.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

Kind = Literal[
    "cut wire", "bend and bind", "wrap", "shape", "coat", "inset", "pre-join", "join", "blend",
    "mark", "fit", "detail", "fur row", "dress", "finish", "check", "wait",
]  # fmt: skip
MADE_WORDS = {
    "apart": "made apart", "in place": "built in place", "detail": "a drawn detail",
    "on wire": "wrapped on its wire", "bought": "bought",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class PartJob:
    """What the order needs to know of a part at one size; lists run in the order of the figure.

    ``small`` parts are under 12 mm; the two of a pair that ``meets`` touch; a ``limb`` is long. A core
    ``grows`` from round to round in three directions, or in two along its whole length. The second
    of a pair made one at a time has its id with ``.2`` after it.
    What is ``left_out`` lies within its neighbours; one that is ``coreless`` is all of its coat's wool. What
    its parent is ``built_round`` is put on before the last round of the parent's core.
    """

    id: str
    name: str
    plural: str
    parent: str | None
    grandparent: str | None
    count: int
    made: str
    rounds: int
    needle: int
    flat: bool
    core: str
    coat: str | None
    insets: tuple[tuple[str, str], ...]
    fur_wool: str | None
    fur_rows: int
    fur_lie: str
    join: str
    face: bool
    over: tuple[str, ...]
    wires: tuple[str, ...]
    garment: bool
    passes: str | None
    must_precede: bool
    small: bool = False
    meets: bool = False
    limb: bool = False
    grows: int = 3
    left_out: bool = False
    built_round: bool = False
    coreless: bool = False


@dataclass(frozen=True, slots=True)
class FittingJob:
    """A fitting as the order sees it."""

    id: str
    name: str
    kind: str
    part: str
    count: int
    glued: bool


@dataclass(frozen=True, slots=True)
class WireJob:
    """A wire as the order sees it; ``pegs`` is the part it joins, if it is a straight peg; ``bound`` says
    that it is bound to another."""

    id: str
    name: str
    pegs: str | None = None
    bound: bool = True


@dataclass(frozen=True, slots=True)
class Work:
    """Everything to be put in order. ``neck`` is the part whose join may be made in more than one way
    and bears the whole figure when it is lifted; ``feet`` are the parts it stands on, ``marked`` those with
    marks of a face; one that ``hangs`` has a loop."""

    parts: tuple[PartJob, ...]
    wires: tuple[WireJob, ...] = ()
    fittings: tuple[FittingJob, ...] = ()
    schools: tuple[tuple[str, str], ...] = ()
    neck: str | None = None
    feet: tuple[str, ...] = ()
    marked: tuple[str, ...] = ()
    hangs: bool = False

    def school(self, choice: str, default: str) -> str:
        """The maker's school for ``choice``."""
        return dict(self.schools).get(choice, default)


@dataclass(frozen=True)
class Task:
    """One step before it has a number. ``wool`` is the colour it lays on the pad.

    ``key`` begins with the sort of work and the part or thing: ``core:head:1``, ``fit:eye``.
    """

    key: str
    kind: Kind
    part: str | None
    text: str
    needle: int | None = None
    wool: str | None = None
    checks: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    coreless: bool = False

    @property
    def piece(self) -> str | None:
        """What it has in hand: a part, or the wire before any wool is on it."""
        return self.part or ("wire" if self.kind in ("cut wire", "bend and bind") else None)

    @cached_property
    def sort(self) -> str:
        """The first word of the key."""
        return self.key.partition(":")[0]

    @cached_property
    def weighed_by(self) -> str:
        """The key under which the wool it uses is weighed: ``core:head``, ``inset:head:stripe``."""
        if self.sort == "inset":
            return self.key
        return f"{'coat' if self.coreless else self.sort}:{self.part}"


NEEDLE_CARE = "Eyes on the point, free hand behind or guarded; straight in and out."
WIRE_CARE = "Glasses on: cut ends fly. Turn every end over before it can scratch."
BEND_CARE = "Wind away from your face, and file or tape any sharp end."
GLUE_CARE = "Glue in moving air; a hot glue gun burns."
AWL_CARE = "Awl and scissors go away from the hand that holds the work."
SMALL_CARE = (
    "Eyes, beads and wire can come off: an ornament, not a toy for small children. Selling it as a "
    "toy needs the local safety law met and a qualified test."
)
SURFACE_NEEDLE = 40
"""Gauge for surface, eyes and rims. See craft.md, 5."""


def needle_for(smallest_mm: float) -> int:
    """Needle gauge by smallest dimension: over 30 mm 36, from 10 mm 38, below 40."""
    return 36 if smallest_mm > 30 else 38 if smallest_mm >= 10 else 40


def tasks_for(work: Work) -> tuple[Task, ...]:
    """All tasks of ``work``, in the order of the figure."""
    return tuple(_all(work))


def _all(work: Work) -> Iterator[Task]:
    for wire in work.wires:
        called = (
            f"Cut the {wire.name.lower()}"
            if wire.pegs
            else f"Cut {wire.name.lower()} and turn its ends over"
        )
        yield Task(f"cut:{wire.id}", "cut wire", None, called, cautions=(WIRE_CARE,))
        if wire.pegs:
            continue
        bound = " and bind it" if wire.bound else ""
        yield Task(f"bend:{wire.id}", "bend and bind", None,
                   f"Bend {wire.name.lower()} along its marks{bound}",
                   cautions=(BEND_CARE,))  # fmt: skip
    for part in work.parts:
        if part.left_out:
            continue
        yield from _core(part, work)
        yield from _skin(part)
        yield from _joining(part, work)
    yield from _face(work)
    for fitting in work.fittings:
        yield from _fitting(fitting)
    if work.hangs:
        yield Task("loop", "fit", None, "Fix the loop it hangs by, where the plan marks it",
                   checks=("hang it: does it nod as planned?",))  # fmt: skip
        last, hold = "Hang it, and look from front, side, back and below", "hang it"
    else:
        if work.feet:
            yield Task("check:ground", "check", None, "Stand it while its feet can still be pressed level",
                       checks=("no rocking on a hard table", "it stands when it is nudged"))  # fmt: skip
        last, hold = "Stand it, and look from front, side, back and top", "stand it"
    yield Task("check:stand", "check", None, last,
               checks=(hold, "look upside down and from four sides"))  # fmt: skip
    yield Task("finish", "finish", None, "Smooth the whole surface and trim what stands up",
               SURFACE_NEEDLE,
               checks=("rub along the coat", *(("feel for wire",) if work.wires else ())),
               cautions=(NEEDLE_CARE, *((SMALL_CARE,) if work.fittings or work.wires else ())))  # fmt: skip


def _called(part: PartJob) -> str:
    if part.count == 2:
        return f"both {part.plural.lower()}, back to back"
    return f"the {part.name.lower()}"


def _core(part: PartJob, work: Work) -> Iterator[Task]:
    squeeze: tuple[str, ...] = ("hold to the light",) if part.flat else ("squeeze",)
    soft = left_soft(work, part)
    left = ", left soft: it is firmed on the body" if soft else ""
    if part.made == "bought":
        return
    if soft:
        squeeze = ()
    wound = ""
    if part.made == "on wire" and part.limb:
        middle = work.school("legs", "middle out") == "middle out"
        wound = " from the middle out" if middle else " from the body down"
    if part.made == "detail":
        yield Task(f"detail:{part.id}", "detail", part.id,
                   f"Draw {_called(part)} with a thread of wool", SURFACE_NEEDLE, part.coat or part.core,
                   cautions=(NEEDLE_CARE,))  # fmt: skip
        return
    wool = part.coat or part.core if part.coreless else part.core
    if part.coreless:
        left = f"{left}, with the coat’s wool alone"
    if part.made == "in place":
        yield Task(f"core:{part.id}:1", "shape", part.id,
                   f"Build {_called(part)} in place from a pinch{left}",
                   part.needle, wool, squeeze, (NEEDLE_CARE,), part.coreless)  # fmt: skip
        return
    verb, kind = ("Wrap", "wrap") if part.made == "on wire" else ("Shape", "shape")
    for n in range(1, part.rounds + 1):
        turn = f", round {n} of {part.rounds}" if part.rounds > 1 else ""
        checks = (*squeeze, "feel for wire") if kind == "wrap" else squeeze
        yield Task(f"core:{part.id}:{n}", "wrap" if kind == "wrap" else "shape", part.id,
                   f"{verb} {_called(part)}{wound}{turn}{left}", part.needle, wool, checks,
                   (NEEDLE_CARE,), part.coreless)  # fmt: skip


def _skin(part: PartJob) -> Iterator[Task]:
    if part.made in ("detail", "bought"):
        return
    for inset, wool in part.insets:
        yield Task(f"inset:{part.id}:{inset}", "inset", part.id,
                   f"Lay the {inset.replace('-', ' ')} on the {part.name.lower()}",
                   SURFACE_NEEDLE, wool, ("look from front and side",), (NEEDLE_CARE,))  # fmt: skip
    if part.coat and not part.coreless:
        yield Task(f"coat:{part.id}", "coat", part.id, f"Coat {_called(part)}",
                   SURFACE_NEEDLE, part.coat, ("rub along the coat",), (NEEDLE_CARE,))  # fmt: skip
    for row in range(1, part.fur_rows + 1):
        yield Task(f"fur:{part.id}:{row}", "fur row", part.id,
                   f"Fix fur row {row} of {part.fur_rows} on the {part.name.lower()}, "
                   f"from its {part.fur_lie}",
                   38, part.fur_wool, (), (NEEDLE_CARE,))  # fmt: skip


def _joining(part: PartJob, work: Work) -> Iterator[Task]:
    if part.parent is None or part.made in ("detail", "in place"):
        return
    if part.join == "peg" and part.made == "apart":
        yield Task(f"peg:{part.id}", "mark", part.id, f"Open the peg hole for the {part.name.lower()}",
                   cautions=(AWL_CARE,))  # fmt: skip
    called = _called(part).removesuffix(", back to back")
    if part.made == "bought":
        yield Task(
            f"join:{part.id}", "dress", part.id,
            f"Put on {called}" + (", over what is there so far" if part.built_round else ""),
            checks=("look from all sides",),
        )  # fmt: skip
        return
    if part.garment:
        yield Task(f"join:{part.id}", "dress", part.id, f"Put on {called} and felt it down",
                   part.needle, part.coat or part.core, (), (NEEDLE_CARE,))  # fmt: skip
        return
    # Where wool is laid over the join it holds only with that, and is tugged then.
    seam = {"patch": " under a patch", "scarf": " under a scarf of wool"}.get(part.join, "")
    tug = ("tug the join",)
    if pairs_first(work, part):
        yield Task(f"pair:{part.id}", "pre-join", part.id, f"Join {called} to each other",
                   part.needle, None, ("thread round the head",), (NEEDLE_CARE,))  # fmt: skip
    if part.made == "apart":
        kind: Kind = "pre-join" if part.grandparent is not None else "join"
        how = {"peg": " on its peg", "wire": " over the wire"}.get(part.join, "")
        yield Task(f"join:{part.id}", kind, part.id, f"Join {called}{how}",
                   part.needle, None, () if seam else tug, (NEEDLE_CARE,))  # fmt: skip
    yield Task(f"blend:{part.id}", "blend", part.id, f"Blend in {called}{seam}",
               38, part.coat or part.core, tug if seam or part.made == "on wire" else (),
               (NEEDLE_CARE,))  # fmt: skip


def left_soft(work: Work, part: PartJob) -> bool:
    """Whether a small part is joined soft and firmed on the body."""
    return part.small and part.made == "apart" and work.school("small", "soft") == "soft"


def may_pair(part: PartJob) -> bool:
    """Whether the two of a pair can be joined to each other before they are joined to their parent: ears,
    wings and flukes can, which are sheets; two legs or warts would only be in each other's way."""
    return (
        part.count == 2
        and part.made == "apart"
        and part.flat
        and not part.garment
        and part.parent is not None
    )


def pairs_first(work: Work, part: PartJob) -> bool:
    """Whether they are: by the maker's school, or because they meet."""
    school = work.school("ears", "as they meet")
    return may_pair(part) and (school == "pair first" or (school == "as they meet" and part.meets))


def _face(work: Work) -> Iterator[Task]:
    faces = {f.part for f in work.fittings if f.kind == "eye"} or {
        p.parent for p in work.parts if p.face and p.parent
    }
    for part in work.parts:
        if part.id in work.marked and part.id not in faces:
            yield Task(f"mark:{part.id}", "mark", part.id,
                       f"Lay out the marks on the {part.name.lower()}")  # fmt: skip
        if part.id in faces:
            yield Task(f"mark:{part.id}", "mark", part.id,
                       f"Mark {_and(_to_mark(part, work))} on the {part.name.lower()}",
                       checks=(f"thread round the {part.name.lower()}",))  # fmt: skip


def _to_mark(head: PartJob, work: Work) -> list[str]:
    """What is marked on the part that bears a face: the line of its eyes, and where things will sit."""
    eyes = any(f.kind == "eye" and f.part == head.id for f in work.fittings)
    found = ["the eye line"] if eyes else []
    for part in work.parts:
        if part.parent != head.id or part.left_out or part.made == "bought" or part.garment:
            continue
        if part.face:
            found.append(f"the {(part.plural if part.count == 2 else part.name).lower()}")
        elif part.flat and part.count == 2:
            found.append(f"the bases of the {part.plural.lower()}")
    found += [
        f"the {f.name.lower()}" for f in work.fittings if f.part == head.id and f.kind == "nose"
    ]
    return found


def _and(words: Sequence[str]) -> str:
    """“a, b and c”."""
    return " and ".join(filter(None, (", ".join(words[:-1]), words[-1])))


def _fitting(fitting: FittingJob) -> Iterator[Task]:
    called = f"both {fitting.name.lower()}" if fitting.count == 2 else f"the {fitting.name.lower()}"
    if fitting.kind == "eye":
        yield Task(f"socket:{fitting.id}", "mark", fitting.part, f"Open the sockets and try {called} dry",
                   checks=("thread round the head",), cautions=(AWL_CARE,))  # fmt: skip
    text = f"Glue in {called}" if fitting.glued else f"Fix {called} in place"
    yield Task(f"fit:{fitting.id}", "fit", fitting.part, text,
               cautions=(GLUE_CARE,) if fitting.glued else ())  # fmt: skip
    if fitting.glued:
        yield Task(f"wait:{fitting.id}", "wait", fitting.part, f"Let the glue of {called} cure")
