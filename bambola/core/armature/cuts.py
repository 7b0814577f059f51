"""Each wire as it is cut: path, take-up, every allowance by name, and where it bends."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bambola.core.armature.strength import (
    HIDE_MM,
    METAL_DENSITY,
    bone_part,
    bundle_mm,
    needed_diameter,
    stock_at_least,
    strands_on,
    take_up,
)
from bambola.core.figure import Bench, Figure, Wire
from bambola.core.solids import Placement

TURN_BACK_MM = 6.0
BINDING_TURNS = 3
STUB_MM = 15.0
STUB_SHARE = 0.35
"""A turned-back end is 6 mm or 4 diameters if more; a binding is 3 turns of both diameters; a neck
stub is 15 mm, or 0.35 of the head's depth if less."""


@dataclass(frozen=True, slots=True)
class Allowance:
    """Extra length and what it is for, mm."""

    why: str
    mm: float


@dataclass(frozen=True, slots=True)
class Bend:
    """A bend: distance along the cut wire from its first end (mm) and angle turned (degrees)."""

    at_mm: float
    angle_deg: float


@dataclass(frozen=True, slots=True)
class CutWire:
    """One wire to cut. ``cut_mm`` = path + twist take-up + allowances."""

    id: str
    name: str
    stock: str
    diameter_mm: float
    strands: int
    needed_mm: float
    governed_by: str
    path_mm: float
    takeup_mm: float
    allowances: tuple[Allowance, ...]
    cut_mm: float
    bends: tuple[Bend, ...]
    grams: float
    points_mm: tuple[tuple[float, float, float], ...]


@dataclass(frozen=True, slots=True)
class ThinLimb:
    """A limb too thin for its wire: thickness there and thickness needed, mm."""

    part: str
    wire: str
    limb_mm: float
    needs_mm: float
    fits_diameter: float | None


@dataclass(frozen=True, slots=True)
class StockCut:
    """What is cut from one length of stock (by the metre: exactly what is needed)."""

    stock: str
    length_mm: float
    cuts: tuple[float, ...]
    waste_mm: float


def gauge_wires(
    figure: Figure,
    old: Mapping[str, Mapping[frozenset[str], float]],
    new: Mapping[str, Mapping[frozenset[str], float]],
    levers: Mapping[str, float],
    bench: Bench,
) -> dict[str, tuple[float, float, str]]:
    """For each wire: stock diameter (mm), diameter needed (mm), and what governs it."""
    chosen = {}
    for wire in figure.wires:
        need, why = needed_diameter(wire, old[wire.id], new[wire.id], levers[wire.id])
        size = stock_at_least(need, bench.wire_sizes)
        chosen[wire.id] = (size or bench.wire_sizes[-1], need, why)
    return chosen  # fmt: skip


def cut_wires(
    placement: Placement, diameters: Mapping[str, tuple[float, float, str]]
) -> tuple[CutWire, ...]:
    """Every wire of the placed figure as it is cut, with the chosen diameters."""
    strands = strands_on(placement.figure)
    return tuple(_cut(placement, wire, strands, diameters) for wire in placement.figure.wires)


def path_length(placement: Placement, wire: Wire) -> float:
    """Length of the wire's route, mm."""
    return float(sum(_runs([placement.nodes[name].tolist() for name in wire.route])))


def _runs(points: Sequence[Sequence[float]]) -> list[float]:
    return [math.dist(a, b) for a, b in itertools.pairwise(points)]


def _cut(
    placement: Placement,
    wire: Wire,
    strands: Mapping[frozenset[str], int],
    diameters: Mapping[str, tuple[float, float, str]],
) -> CutWire:
    diameter, needed, why = diameters[wire.id]
    points = [tuple(placement.nodes[name].tolist()) for name in wire.route]
    runs = _runs(points)
    passes = [strands[frozenset(leg)] for leg in zip(wire.route, wire.route[1:], strict=False)]
    wound = [run * take_up(n) for run, n in zip(runs, passes, strict=True)]
    allowances = _allowances(placement, wire, diameter, diameters)
    path = sum(runs)
    takeup = sum(wound) - path
    cut = path + takeup + sum(a.mm for a in allowances)
    start = _end(diameter) + (wire.loops[0] if wire.loops else 0.0)
    grams = METAL_DENSITY[wire.metal] * math.pi * diameter**2 / 4 * cut / 1000.0
    return CutWire(
        wire.id, wire.name, wire.metal, diameter, max(passes), needed, why, path, takeup,
        allowances, cut, _bends(points, runs, wound, start), grams, tuple(points),
    )  # fmt: skip


def _end(diameter: float) -> float:
    return max(TURN_BACK_MM, 4 * diameter)


