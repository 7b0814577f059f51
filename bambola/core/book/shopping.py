"""What to buy for a figure, shop by shop, of the former lot if possible."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal

from bambola.core.bench import Bench
from bambola.core.bench.money import exact_decimal
from bambola.core.bench.shelved import find_shelf_item
from bambola.core.book.costing import planned_use
from bambola.core.facts import Fact, Grams, Mm, SoldSize, fact
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.plan.reading.stuff import to_buy_fact


@frozen
class Buying:
    """One thing to buy: name and amount, price (None: unknown), and the shop and lot it came from before."""

    what: Fact
    price: Decimal | None
    shop: str = ""
    lot: str = ""


def to_buy(plan: Plan, bench: Bench) -> tuple[Buying, ...]:
    """Return what is short for all figures of ``plan``, shop by shop; what has no shop comes last."""
    found = list(_what_is_short(plan, bench))
    return tuple(sorted(found, key=lambda one: (not one.shop, one.shop.casefold())))


def _what_is_short(plan: Plan, bench: Bench) -> Iterator[Buying]:
    def buying(key: str, what: Fact, price: Decimal | None) -> Buying:
        known = find_shelf_item(bench, key)
        return Buying(what, price, *((known.shop, known.lot) if known else ()))

    for total in plan.wools:
        if total.packs:
            pack = Grams(bench.wool_by_id[total.wool].pack_g)
            what = fact("buy.packs", n=total.packs, pack=pack, name=total.name)
            price = None if total.price is None else exact_decimal(total.price)
            yield buying(f"wool:{total.wool}", what, price)
    for row in plan.fittings:
        if row.buy:
            key = f"eyes:{row.use_mm:g}"
            what = fact("buy.pieces", n=row.buy, name=row.name, size=SoldSize(row.use_mm))
            yield buying(key, what, _price_for(bench, key, row.buy))
    wires: dict[Fact, float] = {}
    for cut in plan.cutting:
        if cut.to_buy:
            wires[cut.stock] = wires.get(cut.stock, 0.0) + sum(cut.cuts)
    for stock, mm in wires.items():
        yield Buying(fact("buy.wire", long=Mm(mm), what=stock), None)
    for stuff in plan.materials:
        if stuff.buy > 0:
            key = f"stuff:{stuff.material}"
            yield buying(key, to_buy_fact(stuff), _price_for(bench, key, stuff.buy))
    counted = {round(box.size): box.count for box in bench.needle_box}
    for gauge in sorted({step.needle for step in plan.steps if step.needle}):
        if counted.get(gauge) == 0:  # those that are not counted are taken to be there
            key = f"needle:{gauge}"
            yield buying(key, fact("buy.needles", gauge=f"{gauge}"), _price_for(bench, key, 1))
    glue = f"glue:{bench.glue}"
    wanted = sum(amount for key, _, amount in planned_use(plan, bench) if key == glue)
    bottle = find_shelf_item(bench, glue)
    if bottle is not None and bottle.left is not None and bottle.left < wanted:
        price = None if bottle.price is None else exact_decimal(bottle.price)
        yield buying(glue, fact("buy.bottle", what=bottle.what, grams=Grams(bottle.per)), price)


def _price_for(bench: Bench, key: str, amount: float) -> Decimal | None:
    known = find_shelf_item(bench, key)
    each = known.unit_price if known else None
    return None if each is None else bench.money.in_coins(each * exact_decimal(amount))
