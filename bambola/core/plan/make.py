"""``make_plan(figure, brief, bench) -> Plan``: the one function that decides every number."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from bambola.core.armature import CutWire, Mass, ThinLimb, cutting_plan, joint_count, school_of
from bambola.core.balance import (
    WARN_DEG,
    Balance,
    JoinStress,
    balance,
    contacts,
    footprints,
    join_stresses,
    loop_point,
    remedies,
)
from bambola.core.figure import Bench, Brief, Figure, SizeRule
from bambola.core.order import (
    CHOICE_BY_ID,
    CHOICES,
    Work,
    differences,
    number_steps,
    sequence,
    with_moves,
)
from bambola.core.plan.dress import dress_plans
from bambola.core.plan.findings import Findings
from bambola.core.plan.jobs import lightness, work_of
from bambola.core.plan.made import AsMade, Prepared, Prints, WireWish, as_made
from bambola.core.plan.masses import fitting_masses, held_by
from bambola.core.plan.notices import find_notices
from bambola.core.plan.values import FittingPlan, PartPlan, Plan
from bambola.core.plan.wiring import (
    WireChoices,
    Wired,
    bone_plans,
    cut_masses,
    pegs,
    pieces_to_cut,
    wire_up,
)
from bambola.core.resize import Resized, resize, rounds, wanted_size, way_of_making
from bambola.core.solids import Solids, measure_solids
from bambola.core.wool import PartWool, wool_totals
from bambola.core.wool.portions import SOFT_DETAIL


@dataclass(frozen=True)
class _Make:
    """One figure at one size, with everything that is weighed, cut and joined."""

    prepared: Prepared
    resized: Resized
    solids: Solids
    prints: Prints
    wired: Wired
    pegs: tuple[CutWire, ...]
    asked: tuple[ThinLimb, ...]
    joins: dict[str, str]
    stresses: tuple[JoinStress, ...]
    masses: list[Mass]
    work: Work
    usual: Work | None


def make_plan(figure: Figure, brief: Brief, bench: Bench) -> Plan:
    """The plan of ``figure`` for ``brief`` on ``bench``.

    Pure: the same three values give the same plan. Raises ``ResizeError`` for a height that cannot
    be met and ``OrderConflictError`` for a design that cannot be made.
    """
    made = as_made(figure, bench)
    old = _old_work(made, brief)
    new = _make(made, brief)
    order = with_moves(sequence(new.work, lightness(bench), bench.weights, new.usual), brief.moves)
    wool = new.wired.wool
    steps = number_steps(
        order, new.work, _step_grams(wool), bench.pace, {p.id: p.firmness for p in figure.parts}
    )
    counts = _counts(new.solids)
    standing = _standing(made, new, brief)
    fittings = _fittings(made, new)
    totals, mixes = wool_totals(wool, counts, bench, brief.count)
    wires = new.wired.wires + new.pegs
    bones = bone_plans(new.prepared, new.wired, new.resized.scale)
    cutting = cutting_plan(
        pieces_to_cut(new.wired.wires, new.wired.gauges, new.pegs, brief.count), bench.wire_stock
    )
    findings = Findings(
        new.resized, brief, bench, fittings, new.asked, new.wired.thin, new.stresses, standing,
        new.wired.wires, new.wired.gauges, bones, cutting, wool, counts, _school(made, brief) == "drawn",
    )  # fmt: skip
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
        wires=wires,
        bones=bones,
        wire_school=_school(made, brief),
        wire_joints=joint_count(new.resized.figure),
        cutting=cutting,
        wools=totals,
        mixes=mixes,
        fittings=fittings,
        balance=standing,
        joins=new.stresses,
        steps=steps,
        dress=dress_plans(new.resized.figure),
        changes=differences(old, new.work),
        notices=find_notices(findings),
        order=order,
        choices=frozenset(c.id for c in CHOICES if c.applies(new.work)),
        resized=new.resized,
        solids=new.solids,
        gauges=new.wired.gauges,
    )


def _school(made: AsMade, brief: Brief) -> str:
    return school_of(made.figure, brief.schools.get("wire"))


def _old_work(made: AsMade, brief: Brief) -> Work:
    """The making of the figure as it was, by the maker's schools."""
    schools = repr(sorted(brief.schools.items()))
    if schools not in made.works:
        made.works[schools] = _make(made, brief.as_made()).work
    return made.works[schools]


