"""The wire of a plan: from the loads at the new size to gauges, cut wires and pegs."""

from __future__ import annotations

import math
from collections.abc import Container, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from bambola.core.armature import (
    BoneLoad,
    ChosenWire,
    CutPiece,
    CutStretch,
    CutWire,
    Gauge,
    Mass,
    StockPiece,
    ThinLimb,
    WireNeed,
    bone_loads,
    bone_part,
    capacity_nmm,
    cut_wires,
    diameter_bearing,
    gauge_wires,
    longest_piece,
    mass_along,
    needs_of,
    spring_backs,
    strands_on,
    stub_mm,
    thin_limbs,
    will_do,
    wire_grams,
)
from bambola.core.armature.cuts import Allowance
from bambola.core.armature.gauge import on_shelf
from bambola.core.armature.loads import LEAN_DEG, N_PER_GRAM
from bambola.core.armature.strength import PROPERTIES, RESERVE, hidden_mm, metal_name
from bambola.core.armature.wiring import likely_metal
from bambola.core.bench import Bench
from bambola.core.facts import NOTHING, Fact, fact
from bambola.core.figure import Brief, Figure, Metal, Part
from bambola.core.figure.questions import CentreAnswer
from bambola.core.plan.making.made import OriginalAnalysis, PreparedFigure, Prints
from bambola.core.plan.making.masses import (
    centre_of,
    fitting_masses,
    gauged_masses,
    hidden_in_parts,
    wool_masses,
)
from bambola.core.plan.making.values import BonePlan
from bambola.core.solids import Copy, Placement, Solids
from bambola.core.wool import PartWool, part_wool

Pair = frozenset[str]


@dataclass(frozen=True)
class WiredFigure:
    """The wire at the new size and the wool that goes with it, as a whole and copy by copy."""

    gauges: dict[str, Gauge]
    wires: tuple[CutWire, ...]
    thin: tuple[ThinLimb, ...]
    loads: dict[Pair, BoneLoad]
    needs: dict[Pair, WireNeed]
    wool: dict[str, PartWool]
    lumps: list[Mass]


def wire_up(
    made: OriginalAnalysis,
    prepared: PreparedFigure,
    solids: Solids,
    prints: Prints,
    brief: Brief,
    joins: Mapping[str, str],
    scale: float,
    choices: ChosenWire,
) -> WiredFigure:
    """Choose the gauges of a resized figure and cut its wires.

    Wire must bear the wool, and the wool gives way to the wire: a likely gauge gives the amount of wool, and
    with that and the likely wire's own weight the final gauge is found.
    """
    figure, placement, bench = solids.placement.figure, solids.placement, made.bench

    def wool_with(
        hidden: Mapping[str, float], only: Container[str] | None = None
    ) -> dict[str, PartWool]:
        return _wool_of_parts(made, solids, hidden, brief, joins, scale, only)

    if prepared.rigging is None:
        bare = wool_with(hidden_in_parts(placement, {}))
        return WiredFigure({}, (), (), {}, {}, bare, wool_masses(solids, bare, brief.found))
    old = prepared.yardstick
    springs = spring_backs(old.felts, figure, placement)
    limbs = {part.id: part.shape.thinnest_mm for part in figure.parts}

    def needed(loads: Mapping[Pair, BoneLoad]) -> dict[Pair, WireNeed]:
        return needs_of(loads, old, springs, scale)

    def gauged(needs: Mapping[Pair, WireNeed]) -> dict[str, Gauge]:
        return gauge_wires(figure, needs, old, bench, scale, limbs, choices)

    likely = gauged(needed(_scale_loads(old.loads, scale)))
    hidden = hidden_in_parts(placement, likely)
    wool = wool_with(hidden)
    lumps, fittings = wool_masses(solids, wool, brief.found), fitting_masses(solids)
    supports = made.supports(solids, prints, centre_of(lumps + fittings), brief.hang_tilt)
    loads = bone_loads(
        prepared.rigging,
        placement,
        np.array([m.grams for m in lumps]),
        solids.centroids,
        fittings + gauged_masses(placement, likely),
        supports,
    )
    needs = needed(loads)
    gauges = gauged(needs)
    truly = hidden_in_parts(placement, gauges)
    if truly != hidden:
        otherwise = {part for part, mm3 in truly.items() if mm3 != hidden[part]}
        wool |= wool_with(truly, otherwise)
        lumps = wool_masses(solids, wool, brief.found)
    limits = {
        name: longest_piece(bench.wire_stock, g.metal, g.diameter, g.cores)
        for name, g in gauges.items()
    }
    wires = cut_wires(placement, gauges, bench, limits)
    thin = thin_limbs(figure, placement, gauges, loads, bench, choices.wound)
    return WiredFigure(gauges, wires, thin, loads, needs, wool, lumps)


