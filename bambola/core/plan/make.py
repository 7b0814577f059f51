"""``make_plan(figure, brief, bench) -> Plan``: the one function that decides every number."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from bambola.core.armature import (
    CutWire,
    Mass,
    ThinLimb,
    cut_wires,
    gauge_wires,
    path_length,
    stock_cuts,
    thin_limbs,
    wire_in_parts,
    wire_moments,
    without_wire_in,
)
from bambola.core.balance import JoinStress, balance, contacts, join_stresses
from bambola.core.figure import Bench, Brief, Figure, SizeRule
from bambola.core.order import Work, differences, number_steps, sequence
from bambola.core.plan.jobs import lightness, work_of
from bambola.core.plan.notices import Findings, find_notices
from bambola.core.plan.values import FittingPlan, PartPlan, Plan
from bambola.core.resize import Resized, resize, rounds, wanted_size, way_of_making
from bambola.core.solids import Copy, CopySolid, Solids, measure_solids
from bambola.core.wool import PartWool, part_wool, wool_totals


@dataclass(frozen=True)
class _AsMade:
    """What the figure is at the height it was made: the yardstick for every new size."""

    figure: Figure
    bench: Bench
    solids: Solids
    moments: Mapping[str, Mapping[frozenset[str], float]]
    feet: np.ndarray
    works: dict[str, Work]

    def work(self, brief: Brief) -> Work:
        """The making of the figure as it was, by the maker's schools."""
        schools = repr(sorted(brief.schools.items()))
        if schools not in self.works:
            self.works[schools] = _make(self, brief.as_made()).work
        return self.works[schools]


_remembered: list[_AsMade] = []
_REMEMBER = 4


def _as_made(figure: Figure, bench: Bench) -> _AsMade:
    """The yardstick of ``figure``, remembered by identity: figures and benches never change."""
    for known in _remembered:
        if known.figure is figure and known.bench is bench:
            return known
    solids = measure_solids(figure)
    masses = _wool_and_fittings(solids, bench)
    made = _AsMade(
        figure, bench, solids, wire_moments(figure, solids.placement, masses),
        contacts(solids.placement), {},
    )  # fmt: skip
    _remembered.insert(0, made)
    del _remembered[_REMEMBER:]
    return made


@dataclass(frozen=True)
class _Make:
    """One figure at one size, with everything that is weighed, cut and joined."""

    resized: Resized
    solids: Solids
    wool: dict[str, PartWool]
    wires: tuple[CutWire, ...]
    thin: tuple[ThinLimb, ...]
    joins: dict[str, str]
    stresses: tuple[JoinStress, ...]
    masses: list[Mass]
    work: Work


def make_plan(figure: Figure, brief: Brief, bench: Bench) -> Plan:
    """The plan of ``figure`` for ``brief`` on ``bench``.

    Pure: the same three values give the same plan. Raises ``ResizeError`` for a height that cannot
    be met and ``OrderConflictError`` for a design that cannot be made.
    """
    made = _as_made(figure, bench)
    old = made.work(brief)
    new = _make(made, brief)
    order = sequence(new.work, lightness(bench))
    steps = number_steps(
        order, new.work, _step_grams(new.wool), bench.pace, {p.id: p.firmness for p in figure.parts}
    )
    counts = _counts(new.solids)
    feet = made.feet * new.resized.scale if new.resized.even else None
    standing = balance(new.solids.placement, [(m.grams, m.centre) for m in new.masses], feet)
    fittings = _fittings(made, new)
    totals = wool_totals(new.wool, counts, bench, brief.count)
    findings = Findings(
        new.resized, brief, bench, fittings, new.thin, new.stresses, standing, new.wires, new.joins
    )
    return Plan(
        figure=figure.name,
        datum=figure.datum.words,
        from_height_mm=made.solids.placement.height,
        to_height_mm=new.resized.to_height,
        scale=new.resized.scale,
        count=brief.count,
        wool_g=sum(total.grams for total in totals),
        minutes=sum(step.minutes for step in steps) * brief.count,
        parts=tuple(_part_plan(part.id, new, bench, counts) for part in figure.parts),
        wires=new.wires,
        cutting=stock_cuts(new.wires, brief.count),
        wools=totals,
        fittings=fittings,
        balance=standing,
        joins=new.stresses,
        steps=steps,
        changes=differences(old, new.work),
        notices=find_notices(findings),
        resized=new.resized,
        solids=new.solids,
    )


