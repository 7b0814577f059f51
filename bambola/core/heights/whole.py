"""All heights of one figure: turns, availability, and answers to conditions."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from datetime import date
from decimal import Decimal
from functools import partial

from bambola.core.bench import Bench
from bambola.core.book.costing import cost_of
from bambola.core.facts import Fact, SoldSize, fact
from bambola.core.figure import Brief, Figure
from bambola.core.frozen import frozen
from bambola.core.heights.conditions import (
    WITHIN_MM,
    Answer,
    Condition,
    EyesOf,
    FitsPlace,
    GarmentFits,
    MetCondition,
    NoQuestions,
    ReadyBy,
    SizeOf,
    StandsUpright,
    WireOnShelf,
    WoolOnShelf,
    answer_of,
    sized_eyes,
)
from bambola.core.heights.kinds import KINDS
from bambola.core.heights.search import SPAN, Readings, sweep_intervals
from bambola.core.heights.values import (
    REFUSED,
    HeightBand,
    HeightReading,
    HeightWindow,
    Sensible,
    StateAtHeight,
    Turn,
    amounts_of,
    sensible_about,
)
from bambola.core.order import OrderConflictError, differences_in_making
from bambola.core.order.sittings import SittingError, finish_of
from bambola.core.plan import Plan, draft_plan, make_plan
from bambola.core.plan.counter.in_time import DRY_DAYS, MEND_DAYS, RESERVE
from bambola.core.plan.making.made import as_made
from bambola.core.resize import ResizeError
from bambola.core.resize.solve import reachable
from bambola.core.wool import WoolTotal, wool_totals


def read_at(figure: Figure, brief: Brief, bench: Bench, height: float) -> HeightReading | None:
    """Return the reading at a height (mm); None for one that cannot be met."""
    try:
        plan = draft_plan(figure, brief.at_height(height), bench)
    except ResizeError:
        return None
    except OrderConflictError as error:  # such as a garment that goes over nothing any more
        told = error.told if isinstance(error.told, Fact) else fact("named", name=error.told)
        return HeightReading(height, {REFUSED: StateAtHeight(True, told)}, {})
    return reading_of(plan, bench)


def reading_of(plan: Plan, bench: Bench) -> HeightReading:
    """Return the reading of ``plan``. Its order is not used, so a draft will do."""
    signs = {(kind.id, about): told for kind in KINDS for about, told in kind.tells(plan, bench)}
    return HeightReading(plan.to_height_mm, signs, amounts_of(plan, bench))


def ready_at(
    figure: Figure, brief: Brief, bench: Bench, first: date, height: float
) -> HeightReading | None:
    """Return the day (ordinal) on which a figure of a height (mm), begun on the ``first``, is ready; infinity
    if there is no time for it. It alone needs an order, so it is read separately."""
    try:
        plan = make_plan(figure, brief.at_height(height), bench)
    except (ResizeError, OrderConflictError):
        return None
    try:
        done = finish_of(plan.steps, bench, first, 1 + RESERVE, plan.runs)
    except SittingError:
        return HeightReading(height, {}, {"ready": math.inf})
    return HeightReading(height, {}, {"ready": float(done.toordinal() + DRY_DAYS + MEND_DAYS)})


READY_STEP = 1.25
"""Heights are that far apart at which it is asked first when a figure is ready. Judged: a taller one
takes longer, but for single steps that fall away. See craft.md, 11."""


class Heights:
    """The heights of ``figure`` on ``bench`` for ``brief``. Readings are cached, so that later questions are
    answered from them."""

    def __init__(self, figure: Figure, brief: Brief, bench: Bench) -> None:
        self.figure, self.brief, self.bench = figure, brief, bench
        self.made_mm = as_made(figure, bench).solids.placement.height
        reach = reachable(figure, brief, bench)
        self.low = max(SPAN[0] * self.made_mm, reach[0] * (1 + 1e-6))
        self.high = min(SPAN[1] * self.made_mm, reach[1] * (1 - 1e-6))
        self.readings = Readings(partial(read_at, figure, brief, bench))
        self._ready: dict[object, Readings] = {}

    @property
    def eyes(self) -> tuple[str, ...]:
        """The ids of fittings that come in fixed sizes."""
        return sized_eyes(self.figure)

    @property
    def spans(self) -> list[tuple[float, float]]:
        """The intervals to sweep one at a time, those around the wanted height first (mm)."""
        return sweep_intervals(self.low, self.high, self.brief.height or self.made_mm)

    def turns(self) -> tuple[Turn, ...]:
        """Return all turns, from the lowest up."""
        found = self.readings.sweep(self.low, self.high)
        return tuple(sorted(found, key=lambda turn: turn.height_mm))

    def met_at(self, condition: Condition) -> MetCondition:
        """Return the heights at which a condition is met; they must have been swept."""
        readings = self.readings
        if isinstance(condition, ReadyBy):
            readings = self._ready.setdefault(
                condition.first,
                Readings(partial(ready_at, self.figure, self.brief, self.bench, condition.first)),
            )
            readings.read_between(self.low, self.high, READY_STEP)
        if isinstance(condition, SizeOf):
            readings.aim(condition.excess_mm, self.low, self.high, WITHIN_MM / 2)
        return MetCondition(condition.told, readings.bands(condition.margin, self.low, self.high))

    def answer(self, conditions: Sequence[Condition]) -> Answer:
        """Return the heights that meet all ``conditions``."""
        each = tuple(self.met_at(one) for one in conditions)
        return answer_of(each, HeightBand(self.low, self.high, True, True))

    def fits(self) -> Iterator[HeightWindow]:
        """Yield the conditions that only some heights meet: eyes that are sold, bought garments, room."""
        of = {fitting.id: fitting for fitting in self.figure.fittings}
        for one in self.eyes:
            for size in self.bench.eye_sizes:
                text = fact("fit.eyes", name=of[one].name, size=SoldSize(size))
                yield from self._fits(EyesOf(size, (one,)), "eyes", of[one].part, text)
        for part in self.figure.parts:
            if part.garment and part.garment.bought:
                fit = GarmentFits(part.id, part.name)
                yield from self._fits(fit, "garment", part.id, fit.told)
        for niche in self.bench.niches:
            yield from self._fits(FitsPlace(niche), "niche", None, FitsPlace(niche).told)

    def _fits(
        self, condition: Condition, kind: str, part: str | None, text: Fact
    ) -> Iterator[HeightWindow]:
        for band in self.met_at(condition).bands:
            yield HeightWindow(band.from_mm, band.to_mm, kind, part, text)

    def usual(self) -> Iterator[Condition]:
        """Yield the conditions asked of every figure; each holds at a height or does not."""
        yield from (NoQuestions(), WoolOnShelf(), WireOnShelf())
        if self.figure.stance != "hanging":
            yield StandsUpright()
        yield from map(FitsPlace, self.bench.niches)

    def sensible(self, height: float, turns: Sequence[Turn]) -> Sensible | None:
        """Return the heights around ``height`` (mm) at which nothing has to be decided."""
        return sensible_about(height, self.met_at(NoQuestions()).bands, turns)


@frozen
class Size:
    """One size: how high it is, what it takes, and what is waiting to be decided. ``differs`` is what is made
    otherwise than at the size before."""

    height_mm: float
    scale: float
    wools: tuple[WoolTotal, ...]
    mass_g: float
    wire_mm: float
    wires: tuple[float, ...]
    minutes: float
    cost: Decimal
    questions: tuple[Fact, ...]
    differs: tuple[Fact, ...]

    @property
    def wool_g(self) -> float:
        """The wool that stays in it, g."""
        return sum(total.grams for total in self.wools)


@frozen
class SizeSeries:
    """Sizes from the smallest up, and the ``wools`` of one of each."""

    rows: tuple[Size, ...]
    wools: tuple[WoolTotal, ...]


def sizes_of(plans: Sequence[Plan], bench: Bench) -> SizeSeries:
    """Return the sizes of ``plans`` of one figure, whose order is not used; one of each is made."""
    plans = sorted(plans, key=lambda plan: plan.to_height_mm)
    rows = tuple(_size_at(plan, plans[i - 1] if i else None, bench) for i, plan in enumerate(plans))
    parts = {(i, part.id): part for i, plan in enumerate(plans) for part in plan.parts}
    counts = {key: part.count * plans[key[0]].count for key, part in parts.items()}
    return SizeSeries(rows, wool_totals(parts, counts, bench)[0])


def _size_at(plan: Plan, before: Plan | None, bench: Bench) -> Size:
    changes = differences_in_making(before.work, plan.work) if before else ()
    return Size(
        plan.to_height_mm,
        plan.scale,
        plan.wools,
        plan.balance.mass_g,
        sum(wire.cut_mm for wire in plan.wires),
        tuple(sorted({wire.diameter_mm for wire in plan.wires})),
        plan.minutes,
        cost_of(plan, bench).total,
        tuple(notice.title for notice in plan.waiting),
        tuple(change.text for change in changes),
    )