def recompute_wool(
    made: OriginalAnalysis,
    solids: Solids,
    wired: WiredFigure,
    brief: Brief,
    joins: Mapping[str, str],
    scale: float,
    otherwise: Container[str],
) -> dict[str, PartWool]:
    """Return the wool of a wired figure with some parts joined ``otherwise``. The wires stay, since the wool
    of a seam is so little."""
    hidden = hidden_in_parts(solids.placement, wired.gauges)
    anew = _wool_of_parts(made, solids, hidden, brief, joins, scale, otherwise)
    return {part: anew.get(part, known) for part, known in wired.wool.items()}


def _wool_of_parts(
    made: OriginalAnalysis,
    solids: Solids,
    hidden: Mapping[str, float],
    brief: Brief,
    joins: Mapping[str, str],
    scale: float,
    only: Container[str] | None,
) -> dict[str, PartWool]:
    cover = scale if brief.thicken_coat else 1.0
    soft = {part for part, said in brief.choices.soft_centres.items() if said == CentreAnswer.SOFT}
    figure = solids.placement.figure
    return part_wool(figure, solids, made.bench, hidden, cover, joins, scale, soft, only)


def _scale_loads(loads: Mapping[Pair, BoneLoad], s: float) -> dict[Pair, BoneLoad]:
    """Return the loads of a figure that grew evenly by ``s``: weights by its cube, and levers by it."""
    return {
        bone: BoneLoad(
            load.a, load.b, load.static_nmm * s**4, load.design_nmm * s**4, load.lever_mm * s
        )
        for bone, load in loads.items()
    }


def cut_masses(solids: Solids, wires: Sequence[CutWire]) -> list[Mass]:
    """Return the weights of the cut wires, including allowances, along their routes."""
    figure = solids.placement.figure
    return mass_along(
        [
            (wire.route, cut.points_mm, cut.grams)
            for cut, wire in zip(wires, figure.wires, strict=True)
        ],
        figure,
    )


def bone_plans(prepared: PreparedFigure, wired: WiredFigure, scale: float) -> tuple[BonePlan, ...]:
    """Return every bone with its former load, its present load and what it can bear."""
    figure, old = prepared.figure, prepared.yardstick
    where, strands = bone_part(figure), strands_on(figure)
    asked = {frozenset((bone.a, bone.b)): bone.strands for bone in figure.bones}
    bears: dict[Pair, float] = {}
    for wire in figure.wires:
        g = wired.gauges[wire.id]
        for leg in zip(wire.route, wire.route[1:], strict=False):
            bone = frozenset(leg)
            bears[bone] = bears.get(bone, 0.0) + capacity_nmm(g.metal, g.diameter, g.cores)
    found = []
    for bone, load in wired.loads.items():
        was = old.loads.get(bone)
        grown = load.design_nmm / was.design_nmm if was and was.design_nmm > 1e-12 else scale**4
        found.append(
            BonePlan(
                load.a,
                load.b,
                where[bone],
                asked[bone],
                strands.get(bone, 0),
                was.design_nmm if was else 0.0,
                load.static_nmm,
                load.design_nmm,
                wired.needs[bone].moment,
                bears.get(bone, 0.0),
                (grown / scale**4 - 1) * 100,
            )
        )
    return tuple(found)