def _standing(made: AsMade, new: _Make, brief: Brief) -> Balance:
    """Balance with its remedies, or with the place of the loop for a figure that hangs."""
    placement = new.solids.placement
    found = balance(
        placement, [(m.grams, m.centre) for m in new.masses], contacts(new.prints)
        if not new.resized.even else made.feet * new.resized.scale,
    )  # fmt: skip
    x, y, high = found.centre_mm
    if placement.figure.stance == "hanging":
        loop = loop_point(placement, np.array([x, y, high + placement.ground]), brief.hang_tilt)
        at = (loop[0][0], loop[0][1], loop[0][2] - placement.ground) if loop else None
        return replace(found, loop_mm=at)
    if found.tip_angle_deg >= max(brief.steady, WARN_DEG):
        return found
    prints = [outline for _, outline in new.prints]
    wished = max(brief.steady, WARN_DEG)
    return replace(
        found, remedies=remedies(prints, found.centre_mm, found.mass_g, placement.height, wished)
    )


def _make(made: AsMade, brief: Brief) -> _Make:
    """Size, weigh and cut; then again with what the maker answered about limbs too thin for wire.

    A limb made stouter weighs more and may ask for stouter wire, so that is gone over again.
    """
    wish = WireWish(_school(made, brief), through=frozenset(_answered(made, brief, "join", "wire")))
    choices = _choices(made, brief)
    first = _once(made, wish, brief, {}, choices)
    asked = {thin.part: thin for thin in first.asked}
    said = {part: brief.answers.get(f"thin-limb:{part}") for part in asked}
    if not any(said.values()):
        return first
    wish = replace(
        wish,
        bare=frozenset(part for part, answer in said.items() if answer == "no-wire"),
        fewer=frozenset(part for part, answer in said.items() if answer == "fewer-strands"),
    )
    diameters, metals = dict(choices.diameters), dict(choices.metals)
    floors: dict[str, SizeRule] = {}
    for part, answer in said.items():
        thin = asked[part]
        if answer == "thinner-wire" and thin.fits_diameter:
            # One wire may run through several thin limbs: it must hide in each.
            diameters[thin.wire] = min(thin.fits_diameter, diameters.get(thin.wire, math.inf))
        elif answer == "slim-and-stouter":
            diameters[thin.wire] = thin.slim_diameter
            floors[part] = _floor(made.figure, part, thin.slim_mm)
        elif answer == "stronger-metal" and thin.stronger:
            metals[thin.wire] = thin.stronger[0]
    choices = replace(choices, diameters=diameters, metals=metals)
    again = _once(made, wish, brief, floors, choices)
    for _ in range(4):
        stouter = {
            thin.part: _floor(made.figure, thin.part, thin.needs_mm)
            for thin in again.wired.thin
            if said.get(thin.part) in ("stouter-limb", "slim-and-stouter")
        }
        if not stouter:
            break
        floors |= stouter
        again = _once(made, wish, brief, floors, choices)
    later = tuple(thin for thin in again.wired.thin if thin.part not in asked)
    return replace(again, asked=(*first.asked, *later))


def _answered(made: AsMade, brief: Brief, question: str, answer: str) -> list[str]:
    """The parts about which a question was answered in this way."""
    return [p.id for p in made.figure.parts if brief.answers.get(f"{question}:{p.id}") == answer]


def _choices(made: AsMade, brief: Brief) -> WireChoices:
    """The wire the maker asked for by answers: ``gauge:WIRE`` a diameter, ``stock:WIRE`` a metal."""
    diameters: dict[str, float] = {}
    metals: dict[str, str] = {}
    for code, answer in brief.answers.items():
        about, _, wire = code.partition(":")
        if about == "gauge":
            size = next((d for d in made.bench.wire_sizes if f"{d:g}" == answer), None)
            diameters |= {wire: size} if size else {}
        elif about == "stock" and answer.startswith("metal:"):
            metals[wire] = answer.removeprefix("metal:")
    return WireChoices(brief.schools.get("wire-stock"), diameters, metals)


