"""Each wire as it is cut: laid straight, stretch by stretch, with its bends and pieces.

A wire along a ruler is a row of stretches without gaps: a turned-over end, a loop, runs along bones (longer
than the bone where strands are twisted), bindings, a peg. They add up to its length; stock that is too short
adds an overlap for every splice. Allowances never grow with the figure.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from typing import Literal

from bambola.core.armature.gauge import Gauge, stock_name
from bambola.core.armature.skeleton import bone_part, strands_on
from bambola.core.armature.strength import PROPERTIES, take_up
from bambola.core.bench import Bench
from bambola.core.facts import NOTHING, Degrees, Fact, Mm, Value, fact
from bambola.core.figure import Wire
from bambola.core.frozen import frozen
from bambola.core.solids import Placement

SPLICE_MM = 30.0
"""Two pieces are bound side by side over this length. See craft.md, 3."""
CLEAR_MM = 5.0
"""A splice keeps this far from a bend or joint, so that the pliers can bend beside it. Judged.
See craft.md, 3."""


@frozen
class CutPiece:
    """One piece from stock: from where to where along the straight wire, mm.

    ``clear`` is whether the splice at its end keeps away from bends and joints.
    """

    start_mm: float
    end_mm: float
    clear: bool = True

    @property
    def mm(self) -> float:
        """Its length."""
        return self.end_mm - self.start_mm


def pieces_of(
    straight: float, free: Sequence[tuple[float, float]], longest: float
) -> tuple[tuple[CutPiece, ...], list[float]]:
    """Cut a wire ``straight`` mm long into pieces of at most ``longest`` mm; (pieces, splices in mm).

    ``free`` are the stretches (from, to) in which a splice may lie. Every piece reaches as far as it
    can, which makes them the fewest; where no clear place can be reached the splice lies across a
    bend and is said not to be clear. Stock too short to be spliced at all is taken as it is.
    """
    if straight <= longest + 1e-9 or longest <= 2 * SPLICE_MM:
        return (CutPiece(0.0, straight),), []
    pieces: list[CutPiece] = []
    start = 0.0
    while straight - start > longest + 1e-9:
        end = _furthest_splice_end(free, start + 2 * SPLICE_MM, start + longest)
        clear = not math.isnan(end)
        if not clear:
            end = start + longest
        pieces.append(CutPiece(start, end, clear))
        start = end - SPLICE_MM
    pieces.append(CutPiece(start, straight))
    return tuple(pieces), [SPLICE_MM] * (len(pieces) - 1)


def _furthest_splice_end(free: Sequence[tuple[float, float]], low: float, high: float) -> float:
    """Return the furthest end of a splice in (low, high] that lies in a free stretch; nan if none does."""
    best = math.nan
    for a, b in free:
        end = min(high, b - CLEAR_MM)
        if end >= a + CLEAR_MM + SPLICE_MM and end > low and not end < best:
            best = end
    return best


TURN_BACK_MM = 6.0
BINDING_TURNS = 3
STUB_MM = 15.0
STUB_SHARE = 0.35
"""A turned-back end is 6 mm or 4 diameters if more; a binding is 3 turns of both diameters; a neck
stub is 15 mm, or 0.35 of the head's depth if less. See craft.md, 3."""
LEAST_BEND_DEG = 1.0
"""A turn of less is none: nobody marks it. See craft.md, 3."""

Point = tuple[float, float, float]


@frozen
class Allowance:
    """Extra length and what it is for, mm."""

    why: Fact
    mm: float


@frozen
class Bend:
    """A bend: distance along the cut wire from its first end (mm) and the angle turned (degrees).

    ``twist_deg`` is how far the plane of this bend is turned about the wire from the plane of the bend
    before, right-handed along the way; bends in one plane have none.
    """

    at_mm: float
    angle_deg: float
    twist_deg: float = 0.0
    node: str = ""


