"""Clothes at their new size: what they must pass over, and what to cut."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from bambola.core.figure import Figure, Part, Rope, Turned
from bambola.core.order import OrderConflictError
from bambola.core.plan.making.jobs import ancestors, ellipse_mm, girth
from bambola.core.quantities import Units, show_length
from bambola.core.wool import extents

STRETCH = {"felt": 0.05, "woven cloth": 0.02, "knit": 0.40}
"""By how much an opening stretches, by what it is made of. See craft.md, 6."""
WORN_WORDS = {
    "": "not clothing",
    "pulled over": "pulled over",
    "wrap": "a wrap",
    "sash": "a tied sash",
    "skirt": "a skirt of strips",
}
"""How a garment goes on, in words."""
EASE_MM = 3.0
"""All round, for every layer worn under it. See craft.md, 6."""
KNOT_MM = 60.0
"""What a knot takes of a strip. See craft.md, 6."""


@dataclass(frozen=True, slots=True)
class DressPlan:
    """One garment, mm. ``worn_mm`` is the girth it closes round, ``girth_mm`` that with the ease for what
    is worn under it; ``passes_mm`` the girth it must pass over, ``opening_mm`` its opening, ``stretched_mm``
    the same stretched. ``cut_mm`` is the length to cut, of each of ``strips``; nought where it is bought.
    ``over`` are the parts it lies over, whose skin it hides."""

    part: str
    kind: Literal["pulled over", "wrap", "sash", "skirt"]
    worn_mm: float
    girth_mm: float
    passes: str
    passes_mm: float
    opening_mm: float
    stretched_mm: float
    passes_over: bool
    fits: bool
    cut_mm: float
    strips: int
    bought: bool
    over: tuple[str, ...]


def dress_plans(figure: Figure) -> tuple[DressPlan, ...]:
    """The garments of a resized figure."""
    return tuple(dress_of(part, figure) for part in figure.parts if part.garment)


def refuse_unwearable(rows: Iterable[DressPlan], figure: Figure) -> None:
    """Raise ``OrderConflictError`` for a garment that must pass over the very thing it sits on and cannot:
    by the time there is something to put it on, that is too wide."""
    for row in rows:
        # One that is bought can be opened, or another taken: that is asked.
        if row.bought:
            continue
        if not row.passes_over and row.passes in ancestors(figure.by_id[row.part], figure):
            name, wide = figure.by_id[row.part].name, figure.by_id[row.passes].name.lower()
            needs = row.passes_mm * row.opening_mm / row.stretched_mm
            raise OrderConflictError(
                f"{name} can never go on: stretched it opens to {row.stretched_mm:.0f} mm, and the {wide}, "
                f"which it sits on and must pass over, is {row.passes_mm:.0f} mm round. Open it to "
                f"{needs:.0f} mm, take something that stretches more, or tie it round."
            )


def worn_mm(part: Part, figure: Figure) -> float:
    """The girth (mm) a garment closes round: within a ring its hole, of a turned form its narrowest cut,
    otherwise the part it is worn on."""
    shape = part.shape
    if isinstance(shape, Rope) and shape.closed:
        return max(0.0, shape.measures()["length"] - math.pi * shape.thickness)
    if isinstance(shape, Turned):
        return min(ellipse_mm(st.width, st.depth) for st in shape.stations)
    return girth(figure.by_id[part.parent] if part.parent else part)


def dress_of(part: Part, figure: Figure) -> DressPlan:
    """One garment of a figure."""
    dress = part.garment
    assert dress is not None
    closes = worn_mm(part, figure)
    round_it = closes + math.tau * EASE_MM * dress.layers
    over = girth(figure.by_id[dress.passes])
    stretched = dress.opening * (1 + dress.stretch)
    cut, strips = round_it, 1
    if dress.kind in ("wrap", "sash"):
        cut = round_it + KNOT_MM + 2 * dress.tails
    elif dress.kind == "skirt":
        strips = math.ceil(round_it * dress.fullness / dress.strip - 1e-9)
        cut = 2 * extents(part.shape)["along"] + KNOT_MM
    tied = dress.kind != "pulled over"
    return DressPlan(
        part.id,
        dress.kind,
        closes,
        round_it,
        dress.passes,
        over,
        dress.opening,
        stretched,
        tied or stretched >= over,
        tied or not dress.bought or stretched >= closes,
        0.0 if dress.bought else cut,
        strips,
        dress.bought,
        tuple(dict.fromkeys((*part.over, *((part.parent,) if part.parent else ())))),
    )


def dress_lengths(row: DressPlan, units: Units) -> dict[str, str]:
    """The lengths of a garment as the maker reads them, by the name of the field."""
    fields = ("cut_mm", "opening_mm", "stretched_mm", "passes_mm")
    return {name: show_length(getattr(row, name), units) for name in fields}


def dress_words(row: DressPlan, names: Mapping[str, str], told: Mapping[str, str]) -> str:
    """What to cut, and what it goes over, in words; ``told`` are its lengths as the maker reads them, by
    the name of the field."""
    under = _listed([names[part].lower() for part in row.over])
    hides = f" It lies over the {under}: no coat is needed there." if under else ""
    passed = names[row.passes].lower()
    if row.kind == "skirt":
        return f"Cut {row.strips} strips of {told['cut_mm']} and knot them on.{hides}"
    if row.kind in ("wrap", "sash"):
        cut = f"Cut {told['cut_mm']}, knot and tails included; t" if not row.bought else "T"
        return f"{cut}ied, it passes anything.{hides}"
    over = "passes" if row.passes_over else "does not pass"
    what = (
        f"It is bought, {told['opening_mm']} round"
        if row.bought
        else f"Its felt goes {told['cut_mm']} round"
    )
    return (
        f"{what}; stretched to {told['stretched_mm']} it {over} over the {passed}, "
        f"which is {told['passes_mm']} round.{hides}"
    )


def _listed(words: list[str]) -> str:
    """Words with commas, and an “and” before the last."""
    *most, last = words or [""]
    return f"{', '.join(most)} and {last}" if most else last