def _floor(figure: Figure, part: str, needs_mm: float) -> SizeRule:
    shape = figure.by_id[part].shape
    measures = shape.measures()
    name = next(
        (n for n in ("thickness", "diameter", "tip") if n in measures),
        min(measures, key=lambda n: measures[n]),
    )
    # A tapered limb is thinnest somewhere else than where it is measured; both keep their ratio.
    share = measures[name] / shape.thinnest_mm if name != "tip" else 1.0
    return SizeRule(measure=name, rule="floor", value=needs_mm * share * (1 + 1e-6))


def _once(
    made: AsMade, wish: WireWish, brief: Brief, floors: Mapping[str, SizeRule], choices: WireChoices
) -> _Make:
    asked = brief
    for part, rule in floors.items():
        asked = asked.ruled(part, (*asked.rules.get(part, ()), rule))
    prepared = made.prepared(wish)
    resized = resize(prepared.figure, asked, made.bench, prepared.solids.placement)
    solids = _solids(prepared.solids, resized)
    prints = (
        [(i, outline * resized.scale) for i, outline in made.prints]
        if resized.even else footprints(solids.placement)
    )  # fmt: skip
    figure = resized.figure
    joins = {
        part.id: _join(brief.answers.get(f"join:{part.id}"), part.join)
        for part in figure.parts
        if part.parent is not None
    }
    wired = wire_up(made, prepared, solids, prints, brief, joins, resized.scale, choices)
    masses = wired.lumps + cut_masses(solids, wired.wires)
    masses += fitting_masses(solids)
    pegged = pegs(solids, joins, masses, made.bench)
    masses += [
        Mass(peg.grams, peg.points_mm[0], solids.placement.figure.parents_first[0].id, None)
        for peg in pegged
    ]
    stresses = tuple(
        replace(row, was_kpa=made.joins[row.part].stress_kpa) if row.part in made.joins else row
        for row in join_stresses(
            solids, [(m.part, m.grams, m.centre) for m in masses], held_by(figure, joins)
        )
    )
    job = (figure, solids, wired.wool, joins)
    work = work_of(*job, brief.schools, made.bench, pegged)
    plain = {key: school for key, school in brief.schools.items() if key not in CHOICE_BY_ID}
    usual = work_of(*job, plain, made.bench, pegged) if plain != brief.schools else None
    return _Make(
        prepared,
        resized,
        solids,
        prints,
        wired,
        pegged,
        wired.thin,
        joins,
        stresses,
        masses,
        work,
        usual,
    )


def _join(answer: str | None, drawn: str) -> str:
    return answer if answer in ("patch", "scarf", "peg", "wire") else drawn


def _solids(base: Solids, resized: Resized) -> Solids:
    """The solids at the new size; ``base`` are those as made."""
    if resized.even:
        s = resized.scale
        return Solids(
            base.placement.scaled(s, resized.figure),
            tuple(m.scaled(s) for m in base.measured),
            base.near,
        )
    bent = {part for part, sized in resized.parts.items() if sized.bent_by}
    return measure_solids(resized.figure, resized.scale, base, bent)


def _counts(solids: Solids) -> dict[str, int]:
    counts: dict[str, int] = {}
    for copy in solids.placement.copies:
        counts[copy.part.id] = counts.get(copy.part.id, 0) + 1
    return counts


def _part_plan(part_id: str, new: _Make, bench: Bench, counts: Mapping[str, int]) -> PartPlan:
    part, sized, wool = (
        new.resized.figure.by_id[part_id],
        new.resized.parts[part_id],
        new.wired.wool[part_id],
    )
    return PartPlan(
        part.id, part.name, counts.get(part_id, 0),
        way_of_making(part, sized.shape, new.resized.figure, bench), sized.from_mm, sized.to_mm,
        wool.net_cm3, wool.exposed_cm2, rounds(wool.core_mm), part.firmness, wool.coat_mm,
        sized.bent_by, part.fringe, wool.portions,
    )  # fmt: skip


def _fittings(made: AsMade, new: _Make) -> tuple[FittingPlan, ...]:
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
            if portion.detail == SOFT_DETAIL:
                continue  # rolled, not felted: it takes no time to speak of
            if portion.role == "inset":
                key += f":{portion.detail}"
            elif portion.role == "seam":
                key = f"blend:{part_id}"
            grams[key] = grams.get(key, 0.0) + portion.grams
        if part.portions and f"core:{part_id}" in grams:
            grams[f"detail:{part_id}"] = part.grams
    return grams
