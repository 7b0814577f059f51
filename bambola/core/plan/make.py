"""``make_plan(figure, brief, bench) -> Plan``: the one function that decides every number."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace

import numpy as np

from bambola.core.armature import cutting_plan, joint_count
from bambola.core.balance import WARN_DEG, Balance, balance, contacts, loop_point, remedies
from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.order import (
    CHOICE_BY_ID,
    CHOICES,
    Sequence,
    Work,
    number_steps,
    sequence,
    unordered_tasks,
    with_moves,
)
from bambola.core.order.keys import Sort, TaskKey, key_of
from bambola.core.order.steps import base_part
from bambola.core.plan.judging.changes import changes_in_making
from bambola.core.plan.judging.findings import Findings
from bambola.core.plan.judging.notices import find_notices
from bambola.core.plan.judging.small_notices import changed_defaults
from bambola.core.plan.making.at_size import SizedAnalysis, at_size, may_fold, wire_school
from bambola.core.plan.making.dress import dress_plans, refuse_unwearable
from bambola.core.plan.making.jobs import lightness
from bambola.core.plan.making.loose_ends import eyes_of_wool, loose_ends
from bambola.core.plan.making.made import OriginalAnalysis, as_made
from bambola.core.plan.making.patterns import material_totals, pattern_plans
from bambola.core.plan.making.values import FittingPlan, PartPlan, Plan
from bambola.core.plan.making.wiring import bone_plans, pieces_to_cut
from bambola.core.resize import wanted_size
from bambola.core.solids import Solids
from bambola.core.wool import PartWool, finished_size, piece_size, wool_totals
from bambola.core.wool.portions import SOFT_DETAIL


def make_plan(figure: Figure, brief: Brief, bench: Bench) -> Plan:
    """Return the plan of ``figure`` for ``brief`` on ``bench``. Pure: the same three values give the same
    plan.

    Raises ``ResizeError`` for a height that cannot be met and ``OrderConflictError`` for a design that cannot
    be made.
    """

    def ordered(work: Work, usual: Work | None) -> Sequence:
        minded = bench.weights.for_batch(brief.count)
        return with_moves(sequence(work, lightness(bench), minded, usual), brief.moves)

    return _plan_once(figure, brief, bench, ordered)


def draft_plan(figure: Figure, brief: Brief, bench: Bench) -> Plan:
    """Return the plan of :func:`make_plan` without an order, in a third of the time: its steps are unordered,
    and neither their dependencies nor what another size changes are known. Raises ``ResizeError``."""
    return _plan_once(figure, brief, bench, lambda work, _: unordered_tasks(work), told=False)


def _plan_once(
    figure: Figure,
    brief: Brief,
    bench: Bench,
    ordered: Callable[[Work, Work | None], Sequence],
    told: bool = True,
) -> Plan:
    made = as_made(figure, bench)
    new = at_size(made, brief)
    dress = dress_plans(new.resized.figure)
    refuse_unwearable(dress, new.resized.figure)
    usual = _usual_work(made, brief, new)
    order = ordered(new.work, usual)
    wool = new.wired.wool
    counts = _copies_by_part(new.solids)
    patterns = pattern_plans(
        new.resized.figure, counts, {name: w.net_cm3 for name, w in wool.items()}, dress, bench
    )
    ends = loose_ends(new.resized.figure, new.made, new.joins)
    steps = number_steps(
        order,
        new.work,
        _step_grams(wool),
        bench.pace,
        {p.id: p.firmness for p in figure.parts},
        sum(solid.exposed_mm2 for solid in new.solids.measured) / 100.0,
        _join_lines(new.solids) | {row.part: row.line_mm for row in patterns},
    )
    standing = _balance_with_remedies(made, new, brief)
    fittings = _plan_fittings(new, brief, bench)
    eyes = eyes_of_wool(new.resized.figure, new.work.fittings, bench)
    totals, mixes = wool_totals(
        {**wool, **eyes},
        {**counts, **{id: eye.count for id, eye in eyes.items()}},
        bench,
        brief.count,
    )
    wires = new.wired.wires + new.pegs
    bones = bone_plans(new.prepared, new.wired, new.resized.scale)
    cutting = cutting_plan(
        pieces_to_cut(new.resized.figure, new.wired.wires, new.wired.gauges, new.pegs, brief.count),
        bench.wire_stock,
    )
    findings = Findings(
        new.resized,
        brief,
        bench,
        fittings,
        new.asked,
        new.wired.thin,
        new.stresses,
        standing,
        new.wired.wires,
        new.wired.gauges,
        bones,
        cutting,
        wool,
        counts,
        new.wished,
        wire_school(made, brief) == "drawn",
        _stood_on(new),
        dress,
        new.solids,
        made.held,
        may_fold(made, brief),
    )
    choices = frozenset(c.id for c in CHOICES if c.applies(new.work))
    made_in = {base_part(job.id): job.rounds for job in new.work.parts}
    return Plan(
        figure=figure.name,
        datum=figure.datum.as_fact,
        from_height_mm=made.solids.placement.height,
        to_height_mm=new.resized.to_height,
        scale=new.resized.scale,
        count=brief.count,
        wool_g=sum(total.grams for total in totals),
        minutes=sum(step.minutes_of(run) for run in brief.runs for step in steps),
        parts=tuple(
            _part_plan(part.id, new, wool[part.id], counts, ends, made_in[part.id])
            for part in new.resized.figure.parts
        ),
        wires=wires,
        bones=bones,
        wire_school=wire_school(made, brief),
        wire_joints=joint_count(new.resized.figure),
        cutting=cutting,
        wools=totals,
        mixes=mixes,
        fittings=fittings,
        balance=standing,
        joins=new.stresses,
        steps=steps,
        dress=dress,
        patterns=patterns,
        materials=material_totals(patterns, brief.count, bench),
        changes=changes_in_making(_as_it_was(made, brief), new, bench) if told else (),
        notices=(*changed_defaults(brief, choices), *find_notices(findings)),
        order=order,
        work=new.work,
        usual=usual,
        choices=choices,
        resized=new.resized,
        solids=new.solids,
        gauges=new.wired.gauges,
        runs=brief.runs,
    )


def _stood_on(new: SizedAnalysis) -> frozenset[str]:
    """Return the parts that carry the figure: those on the ground and their bearers; none if the part that
    everything sits on lies on the ground itself."""
    by_id = new.resized.figure.by_id
    copies = new.solids.placement.copies
    carrying: set[str] = set()
    for at in {copies[i].part.id for i, _ in new.prints}:
        part: str | None = at
        while part is not None:
            parent = by_id[part].parent
            if part == at and parent is None:
                return frozenset()
            carrying.add(part)
            part = parent
    return frozenset(carrying)


def _as_it_was(made: OriginalAnalysis, brief: Brief) -> SizedAnalysis:
    """Return the figure as made, by the maker's schools."""
    schools = repr(sorted(brief.schools.items()))
    known = made.sizes.get(schools)
    if not isinstance(known, SizedAnalysis):
        known = made.sizes[schools] = at_size(made, brief.as_made().schooled("neck", None))
    return known