@frozen
class CutStretch:
    """One stretch of the straight wire, from ``start_mm`` to ``end_mm``, and what it is for.

    A run lies along the bone from node ``a`` to ``b``, is ``bone_mm`` long and one of ``strands``.
    """

    kind: Literal["end", "loop", "run", "binding", "peg"]
    start_mm: float
    end_mm: float
    why: Fact
    a: str = ""
    b: str = ""
    bone_mm: float = 0.0
    strands: int = 1

    @property
    def mm(self) -> float:
        """Its length, mm."""
        return self.end_mm - self.start_mm


@frozen
class CutWire:
    """One wire to cut. ``cut_mm`` = path + twist take-up + allowances, splices among them.

    ``stretches`` lie end to end from 0 to ``cut_mm`` less the splices; ``pieces`` are what is cut from
    stock. ``holds`` is the share of what is needed that its gauge bears.
    """

    id: str
    name: Fact
    stock: Fact
    diameter_mm: float
    strands: int
    needed_mm: float
    governed_by: Fact
    holds: float
    path_mm: float
    takeup_mm: float
    allowances: tuple[Allowance, ...]
    cut_mm: float
    bends: tuple[Bend, ...]
    stretches: tuple[CutStretch, ...]
    pieces: tuple[CutPiece, ...]
    grams: float
    points_mm: tuple[Point, ...]


def cut_wires(
    placement: Placement, gauges: Mapping[str, Gauge], bench: Bench, limits: Mapping[str, float]
) -> tuple[CutWire, ...]:
    """Return every wire of the placed figure as it is cut; ``limits`` are the longest pieces (mm) of
    stock."""
    figure = placement.figure
    strands = strands_on(figure)
    looped: set[str] = set()
    return tuple(
        _cut_wire_of(placement, wire, strands, gauges, bench, limits.get(wire.id, math.inf), looped)
        for wire in figure.wires
    )


def _cut_wire_of(
    placement: Placement,
    wire: Wire,
    strands: Mapping[frozenset[str], int],
    gauges: Mapping[str, Gauge],
    bench: Bench,
    longest: float,
    looped: set[str],
) -> CutWire:
    gauge = gauges[wire.id]
    points = [tuple(placement.nodes[name].tolist()) for name in wire.route]
    laid = list(_stretches_in_order(placement, wire, points, strands, gauges, looped))
    stretches = _end_to_end(laid)
    path = sum(s.bone_mm for s in stretches)
    wound = sum(s.mm for s in stretches if s.kind == "run")
    bends = _find_bends(wire, points, stretches)
    straight = stretches[-1].end_mm
    pieces, splices = pieces_of(straight, _free_of(stretches, bends), longest)
    allowances = [Allowance(s.why, s.mm) for s in stretches if s.kind != "run"]
    allowances += [Allowance(Fact("wire.splice"), mm) for mm in splices]
    cut = straight + sum(splices)
    return CutWire(
        wire.id,
        wire.display_name,
        stock_name(gauge, bench.wire_stock),
        gauge.diameter,
        max(s.strands for s in stretches),
        gauge.needed,
        gauge.why,
        gauge.holds,
        path,
        wound - path,
        tuple(allowances),
        cut,
        bends,
        stretches,
        pieces,
        wire_grams(gauge, cut),
        tuple(points),
    )


def wire_grams(gauge: Gauge, mm: float) -> float:
    """Return the weight (g) of so many mm of a gauge."""
    area = math.pi * gauge.diameter**2 / 4 * gauge.cores
    return PROPERTIES[gauge.metal].density * area * mm / 1000.0


def end_mm(diameter: float) -> float:
    """Return the length of wire turned back at an end, mm."""
    return max(TURN_BACK_MM, 4 * diameter)


def stub_mm(placement: Placement, part: str) -> float:
    """Return the length (mm) of the peg in a part: 15 mm, or 0.35 of its depth if less."""
    shape = placement.copies_of(part)[0].shape
    return min(STUB_MM, STUB_SHARE * shape.measures().get("depth", shape.smallest_mm))


