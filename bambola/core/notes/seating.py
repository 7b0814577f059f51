"""Places a noted part on its bearer, by its kind, and gives it its shape there."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace

from bambola.core.figure import (
    Ball,
    Cone,
    Figure,
    Joint,
    Leaf,
    Limb,
    Node,
    Pad,
    Part,
    Rope,
    Sausage,
    Seat,
    Tilt,
)
from bambola.core.figure.additions import joints_along, with_wire
from bambola.core.figure.fields import Side
from bambola.core.figure.shapes import Shape, Station, Turned
from bambola.core.frozen import frozen
from bambola.core.notes.kinds import PartKind, Site
from bambola.core.notes.reading import Entry
from bambola.core.notes.sizing import FormSizes

RING_POINTS = 12
"""A ring is drawn by so many points."""
LEAST_LONG = 1.02
"""A limb or cone is at least so many times as long as thick: its ends are round."""
LIES_DEG = 45.0
"""A body that is turned forwards by more than this lies. Judged. See craft.md, 9."""
_DOWN = (0.5, -0.87)
"""Which way a limb hangs: so far out and so far down of its length. Judged by our own figures."""


@frozen
class Bearer:
    """What something sits on: its id, form, and how wide, deep and high (mm) it is along its own axis. One
    that ``lies`` has its axis level, its head end forward; a limb that ``hangs`` has its end below.
    A cone is ``tip`` times as wide above as below."""

    id: str
    form: str
    wide: float
    deep: float
    high: float
    lies: bool = False
    hangs: bool = False
    tip: float = 1.0

    def half(self, along: float) -> tuple[float, float]:
        """Return half width and half depth (mm) at a share of its height; for a ball, those of an ellipse."""
        share = 1.0 + (self.tip - 1.0) * along
        if self.form == "ball":
            share = 2 * math.sqrt(max(0.0, along * (1 - along)))
        return self.wide / 2 * share, self.deep / 2 * share


@frozen
class PlacedPart:
    """A part in its place. ``last`` is the seat of the last one of a row; ``opening`` the girth (mm) of
    something worn, otherwise 0."""

    kind: str
    parent: str
    bearer: Bearer
    shape: Shape
    seat: Seat
    last: Seat
    opening: float = 0.0
    is_double: bool = False
    is_one_of_two: bool = False


def place_item(
    kind: PartKind,
    entry: Entry,
    sized: FormSizes,
    on: Bearer | None,
    level: bool,
    crawls: bool,
    count: int,
    pair: bool,
    doubled: bool,
) -> PlacedPart:
    """Return a part of ``sized`` sizes on its bearer, or standing by itself without one; ``level`` figures
    have horizontal bodies, and legs and arms of one that ``crawls`` stand out. What sits on a ``doubled``
    bearer is doubled too, unless there is only one."""
    lies = level and on is None
    shape = _shape_of(kind, sized, on, crawls)
    wide, deep, high = _box_size(sized, shape)
    if lies:
        shape = Ball(width=wide, depth=high, height=deep)
        wide, deep, high = wide, high, deep
    hangs = kind.site in ("shoulder", "hip", "side")
    bearer = Bearer("", sized.form if not lies else "ball", wide, deep, high, lies, hangs)
    if sized.form == "cone":
        bearer = replace(bearer, tip=sized.sizes[2] / sized.sizes[1])
    if on is None:
        seat = Seat(tilt=Tilt(nod=90.0 if lies else 0.0))
        return PlacedPart(kind.id, "", bearer, shape, seat, seat)
    seat = _seat_of(kind, entry, sized, on, (wide, deep, high))
    seat, last = _row_end_seats(kind, seat, on, count, pair)
    opening = math.pi * (wide + deep) / 2 if kind.is_worn and kind.site == "round" else 0.0
    single = (doubled and not (pair or kind.is_pair) and entry.count in (None, 1)) or (
        pair and entry.count == 1
    )
    if crawls and kind.site in ("hip", "shoulder"):
        seat = Seat(along=0.45, around=60.0 if kind.site == "hip" else 35.0, out=0.92)
        last = seat.replaced(around=130.0)
    is_double = (pair or doubled) and not single and not entry.side
    return PlacedPart(kind.id, on.id, bearer, shape, seat, last, opening, is_double, single)


def placed_as(part: Part, doubled: bool) -> PlacedPart:
    """Return an existing part as a bearer for others; ``doubled`` if it sits on a pair."""
    high, wide, deep = part.shape.extents()
    forms = {"rope": "limb", "turned": "ball"}
    form = forms.get(part.shape.kind, part.shape.kind)
    lies = part.parent is None and abs(part.seat.tilt.nod) > LIES_DEG
    bearer = Bearer(part.id, form, wide, deep, high, lies)
    is_double = (part.pair or doubled) and part.on == "both"
    return PlacedPart(
        "", part.parent or "", bearer, part.shape, part.seat, part.seat, 0.0, is_double
    )


def _shape_of(kind: PartKind, sized: FormSizes, on: Bearer | None, crawls: bool) -> Shape:
    """Return the shape of the part, its axis upwards; a hanging one is drawn downwards."""
    s = sized.sizes
    match sized.form:
        case "ball":
            return Ball(width=s[0], depth=s[1], height=s[2])
        case "pad":
            return Pad(width=s[0], depth=s[1], height=s[2])
        case "leaf":
            return Leaf(length=s[0], width=s[1], thickness=s[2])
        case "sausage":
            return Sausage(length=max(s[0], LEAST_LONG * s[1]), diameter=s[1])
        case "cone":
            if kind.is_worn or kind.site == "root" or s[0] < LEAST_LONG * s[1]:
                ends = (
                    Station(along=0.0, width=s[1], depth=s[1]),
                    Station(along=1.0, width=s[2], depth=s[2]),
                )
                return Turned(length=s[0], stations=ends)
            return Cone(length=s[0], base=s[1], tip=s[2])
        case "ring":
            return _ring_shape(kind, s[0], on)
        case _:
            return _limb_shape(kind, crawls, *s[:3])


def _limb_shape(kind: PartKind, crawls: bool, long: float, thick: float, tip: float) -> Shape:
    """Return a limb: arms and legs hang, all others go straight out."""
    run = max(long - (thick + tip) / 2, 0.02 * long)
    out, down = _DOWN if kind.site in ("shoulder", "hip") else (0.0, 1.0)
    if kind.site == "hip":
        out, down = 0.0, -1.0
    if kind.site == "side":
        out, down = 0.1, -0.99
    if crawls and kind.site in ("hip", "shoulder"):
        out, down = (0.85, -0.53) if kind.site == "hip" else (0.6, 0.05)
    if kind.site == "handle":
        bend = ((0.0, 0.0), (0.45, 0.1), (0.55, -0.4), (0.3, -0.8), (0.0, -0.9))
        return Rope(
            points=tuple((x * run * 0.6, 0.0, z * run * 0.6) for x, z in bend), thickness=thick
        )
    ends = (
        Joint(x=0.0, y=0.0, z=0.0, diameter=thick),
        Joint(x=out * run * 0.5, y=0.0, z=down * run * 0.5, diameter=(thick + tip) / 2),
        Joint(x=out * run, y=0.0, z=down * run, diameter=tip),
    )
    return Limb(joints=ends)


def _ring_shape(kind: PartKind, thick: float, on: Bearer | None) -> Shape:
    """Return a closed ring as wide as its bearer there."""
    along = _ring_at(kind, on.form if on else "")
    across, through = on.half(along) if on else (thick * 2, thick * 2)
    turns = [2 * math.pi * k / RING_POINTS for k in range(RING_POINTS)]
    points = tuple(
        ((across + thick / 4) * math.sin(t), -(through + thick / 4) * math.cos(t), 0.0)
        for t in turns
    )
    return Rope(points=points, thickness=thick, closed=True)


_RING_AT: Mapping[str, float] = {"ball": 0.92, "cone": 0.92, "limb": 0.6, "sausage": 0.6}
"""Where a ring goes round what bears it: below the head, or half up a neck."""


WAIST = 0.45
"""How high on what it goes round a belt sits. Judged. See craft.md, 9."""


def _ring_at(kind: PartKind, form: str) -> float:
    """Return the height of a ring on its bearer: a belt at the waist, neckwear higher up."""
    return WAIST if kind.id == "belt" else _RING_AT.get(form, 0.9)


def _box_size(sized: FormSizes, shape: Shape) -> tuple[float, float, float]:
    """Return the width, depth and height of a part along its own axis, mm."""
    s = sized.sizes
    match sized.form:
        case "ball" | "pad":
            return s[0], s[1], s[2]
        case "leaf":
            return s[1], s[2], s[0]
        case "cone":
            return s[1], s[1], s[0]
        case "ring":
            assert isinstance(shape, Rope)
            across = 2 * max(x for x, _, _ in shape.points)
            through = 2 * max(y for _, y, _ in shape.points)
            return across, through, s[0]
        case _:
            return s[1], s[1], s[0]


Box = tuple[float, float, float]
TAIL_DEG = 25.0
"""A tail falls by so much, if it does not reach lower than what it sits on. Judged. See craft.md, 9."""


def _tail_nod(on: Bearer, box: Box) -> float:
    """Return the angle (degrees) by which a tail falls; its end lies on the ground at most."""
    room = max(0.0, 0.18 * on.high - box[0] / 2)
    return min(TAIL_DEG, math.degrees(math.asin(min(1.0, room / max(box[2], 1e-6)))))


Rule = Callable[[Bearer, Box], Seat]


def _seat_by_middle(on: Bearer, box: Box, along: float, around: float, out: float) -> Seat:
    """Return a seat for an upright part with its middle at a place on the skin: ``out`` is 1 for its middle
    on the skin."""
    base = min(1.0, max(0.0, along - box[2] / (2 * on.high)))
    here, there = on.half(along)[0], max(1e-3, on.half(base)[0])
    share = min(2.9, out * here / there) if there > 0.05 * on.wide else out
    sink = max(0.0, box[2] / 2 - along * on.high)
    return Seat(along=base, around=around, out=share, sink=sink)


def _seat_upright(seat: Seat, on: Bearer) -> Seat:
    """Return the seat on a horizontal bearer that makes its child upright."""
    if not on.lies:
        return seat
    return seat.replaced(tilt=seat.tilt.replaced(nod=seat.tilt.nod - 90.0))


def _seat_of(kind: PartKind, entry: Entry, sized: FormSizes, on: Bearer, box: Box) -> Seat:
    """Return where a part sits."""
    if entry.place:
        return _seat_upright(_at_place(entry.place, on, box, sized), on)
    if on.lies:
        return _on_lying(kind, on, box)
    if kind.site == "nose" and sized.form in ("cone", "limb"):
        return _RULES["snout"](on, box)
    if kind.site == "round":
        return Seat(along=_ring_at(kind, on.form), out=0.0)
    rule = _RULES.get(kind.site, _RULES["front"])
    return rule(on, box)


def _at_place(place: str, on: Bearer, box: Box, sized: FormSizes) -> Seat:
    """Return the seat at a named place: front, back, top, under, or a side."""
    if on.lies:
        around = {"top": 180.0, "under": 0.0, "side": 90.0}.get(place, 180.0)
        along = {"front": 0.92, "back": 0.08}.get(place, 0.5)
        return Seat(along=along, around=around, out=0.8)
    flat = sized.form in ("ball", "pad", "leaf")
    match place:
        case "top":
            return Seat(along=1.0, out=0.0, sink=0.15 * box[2])
        case "under":
            return Seat(along=0.0, out=0.0, sink=0.8 * box[2])
        case "side":
            return _seat_by_middle(on, box, 0.5, 90.0, 1.0)
    around = 0.0 if place == "front" else 180.0
    if flat:
        return _seat_by_middle(on, box, 0.5, around, 0.9)
    return Seat(
        along=0.5, around=around, out=0.95, tilt=Tilt(nod=75.0 if place == "front" else -75.0)
    )


def _on_lying(kind: PartKind, on: Bearer, box: Box) -> Seat:
    """Return where a part sits on a body that lies: its head end is forward, its back at 180 degrees."""
    high = box[2]
    sites: dict[str, Seat] = {
        "neck": Seat(along=0.88, around=180.0, out=0.42, sink=0.15 * high, tilt=Tilt(nod=-58.0)),
        "top": Seat(along=0.93, around=180.0, out=0.3, sink=0.12 * high, tilt=Tilt(nod=-90.0)),
        "snout": Seat(along=0.97, out=0.3, sink=0.1 * high),
        "rump": Seat(along=0.06, around=180.0, out=0.45, sink=0.05 * high, tilt=Tilt(nod=-160.0)),
        "spine": Seat(along=0.3, around=180.0, out=0.9, sink=0.3 * high, tilt=Tilt(nod=-90.0)),
        "cap": Seat(along=0.5, around=180.0, out=0.1, tilt=Tilt(nod=-90.0)),
        "shoulder": Seat(along=0.8, around=70.0, out=0.8, tilt=Tilt(nod=-90.0)),
        "wing": Seat(along=0.75, around=120.0, out=0.98, tilt=Tilt(turn=-104.0, lean=-178.0)),
        "fin": Seat(along=0.45, around=180.0, out=0.9, tilt=Tilt(nod=-70.0, turn=90.0, lean=180.0)),
        "flipper": Seat(along=0.66, around=62.0, out=0.92, tilt=Tilt(nod=21.8, lean=119.9)),
        "fluke": Seat(along=0.05, around=90.0, out=0.4, tilt=Tilt(nod=-3.5, lean=120.0)),
        "belly": Seat(along=0.5, around=0.0, out=0.7),
        "foot": Seat(along=0.5, around=50.0, out=0.9, sink=0.5 * high, tilt=Tilt(nod=-90.0)),
        "ear": Seat(along=0.92, around=150.0, out=0.95, tilt=Tilt(nod=-90.0, lean=26.0)),
        "horn": Seat(along=0.92, around=155.0, out=0.95, tilt=Tilt(nod=-90.0, lean=18.0)),
        "end": Seat(along=0.9, around=80.0, out=1.0, tilt=Tilt(nod=-60.0)),
        "round": Seat(along=0.9, out=0.0),
    }
    if kind.site == "hip":
        along = {"foreleg": 0.8, "hindleg": 0.2}.get(kind.id, 0.5)
        return Seat(along=along, around=40.0, out=0.92, tilt=Tilt(nod=-90.0))
    return sites.get(kind.site, Seat(along=0.6, around=180.0, out=0.9, tilt=Tilt(nod=-90.0)))


_RULES: dict[Site, Rule] = {
    "top": lambda on, box: Seat(along=1.0, out=0.0, sink=0.14 * min(box[2], on.high)),
    "neck": lambda on, box: Seat(along=0.97, out=0.0, sink=0.12 * box[2]),
    "cap": lambda on, box: Seat(along=0.62, out=0.0),
    "brim": lambda on, box: Seat(along=0.66 if on.form == "ball" else 0.0, out=0.0, sink=0.5 * box[2]),
    "front": lambda on, box: _seat_by_middle(on, box, 0.55, 0.0, 0.95),
    "back": lambda on, box: _seat_by_middle(on, box, 0.5, 180.0, 0.9),
    "belly": lambda on, box: _seat_by_middle(on, box, 0.42 if box[2] > 0.3 * on.high else 0.75, 0.0, 0.9),
    "muzzle": lambda on, box: (
        _seat_by_middle(on, box, 0.3, 0.0, 0.92)
        if on.form == "ball"
        else Seat(along=0.9, around=180.0, out=0.9, tilt=Tilt(nod=60.0))
    ),
    "snout": lambda on, box: Seat(along=0.4, out=0.82, sink=0.17 * box[2], tilt=Tilt(nod=88.0)),
    "nose": lambda on, box: (
        _seat_by_middle(on, box, 0.46, 0.0, 1.0)
        if on.form == "ball"
        else Seat(along=1.0, out=0.0, sink=0.45 * box[2])
    ),
    "cheek": lambda on, box: _seat_by_middle(on, box, 0.38, 45.0, 0.97),
    "eye": lambda on, box: _seat_by_middle(on, box, 0.62, 25.0, 0.98),
    "ear": lambda on, box: Seat(
        along=0.88, around=78.0, out=0.86, sink=0.12 * box[2], tilt=Tilt(turn=-12.0, lean=26.0)),
    "horn": lambda on, box: Seat(along=0.92, around=50.0, out=0.9, sink=0.1 * box[2], tilt=Tilt(lean=18.0)),
    "beard": lambda on, box: Seat(along=0.3, out=0.9, sink=0.1 * box[2], tilt=Tilt(nod=168.0)),
    "shoulder": lambda on, box: Seat(along=0.78, around=90.0, out=0.95),
    "hip": lambda on, box: Seat(along=0.1, around=90.0, out=0.7),
    "foot": lambda on, box: (
        Seat(along=0.06, around=60.0, out=0.8, sink=0.65 * box[2])
        if on.form in ("ball", "cone", "pad")
        else Seat(along=1.0, out=0.4, sink=0.7 * box[2])
    ),
    "end": lambda on, box: (
        _seat_by_middle(on, box, 0.5, 80.0, 1.05)
        if on.form in ("ball", "cone", "pad") and on.wide > 2 * box[0]
        else Seat(along=1.0, out=0.0, sink=0.5 * box[2] + (0.4 if on.hangs else -0.4) * on.wide)
    ),
    "held": lambda on, box: Seat(along=0.5, out=0.0, sink=0.45 * box[2]),
    "wing": lambda on, box: Seat(along=0.8, around=100.0, out=0.98, tilt=Tilt(turn=-100.0, lean=172.0)),
    "fin": lambda on, box: Seat(
        along=0.55, around=180.0, out=0.95, sink=0.1 * box[2], tilt=Tilt(nod=-70.0, turn=90.0)),
    "flipper": lambda on, box: Seat(
        along=0.62, around=85.0, out=0.92, sink=0.1 * box[2], tilt=Tilt(lean=140.0)),
    "fluke": lambda on, box: Seat(along=0.1, around=120.0, out=0.6, tilt=Tilt(nod=-100.0, lean=30.0)),
    "rump": lambda on, box: (
        Seat(along=0.18, around=180.0, out=0.9, sink=0.05 * box[2], tilt=Tilt(nod=-90.0 - _tail_nod(on, box)))
        if box[2] > 1.5 * box[0]
        else _seat_by_middle(on, box, 0.24, 180.0, 0.98)
    ),
    "spine": lambda on, box: Seat(
        along=0.75, around=180.0, out=0.97, sink=0.3 * box[2], tilt=Tilt(nod=-70.0)),
    "under": lambda on, box: Seat(along=0.0, out=0.0, sink=0.6 * box[2]),
    "side": lambda on, box: Seat(along=0.6, around=90.0, out=0.98),
    "handle": lambda on, box: Seat(along=0.72, around=90.0, out=0.98),
    "spout": lambda on, box: Seat(along=0.6, around=0.0, out=0.92, sink=0.12 * box[2], tilt=Tilt(nod=50.0)),
}  # fmt: skip
"""The seat by the site of a kind, on what stands. Judged by our own figures. See craft.md, 9."""


def _row_end_seats(
    kind: PartKind, seat: Seat, on: Bearer, count: int, pair: bool
) -> tuple[Seat, Seat]:
    """Return the seats of the first and the last one of a row."""
    if count <= 1:
        return seat, seat
    if on.lies:
        return seat, seat.replaced(along=min(0.95, seat.along + 0.35))
    if pair:
        return seat, seat.replaced(around=min(170.0, seat.around + 70.0))
    if kind.site in ("spine", "belly", "front", "back") and on.form != "pad":
        return seat, seat.replaced(along=max(0.05, seat.along - 0.4))
    first = seat.replaced(around=seat.around - 180.0)
    return first, first.replaced(around=first.around + 360.0 * (count - 1) / count)


WIRED_FROM, LEAST_THICK_MM = 3.0, 5.0
"""A limb is wired if it is so many times as long as thick, and at least so thick: a stubby one stands by
itself, and wool so thin does not hide a wire. Judged. See craft.md, 9."""
_SHARES = (0.05, 0.5, 0.95)
"""Where a wire has its joints in a limb."""


def add_wires(figure: Figure, limbs: Iterable[tuple[str, PartKind]]) -> Figure:
    """Return ``figure`` with a wire in each of its ``limbs`` (id and kind) that needs one."""
    for part, kind in limbs:
        body = figure.by_id[part]
        if not kind.is_wired or body.parent is None or body.row is not None or body.on != "both":
            continue
        sizes = body.shape.measures()
        long, thick = sizes.get("length", 0.0), sizes.get("thickness", 0.0)
        bearer = figure.by_id[body.parent]
        if thick < LEAST_THICK_MM or long < WIRED_FROM * thick or bearer.row or bearer.pair:
            continue
        figure = with_wire(figure, _wire_route(figure, part, body.parent, body.pair), body.name)
    return figure


def _wire_route(figure: Figure, part: str, bearer: str, pair: bool) -> list[Node]:
    """Return the nodes of a limb's wire: for a pair, from one tip through the bearer to the other."""
    within = _anchor_node(figure, part, bearer)
    if not pair:
        return [within, *joints_along(figure, part, None, *_SHARES)]
    sides: tuple[Side, Side] = ("left", "right")
    left, right = (joints_along(figure, part, side, *_SHARES) for side in sides)
    return [*reversed(left), within, *right]


def _anchor_node(figure: Figure, part: str, bearer: str) -> Node:
    """Return the node in a limb's bearer, level with the limb's seat."""
    along = figure.by_id[part].seat.along
    (node,) = joints_along(figure, bearer, None, min(0.85, max(0.15, along)))
    return node
