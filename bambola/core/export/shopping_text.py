"""What to buy, as lines: shop by shop, with the total price."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from itertools import groupby

from bambola.core.bench import Bench
from bambola.core.book.shopping import Buying, to_buy
from bambola.core.plan import Plan
from bambola.core.plan.making.values import FittingPlan
from bambola.core.quantities import Units, show_bought, show_length
from bambola.core.words import Words


def shopping_lines(plan: Plan, bench: Bench, words: Words) -> Iterator[str]:
    """Yield a line for each thing under its shop, and a sum if prices are known; none if nothing is short."""
    wanted = to_buy(plan, bench)
    for shop, of_shop in groupby(wanted, key=lambda one: one.shop):
        if shop:
            yield words.tr("From {shop}:", shop=shop)
        elif any(one.shop for one in wanted):
            yield words.tr("From any shop:")
        yield from (_shopping_line(one, bench, words) for one in of_shop)
    cost = sum((one.price for one in wanted if one.price is not None), Decimal(0))
    if cost:
        price = bench.money_text(cost, words.units)
        whole = all(one.price is not None for one in wanted)
        yield (
            words.tr("together {price}", price=price)
            if whole
            else words.tr("at least {price}", price=price)
        )


def _shopping_line(one: Buying, bench: Bench, words: Words) -> str:
    told = words.say(one.what)
    if one.lot:
        told = words.tr("{what}, from lot {lot} if you can get it", what=told, lot=one.lot)
    if one.price is None:
        return told
    return words.tr("{what}, {price}", what=told, price=bench.money_text(one.price, words.units))


def fitting_stock(row: FittingPlan, words: Words) -> str:
    """Return how many of a fitting are in the box and to buy, as text; empty if they are not counted."""
    if not row.have and not row.buy:
        return ""
    if not row.buy:
        return words.tr(", in the box")
    return words.trn(", {n} to buy", ", {n} to buy", row.buy)


def fitting_size(plan: Plan, row: FittingPlan, mm: float, units: Units) -> str:
    """Return ``mm`` of a fitting as text. Only ready-made ones come in fixed sizes."""
    bought = any(f.id == row.id and f.follows == "ready-made" for f in plan.resized.figure.fittings)
    return show_bought(mm, units) if bought else show_length(mm, units)
