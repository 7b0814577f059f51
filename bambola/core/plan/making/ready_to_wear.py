"""Ready clothes fitted to the part they are put on: a ring, a hat, a skirt, to be adjusted after."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Literal

import numpy as np

from bambola.core.figure import (
    Ball,
    Coat,
    Figure,
    Garment,
    Part,
    Rope,
    Row,
    Seat,
    Shape,
    Station,
    Turned,
)
from bambola.core.figure.graft import free_id, with_part
from bambola.core.figure.model import GoesOn, Stuff
from bambola.core.frozen import frozen
from bambola.core.plan.making.dress import STRETCH, girth, is_closed_on, stiff_on, worn_mm
from bambola.core.solids.forms import Array, seat_point
from bambola.core.solids.touch import tilt_of

WornAnswer = Literal[
    "collar", "belt", "cuff", "scarf", "hat", "skirt", "net skirt", "bodice", "sash", "cape",
    "cloth scarf", "halved hat", "bow", "trim", "whiskers", "stitched mouth", "hollow",
]  # fmt: skip
Form = Literal["ring", "ball", "bell", "dome", "tube", "cone", "bow", "strands", "line", "hollow"]


@frozen
class ReadyToWear:
    """Where along its part a thing lies, its thickness as a share of half the part there, how it goes on, and
    its form. A thing not of wool is ``of`` a material that every bench begins with; a thing without ``kind``
    is set on, not pulled over."""

    along: float
    thick: float
    kind: GoesOn | None
    cloth: str = "felt"
    form: Form = "ring"
    of: str = ""
    stuff: Stuff | None = None


_NET, _CLOTH = Stuff(kind="net", fixed="gathered"), Stuff(kind="cloth", fixed="tied")
_HALVES = Stuff(kind="felt sheet", fixed="sewn", pieces=2)
_STRIPS, _SCARF = Stuff(kind="cloth", fixed="knotted"), Stuff(kind="cloth", fixed="tied")
_WOUND, _BOUND = (Stuff(kind="ribbon", fixed=fixed) for fixed in ("wrapped", "tied"))
_YARN = Stuff(kind="yarn", fixed="sewn")
_STRANDS, _STITCHED = (Stuff(kind="thread", fixed=fixed) for fixed in ("threaded", "sewn"))
READY: dict[WornAnswer, ReadyToWear] = {
    "collar": ReadyToWear(0.93, 0.3, "pulled over"),
    "belt": ReadyToWear(0.5, 0.12, "wrap"),
    "cuff": ReadyToWear(0.85, 0.3, "pulled over", "knit"),
    "scarf": ReadyToWear(0.93, 0.4, "wrap"),
    "hat": ReadyToWear(1.0, 0.0, "pulled over", "knit", "ball"),
    "skirt": ReadyToWear(0.5, 0.0, "skirt", "woven cloth", "bell", "cotton", _STRIPS),
    "net skirt": ReadyToWear(0.5, 0.0, "wrap", "woven cloth", "bell", "soft-net", _NET),
    "bodice": ReadyToWear(0.5, 0.0, "wrap", "woven cloth", "tube", "satin-ribbon", _WOUND),
    "sash": ReadyToWear(0.5, 0.12, "sash", "woven cloth", "ring", "satin-ribbon", _BOUND),
    "cape": ReadyToWear(0.93, 0.0, "wrap", "woven cloth", "cone", "cotton", _CLOTH),
    "cloth scarf": ReadyToWear(0.93, 0.35, "wrap", "woven cloth", "ring", "cotton", _SCARF),
    "halved hat": ReadyToWear(0.72, 0.0, "pulled over", "felt", "dome", "felt-sheet", _HALVES),
    "bow": ReadyToWear(0.93, 0.0, None, "woven cloth", "bow", "satin-ribbon", _BOUND),
    "trim": ReadyToWear(0.97, 0.12, "wrap", "knit", "ring", "wool-yarn", _YARN),
    "whiskers": ReadyToWear(0.45, 0.0, None, "felt", "strands", "strong-thread", _STRANDS),
    "stitched mouth": ReadyToWear(0.3, 0.0, None, "felt", "line", "strong-thread", _STITCHED),
    "hollow": ReadyToWear(0.3, 0.0, None, form="hollow"),
}
"""What is offered, with places and thickness to begin with. Judged. See craft.md, 6."""
TAILS, FLARE, SKIRT_LONG = 0.4, 1.8, 0.5
"""A scarf's tails beside its way round; a skirt's hem beside its waist, and its length beside the part.
Judged. See craft.md, 6."""
HAT_WIDE, HAT_HIGH, HAT_SINK = 0.9, 0.5, 0.5
"""A hat beside the head's width and height, and how much of it the head goes into. Judged.
See craft.md, 6."""
TUBE_TO, CAPE_LONG, BOW_WIDE, WHISKER_OUT, HOLLOW_WIDE = 0.9, 0.6, 0.9, 1.1, 0.35
"""A bodice ends here; a cape's length beside its part's; a bow beside half its part, how far whiskers
reach beyond the middle beside half of it, and how wide a hollow is beside its part. Judged.
See craft.md, 6."""
DOME_HIGH, DOME_EASE = 1.15, 1.02
"""A hat in halves beside what of the head is above its place, and beside its width there. Judged.
See craft.md, 6."""
ROUND_END = 0.06
"""What lies round the very end of a part is as oval as that is so far from it. Judged. See craft.md, 6."""
TUBE_OFF_MM = 0.3
"""So far off the skin a bodice lies all round. Judged. See craft.md, 6."""
BOW_DEEP, BOW_HIGH, BOW_SINK = 0.3, 0.45, 0.22
"""A bow's depth and height, and how far in it sits, beside its width. Judged. See craft.md, 6."""
HOLLOW_DEEP, HOLLOW_SINK = 0.6, 0.42
"""How deep a hollow is beside its width, and how much of that lies in the part. Judged.
See craft.md, 6."""
WHISKER_FRONT, WHISKER_BACK, WHISKER_MM = 0.55, 0.2, 0.5
"""Whiskers pass so far before the middle and bend so far back, beside half the depth there; and their
thread. Judged. See craft.md, 6."""
MOUTH_DEG, MOUTH_LIFT, MOUTH_MM = 32.0, 0.08, 0.8
"""A stitched mouth goes so far to either side, its corners up by so much of the part; and its thread.
Judged. See craft.md, 6."""
_PLACES = 12
"""By way of so many points a ring runs: the smooth line by them leaves a
circle by less than two thousandths."""