def _stretches_in_order(
    placement: Placement,
    wire: Wire,
    points: Sequence[Point],
    strands: Mapping[frozenset[str], int],
    gauges: Mapping[str, Gauge],
    looped: set[str],
) -> list[CutStretch]:
    """Return the stretches of a wire in order, each with the place of its end (``end_mm``)."""
    figure = placement.figure
    own = gauges[wire.id]
    drawn = dict(zip((0, len(wire.route) - 1), wire.loops, strict=False))
    rings = {node.id: node.loop for node in figure.nodes if node.loop}
    bound = set(wire.binds)
    row = [CutStretch("end", 0, end_mm(own.diameter), Fact("wire.first-end"))]
    for i, node in enumerate(wire.route):
        if i:
            a = wire.route[i - 1]
            bone = math.dist(points[i - 1], points[i])
            n = strands[frozenset((a, node))]
            row.append(CutStretch("run", 0, bone * take_up(n), NOTHING, a, node, bone, n))
        ring = drawn.get(i) if i in drawn else None if wire.loops else rings.get(node)
        if ring and (i in drawn or node not in looped):
            looped.add(node)
            row.append(CutStretch("loop", 0, ring, Fact("wire.loop"), node))
        if node in bound:
            bound.discard(node)
            other = next((w for w in figure.wires if w.id != wire.id and node in w.route), wire)
            both = (
                own.diameter * own.cores**0.5
                + gauges[other.id].diameter * gauges[other.id].cores ** 0.5
            )
            turns = BINDING_TURNS * math.pi * both
            row.append(CutStretch("binding", 0, turns, fact("wire.bind", to=other.name), node))
    if wire.stub:
        into = fact("wire.peg-into", part=figure.by_id[wire.stub].name)
        row.append(CutStretch("peg", 0, stub_mm(placement, wire.stub), into))
    else:
        row.append(CutStretch("end", 0, end_mm(own.diameter), Fact("wire.last-end")))
    return row


def _end_to_end(row: Sequence[CutStretch]) -> tuple[CutStretch, ...]:
    at, found = 0.0, []
    for s in row:
        found.append(CutStretch(s.kind, at, at + s.end_mm, s.why, s.a, s.b, s.bone_mm, s.strands))
        at += s.end_mm
    return tuple(found)


def _find_bends(
    wire: Wire, points: Sequence[Point], stretches: Sequence[CutStretch]
) -> tuple[Bend, ...]:
    """Return where the wire bends, by what angle, and the rotation of each bend's plane against the previous
    one. Zero-length runs and turns under a degree are skipped."""
    runs = [s for s in stretches if s.kind == "run"]
    solid = [i for i, s in enumerate(runs) if s.bone_mm > 1e-9]
    ways = {i: _unit_vector(_subtract(points[i + 1], points[i])) for i in solid}
    bends: list[Bend] = []
    normal: Point | None = None
    for i, j in itertools.pairwise(solid):
        here, onward = ways[i], ways[j]
        cross = _cross_product(here, onward)
        angle = math.degrees(math.atan2(math.hypot(*cross), _dot_product(here, onward)))
        if angle < LEAST_BEND_DEG:
            continue
        twist = 0.0
        # Folded right back any plane will do: it keeps that of the bend before.
        if math.hypot(*cross) > 1e-6:
            plane = _unit_vector(cross)
            if normal is not None:
                carried = _carry_normal(normal, here)
                sine, cosine = (
                    _dot_product(_cross_product(carried, plane), here),
                    _dot_product(carried, plane),
                )
                twist = math.degrees(math.atan2(sine, cosine))
            normal = plane
        bends.append(Bend(runs[i].end_mm, angle, twist, wire.route[i + 1]))
    return tuple(bends)


def _carry_normal(normal: Point, here: Point) -> Point:
    """Return the normal of the last bend carried along to a wire going ``here``."""
    along = _dot_product(normal, here)
    level = _subtract(normal, (here[0] * along, here[1] * along, here[2] * along))
    return _unit_vector(level) if math.hypot(*level) > 1e-9 else normal


