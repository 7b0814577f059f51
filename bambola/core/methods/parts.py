"""Building blocks that the cards of several methods share."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from bambola.core.bench import Bench
from bambola.core.facts import NOTHING, Degrees, Exact, Fact, Grams, Mm, Share, fact
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import Measure, Needle, Piece, Point
from bambola.core.methods.slots import LEADS, by_hand, round_grams
from bambola.core.methods.values import PLACES, Card, Check, NeedleRun, Stop
from bambola.core.resize import NEEDLE_REACH_MM
from bambola.core.wool.pan import right_size_range

FINER = {36: 38, 38: 40}
"""The needle that follows a coarser one."""
SQUARE, SLANTED, BESIDE, LOW, STROKED, FLAT = 90.0, 45.0, 40.0, 30.0, 25.0, 15.0
"""Bulk; joins and edges; beside a wire; tucking; the last of a coat; hiding pits: needle to surface. Judged.
See craft.md, 10."""
FINE_MM = 10.0
"""Sizes below are told as finely as they are compared. See craft.md, 10."""


def run(gauge: int, depth: float, angle: float, when: str, count: int = 1) -> NeedleRun:
    """Return a run of stabs of one kind; ``when`` names the sentence for its time."""
    told = fact(
        "run.holder" if count > 1 else "run.single",
        gauge=gauge,
        n=count,
        depth=Mm(depth),
        angle=Degrees(angle),
        when=Fact(f"when.{when}"),
    )
    return NeedleRun(gauge, count, depth, angle, told)


ALONE = frozenset({"core", "coat", "inset"})
"""Sorts of work on a piece that is in hand by itself, or on the pad if it is flat."""


def _limit_reach(runs: tuple[NeedleRun, ...], at: StepInPlan) -> tuple[NeedleRun, ...]:
    """Return the runs limited to the reach of a needle; through the piece only if it is flat, worked by
    itself and lying on the pad."""
    found = []
    for one in runs:
        deep = min(one.depth_mm, NEEDLE_REACH_MM)
        if at.sort in ALONE and at.job is not None and at.job.made not in ("in place", "detail"):
            most = at.thick + (slots.FLAT_MM if at.job.flat else 0.0)
            deep = min(deep, most / math.sin(math.radians(one.angle_deg)))
        told = fact(one.told.kind, **{**dict(one.told.slots), "depth": Mm(deep)})
        found.append(replace(one, depth_mm=deep, told=told))
    return tuple(found)


def _owned_needles(runs: tuple[NeedleRun, ...], bench: Bench) -> tuple[NeedleRun, ...]:
    """Return the runs with the needles and holder that the maker owns, without duplicates."""
    found: list[NeedleRun] = []
    for one in runs:
        gauge, count = bench.needle(one.gauge), min(one.count, bench.holder)
        told = one.told
        if (gauge, count) != (one.gauge, one.count):
            slots_ = {**dict(told.slots), "gauge": gauge, "n": count}
            told = fact("run.holder" if count > 1 else "run.single", **slots_)
        mine = NeedleRun(gauge, count, one.depth_mm, one.angle_deg, told)
        if not found or _work_of(found[-1]) != _work_of(mine):
            found.append(mine)
    return tuple(found)


def _work_of(one: NeedleRun) -> tuple[int, int, float, float]:
    return one.gauge, one.count, one.depth_mm, one.angle_deg


def coarse_to_fine(at: StepInPlan, near_wire: bool = False) -> tuple[NeedleRun, ...]:
    """Return the runs from the plan's needle to the fine one that firms the skin."""
    first = at.step.needle or 38
    at_once = 1 if near_wire else slots.needles_at_once(max(at.finished), layer=False)
    depth = slots.bulk_depth(max(1.0, at.thick - at.hard_mm))
    runs = [run(first, depth, SLANTED if near_wire else SQUARE, "first")]
    if at_once > 1:
        runs.append(run(first, depth, SQUARE, "tacked", at_once))
    finer = finer_than(first, at.bench)
    when = "mid" if finer != first else "firming"
    runs.append(run(finer, min(depth, 3.0), SQUARE, when))
    return tuple(runs)


def finer_than(gauge: int, bench: Bench) -> int:
    """Return the maker's next needle finer than a coarser one; the same one if there is none."""
    return max(gauge, bench.needle(FINER.get(gauge, gauge)))


def stop(what: str, low: float, high: float) -> Stop:
    """Return a size to stop at, between two lengths."""
    name = Fact(f"measure.{what}")
    length = Exact if high < FINE_MM else Mm
    told = fact("stop.between", what=name, low=length(low), high=length(high))
    return Stop(name, low, high, "mm", told)


def size_stops(at: StepInPlan) -> tuple[Stop, ...]:
    """Return the sizes of the finished piece to stop at, one for each that differs."""
    along, across, through = at.finished
    found = [stop("length", *right_size_range(along))]
    found += taper_stops(at.taper) if at.taper else [stop("width", *right_size_range(across))]
    round_ = abs(across - through) <= max(right_size_range(across)) - across
    if not round_ or (at.section == "lump" and not at.taper):
        found.append(
            stop("flat" if at.taper and at.is_flat_on else "thickness", *right_size_range(through))
        )
    return tuple(found)