def _usual_work(made: OriginalAnalysis, brief: Brief, new: SizedAnalysis) -> Work | None:
    """Return the work by the usual schools, if the maker follows others. Another neck changes the sizes too:
    its wool has weight, and its wire runs elsewhere."""
    if "neck" not in brief.choices.schools:
        return new.usual
    plain = {key: school for key, school in brief.schools.items() if key not in CHOICE_BY_ID}
    return at_size(made, brief.replaced(schools=plain)).work


def _balance_with_remedies(made: OriginalAnalysis, new: SizedAnalysis, brief: Brief) -> Balance:
    """Return the balance with its remedies, or for a hanging figure with the place of the loop."""
    placement = new.solids.placement
    found = balance(
        placement,
        [(m.grams, m.centre) for m in new.masses],
        made.feet * new.resized.scale
        if new.resized.even and new.prepared.stands_as_made
        else contacts(new.prints),
    )
    x, y, high = found.centre_mm
    if placement.figure.stance == "hanging":
        loop = loop_point(placement, np.array([x, y, high + placement.ground]), brief.hang_tilt)
        at = (loop[0][0], loop[0][1], loop[0][2] - placement.ground) if loop else None
        return replace(found, loop_mm=at)
    if found.tip_angle_deg >= max(brief.steady, WARN_DEG):
        return found
    prints = [outline for _, outline in new.prints]
    footed = any(placement.copies[i].part.parent is not None for i, _ in new.prints)
    wished = max(brief.steady, WARN_DEG)
    ways = remedies(prints, found.centre_mm, found.mass_g, placement.height, wished, footed)
    return replace(found, remedies=ways)