def pegs(
    solids: Solids, joins: Mapping[str, str], masses: Sequence[Mass], bench: Bench
) -> tuple[CutWire, ...]:
    """Return a short wire for every join on a peg, reaching into both parts.

    It bears 2.5 times the moment about the join of what sits on it. It is neither bent nor visible, so any
    wire on the shelf that fits inside will do if fingers can bend it, and so cut it easily.
    """
    figure = solids.placement.figure
    metal = likely_metal(figure)
    found = []
    for part in figure.parts:
        if part.parent is None or joins.get(part.id) != "peg":
            continue
        branch = _branch_from(solids, part.id)
        copies = solids.placement.copies_of(part.id)
        for copy in copies:
            own = [
                m
                for m in masses
                if m.part in branch and (copy.side is None or m.side in (None, copy.side))
            ]
            moment = _level_moment(copy, own)
            need = diameter_bearing(RESERVE * moment, metal)
            size = _peg_mm(figure, part, metal, need, bench)
            holds = min(1.0, (size / need) ** 3) if need > 0 else 1.0
            gauge = Gauge(metal, size, need, NOTHING, 1, holds)
            which = f"wire-of.{copy.side}-peg" if copy.side else "wire-of.peg"
            called = fact(which, part=part.name)
            found.append(_peg_wire(solids.placement, copy, gauge, called, len(copies) > 1))
    return tuple(found)


def _peg_mm(figure: Figure, part: Part, metal: Metal, need: float, bench: Bench) -> float:
    """Return the diameter of a peg: the thinnest sufficient wire on the shelf, else the thinnest sold."""
    size = will_do(need, bench.wire_sizes) or bench.wire_sizes[-1]
    bearer = figure.by_id[str(part.parent)]
    room = min(part.shape.smallest_mm, bearer.shape.smallest_mm) - hidden_mm(0.0)
    most = min(PROPERTIES[metal].by_hand_mm, room)
    there = on_shelf(metal, bench)
    return size if size in there else min((mm for mm in there if size <= mm <= most), default=size)


def _branch_from(solids: Solids, part: str) -> set[str]:
    figure = solids.placement.figure
    below = {part}
    for other in figure.parents_first:
        if other.parent in below:
            below.add(other.id)
    return below


def _level_moment(copy: Copy, masses: Sequence[Mass]) -> float:
    """Return the moment (N·mm) about a copy's seat, at least that when leaning."""
    if not masses:
        return 0.0
    grams = sum(m.grams for m in masses)
    x, y, z = (centre_of(masses) - copy.matrix[:3, 3]).tolist()
    lever = max(math.hypot(x, y), math.tan(math.radians(LEAN_DEG)) * abs(z))
    return float(grams * N_PER_GRAM * lever)


def _peg_wire(placement: Placement, copy: Copy, gauge: Gauge, called: Fact, many: bool) -> CutWire:
    part = copy.part
    assert part.parent is not None
    inner, outer = stub_mm(placement, part.parent), stub_mm(placement, part.id)
    into = [
        fact("wire.peg-into", part=name)
        for name in (placement.figure.by_id[part.parent].name, part.name)
    ]
    seat, axis = copy.matrix[:3, 3], copy.matrix[:3, 2]
    points = (tuple((seat - axis * inner).tolist()), tuple((seat + axis * outer).tolist()))
    side = f"-{copy.side}" if many and copy.side else ""
    return CutWire(
        f"peg-{part.id}{side}",
        called,
        metal_name(gauge.metal),
        gauge.diameter,
        1,
        gauge.needed,
        Fact("wire.for-seat"),
        gauge.holds,
        0.0,
        0.0,
        (Allowance(into[0], inner), Allowance(into[1], outer)),
        inner + outer,
        (),
        (CutStretch("peg", 0.0, inner, into[0]), CutStretch("peg", inner, inner + outer, into[1])),
        (CutPiece(0.0, inner + outer),),
        wire_grams(gauge, inner + outer),
        points,
    )


def pieces_to_cut(
    figure: Figure,
    wires: Sequence[CutWire],
    gauges: Mapping[str, Gauge],
    pegged: Sequence[CutWire],
    count: int,
) -> list[StockPiece]:
    """Return every piece of every wire of ``figure`` and of its pegs, ``count`` times over."""
    found = []
    for wire in (*wires, *pegged):
        gauge = gauges.get(wire.id)
        metal, cores = (gauge.metal, gauge.cores) if gauge else (likely_metal(figure), 1)
        found += [
            StockPiece(metal, wire.diameter_mm, cores, p.mm, wire.id) for p in wire.pieces
        ] * count
    return found
