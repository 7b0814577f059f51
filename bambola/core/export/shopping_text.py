"""What to buy, as lines: shop by shop, with the total price."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from itertools import groupby

from bambola.core.bench import Bench
from bambola.core.book.shopping import Buying, to_buy
from bambola.core.plan import Plan
from bambola.core.words import Words


def shopping_lines(plan: Plan, bench: Bench, words: Words) -> Iterator[str]:
    """Yield a line for each thing under its shop, and a sum if prices are known; none if nothing is short."""
    wanted = to_buy(plan, bench)
    for shop, of_shop in groupby(wanted, key=lambda one: one.shop):
        if shop:
            yield words.tr("From {shop}:", shop=shop)
        elif any(one.shop for one in wanted):
            yield words.tr("From wherever it is had:")
        yield from (_line(one, bench, words) for one in of_shop)
    cost = sum((one.price for one in wanted if one.price is not None), Decimal(0))
    if cost:
        price = bench.told(cost, words.units)
        whole = all(one.price is not None for one in wanted)
        yield (
            words.tr("together {price}", price=price)
            if whole
            else words.tr("at least {price}", price=price)
        )


def _line(one: Buying, bench: Bench, words: Words) -> str:
    told = words.say(one.what)
    if one.lot:
        told = words.tr("{what}, of lot {lot} if it is had", what=told, lot=one.lot)
    if one.price is None:
        return told
    return words.tr("{what}, {price}", what=told, price=bench.told(one.price, words.units))
