"""A figure at one size: sized, weighed, wired, cut and joined, before its tasks are put in order."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import cast

from bambola.core.armature import (
    CHENILLE,
    ChosenWire,
    CutWire,
    Mass,
    ThinLimb,
    bone_part,
    bundle_mm,
    school_of,
    stock_of,
    strands_on,
)
from bambola.core.balance import ALLOWED_KPA, JoinStress, footprints, join_for, join_stresses
from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure, Join, SizeRule
from bambola.core.figure.questions import (
    JoinedAnswer,
    LaidAnswer,
    MetalAnswer,
    SizeAnswer,
    StockedAnswer,
    ThinAnswer,
    WornAnswer,
)
from bambola.core.figure.schools import ChoiceId
from bambola.core.order import Work
from bambola.core.plan.making.jobs import PartOverrides, work_of
from bambola.core.plan.making.loose_ends import is_on_cloth, loose_ends, with_loose_ends
from bambola.core.plan.making.made import BuildOptions, OriginalAnalysis, PreparedFigure, Prints
from bambola.core.plan.making.masses import fitting_masses, held_by, wool_masses
from bambola.core.plan.making.reaching import arms_made_longer
from bambola.core.plan.making.ways import in_one_mass, ways_of
from bambola.core.plan.making.wiring import WiredFigure, cut_masses, pegs, recompute_wool, wire_up
from bambola.core.resize import Made, Resized, resize, way_of_making
from bambola.core.solids import Solids, measure_solids

TAPED_MM = 3.0
"""Less wool than this over a wire spins on it, unless it is taped. Judged. See craft.md, 3."""


@dataclass(frozen=True)
class SizedAnalysis:
    """One figure at one size, with everything that is weighed, cut and joined. ``wished`` are the joins as
    drawn, answered or chosen by school; ``joins`` the joins actually used, which the load may decide.
    ``usual`` is the work by the usual schools, if the maker follows others."""

    prepared: PreparedFigure
    resized: Resized
    solids: Solids
    prints: Prints
    wired: WiredFigure
    pegs: tuple[CutWire, ...]
    asked: tuple[ThinLimb, ...]
    wished: dict[str, Join]
    joins: dict[str, Join]
    stresses: tuple[JoinStress, ...]
    masses: list[Mass]
    made: dict[str, Made]
    work: Work
    usual: Work | None


FOLDED_MM = 120.0
"""A figure lower than this needs no bindings: one wire goes out and back. Judged. See craft.md, 3."""
_FOLDED = "continuous"


def wire_school(made: OriginalAnalysis, brief: Brief) -> str:
    """Return the school the wire is laid by: the maker's, a folded wire if that was answered, or as drawn."""
    if may_fold(made, brief) and brief.choices.folding.get(made.figure.id) == LaidAnswer.FOLDED:
        return _FOLDED
    return school_of(made.figure, brief.choices.wire_school)


def may_fold(made: OriginalAnalysis, brief: Brief) -> bool:
    """Return whether the figure is now so small that one folded wire could replace its several wires."""
    if brief.height is None or brief.choices.wire_school is not None or len(made.figure.wires) < 2:
        return False
    return brief.height < FOLDED_MM <= made.solids.placement.height