def _join_lines(solids: Solids) -> dict[str, float]:
    """Return for each part the length of the line along which a copy is joined, mm."""
    pairs = zip(solids.placement.copies, solids.measured, strict=True)
    return {copy.part.id: solid.join_line_mm for copy, solid in pairs}


def _copies_by_part(solids: Solids) -> dict[str, int]:
    counts: dict[str, int] = {}
    for copy in solids.placement.copies:
        counts[copy.part.id] = counts.get(copy.part.id, 0) + 1
    return counts


def _part_plan(
    part_id: str,
    new: SizedAnalysis,
    wool: PartWool,
    counts: Mapping[str, int],
    ends: Mapping[str, float],
    in_rounds: int,
) -> PartPlan:
    part, sized = new.resized.figure.by_id[part_id], new.resized.parts[part_id]
    copies = new.solids.copies_of(part_id)
    piece = piece_size(*copies[0], wool.net_cm3) if copies else finished_size(part.shape)
    return PartPlan(
        part.id,
        part.name,
        counts.get(part_id, 0),
        new.made[part_id],
        sized.from_mm,
        sized.to_mm,
        dict(zip(("length", "width", "thickness"), piece.values(), strict=True)),
        wool.net_cm3,
        wool.exposed_cm2,
        in_rounds,
        part.firmness,
        wool.coat_mm,
        sized.bent_by,
        ends.get(part_id, 0.0),
        wool.portions,
    )


def _plan_fittings(new: SizedAnalysis, brief: Brief, bench: Bench) -> tuple[FittingPlan, ...]:
    counts: dict[str, int] = {}
    for placed in new.solids.placement.fittings:
        counts[placed.fitting.id] = counts.get(placed.fitting.id, 0) + 1
    rows = []
    used_of = {fitting.id: fitting for fitting in new.resized.figure.fittings}
    for old in new.resized.was.fittings:
        used = used_of.get(old.id)
        if used is None:
            continue  # left out, as the maker said
        wanted = wanted_size(old, new.resized.parts[old.part].carries, brief.corrected)
        off = (used.size / wanted - 1) * 100
        n = counts.get(used.id, 0)
        have = bench.eyes_of(used.size) if used.is_bought else 0
        buy = max(0, n * brief.count - have) if used.is_bought else 0
        rows.append(
            FittingPlan(used.id, used.name, wanted, used.size, off, n, used.mass, have, buy)
        )
    return (*rows, *_bought_garments(new))


def _bought_garments(new: SizedAnalysis) -> Iterator[FittingPlan]:
    """Yield bought garments, which are ordered by girth and keep it."""
    for part in new.resized.figure.parts:
        drawn, dress = new.resized.was.by_id[part.id].garment, part.garment
        if drawn and dress and dress.bought:
            wanted = drawn.opening * new.resized.parts[part.id].base
            off = (dress.opening / wanted - 1) * 100
            count = sum(copy.part.id == part.id for copy in new.solids.placement.copies)
            yield FittingPlan(part.id, part.name, wanted, dress.opening, off, count, dress.mass)


def _step_grams(wool: Mapping[str, PartWool]) -> dict[TaskKey, float]:
    """Return the grams weighed for each sort of work on each part (:attr:`Task.weighed_by`)."""
    grams: dict[TaskKey, float] = {}
    for part_id, part in wool.items():
        for portion in part.portions:
            if portion.detail == SOFT_DETAIL or portion.role == "fringe":
                continue  # rolled or left loose, not felted: it takes no time to speak of
            sort: Sort = "blend" if portion.role == "seam" else portion.role
            key = key_of(sort, part_id, portion.detail if portion.role in ("inset", "fur") else "")
            grams[key] = grams.get(key, 0.0) + portion.grams
        if part.portions and key_of("core", part_id) in grams:
            grams[key_of("detail", part_id)] = part.grams
    return grams
