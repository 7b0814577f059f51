"""Several figures made at once, variants of one or different designs: one weigh-out, one order, the wire cut
together."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from typing import TypeAlias

from bambola.core.armature import StockCut, cutting_plan
from bambola.core.armature.cuts import HAND_DEG
from bambola.core.bench import Bench
from bambola.core.face.moving import LEVEL_MM
from bambola.core.facts import Fact, fact, together
from bambola.core.figure import Brief, Figure
from bambola.core.frozen import frozen
from bambola.core.order import Step
from bambola.core.plan.counter.weighing import Bag, bags_by_figure, portion_named, split_wishes
from bambola.core.plan.make import make_plan
from bambola.core.plan.making.values import PartPlan, Plan
from bambola.core.plan.making.wiring import pieces_to_cut
from bambola.core.wool import Portion, WoolTotal, wool_totals
from bambola.core.wool.splitting import SplitError, SplitPlan, WantedPortion, split_plan

ALIKE, ALIKE_G = 0.02, 0.06
"""Sizes and weights this near to each other, as a share, are made as one: less than two of a pair may differ.
Judged. See craft.md, 6."""


@frozen
class _Made:
    """What a step does, for comparison: its key, needle and wools; sizes, mm; weights, g; places of marks,
    mm."""

    what: tuple[object, ...]
    mm: tuple[float, ...]
    grams: tuple[float, ...]
    marks: tuple[float, ...]


@frozen
class CommonStep:
    """A step of the common order: the step of each figure, by the figure's index."""

    steps: tuple[tuple[int, Step], ...]

    @property
    def figure_count(self) -> tuple[int, ...]:
        """The figures it is done for at once."""
        return tuple(i for i, _ in self.steps)

    @property
    def step(self) -> Step:
        """The step of the first figure."""
        return self.steps[0][1]


@dataclass(frozen=True)
class Together:
    """Several figures made together: their names (empty: the figure as made) and plans, and what they share:
    wool (``wools``), stock (``cutting``), order (``acts``), and a bag for each figure."""

    names: tuple[str, ...]
    plans: tuple[Plan, ...]
    wools: tuple[WoolTotal, ...]
    cutting: tuple[StockCut, ...]
    acts: tuple[CommonStep, ...]
    bags: tuple[Bag, ...]

    @property
    def title(self) -> str:
        """What is made, design by design."""
        return ", ".join(dict.fromkeys(plan.figure for plan in self.plans))

    def grams(self, i: int, wool: str) -> float:
        """Return how much of a wool figure ``i`` takes (g), including loss."""
        return sum(total.taken_g for total in self.plans[i].wools if total.wool == wool)


Asked: TypeAlias = tuple[str, Figure, Brief]
"""One of what is made at once: what it is called among the others, its design, and how it is to be."""


def named_variants(figure: Figure, brief: Brief, names: Sequence[str]) -> tuple[Asked, ...]:
    """Return the variants of a figure called ``names``."""
    return tuple((name, figure, brief.taking(name)) for name in names)


def make_together(asked: Sequence[Asked], bench: Bench) -> Together:
    """Return everything ``asked`` as one making. Raises like :func:`make_plan`."""
    names = [name for name, *_ in asked]
    plans = tuple(make_plan(figure, brief, bench) for _, figure, brief in asked)
    parts = {(i, part.id): part for i, plan in enumerate(plans) for part in plan.parts}
    counts = {(i, id): part.count * plans[i].count for (i, id), part in parts.items()}
    wools, _ = wool_totals(parts, counts, bench)
    pieces = [
        piece
        for plan in plans
        for piece in pieces_to_cut(plan.resized.figure, plan.wires, plan.gauges, (), plan.count)
    ]
    bags = tuple(
        replace(bag, title=_bag_title(name, bag, plan))
        for name, plan in zip(names, plans, strict=True)
        for bag in bags_by_figure(plan)
    )
    return Together(
        tuple(names),
        plans,
        wools,
        cutting_plan(pieces, bench.wire_stock),
        common_order(plans),
        bags,
    )


def _bag_title(name: str, bag: Bag, plan: Plan) -> Fact:
    if name in ("", plan.figure):
        return bag.title
    called = fact("named", name=name)
    return together(called, bag.title) if plan.count > 1 else called


def common_order(plans: Sequence[Plan]) -> tuple[CommonStep, ...]:
    """Return one order that keeps each figure's own order and does steps alike in several figures at once: as
    many as the orders allow, figure by figure."""
    acts: list[CommonStep] = []
    for i, plan in enumerate(plans):
        own = [CommonStep(((i, step),)) for step in plan.steps]
        known = [_made_of(plans[act.figure_count[0]], act.step) for act in acts]
        like = [_made_of(plan, step) for step in plan.steps]
        merged: list[CommonStep] = []
        a = b = 0
        for k, m in _longest_common(known, like):
            merged += acts[a:k] + own[b:m]
            merged.append(CommonStep((*acts[k].steps, *own[m].steps)))
            a, b = k + 1, m + 1
        acts = [*merged, *acts[a:], *own[b:]]
    return tuple(acts)


