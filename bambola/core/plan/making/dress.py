"""Clothes at their new size: what they must pass over, and what to cut."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from bambola.core.facts import Fact, Mm, fact, together
from bambola.core.figure import Figure, Part, Rope, Turned
from bambola.core.order import OrderConflictError
from bambola.core.plan.making.jobs import ancestors, ellipse_mm, girth
from bambola.core.wool import extents

STRETCH = {"felt": 0.05, "woven cloth": 0.02, "knit": 0.40}
"""By how much an opening stretches, by what it is made of. See craft.md, 6."""
WAYS_WORN = ("", "pulled over", "wrap", "sash", "skirt")
"""How a garment goes on; the first is not clothing."""
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
            told = fact(
                "refused.garment",
                part=figure.by_id[row.part].name,
                stretched=Mm(row.stretched_mm),
                over=figure.by_id[row.passes].name,
                round=Mm(row.passes_mm),
                needs=Mm(row.passes_mm * row.opening_mm / row.stretched_mm),
            )
            raise OrderConflictError(told)


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


def dress_fact(row: DressPlan, names: Mapping[str, str]) -> Fact:
    """What to cut for a garment, what that goes over, and what it hides; ``names`` of parts by their ids."""
    cut, said = Mm(row.cut_mm), []
    if row.kind == "skirt":
        said.append(fact("dress.skirt", n=row.strips, cut=cut))
    elif row.kind in ("wrap", "sash"):
        said.append(fact("dress.tied" if row.bought else "dress.cut-and-tie", cut=cut))
    else:
        of = "bought" if row.bought else "felt"
        goes = "passes" if row.passes_over else "stops"
        said.append(
            fact(
                f"dress.{of}-{goes}",
                round=Mm(row.opening_mm) if row.bought else cut,
                stretched=Mm(row.stretched_mm),
                over=names[row.passes],
                passes=Mm(row.passes_mm),
            )
        )
    if row.over:
        said.append(
            fact("dress.hides", parts=tuple(fact("named", name=names[p]) for p in row.over))
        )
    return together(*said)