def at_size(made: OriginalAnalysis, brief: Brief) -> SizedAnalysis:
    """Choose, weigh and cut the wires; then again with the answers about limbs too thin for wire.

    A limb made stouter weighs more and may ask for stouter wire, so that is gone over again.
    """
    choices = _read_wire_choices(made, brief)
    wish = BuildOptions(
        wire_school(made, brief),
        through=frozenset(_led_through(made, brief)),
        doubled=choices.doubled,
        ways=tuple(ways_of(brief.choices.schools).items()),
        altered="" if brief.altered.is_nothing else brief.altered.model_dump_json(),
    )
    reaching = arms_made_longer(made.solids.placement, made.held, made.bench, brief)
    first = _analyse_once(made, wish, brief, reaching, choices)
    asked = {thin.part: thin for thin in first.asked}
    said = {part: brief.choices.thin_limbs.get(part) for part in asked}
    if not any(said.values()):
        return first
    wish = replace(
        wish,
        bare=frozenset(part for part, answer in said.items() if answer == ThinAnswer.BARE),
        fewer=frozenset(part for part, answer in said.items() if answer == ThinAnswer.FEWER),
    )
    diameters, materials = dict(choices.diameters), dict(choices.materials)
    floors: dict[str, tuple[SizeRule, ...]] = dict(reaching)
    for part, answer in said.items():
        thin = asked[part]
        if answer == ThinAnswer.THINNER and thin.fits_diameter:
            # One wire may run through several thin limbs: it must hide in each.
            diameters[thin.wire] = min(thin.fits_diameter, diameters.get(thin.wire, math.inf))
        elif answer == ThinAnswer.SLIM:
            diameters[thin.wire] = thin.slim_diameter
            floors[part] = _floor_rules(made.figure, part, thin.slim_mm)
        elif answer == ThinAnswer.STRONGER and thin.stronger:
            materials[thin.wire] = thin.stronger[0]
        elif answer == ThinAnswer.CHENILLE and thin.chenille is not None:
            materials[thin.wire] = CHENILLE
        elif answer == ThinAnswer.WOUND and thin.wound:
            diameters[thin.wire] = min(thin.wound[0], diameters.get(thin.wire, math.inf))
    wound = frozenset(
        part for part, answer in said.items() if answer == ThinAnswer.WOUND and asked[part].wound
    )
    choices = replace(choices, diameters=diameters, materials=materials, wound=wound)
    again = _analyse_once(made, wish, brief, floors, choices)
    for _ in range(4):
        stouter = {
            thin.part: _floor_rules(made.figure, thin.part, thin.needs_mm)
            for thin in again.wired.thin
            if said.get(thin.part) in (ThinAnswer.STOUTER, ThinAnswer.SLIM)
        }
        if not stouter:
            break
        floors |= stouter
        again = _analyse_once(made, wish, brief, floors, choices)
    later = tuple(thin for thin in again.wired.thin if thin.part not in asked)
    return replace(again, asked=(*first.asked, *later))


def _led_through(made: OriginalAnalysis, brief: Brief) -> list[str]:
    """Return the parts into which the maker wants the wire to run on."""
    led = [part for part, said in brief.choices.weak_joins.items() if said == JoinedAnswer.WIRE]
    if (
        brief.choices.schools.get("neck") == "wire"
        and made.neck
        and brief.choices.weak_joins.get(made.neck) is None
    ):
        led.append(made.neck)
    return [part for part in led if part in made.figure.by_id]


def _read_wire_choices(made: OriginalAnalysis, brief: Brief) -> ChosenWire:
    """Return the diameters, metals and second strands that the maker answered."""
    diameters: dict[str, float] = {}
    metals: dict[str, str] = {}
    doubled: set[str] = set()
    for wire, size in brief.choices.wire_gauges.items():
        if size in map(SizeAnswer.answer_for, made.bench.wire_sizes):
            diameters[wire] = size.mm
    for wire, stock in brief.choices.wire_stocks.items():
        if isinstance(stock, MetalAnswer):
            metals[wire] = stock.metal
        elif stock is StockedAnswer.SECOND:
            doubled.add(wire)
    material = brief.choices.wire_stock or stock_of(wire_school(made, brief))
    return ChosenWire(material, diameters, metals, frozenset(doubled))


def _floor_rules(figure: Figure, part: str, needs_mm: float) -> tuple[SizeRule, ...]:
    """Return size rules that keep a part at least ``needs_mm`` thick everywhere: a floor under its thickness
    or, if it has none, under each of its measures."""
    shape = figure.by_id[part].shape
    measures = shape.measures()
    name = next((n for n in ("thickness", "diameter", "tip") if n in measures), None)
    if name is None:
        return tuple(
            SizeRule(measure=n, rule="floor", value=needs_mm * (1 + 1e-6)) for n in measures
        )
    # A tapered limb is thinnest somewhere else than where it is measured; both keep their ratio.
    share = measures[name] / shape.thinnest_mm if name != "tip" else 1.0
    return (SizeRule(measure=name, rule="floor", value=needs_mm * share * (1 + 1e-6)),)