def _make(made: _AsMade, brief: Brief) -> _Make:
    """Size, weigh and cut; again if a limb is made stouter to hide the wire its weight asks for."""
    bare = frozenset(
        part.id
        for part in made.figure.parts
        if brief.answers.get(f"thin-limb:{part.id}") == "no-wire"
    )
    figure = without_wire_in(made.figure, bare)
    first = _once(made, figure, brief, {})
    floors: dict[str, SizeRule] = {}
    for _ in range(4):
        stouter = {
            thin.part: _floor(figure, thin)
            for thin in first.thin
            if brief.answers.get(f"thin-limb:{thin.part}") == "stouter-limb"
        }
        if not stouter:
            return first
        floors |= stouter
        first = _once(made, figure, brief, floors)
    return first


def _floor(figure: Figure, thin: ThinLimb) -> SizeRule:
    shape = figure.by_id[thin.part].shape
    measures = shape.measures()
    name = next(
        (n for n in ("thickness", "diameter", "tip") if n in measures),
        min(measures, key=lambda n: measures[n]),
    )
    # A tapered limb is thinnest somewhere else than where it is measured; both keep their ratio.
    share = measures[name] / shape.thinnest_mm if name != "tip" else 1.0
    return SizeRule(measure=name, rule="floor", value=thin.needs_mm * share * (1 + 1e-6))


def _once(made: _AsMade, figure: Figure, brief: Brief, floors: Mapping[str, SizeRule]) -> _Make:
    asked = brief
    for part, rule in floors.items():
        asked = asked.ruled(part, (*asked.rules.get(part, ()), rule))
    resized = resize(figure, asked, made.bench, made.solids.placement)
    solids = _solids(made, figure, resized)
    bench = made.bench
    loads = wire_moments(resized.figure, solids.placement, _wool_and_fittings(solids, bench))
    levers = {
        wire.id: path_length(solids.placement, wire) / was
        if (was := path_length(made.solids.placement, wire)) > 0 else resized.scale
        for wire in resized.figure.wires
    }  # fmt: skip
    gauges = gauge_wires(resized.figure, made.moments, loads, levers, bench)
    wires = cut_wires(solids.placement, gauges)
    thin = thin_limbs(solids.placement, wires, bench)
    for limb in thin:
        if brief.answers.get(f"thin-limb:{limb.part}") == "thinner-wire" and limb.fits_diameter:
            _, need, why = gauges[limb.wire]
            gauges[limb.wire] = (limb.fits_diameter, need, why)
            wires = cut_wires(solids.placement, gauges)
    joins = {
        part.id: _join(brief.answers.get(f"join:{part.id}"), part.join)
        for part in resized.figure.parts
        if part.parent is not None
    }
    hidden = wire_in_parts(solids.placement, gauges)
    cover = resized.scale if brief.thicken_coat else 1.0
    wool = part_wool(resized.figure, solids, bench, hidden, cover, joins, resized.scale)
    masses = _masses(solids, wool, wires)
    stresses = join_stresses(
        solids, [(m.part, m.grams, m.centre) for m in masses], _held_by(resized.figure, joins)
    )
    work = work_of(resized.figure, solids, wool, joins, brief.schools, bench)
    return _Make(resized, solids, wool, wires, thin, joins, stresses, masses, work)


def _join(answer: str | None, drawn: str) -> str:
    return answer if answer in ("patch", "scarf", "peg") else drawn


def _held_by(figure: Figure, joins: Mapping[str, str]) -> dict[str, str]:
    """The strongest thing in each join: a wire that runs through it, or what the maker chose."""
    nodes = {node.id: node.part for node in figure.nodes}
    through: set[str] = set()
    for wire in figure.wires:
        for a, b in zip(wire.route, wire.route[1:], strict=False):
            if nodes[a] != nodes[b]:
                through |= {nodes[a], nodes[b]}
        if wire.stub:
            through.add(wire.stub)
    return {part: "wire" if part in through else kind for part, kind in joins.items()}


def _solids(made: _AsMade, figure: Figure, resized: Resized) -> Solids:
    if resized.even:
        s = resized.scale
        base = made.solids
        return Solids(
            base.placement.scaled(s, resized.figure),
            tuple(m.scaled(s) for m in base.measured),
            base.near,
        )
    bent = {part for part, sized in resized.parts.items() if sized.bent_by}
    return measure_solids(resized.figure, resized.scale, made.solids, bent)


