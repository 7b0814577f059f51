"""Clothes asked from the part they go round: a ring that lies there, a hat, a skirt, to be pulled after."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bambola.core.figure import Ball, Figure, Garment, Part, Rope, Seat, Shape, Station, Turned
from bambola.core.figure.graft import free_id, with_part
from bambola.core.figure.model import GoesOn
from bambola.core.plan.making.dress import STRETCH, worn_mm
from bambola.core.plan.making.jobs import girth
from bambola.core.solids.forms import Array, seat_point
from bambola.core.solids.seating import tilt_of

Worn = Literal["collar", "belt", "cuff", "scarf", "hat", "skirt"]


@dataclass(frozen=True, slots=True)
class Ready:
    """Where along its part a garment lies, how thick it is beside half the part there, and how it goes on."""

    along: float
    thick: float
    kind: GoesOn
    cloth: str = "felt"


READY: dict[Worn, Ready] = {
    "collar": Ready(0.93, 0.3, "pulled over"),
    "belt": Ready(0.5, 0.12, "wrap"),
    "cuff": Ready(0.85, 0.3, "pulled over", "knit"),
    "scarf": Ready(0.93, 0.4, "wrap"),
    "hat": Ready(1.0, 0.0, "pulled over", "knit"),
    "skirt": Ready(0.5, 0.0, "skirt", "woven cloth"),
}
"""What is offered, with places and thickness to begin with. Judged. See craft.md, 6."""
TAILS, FLARE, SKIRT_LONG = 0.4, 1.8, 0.5
"""A scarf's tails beside its way round; a skirt's hem beside its waist, and its length beside the part.
Judged. See craft.md, 6."""
HAT_WIDE, HAT_HIGH, HAT_SINK = 0.9, 0.5, 0.5
"""A hat beside the head's width and height, and how much of it the head goes into. Judged.
See craft.md, 6."""
_PLACES = 12
"""By way of so many points a ring runs: the smooth line by them leaves a
circle by less than two thousandths."""


@dataclass(frozen=True, slots=True)
class _Section:
    """A cut through a part: half widths (mm), and the turn (3, 3) that lays a ring square to its axis."""

    wide: float
    deep: float
    turned: Array


def _section(shape: Shape, along: float) -> _Section:
    low, high = max(0.0, along - 0.02), min(1.0, along + 0.02)
    centre, front, side = (seat_point(shape, along, a, o) for a, o in ((0, 0), (0, 1), (90, 1)))
    up = seat_point(shape, high, 0, 0) - seat_point(shape, low, 0, 0)
    up = up / max(float(np.linalg.norm(up)), 1e-9)
    aside = side - centre
    aside = aside - up * float(aside @ up)
    aside = aside / max(float(np.linalg.norm(aside)), 1e-9)
    wide, deep = (max(1e-3, float(np.linalg.norm(end - centre))) for end in (side, front))
    return _Section(wide, deep, np.column_stack([aside, np.cross(up, aside), up]))


def with_worn(figure: Figure, on: str, what: Worn, wool: str, called: str) -> tuple[Figure, str]:
    """``figure`` with a garment that lies round the part ``on``, or on top of it; and what it is known by."""
    body, ready = figure.by_id[on], READY[what]
    cut = _section(body.shape, ready.along)
    name = free_id(what, frozenset(figure.by_id))
    shape, seat = _laid(body, what, ready, cut)
    part = Part(id=name, name=called, shape=shape, parent=on, seat=seat, core=wool)
    hole, passes, stretch = worn_mm(part, figure), _passes(figure, body, what), STRETCH[ready.cloth]
    kind = ready.kind
    if kind == "pulled over" and hole * (1 + stretch) < girth(figure.by_id[passes]):
        kind = "wrap"  # it could never be pulled on
    garment = Garment(
        opening=hole,
        stretch=stretch,
        passes=passes,
        kind=kind,
        tails=TAILS * hole if what == "scarf" else 0.0,
    )
    return with_part(figure, part.replaced(garment=garment)), name


def _laid(body: Part, what: Worn, ready: Ready, cut: _Section) -> tuple[Shape, Seat]:
    """The garment's shape, and where it sits."""
    if what == "hat":
        along, across, through = body.shape.extents()
        high = HAT_HIGH * along
        hat = Ball(width=HAT_WIDE * across, depth=HAT_WIDE * through, height=high)
        return hat, Seat(along=1.0, out=0.0, sink=HAT_SINK * high)
    if what == "skirt":
        long = SKIRT_LONG * body.shape.extents()[0]
        waist = Station(along=0.0, width=2 * cut.wide, depth=2 * cut.deep)
        hem = Station(along=1.0, width=2 * FLARE * cut.wide, depth=2 * FLARE * cut.deep)
        down = cut.turned @ np.diag([1.0, -1.0, -1.0])
        skirt = Turned(length=long, stations=(waist, hem))
        return skirt, Seat(along=ready.along, out=0.0, tilt=tilt_of(down))
    thick = ready.thick * min(cut.wide, cut.deep)
    a, b = cut.wide + thick / 2, cut.deep + thick / 2
    turns = np.linspace(0, math.tau, _PLACES + 1)[:-1].tolist()
    points = tuple((a * math.sin(t), -b * math.cos(t), 0.0) for t in turns)
    ring = Rope(points=points, thickness=thick, closed=True)
    return ring, Seat(along=ready.along, out=0.0, tilt=tilt_of(cut.turned))


def _passes(figure: Figure, body: Part, what: Worn) -> str:
    """What it must pass over to get there: what ends the part, or else the part itself."""
    if what == "hat":
        return body.id
    ends = [
        p for p in figure.parts if p.parent == body.id and p.garment is None and p.seat.along >= 0.8
    ]
    return max(ends, key=lambda p: p.seat.along).id if ends else body.id