def _subtract(a: Point, b: Point) -> Point:
    return a[0] - b[0], a[1] - b[1], a[2] - b[2]


def _dot_product(a: Point, b: Point) -> float:
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def _cross_product(a: Point, b: Point) -> Point:
    return a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]


def _unit_vector(a: Point) -> Point:
    size = math.hypot(*a)
    return a[0] / size, a[1] / size, a[2] / size


def _free_of(stretches: Sequence[CutStretch], bends: Sequence[Bend]) -> list[tuple[float, float]]:
    """Return the plain stretches between bends, loops and bindings, as (from, to) mm."""
    marks = {bend.at_mm for bend in bends}
    free: list[tuple[float, float]] = []
    for s in stretches:
        if s.kind != "run":
            continue
        if (
            free
            and math.isclose(free[-1][1], s.start_mm)
            and not any(math.isclose(mark, s.start_mm) for mark in marks)
        ):
            free[-1] = (free[-1][0], s.end_mm)
        else:
            free.append((s.start_mm, s.end_mm))
    return free


def wire_in_parts(placement: Placement, gauges: Mapping[str, Gauge]) -> dict[str, float]:
    """Return the volume of wire hidden in one copy of each part, mm³."""
    figure = placement.figure
    where = bone_part(figure)
    volume: dict[str, float] = {}
    for wire in figure.wires:
        gauge = gauges[wire.id]
        area = math.pi * gauge.diameter**2 / 4 * gauge.cores
        for a, b in itertools.pairwise(wire.route):
            run = math.dist(placement.nodes[a], placement.nodes[b])
            part = where[frozenset((a, b))]
            volume[part] = volume.get(part, 0.0) + area * run / len(placement.copies_of(part))
    return volume


HAND_DEG = 5.0
"""A hand sets an angle to so much. Judged. See craft.md, 3."""
SMALL_DEG, NEAR_MM = 30.0, 30.0
"""Bends this small and this near to each other, all the same way, are one curve. Judged."""


@frozen
class HandBend:
    """A bend at ``start_mm``, or a curve from there to ``end_mm``: by ``angle_deg`` in all, rolled by
    ``twist_deg`` first. Both to five degrees."""

    start_mm: float
    end_mm: float
    angle_deg: float
    twist_deg: float

    @property
    def as_fact(self) -> Fact:
        """The instruction for the hand, as a fact."""
        kind = "bend.curve" if self.end_mm > self.start_mm else "bend"
        slots: dict[str, Value] = {"angle": Degrees(self.angle_deg), "at": Mm(self.start_mm)}
        if self.end_mm > self.start_mm:
            slots["end"] = Mm(self.end_mm)
        if abs(self.twist_deg) >= HAND_DEG:
            way = "clockwise" if self.twist_deg > 0 else "back"
            kind, slots["roll"] = f"{kind}.{way}", Degrees(abs(self.twist_deg))
        return fact(kind, **slots)


def by_hand(bends: Sequence[Bend]) -> tuple[HandBend, ...]:
    """Return ``bends`` as instructions at the table, without those too small for a hand."""
    runs: list[list[Bend]] = []
    for bend in bends:
        last = runs[-1][-1] if runs else None
        if last is not None and _goes_on(last, bend):
            runs[-1].append(bend)
        else:
            runs.append([bend])
    found = (
        HandBend(
            run[0].at_mm,
            run[-1].at_mm,
            _to_hand(sum(bend.angle_deg for bend in run)),
            _to_hand(run[0].twist_deg),
        )
        for run in runs
    )
    return tuple(bend for bend in found if bend.angle_deg > 0)


def _goes_on(last: Bend, bend: Bend) -> bool:
    small = max(last.angle_deg, bend.angle_deg) < SMALL_DEG
    return small and abs(bend.twist_deg) < SMALL_DEG and bend.at_mm - last.at_mm < NEAR_MM


def _to_hand(degrees: float) -> float:
    return round(degrees / HAND_DEG) * HAND_DEG + 0.0