def _wool_and_fittings(solids: Solids, bench: Bench) -> list[Mass]:
    """Packed wool and fittings, for loads on the wire (its own weight is a small part of them)."""
    masses = []
    for copy, solid, centre in _weighed(solids):
        density = bench.packed_density(solids.placement.figure, copy.part)
        masses.append(Mass(density * solid.net_mm3 / 1000.0, centre, copy.part.id, copy.side))
    return masses + _fitting_masses(solids)


def _weighed(solids: Solids) -> Iterator[tuple[Copy, CopySolid, tuple[float, float, float]]]:
    """Every copy with its numbers and the centre of its wool."""
    for copy, solid, centre in zip(
        solids.placement.copies, solids.measured, solids.centroids.tolist(), strict=True
    ):
        yield copy, solid, (centre[0], centre[1], centre[2])


def _fitting_masses(solids: Solids) -> list[Mass]:
    return [
        Mass(
            placed.fitting.mass,
            tuple((placed.matrix[:3, 3] + placed.matrix[:3, 2] * placed.fitting.size / 2).tolist()),
            placed.fitting.part,
            placed.side,
        )
        for placed in solids.placement.fittings
        if placed.fitting.mass > 0
    ]


def _masses(solids: Solids, wool: Mapping[str, PartWool], wires: tuple[CutWire, ...]) -> list[Mass]:
    placement = solids.placement
    masses = [
        Mass(wool[copy.part.id].grams, centre, copy.part.id, copy.side)
        for copy, _, centre in _weighed(solids)
    ]
    nodes = {node.id: node for node in placement.figure.nodes}
    for cut, wire in zip(wires, placement.figure.wires, strict=True):
        for i, (a, b) in enumerate(zip(cut.points_mm, cut.points_mm[1:], strict=False)):
            node = nodes[wire.route[i + 1]]
            share = math.dist(a, b) / cut.path_mm if cut.path_mm else 0.0
            middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2)
            masses.append(Mass(cut.grams * share, middle, node.part, node.side))
    return masses + _fitting_masses(solids)


def _counts(solids: Solids) -> dict[str, int]:
    counts: dict[str, int] = {}
    for copy in solids.placement.copies:
        counts[copy.part.id] = counts.get(copy.part.id, 0) + 1
    return counts


def _part_plan(part_id: str, new: _Make, bench: Bench, counts: Mapping[str, int]) -> PartPlan:
    part, sized, wool = (
        new.resized.figure.by_id[part_id],
        new.resized.parts[part_id],
        new.wool[part_id],
    )
    return PartPlan(
        part.id, part.name, counts.get(part_id, 0),
        way_of_making(part, sized.shape, new.resized.figure, bench), sized.from_mm, sized.to_mm,
        wool.net_cm3, wool.exposed_cm2, rounds(wool.core_mm), part.firmness, wool.coat_mm,
        sized.bent_by, part.fringe, wool.portions,
    )  # fmt: skip


def _fittings(made: _AsMade, new: _Make) -> tuple[FittingPlan, ...]:
    counts: dict[str, int] = {}
    for placed in new.solids.placement.fittings:
        counts[placed.fitting.id] = counts.get(placed.fitting.id, 0) + 1
    rows = []
    for old, used in zip(made.figure.fittings, new.resized.figure.fittings, strict=True):
        wanted = wanted_size(old, new.resized.scale)
        off = (used.size / wanted - 1) * 100
        rows.append(
            FittingPlan(
                used.id, used.name, wanted, used.size, off, counts.get(used.id, 0), used.mass
            )
        )
    return tuple(rows)


def _step_grams(wool: Mapping[str, PartWool]) -> dict[str, float]:
    grams: dict[str, float] = {}
    for part_id, part in wool.items():
        for portion in part.portions:
            key = f"{portion.role}:{part_id}"
            if portion.role == "inset":
                key += f":{portion.detail}"
            elif portion.role == "seam":
                key = f"blend:{part_id}"
            grams[key] = grams.get(key, 0.0) + portion.grams
        if part.portions and f"core:{part_id}" in grams:
            grams[f"detail:{part_id}"] = part.grams
    return grams