@frozen
class _Section:
    """A cross-section of a part: half widths (mm), and the rotation (3, 3) that lays a ring square to its
    axis."""

    wide: float
    deep: float
    turned: Array


def _section_at(shape: Shape, along: float) -> _Section:
    low, high = max(0.0, along - 0.02), min(1.0, along + 0.02)
    centre, front, side = (seat_point(shape, along, a, o) for a, o in ((0, 0), (0, 1), (90, 1)))
    up = seat_point(shape, high, 0, 0) - seat_point(shape, low, 0, 0)
    up = up / max(float(np.linalg.norm(up)), 1e-9)
    aside = side - centre
    aside = aside - up * float(aside @ up)
    aside = aside / max(float(np.linalg.norm(aside)), 1e-9)
    wide, deep = (max(1e-3, float(np.linalg.norm(end - centre))) for end in (side, front))
    return _Section(wide, deep, np.column_stack([aside, np.cross(up, aside), up]))


def with_ring(
    figure: Figure, on: str, along: float, breadth: float, from_side: bool, thick: float | None,
    wool: str, called: str,
) -> tuple[Figure, str]:  # fmt: skip
    """Return ``figure`` with a ring of ``breadth`` (mm), as seen from the front or the side, round the part
    ``on`` at ``along``, and the ring's id. Without ``thick`` (mm) it lies close, but is no thinner than a
    belt."""
    collar, belt = READY["collar"], READY["belt"]
    cut = _section_at(figure.by_id[on].shape, min(max(along, ROUND_END), 1 - ROUND_END))
    half = cut.deep if from_side else cut.wide
    thick = max(thick or breadth / 2 - half, belt.thick * min(cut.wide, cut.deep))
    grown = max(breadth / 2 / half - thick / half, belt.thick)
    cut = replace(cut, wide=cut.wide * grown, deep=cut.deep * grown)
    ready = replace(collar, along=along, thick=thick / min(cut.wide, cut.deep))
    return _with_worn(figure, on, "collar", ready, cut, wool, called, None)