def _analyse_once(
    made: OriginalAnalysis,
    wish: BuildOptions,
    brief: Brief,
    floors: Mapping[str, tuple[SizeRule, ...]],
    choices: ChosenWire,
) -> SizedAnalysis:
    asked = brief
    for part, rules in floors.items():
        asked = asked.ruled(part, (*asked.rules.get(part, ()), *rules))
    prepared = made.prepared(wish)
    resized = resize(prepared.figure, asked, made.bench, prepared.solids.placement)
    solids = _solids_at_size(made, prepared.solids, resized)
    prints = (
        [(i, outline * resized.scale) for i, outline in made.prints]
        if resized.even and prepared.stands_as_made
        else footprints(solids.placement)
    )
    in_one = in_one_mass(resized.figure, made.bench)
    is_asked = brief.choices.schools.get("mass") == "one mass"
    ways = _making_ways(solids, made.bench, in_one if is_asked else frozenset())
    wished = _wished_joins(made, brief, resized.figure, ways)
    wired = wire_up(made, prepared, solids, prints, brief, wished, resized.scale, choices)
    wired = _with_ends(made, solids, wired, brief, wished, ways)
    joined = _join_parts(made, solids, wired, wished, ways)
    if brief.height is not None:
        joins = wished | {
            row.part: join_for(row)
            for row in joined.stresses
            if row.part in wished
            and row.kind == wished[row.part]
            and not _chosen_join(made, brief, row.part)
        }
        if joins != wished:
            changed = {part for part, join in joins.items() if join != wished[part]}
            anew = recompute_wool(made, solids, wired, brief, joins, resized.scale, changed)
            kept = {part: join for part, join in joins.items() if part in changed}
            wired = _with_ends(made, solids, replace(wired, wool=anew), brief, kept, ways)
            joined = _join_parts(made, solids, wired, joins, ways)
    feet = frozenset(solids.placement.copies[i].part.id for i, _ in prints)
    job = (resized.figure, solids, joined.wired.wool, joined.joins, ways, feet)
    rounded = frozenset(
        p.id
        for p in resized.figure.parts
        if brief.choices.garments.get(p.id) == WornAnswer.BUILT_ROUND
    )
    schools = brief.choices.schools
    to_choose: frozenset[ChoiceId] = made.choices | ({"mass"} if in_one else set())
    marked = PartOverrides(
        rounded, choices.wound, to_choose, _thinly_covered(resized.figure, joined.wired)
    )
    rest = (made.bench, joined.pegs, made.neck, marked)
    work = work_of(*job, schools, *rest)
    usual = work_of(*job, {}, *rest) if schools else None
    return SizedAnalysis(
        prepared,
        resized,
        solids,
        prints,
        joined.wired,
        joined.pegs,
        wired.thin,
        wished,
        joined.joins,
        joined.stresses,
        joined.masses,
        ways,
        work,
        usual,
    )


def _with_ends(
    made: OriginalAnalysis,
    solids: Solids,
    wired: WiredFigure,
    brief: Brief,
    joins: Mapping[str, Join],
    ways: Mapping[str, Made],
) -> WiredFigure:
    """Return a wired figure with the loose ends of parts joined by them, and the weights of its copies."""
    figure = solids.placement.figure
    ends = loose_ends(figure, ways, joins)
    wool = with_loose_ends(wired.wool, ends, figure, solids, made.bench)
    return replace(wired, wool=wool, lumps=wool_masses(solids, wool, brief.found))


