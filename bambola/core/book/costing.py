"""What a figure costs, the price that covers it, and what an hour of it earns."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from decimal import Decimal
from typing import Literal

from bambola.core.armature import stock_called
from bambola.core.bench import Bench
from bambola.core.bench.money import Money, exact
from bambola.core.facts import Bought, Fact, Grams, Mm, fact
from bambola.core.frozen import frozen
from bambola.core.plan import Plan

LineKind = Literal["wool", "eyes", "wire", "stuff"]
HUNDRED, HOUR = Decimal(100), Decimal(60)


@frozen
class CostLine:
    """What is used of one thing: how it is called, how much, and for how much; None: no price is known.
    ``id`` is the wool, the material, the stock, or the size of the eyes."""

    kind: LineKind
    id: str
    what: Fact
    used: Fact
    price: Decimal | None


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
        """What is used and has no price."""
        return tuple(line for line in self.lines if line.price is None)

    @property
    def stuff(self) -> Decimal:
        """All that is used, with a price."""
        return sum((line.price for line in self.lines if line.price is not None), self.small)

    def sold_at(self, price: Decimal) -> Sale:
        """What is left where all are sold at ``price`` together."""
        money = self.money
        fees = money.in_coins(price * money.fees / HUNDRED)
        kept, share = price - fees - self.packing, 1 + money.overheads / HUNDRED
        hours = exact(self.minutes) / HOUR
        hourly = (kept / share - self.stuff) / hours if hours > 0 else None
        return Sale(price, fees, price - fees - self.total, hourly)


@frozen
class Sale:
    """A price, the fees out of it, what it brings beyond the cost, and what an hour earned; None where no
    time was spent."""

    price: Decimal
    fees: Decimal
    margin: Decimal
    hourly: Decimal | None


def cost_of(
    plan: Plan,
    bench: Bench,
    minutes: float | None = None,
    wool_g: Mapping[str, float] | None = None,
) -> Cost:
    """What all figures of ``plan`` cost, by what is used of everything: wool with what is lost in handling,
    wire without its offcuts. ``minutes`` and ``wool_g`` (g by wool) are what was really spent, where that is
    known.

    Overheads are a share of stuff and work; the price that covers is (stuff + work + overheads + packing) /
    (1 - fees), up to the next coin.
    """
    money = bench.money
    lines = tuple(_lines(plan, bench, {} if wool_g is None else wool_g))
    spent = plan.minutes if minutes is None else minutes
    hours = exact(spent) / HOUR
    work = None if money.rate is None else money.in_coins(money.rate * hours)
    small, packing = (money.in_coins(m * plan.count) for m in (money.small, money.packing))
    stuff = sum((line.price for line in lines if line.price is not None), small)
    overheads = money.in_coins((stuff + (work or 0)) * money.overheads / HUNDRED)
    total = stuff + (work or 0) + overheads + packing
    covers = money.no_less(total / (1 - money.fees / HUNDRED))
    return Cost(plan.count, lines, spent, work, small, packing, overheads, total, covers, money)


def _lines(plan: Plan, bench: Bench, wool_g: Mapping[str, float]) -> Iterator[CostLine]:
    def priced(amount: Decimal | None) -> Decimal | None:
        return None if amount is None else bench.money.in_coins(amount)

    totals = {total.wool: total.taken_g for total in plan.wools} | dict(wool_g)
    for wool, grams in totals.items():
        of = bench.wool_by_id.get(wool)
        if of is not None and grams > 0:
            price = None if of.price is None else exact(of.price) * exact(grams) / exact(of.pack_g)
            called, used = fact("named", name=of.name), fact("cost.grams", grams=Grams(grams))
            yield CostLine("wool", wool, called, used, priced(price))
    for size, each in eyes_of(plan).items():
        count = each * plan.count
        one = bench.eye_price(size)
        called, used = fact("cost.eyes", size=Bought(size)), fact("cost.pieces", n=count)
        price = None if one is None else exact(one) * count
        yield CostLine("eyes", f"{size:g}", called, used, priced(price))
    for (stock, called), mm in _wire(plan, bench).items():
        known = next((s for s in bench.wire_stock if s.id == stock), None)
        price = None
        if known is not None and known.price is not None:
            price = exact(known.price) * exact(mm) / exact(known.length)
        yield CostLine("wire", stock, called, fact("cost.length", long=Mm(mm)), priced(price))
    for row in plan.materials:
        price = None if row.cost is None else exact(row.cost)
        clay = row.kind == "clay"
        used = (
            fact("cost.grams", grams=Grams(row.uses))
            if clay
            else fact("cost.length", long=Mm(row.uses))
        )
        yield CostLine("stuff", row.material, row.name, used, priced(price))


def eyes_of(plan: Plan) -> dict[float, int]:
    """How many eyes of each size (mm) that come in sizes go into one figure."""
    sold = {one.id for one in plan.resized.figure.fittings if one.is_bought}
    found: dict[float, int] = {}
    for row in plan.fittings:
        if row.id in sold:
            found[row.use_mm] = found.get(row.use_mm, 0) + row.count
    return found


def _wire(plan: Plan, bench: Bench) -> dict[tuple[str, Fact], float]:
    """How much of each stock is used for all figures, mm: by its id, and what it is called; without an id
    where the bench has none of its kind."""
    found: dict[tuple[str, Fact], float] = {}
    for cut in plan.cutting:
        known = stock_called(cut.stock, bench.wire_stock)
        key = (known.id, fact("named", name=known.name)) if known else ("", cut.stock)
        found[key] = found.get(key, 0.0) + sum(cut.cuts)
    return found
