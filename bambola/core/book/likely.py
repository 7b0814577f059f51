"""The likely range of a figure's cost, given the uncertainty of hours and wool."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from decimal import Decimal
from statistics import NormalDist

from bambola.core.bench import Bench
from bambola.core.book.costing import HOUR, HUNDRED, Cost
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.wool.learning import APART_SD, PACE_BELIEF, Estimate

_Z = NormalDist().inv_cdf(0.95)


@frozen
class _Sum:
    """An uncertain amount, by its mean and variance."""

    mean: float
    variance: float


def likely_cost(
    plan: Plan, bench: Bench, cost: Cost, known: Sequence[Estimate]
) -> tuple[Decimal, Decimal]:
    """Return the 5th and 95th percentile of ``cost``, where nothing of it was spent yet; ``known`` is what
    the maker's hours have taught. What costs by the piece is certain.

    Hours of each sort of work share the doubt about how fast it goes, and each step scatters by itself; the
    portions of a wool are laid by the same hand, and are off together. The sum is taken for log-normal with
    the mean and variance of its parts, as Fenton and Wilkinson have it.
    """
    money = bench.money
    share = 1 + float(money.overheads) / float(HUNDRED)
    rate = 0.0 if money.rate is None else float(money.rate / HOUR)
    parts = [*_hours(plan, rate * share, known), *_wool(plan, cost, share)]
    certain = float(cost.total) - sum(median for median, _ in parts)
    mean = sum(one.mean for _, one in parts)
    if mean <= 0:
        return cost.total, cost.total
    spread = math.sqrt(math.log1p(sum(one.variance for _, one in parts) / mean**2))
    middle = mean / math.exp(spread**2 / 2)
    low, high = (Decimal(certain + middle * math.exp(z * spread)) for z in (-_Z, _Z))
    return money.in_coins(low), money.in_coins(high)


def _hours(plan: Plan, rate: float, known: Sequence[Estimate]) -> Iterator[tuple[float, _Sum]]:
    """Yield the cost of each sort of work: as planned, with its uncertainty."""
    by_sort = {e.what.partition(":")[2]: e for e in known if e.what.startswith("pace:")}
    sorts: dict[str, list[float]] = {}
    for step in plan.steps:
        minutes = sum(map(step.minutes_of, plan.runs))
        if minutes > 0:
            sorts.setdefault(step.sort, []).append(minutes * rate)
    for sort, prices in sorts.items():
        found = by_sort.get(sort) or by_sort.get(sort.partition(":")[0])
        doubt, scatter = PACE_BELIEF.sd, PACE_BELIEF.scatter
        if found is not None:
            doubt = math.log(found.high / found.low) / (2 * _Z)
            scatter = math.sqrt(max(found.spread**2 - doubt**2, 0.0))
            if found.what != f"pace:{sort}" and ":" in sort:
                doubt = math.hypot(doubt, APART_SD)
        total, squares = sum(prices), sum(price**2 for price in prices)
        mean = total * math.exp((doubt**2 + scatter**2) / 2)
        second = total**2 * math.exp(scatter**2) + squares * (
            math.exp(2 * scatter**2) - math.exp(scatter**2)
        )
        yield total, _Sum(mean, math.exp(2 * doubt**2) * second - mean**2)


def _wool(plan: Plan, cost: Cost, share: float) -> Iterator[tuple[float, _Sum]]:
    prices = {line.key: float(line.price) * share for line in cost.lines if line.price is not None}
    spreads: dict[str, list[tuple[float, float]]] = {}
    for part in plan.parts:
        for portion in part.portions:
            weight = portion.grams * part.count
            spreads.setdefault(f"wool:{portion.wool}", []).append((weight, portion.spread))
    for key, rows in spreads.items():
        price, whole = prices.get(key, 0.0), sum(weight for weight, _ in rows)
        if price > 0 and whole > 0:
            spread = sum(weight * off for weight, off in rows) / whole
            mean = price * math.exp(spread**2 / 2)
            yield price, _Sum(mean, mean**2 * math.expm1(spread**2))