def _thinly_covered(figure: Figure, wired: WiredFigure) -> frozenset[str]:
    """Return the parts with so little wool over their wire that it would spin on it. Chenille grips by
    itself."""
    strands, where = strands_on(figure), bone_part(figure)
    found = set()
    for wire in figure.wires:
        gauge = wired.gauges[wire.id]
        for bone in map(frozenset, itertools.pairwise(wire.route)):
            part = where.get(bone)
            if part is None or gauge.cores > 1:
                continue
            wool = figure.by_id[part].shape.thinnest_mm - bundle_mm(gauge.diameter, strands[bone])
            if wool / 2 < TAPED_MM:
                found.add(part)
    return frozenset(found)


def _making_ways(solids: Solids, bench: Bench, in_one: frozenset[str]) -> dict[str, Made]:
    """Return how every part is made at this size; parts drawn out of ``in_one`` mass are built in place."""
    figure = solids.placement.figure
    caps = {
        copy.part.id: solid.is_cap
        for copy, solid in zip(solids.placement.copies, solids.measured, strict=True)
    }
    return {
        part.id: "in place"
        if part.id in in_one
        else way_of_making(part, part.shape, figure, bench, caps.get(part.id, False))
        for part in figure.parts
    }


def _wished_joins(
    made: OriginalAnalysis, brief: Brief, figure: Figure, ways: Mapping[str, Made]
) -> dict[str, Join]:
    """Return how every part is to be joined: as answered, by the maker's school, or as drawn. Parts built in
    place and clothes get no patch, scarf or peg."""
    found: dict[str, Join] = {}
    for part in figure.parts:
        if part.parent is None:
            continue
        grown = ways[part.id] in ("in place", "detail") or bool(part.garment or part.stuff)
        grown |= is_on_cloth(part, figure)
        found[part.id] = "fringe" if grown else _chosen_join(made, brief, part.id) or part.join
    return found


def _chosen_join(made: OriginalAnalysis, brief: Brief, part: str) -> Join | None:
    """Return the join the maker chose, by answer or for all necks; None leaves it to the load."""
    answer = brief.choices.weak_joins.get(part)
    if answer == JoinedAnswer.LEAVE:
        return made.figure.by_id[part].join
    school = brief.choices.schools.get("neck") if part == made.neck else None
    for said in (answer, school):
        if said in ALLOWED_KPA:
            return cast(Join, said)
    return None


@dataclass(frozen=True)
class _Joined:
    """A wired figure with its joins, their loads and their pegs."""

    wired: WiredFigure
    joins: dict[str, Join]
    pegs: tuple[CutWire, ...]
    masses: list[Mass]
    stresses: tuple[JoinStress, ...]


def _join_parts(
    made: OriginalAnalysis,
    solids: Solids,
    wired: WiredFigure,
    joins: dict[str, Join],
    ways: Mapping[str, Made],
) -> _Joined:
    masses = wired.lumps + cut_masses(solids, wired.wires) + fitting_masses(solids)
    # What sits on a wire needs no peg, and nothing could be stuck on one.
    apart = {part: join for part, join in joins.items() if ways[part] == "apart"}
    pegged = pegs(solids, apart, masses, made.bench)
    root = solids.placement.figure.parents_first[0].id
    masses += [Mass(peg.grams, peg.points_mm[0], root, None) for peg in pegged]
    stresses = join_stresses(
        solids,
        [(m.part, m.side, m.grams, m.centre) for m in masses],
        held_by(solids.placement.figure, joins),
        made.joins,
    )
    return _Joined(wired, joins, pegged, masses, stresses)


def _solids_at_size(made: OriginalAnalysis, base: Solids, resized: Resized) -> Solids:
    """Return the solids at the new size; ``base`` are those of the figure as made."""
    if resized.even:
        s = resized.scale
        return Solids(
            base.placement.scaled(s, resized.figure),
            tuple(m.scaled(s) for m in base.measured),
            base.near,
        )
    solids = made.measured_at(resized.figure)
    if solids is None:
        bent = {part for part, sized in resized.parts.items() if sized.bent_by}
        bent |= {
            part.id
            for part in resized.figure.parts
            if len(part.places) != len(resized.was.by_id[part.id].places)
        }
        solids = measure_solids(resized.figure, resized.scale, base, bent)
        made.add(solids)
    return solids