def with_worn(
    figure: Figure, on: str, what: WornAnswer, wool: str, called: str, plural: str | None = None
) -> tuple[Figure, str]:
    """Return ``figure`` with a ready thing on the part ``on``, and the thing's id."""
    ready = READY[what]
    cut = _section_at(figure.by_id[on].shape, ready.along)
    return _with_worn(figure, on, what, ready, cut, wool, called, plural)


def _with_worn(
    figure: Figure, on: str, what: WornAnswer, ready: ReadyToWear, cut: _Section, wool: str, called: str,
    plural: str | None,
) -> tuple[Figure, str]:  # fmt: skip
    body = figure.by_id[on]
    name = free_id(what.replace(" ", "-"), frozenset(figure.by_id))
    shape, seat = _shape_and_seat(body, ready, cut)
    part = Part(
        id=name,
        name=called,
        plural=plural,
        shape=shape,
        parent=on,
        seat=seat,
        core=ready.of or wool,
        stuff=ready.stuff,
        hollow=ready.form == "hollow",
        coat=Coat(wool=wool) if ready.form == "hollow" else None,
        row=Row(count=3, along=seat.along + 0.1) if ready.form == "strands" else None,
        over=_parts_under(figure, body, ready),
    )
    if ready.kind is None:
        return with_part(figure, part), name
    hole, passes, stretch = (
        worn_mm(part, figure),
        _part_passed(figure, body, ready),
        STRETCH[ready.cloth],
    )
    kind = ready.kind
    if ready.form == "dome" and passes == on:
        kind = "wrap"  # it is set on from above
    elif (
        kind == "pulled over"
        and not is_closed_on(part)
        and hole * (1 + stretch) < girth(figure.by_id[passes])
    ):
        kind = "wrap"  # it could never be pulled on
    garment = Garment(
        opening=hole,
        stretch=stretch,
        passes=passes,
        kind=kind,
        tails=TAILS * hole if what in ("scarf", "cloth scarf", "sash") else 0.0,
    )
    return with_part(figure, part.replaced(garment=garment)), name


def _shape_and_seat(body: Part, ready: ReadyToWear, cut: _Section) -> tuple[Shape, Seat]:
    """Return its shape, and where it sits."""
    on = Seat(along=ready.along, out=0.0)
    match ready.form:
        case "ball":
            along, across, through = body.shape.extents()
            high = HAT_HIGH * along
            hat = Ball(width=HAT_WIDE * across, depth=HAT_WIDE * through, height=high)
            return hat, on.replaced(sink=HAT_SINK * high)
        case "bell" | "cone":
            low = ready.form == "cone"
            long = (CAPE_LONG if low else SKIRT_LONG) * body.shape.extents()[0]
            # A wide station in between makes a bell; in a straight line a cone.
            at = (0.0, 0.25, 0.5, 0.75, 1.0) if low else (0.0, 1.0)
            wide = max(cut.wide, body.shape.extents()[1] / 2) / cut.wide if low else 1.0
            flare = FLARE * wide
            stations = tuple(
                Station(along=t, width=2 * cut.wide * w, depth=2 * cut.deep * w)
                for t in at
                for w in (1 + (flare - 1) * t,)
            )
            down = cut.turned @ np.diag([1.0, -1.0, -1.0])
            return Turned(length=long, stations=stations), on.replaced(tilt=tilt_of(down))
        case "dome":
            high = DOME_HIGH * (1 - ready.along) * body.shape.extents()[0]
            stations = tuple(
                Station(along=t, width=2 * cut.wide * w, depth=2 * cut.deep * w)
                for t in (0.0, 0.25, 0.5, 0.75, 0.92, 1.0)
                for w in (DOME_EASE * math.sqrt(1 - t * t),)
            )
            return Turned(length=high, stations=stations), on.replaced(tilt=tilt_of(cut.turned))
        case "tube":
            return _tube_round(body, ready, cut)
        case "bow":
            wide = BOW_WIDE * min(cut.wide, cut.deep)
            bow = Ball(width=wide, depth=BOW_DEEP * wide, height=BOW_HIGH * wide)
            return bow, Seat(along=ready.along, sink=BOW_SINK * wide)
        case "hollow":
            wide = HOLLOW_WIDE * 2 * cut.wide
            bowl = Ball(width=wide, depth=HOLLOW_DEEP * wide, height=HOLLOW_DEEP * wide)
            out = np.cross(cut.turned[:, 0], cut.turned[:, 2])
            turned = np.column_stack([cut.turned[:, 0], np.cross(out, cut.turned[:, 0]), out])
            seat = Seat(along=ready.along, sink=HOLLOW_SINK * wide, tilt=tilt_of(turned))
            return bowl, seat
        case "strands" | "line":
            return _thread_through(body, ready, cut)
        case _:
            thick = ready.thick * min(cut.wide, cut.deep)
            a, b = cut.wide + thick / 2, cut.deep + thick / 2
            turns = np.linspace(0, math.tau, _PLACES + 1)[:-1].tolist()
            points = tuple((a * math.sin(t), -b * math.cos(t), 0.0) for t in turns)
            ring = Rope(points=points, thickness=thick, closed=True)
            return ring, on.replaced(tilt=tilt_of(cut.turned))