def taper_stops(taper: tuple[float, float, float]) -> tuple[Stop, ...]:
    """Return the thicknesses of a piece at base, middle and tip as sizes to stop at."""
    return tuple(stop(what, *right_size_range(mm)) for what, mm in zip(PLACES, taper, strict=True))


def flat_side(at: StepInPlan) -> Fact | None:
    """Return which side of a piece stays flat, and its thickness there; None if none does."""
    if not at.is_flat_on:
        return None
    kind = "shape.flat-wound" if at.row.made == "on wire" else "shape.flat"
    _, wide, thick = at.finished
    return fact(
        kind, on=fact("the", name=at.bearer.part.name), wide=Mm(wide), thick=Mm(min(wide, thick))
    )


def check(name: str) -> Check:
    """Return a check by the name of its three sentences."""
    return Check(
        Fact(f"look.{name}"),
        Fact(f"look.{name}.right"),
        Fact(f"look.{name}.wrong"),
    )


def amount(at: StepInPlan) -> Fact:
    """Return the amount for this step, for each copy of a pair at once."""
    if at.wool is None:
        return NOTHING
    blank = at.blank if at.sort == "core" else None
    least = float(np.ptp(blank.outline, axis=0).max()) if blank else 0.0
    one = by_hand(at.take_g, at.wool, at.bench.scale_g, least)
    if one is NOTHING:
        return NOTHING
    told = fact("amount.of", amount=one, wool=at.wool.name)
    if at.copies > 2:
        told = fact("amount.each", amount=told, n=at.copies)
    elif at.copies == 2:
        told = fact("amount.twice", amount=told)
    return _for_all(told, at)


def _for_all(told: Fact, at: StepInPlan) -> Fact:
    """Return the amount for one figure, and for all made at once or after the trial."""
    first, *rest = at.plan.runs
    figures = rest[0] if rest else first
    if figures == 1 and not rest:
        return told
    every = at.take_g * at.copies * figures
    if every < LEADS * at.bench.scale_g:
        return fact("amount.so-each", amount=told, n=at.plan.count)
    sort = "amount.for-others" if rest else "amount.for-all"
    return fact(sort, amount=told, n=figures, all=Grams(round_grams(every)))


UNEVEN = 0.06
"""From such a difference of their wool on the two of a pair are told apart. Given. See craft.md, 10."""


def _uneven_pair_fact(at: StepInPlan) -> Fact | None:
    """Return the note that one of a pair takes more than the other because of what lies beside it; amounts
    are the mean."""
    if at.sort not in ("core", "coat", "detail") or at.copies != 2:
        return None
    both = at.plan.solids.copies_of(at.row.id)
    if len(both) != 2:
        return None
    (_, less), (larger, more) = sorted(both, key=lambda one: one[1].net_mm3)
    if more.net_mm3 <= (1 + UNEVEN) * less.net_mm3:
        return None
    by = (more.net_mm3 - less.net_mm3) / (more.net_mm3 + less.net_mm3)
    return fact("pair.uneven", side=Fact(f"side.{larger.side}"), by=Share(by))


def card(
    at: StepInPlan,
    method: str,
    how: tuple[Fact | None, ...],
    *,
    start: Fact = NOTHING,
    needles: tuple[NeedleRun, ...] = (),
    stops: tuple[Stop, ...] = (),
    until: Fact,
    checks: tuple[Check, ...],
    scale: Fact = NOTHING,
) -> Card:
    """Return a card; sentences that do not apply are left out of ``how``."""
    return Card(
        method,
        tuple(sentence for sentence in (*how, _uneven_pair_fact(at)) if sentence is not None),
        start,
        amount(at),
        _owned_needles(_limit_reach(needles, at), at.bench),
        stops,
        until,
        checks,
        slots.time_range(sum(map(at.step.minutes_of, at.plan.runs))),
        scale,
    )


def length(mm: float) -> Fact:
    """Return a length as text on a thing."""
    return fact("drawn.length", mm=Mm(mm))


def across(left: Point, right: Point, mm: float, away: float = 0.0) -> Measure:
    """Return a measure along a thing."""
    return Measure(left, right, length(mm), away)


def sides(sizes: Sequence[float], wide: float, high: float, clear: float) -> list[Piece]:
    """Return measures of the two sides of something ``wide`` and ``high`` about the middle."""
    return [
        across((-wide / 2, -high / 2), (wide / 2, -high / 2), sizes[0], -clear),
        across((wide / 2, -high / 2), (wide / 2, high / 2), sizes[1], -clear),
    ]


def stab(tip: Point, run: NeedleRun, angle: float) -> Needle:
    """Return a needle of a run, from ``angle`` degrees."""
    told = fact(
        "drawn.needle", gauge=run.gauge, depth=Mm(run.depth_mm), angle=Degrees(run.angle_deg)
    )
    return Needle(tip, angle, run.depth_mm, told)


def at_ends(
    x: float, taper: tuple[float, float, float], before: float, beyond: float
) -> tuple[Measure, Measure]:
    """Return measures of the thickness near base and tip, ``x`` from the middle, of something lying left to
    right."""
    base, _, tip = taper
    return (
        across((-x, -base / 2), (-x, base / 2), base, before),
        across((x, -tip / 2), (x, tip / 2), tip, beyond),
    )