def _allowances(
    placement: Placement,
    wire: Wire,
    diameter: float,
    diameters: Mapping[str, tuple[float, float, str]],
) -> tuple[Allowance, ...]:
    figure = placement.figure
    found = [Allowance("turn the first end over", _end(diameter))]
    if wire.stub:
        head = placement.copies_of(wire.stub)[0]
        measures = head.shape.measures()
        depth = measures.get("depth", head.shape.smallest_mm)
        found.append(
            Allowance(f"peg into the {head.part.name.lower()}", min(STUB_MM, STUB_SHARE * depth))
        )
    else:
        found.append(Allowance("turn the last end over", _end(diameter)))
    found += [Allowance("loop at the end", mm) for mm in wire.loops]
    for node in wire.binds:
        other = next((w for w in figure.wires if w.id != wire.id and node in w.route), wire)
        turns = BINDING_TURNS * math.pi * (diameter + diameters[other.id][0])
        found.append(Allowance(f"bind to {other.name.lower()}", turns))
    return tuple(found)


def _bends(
    points: Sequence[Sequence[float]], runs: Sequence[float], wound: Sequence[float], start: float
) -> tuple[Bend, ...]:
    """Where the wire turns, and by how much; a turn of less than a degree is none."""
    bends, at = [], start
    for i in range(len(runs) - 1):
        at += wound[i]
        a, b, c = points[i : i + 3]
        size = runs[i] * runs[i + 1]
        if size <= 0:
            continue
        cosine = sum((q - p) * (r - q) for p, q, r in zip(a, b, c, strict=True)) / size
        turn = math.degrees(math.acos(max(-1.0, min(1.0, cosine))))
        if turn >= 1.0:
            bends.append(Bend(at, turn))
    return tuple(bends)


def wire_in_parts(
    placement: Placement, diameters: Mapping[str, tuple[float, float, str]]
) -> dict[str, float]:
    """Volume of wire hidden in one copy of each part, mm³."""
    figure = placement.figure
    where = bone_part(figure)
    volume: dict[str, float] = {}
    for wire in figure.wires:
        area = math.pi * diameters[wire.id][0] ** 2 / 4
        for a, b in zip(wire.route, wire.route[1:], strict=False):
            run = math.dist(placement.nodes[a], placement.nodes[b])
            part = where[frozenset((a, b))]
            volume[part] = volume.get(part, 0.0) + area * run / len(placement.copies_of(part))
    return volume


def thin_limbs(
    placement: Placement, wires: tuple[CutWire, ...], bench: Bench
) -> tuple[ThinLimb, ...]:
    """Limbs that cannot hide their wire: thinner than the bundle and 2.5 mm of wool each side."""
    figure, strands, where = (
        placement.figure,
        strands_on(placement.figure),
        bone_part(placement.figure),
    )
    found: dict[str, ThinLimb] = {}
    for cut, wire in zip(wires, figure.wires, strict=True):
        for leg in zip(wire.route, wire.route[1:], strict=False):
            bone = frozenset(leg)
            part = where[bone]
            limb = min(copy.shape.thinnest_mm for copy in placement.copies_of(part))
            n = strands[bone]
            needs = bundle_mm(cut.diameter_mm, n) + 2 * HIDE_MM
            if limb < needs - 1e-6 and (part not in found or needs > found[part].needs_mm):
                fits = [d for d in bench.wire_sizes if bundle_mm(d, n) + 2 * HIDE_MM <= limb]
                found[part] = ThinLimb(part, wire.id, limb, needs, max(fits, default=None))
    return tuple(found.values())


def without_wire_in(figure: Figure, bare: frozenset[str]) -> Figure:
    """``figure`` with no wire in the parts ``bare``: routes end where they would enter them."""
    if not bare:
        return figure
    where = bone_part(figure)
    wires = []
    for wire in figure.wires:
        legs = list(zip(wire.route, wire.route[1:], strict=False))
        kept = [leg for leg in legs if where[frozenset(leg)] not in bare]
        if not kept:
            continue
        # The longest unbroken run is kept: what is left over beyond a bare limb holds nothing.
        runs: list[list[tuple[str, str]]] = [[kept[0]]]
        for leg in kept[1:]:
            if leg[0] == runs[-1][-1][1]:
                runs[-1].append(leg)
            else:
                runs.append([leg])
        best = max(runs, key=len)
        route = (best[0][0], *(leg[1] for leg in best))
        binds = tuple(node for node in wire.binds if node in route)
        stub = wire.stub if wire.stub not in bare and route[-1] == wire.route[-1] else None
        wires.append(wire.replaced(route=route, binds=binds, stub=stub))
    return figure.replaced(wires=tuple(wires))


def stock_cuts(wires: tuple[CutWire, ...], figures: int = 1) -> tuple[StockCut, ...]:
    """What to cut from each stock. Wire is bought by the metre, so nothing is wasted."""
    by_stock: dict[str, list[float]] = {}
    for wire in wires:
        by_stock.setdefault(f"{wire.stock} {wire.diameter_mm:g} mm", []).extend(
            [wire.cut_mm] * figures
        )
    return tuple(
        StockCut(stock, sum(cuts), tuple(sorted(cuts, reverse=True)), 0.0)
        for stock, cuts in sorted(by_stock.items())
    )