def _tube_round(body: Part, ready: ReadyToWear, cut: _Section) -> tuple[Shape, Seat]:
    """Return a garment that lies close all round, from its place to where it ends."""
    ends = [seat_point(body.shape, t, 0, 0) for t in (ready.along, TUBE_TO)]
    stations = []
    for t in np.linspace(0.0, 1.0, 7).tolist():
        here = _section_at(body.shape, ready.along + (TUBE_TO - ready.along) * t)
        wide, deep = (2 * (half + TUBE_OFF_MM) for half in (here.wide, here.deep))
        stations.append(Station(along=t, width=wide, depth=deep))
    long = float(np.linalg.norm(ends[1] - ends[0]))
    seat = Seat(along=ready.along, out=0.0, tilt=tilt_of(cut.turned))
    return Turned(length=long, stations=tuple(stations)), seat


def _thread_through(body: Part, ready: ReadyToWear, cut: _Section) -> tuple[Shape, Seat]:
    """Return thread that goes through a part from side to side, or lies on its front like a mouth."""
    if ready.form == "strands":
        out = WHISKER_OUT * 2 * cut.wide
        front = -WHISKER_FRONT * cut.deep
        points = tuple(
            (x * out, front - (abs(x) - 0.5) * WHISKER_BACK * cut.deep, 0.0)
            for x in (-1, -0.5, 0, 0.5, 1)
        )
        return Rope(points=points, thickness=WHISKER_MM), Seat(along=ready.along, out=0.0)
    base = seat_point(body.shape, 0.0, 0.0, 0.0)
    curve = [
        seat_point(body.shape, ready.along + MOUTH_LIFT * t**2, MOUTH_DEG * t, 1.0) - base
        for t in (-1, -0.5, 0, 0.5, 1)
    ]
    points = tuple((float(x), float(y), float(z)) for x, y, z in curve)
    return Rope(points=points, thickness=MOUTH_MM), Seat(along=0.0, out=0.0)


def _parts_under(figure: Figure, body: Part, ready: ReadyToWear) -> tuple[str, ...]:
    """Return everything that a skirt hangs over: what sits on its part below the waist."""
    if ready.form != "bell":
        return ()
    return tuple(
        p.id
        for p in figure.parts
        if p.parent == body.id and p.garment is None and p.seat.along < ready.along
    )


def _part_passed(figure: Figure, body: Part, ready: ReadyToWear) -> str:
    """Return what a garment must pass over to get on: what ends the part, or the part itself; for a hat, the
    horns in its way."""
    if ready.form in ("ball", "dome"):
        return next(iter(stiff_on(figure, body.id)), body.id)
    ends = [
        p for p in figure.parts if p.parent == body.id and p.garment is None and p.seat.along >= 0.8
    ]
    return max(ends, key=lambda p: p.seat.along).id if ends else body.id