def _longest_common(first: Sequence[_Made], second: Sequence[_Made]) -> Iterator[tuple[int, int]]:
    """Yield the indices of the longest common subsequence, by dynamic programming."""
    n, m = len(first), len(second)
    alike = [[_is_alike(x, y) for y in second] for x in first]
    table = [[0] * (m + 1) for _ in range(n + 1)]
    for k in range(n - 1, -1, -1):
        for j in range(m - 1, -1, -1):
            table[k][j] = (
                table[k + 1][j + 1] + 1 if alike[k][j] else max(table[k + 1][j], table[k][j + 1])
            )
    k = j = 0
    while k < n and j < m:
        if alike[k][j]:
            yield k, j
            k, j = k + 1, j + 1
        elif table[k + 1][j] >= table[k][j + 1]:
            k += 1
        else:
            j += 1


def _made_of(plan: Plan, step: Step) -> _Made:
    part = next((part for part in plan.parts if part.id == step.part), None)
    laid = tuple((p.wool, p.take_g * share) for p, share in plan.laid_by(step))
    wire = next((w for w in plan.wires if step.key.is_of(w.id, "cut", "bend")), None)
    bends = tuple(round(bend.angle_deg / HAND_DEG) for bend in wire.bends) if wire else ()
    of = (wire.stock, wire.diameter_mm) if wire else None
    return _Made(
        (step.key, step.needle, of, bends, tuple(wool for wool, _ in laid)),
        (*(part.to_mm.values() if part else ()), *((wire.cut_mm,) if wire else ())),
        tuple(grams for _, grams in laid),
        _mark_places(plan, step),
    )


def _mark_places(plan: Plan, step: Step) -> tuple[float, ...]:
    """Return the places of the marks a step lays out or follows, mm over the surface."""
    faces = (face for face in plan.faces if step.kind == "mark" and face.part == step.part)
    told = (mark for face in faces for mark in face.named_marks)
    return tuple(mm for mark in told for mm in (mark.from_crown_mm, mark.from_midline_mm))


def _is_alike(a: _Made, b: _Made) -> bool:
    return (
        a.what == b.what
        and (len(a.mm), len(a.marks)) == (len(b.mm), len(b.marks))
        and all(_is_near(x, y, ALIKE) for x, y in zip(a.mm, b.mm, strict=True))
        and all(_is_near(x, y, ALIKE_G) for x, y in zip(a.grams, b.grams, strict=True))
        and all(abs(x - y) <= LEVEL_MM for x, y in zip(a.marks, b.marks, strict=True))
    )


def _is_near(a: float, b: float, share: float) -> bool:
    return abs(a - b) <= share * max(a, b)


def split_together(both: Together, wool: str, bench: Bench) -> tuple[WantedPortion, ...]:
    """Return the portions of one colour over all figures, to be split off one hank; like portions are
    grouped."""
    found: list[WantedPortion] = []
    for i, plan in enumerate(both.plans):
        for wish in split_wishes(plan, wool, bench):
            known = next(
                (
                    k
                    for k, other in enumerate(found)
                    if other.id.partition("/")[2] == wish.id
                    and _is_near(other.grams, wish.grams, ALIKE_G)
                ),
                None,
            )
            if known is None:
                found.append(replace(wish, id=f"{i}/{wish.id}"))
            else:
                more = found[known].count + wish.count
                found[known] = replace(found[known], count=more)
    return tuple(found)


def splits_together(
    both: Together, bench: Bench, patience_s: float, stopped: Callable[[], bool] = lambda: False
) -> dict[str, SplitPlan]:
    """Return a splitting tree for every colour that is split, by wool, each searched for a limited time
    (:func:`split_plan`). Colours without a tree, or not reached when ``stopped``, are weighed portion by
    portion."""
    found: dict[str, SplitPlan] = {}
    for total in both.wools:
        if stopped():
            break
        wishes = split_together(both, total.wool, bench)
        with suppress(SplitError):
            if sum(wish.count for wish in wishes) > 1:
                found[total.wool] = split_plan(wishes, patience_s=patience_s)
    return found


def wish_of(both: Together, wish: str) -> tuple[str, PartPlan, Portion]:
    """Return the first figure that a portion of :func:`split_together` is for, its part, and the portion."""
    i, _, name = wish.partition("/")
    return both.names[int(i)], *portion_named(both.plans[int(i)], name)
