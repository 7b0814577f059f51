"""Clothes at their new size: what they must pass over, and what to cut."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from typing import Literal

import numpy as np

from bambola.core.facts import Fact, Mm, fact, together
from bambola.core.figure import Figure, Part, Rope, Turned
from bambola.core.figure.shapes import ChainShape
from bambola.core.frozen import frozen
from bambola.core.order import OrderConflictError
from bambola.core.solids import place
from bambola.core.wool import finished_size

STRETCH = {"felt": 0.05, "woven cloth": 0.02, "knit": 0.40}
"""By how much an opening stretches, by what it is made of. See craft.md, 6."""
WAYS_WORN = ("", "pulled over", "wrap", "sash", "skirt")
"""How a garment goes on; the first is not clothing."""
EASE_MM = 3.0
"""All round, for every layer worn under it. See craft.md, 6."""
KNOT_MM = 60.0
"""What a knot takes of a strip. See craft.md, 6."""


@frozen
class DressPlan:
    """One garment, mm. ``worn_mm`` is the girth it closes round, ``girth_mm`` that with ease for what is worn
    under it; ``passes_mm`` the girth it must pass over, ``opening_mm`` its opening, ``stretched_mm`` the
    opening stretched. ``cut_mm`` is the length to cut of each of ``strips``; 0 if it is bought. ``over`` are
    the parts it lies over and hides; ``before`` those that would be in its way and are put on after it. A
    garment that ``is_cut`` is not of wool."""

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
    before: tuple[str, ...] = ()
    is_cut: bool = False


def dress_plans(figure: Figure) -> tuple[DressPlan, ...]:
    """Return the garments of a resized figure."""
    return tuple(dress_of(part, figure) for part in figure.parts if part.garment)


def refuse_unwearable(rows: Iterable[DressPlan], figure: Figure) -> None:
    """Raise ``OrderConflictError`` for a garment that must pass over its own bearer and cannot, since by then
    the bearer is too wide."""
    for row in rows:
        # One that is bought can be opened, or another taken: that is asked. What is sewn is closed there.
        if row.bought or is_closed_on(figure.by_id[row.part]):
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
    """Return the girth (mm) a garment closes round: within a ring its hole, of a turned form its narrowest
    cut, otherwise the part it is worn on."""
    shape = part.shape
    if isinstance(shape, Rope) and shape.closed:
        return max(0.0, shape.measures()["length"] - math.pi * shape.thickness)
    if isinstance(shape, Turned):
        girths = [ellipse_mm(st.width, st.depth) for st in shape.stations]
        # What is closed at one end, as a hat is, is worn at the other.
        return min(girths) if min(girths[0], girths[-1]) > 1.0 else max(girths[0], girths[-1])
    return girth(figure.by_id[part.parent] if part.parent else part)


def is_closed_on(part: Part) -> bool:
    """Return whether a garment is made of pieces that are closed in place, and so passes anything."""
    return part.stuff is not None and (part.stuff.pieces > 1 or part.stuff.fixed == "gathered")


def stiff_on(figure: Figure, part: str) -> tuple[str, ...]:
    """Return the pairs of horns, antlers and the like on a part: a garment pulled over the part passes both
    at once."""
    return tuple(
        one.id
        for one in figure.parts
        if one.parent == part
        and one.pair
        and isinstance(one.shape, ChainShape)
        and not one.garment
        and (one.id in figure.wired or (one.stuff is not None and one.stuff.kind == "chenille"))
    )


def girth_to_pass(garment: Part, over: tuple[str, ...], figure: Figure) -> float:
    """Return the girth (mm) of an opening that is pulled over all copies of ``over`` at once: that of the
    widest section of one copy, or of a tight thread round several, along the garment's axis.

    The girth of a convex outline is the sum of its reaches over all directions (Cauchy).
    """
    if len(over) == 1 and not figure.by_id[over[0]].pair:
        return girth(figure.by_id[over[0]])
    placement = place(figure)
    worn = placement.copies_of(garment.id)[0].matrix
    angles = np.linspace(0.0, math.tau, 361)[:-1]
    ways = np.cos(angles)[:, None] * worn[:3, 0] + np.sin(angles)[:, None] * worn[:3, 1]
    reach = np.max([c.reaches(ways) for c in placement.copies if c.part.id in over], axis=0)
    return float(reach.mean() * math.tau)


def dress_of(part: Part, figure: Figure) -> DressPlan:
    """Return one garment of a figure."""
    dress = part.garment
    assert dress is not None
    closes = worn_mm(part, figure)
    round_it = closes + math.tau * EASE_MM * dress.layers
    over = girth_to_pass(part, (dress.passes,), figure)
    stretched = dress.opening * (1 + dress.stretch)
    before: tuple[str, ...] = ()
    if dress.kind == "pulled over" and (stiff := stiff_on(figure, dress.passes)):
        together_mm = girth_to_pass(part, (dress.passes, *stiff), figure)
        if stretched >= together_mm:
            over = together_mm
        elif stretched >= over and not is_closed_on(part):
            before = stiff
    cut, strips = round_it, 1
    if dress.kind in ("wrap", "sash"):
        cut = round_it + KNOT_MM + 2 * dress.tails
    elif dress.kind == "skirt":
        strips = math.ceil(round_it * dress.fullness / dress.strip - 1e-9)
        cut = 2 * finished_size(part.shape)["along"] + KNOT_MM
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
        before,
        part.stuff is not None,
    )


def dress_fact(row: DressPlan, names: Mapping[str, str]) -> Fact:
    """Return the fact that says what to cut for a garment, what it goes over and what it hides; ``names`` are
    of parts by id."""
    cut, said = Mm(row.cut_mm), []
    if row.kind == "skirt":
        said.append(fact("dress.skirt", n=row.strips, cut=cut))
    elif row.kind in ("wrap", "sash"):
        said.append(fact("dress.tied" if row.bought else "dress.cut-and-tie", cut=cut))
    else:
        of = "bought" if row.bought else "cut" if row.is_cut else "felt"
        goes = "passes" if row.passes_over else "stops"
        said.append(
            fact(
                f"dress.{of}-{goes}",
                round=cut if of == "felt" else Mm(row.opening_mm),
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


def ancestors(part: Part, figure: Figure) -> set[str]:
    """Return the parts that bear ``part``, up to the one that everything sits on."""
    found: set[str] = set()
    at = part.parent
    while at is not None:
        found.add(at)
        at = figure.by_id[at].parent
    return found


def girth(part: Part) -> float:
    """Return the girth (mm) a garment must pass over: the perimeter of the widest section."""
    size = finished_size(part.shape)
    return ellipse_mm(size["across"], size["through"])


def ellipse_mm(wide: float, deep: float) -> float:
    """Return the perimeter (mm) of an ellipse from its two diameters: Ramanujan's first approximation, good
    to 0.1 % for any section here."""
    a, b = wide / 2, deep / 2
    return math.pi * (3 * (a + b) - math.sqrt((3 * a + b) * (a + 3 * b)))
