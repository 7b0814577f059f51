"""What a figure costs, the price that covers it, and the hourly wage."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from decimal import Decimal
from statistics import NormalDist

from bambola.core.armature import stock_called
from bambola.core.bench import Bench
from bambola.core.bench.money import Money, exact_decimal
from bambola.core.bench.shelved import Unit, find_shelf_item
from bambola.core.facts import Fact, Grams, Mm, fact
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import weighings
from bambola.core.wool.learning import APART_SD, PACE_BELIEF, Estimate

HUNDRED, HOUR = Decimal(100), Decimal(60)
GLUE_G = 0.05
"""A drop of glue, for each eye, peg or piece of cloth that is glued, g. Judged. See craft.md, 5."""


@frozen
class CostLine:
    """The use of one thing, by its ``key`` on the shelf: its name, the ``amount`` in its ``unit``, and the
    cost; None: no price is known."""

    key: str
    what: Fact
    amount: float
    unit: Unit
    price: Decimal | None

    @property
    def amount_text(self) -> Fact:
        """The amount as text."""
        match self.unit:
            case "g":
                return fact("cost.grams", grams=Grams(self.amount))
            case "mm":
                return fact("cost.length", long=Mm(self.amount))
            case _:
                return fact("cost.pieces", n=round(self.amount))


@frozen
class Cost:
    """What ``count`` figures cost, in coins. ``work`` is None where an hour has no price; what has none
    counts nothing. ``total`` is the sum of what is told, and ``covers`` the least price for all of them that
    brings it in after the fees."""

    count: int
    lines: tuple[CostLine, ...]
    minutes: float
    work: Decimal | None
    small: Decimal
    packing: Decimal
    overheads: Decimal
    total: Decimal
    covers: Decimal
    money: Money

    @property
    def unpriced(self) -> tuple[CostLine, ...]:
        """The lines without a price."""
        return tuple(line for line in self.lines if line.price is None)

    @property
    def stuff(self) -> Decimal:
        """The lines with a price."""
        return sum((line.price for line in self.lines if line.price is not None), self.small)

    def sold_at(self, price: Decimal) -> Sale:
        """Return what is left if all are sold for ``price`` together."""
        money = self.money
        fees = money.in_coins(price * money.fees / HUNDRED)
        kept, share = price - fees - self.packing, 1 + money.overheads / HUNDRED
        hours = exact_decimal(self.minutes) / HOUR
        hourly = (kept / share - self.stuff) / hours if hours > 0 else None
        return Sale(price, fees, price - fees - self.total, hourly)


@frozen
class Sale:
    """A price, the fees out of it, the profit, and the hourly wage; None if no time was spent."""

    price: Decimal
    fees: Decimal
    margin: Decimal
    hourly: Decimal | None


def cost_of(
    plan: Plan,
    bench: Bench,
    minutes: float | None = None,
    used: Mapping[str, float] | None = None,
) -> Cost:
    """Return what all figures of ``plan`` cost, by what is used of everything: wool with what is lost in
    handling, wire without its offcuts. ``minutes`` and what was ``used`` (by the key on the shelf, in its
    unit) are what was really spent, where that is known.

    Overheads are a share of stuff and work; the price that covers is (stuff + work + overheads + packing) /
    (1 - fees), up to the next coin.
    """
    money = bench.money
    lines = tuple(_cost_lines(plan, bench, used or {}))
    spent = plan.minutes if minutes is None else minutes
    hours = exact_decimal(spent) / HOUR
    work = None if money.rate is None else money.in_coins(money.rate * hours)
    small, packing = (money.in_coins(m * plan.count) for m in (money.small, money.packing))
    stuff = sum((line.price for line in lines if line.price is not None), small)
    overheads = money.in_coins((stuff + (work or 0)) * money.overheads / HUNDRED)
    total = stuff + (work or 0) + overheads + packing
    covers = money.no_less(total / (1 - money.fees / HUNDRED))
    return Cost(plan.count, lines, spent, work, small, packing, overheads, total, covers, money)


def _cost_lines(plan: Plan, bench: Bench, used: Mapping[str, float]) -> Iterator[CostLine]:
    planned = tuple(planned_use(plan, bench))
    known = {key for key, *_ in planned}
    others = ((key, None, amount) for key, amount in used.items() if key not in known)
    for key, called, amount in (*planned, *others):
        one, amount = find_shelf_item(bench, key), used.get(key, amount)
        if amount <= 0:
            continue
        if one is None:  # wire that the bench does not have, or what it has no more
            what = called or fact("named", name=key.partition(":")[2])
            yield CostLine(key, what, amount, "mm" if key.startswith("wire") else "g", None)
            continue
        unit: Unit = "mm" if key.startswith("wire") else one.unit
        each = one.unit_price
        if each is not None and unit != one.unit:
            each /= exact_decimal(_length_of(bench, key))
        price = None if each is None else bench.money.in_coins(each * exact_decimal(amount))
        yield CostLine(key, called or one.what, amount, unit, price)


def _length_of(bench: Bench, key: str) -> float:
    """Return the length of a piece of this wire stock, mm."""
    return next(s.length for s in bench.wire_stock if f"wire:{s.id}" == key)


def planned_use(plan: Plan, bench: Bench) -> Iterator[tuple[str, Fact | None, float]]:
    """Yield what all figures of ``plan`` use: key on the shelf, name if the shelf does not know it, and
    amount in its unit; wire in mm, whatever the stock."""
    for total in plan.wools:
        if total.wool in bench.wool_by_id:
            yield f"wool:{total.wool}", None, total.taken_g
    for size, each in eyes_of(plan).items():
        yield f"eyes:{size:g}", None, float(each * plan.count)
    for (stock, called), mm in _wire_use(plan, bench).items():
        yield f"wire:{stock}", None if stock else called, mm
    for row in plan.materials:
        yield f"stuff:{row.material}", row.name, row.uses
    drops = sum(step.key.sort in ("wait", "dry", "peg") for step in plan.steps)
    if drops and any(bottle.glue == bench.glue for bottle in bench.bottles):
        yield f"glue:{bench.glue}", None, drops * GLUE_G * plan.count


def wool_used(plan: Plan, bench: Bench, weighed: Mapping[str, float]) -> dict[str, float]:
    """Return the use of wools with ``weighed`` portions (g by key), by key on the shelf: weighed portions as
    weighed, all others as planned."""
    off: dict[str, float] = {}
    taken = {total.wool: total.taken_g for total in plan.wools}
    for one in weighings(plan):
        if one.key in weighed:
            wool, portion = bench.wool_by_id[one.portion.wool], one.portion
            more = weighed[one.key] - portion.grams / (1 - wool.lost_share(portion.role))
            whole = sum(part.share for part in wool.recipe)
            # A blend is mixed of others, unless all of it lies ready.
            shares = {part.wool: part.share / whole for part in wool.recipe} or {wool.id: 1.0}
            for name, share in (
                shares if shares.keys() <= taken.keys() else {wool.id: 1.0}
            ).items():
                off[name] = off.get(name, 0.0) + more * share
    return {f"wool:{name}": max(0.0, taken.get(name, 0.0) + more) for name, more in off.items()}


def eyes_of(plan: Plan) -> dict[float, int]:
    """Return the number of ready-made eyes of each size (mm) in one figure."""
    sold = {one.id for one in plan.resized.figure.fittings if one.is_bought}
    found: dict[float, int] = {}
    for row in plan.fittings:
        if row.id in sold:
            found[row.use_mm] = found.get(row.use_mm, 0) + row.count
    return found


def _wire_use(plan: Plan, bench: Bench) -> dict[tuple[str, Fact], float]:
    """Return the use of each stock for all figures, mm, by its id with its name; an empty id if the bench has
    none of its kind."""
    found: dict[tuple[str, Fact], float] = {}
    for cut in plan.cutting:
        known = stock_called(cut.stock, bench.wire_stock)
        key = (known.id, fact("named", name=known.name)) if known else ("", cut.stock)
        found[key] = found.get(key, 0.0) + sum(cut.cuts)
    return found


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
    parts = [*_hours_with_spread(plan, rate * share, known), *_wool_with_spread(plan, cost, share)]
    certain = float(cost.total) - sum(median for median, _ in parts)
    mean = sum(one.mean for _, one in parts)
    if mean <= 0:
        return cost.total, cost.total
    spread = math.sqrt(math.log1p(sum(one.variance for _, one in parts) / mean**2))
    middle = mean / math.exp(spread**2 / 2)
    low, high = (Decimal(certain + middle * math.exp(z * spread)) for z in (-_Z, _Z))
    return money.in_coins(low), money.in_coins(high)


def _hours_with_spread(
    plan: Plan, rate: float, known: Sequence[Estimate]
) -> Iterator[tuple[float, _Sum]]:
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


def _wool_with_spread(plan: Plan, cost: Cost, share: float) -> Iterator[tuple[float, _Sum]]:
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
