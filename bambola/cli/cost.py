"""``bambola cost``: what a figure costs, the price that covers it, and the profit at a price."""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from bambola.cli.arguments import (
    CommandError,
    Commands,
    asked_for,
    design_options,
    print_now,
    say_json,
)
from bambola.core.bench import Bench
from bambola.core.book.costing import Cost, Sale, cost_of, likely_cost
from bambola.core.plan import make_plan
from bambola.core.quantities import QuantityError, parse_money
from bambola.core.words import ENGLISH, Words, error_words
from bambola.language import tr

MOST = 1000


def options(commands: Commands) -> None:
    """Add the command's options."""
    cost = commands.add_parser("cost", help=tr("what a figure costs, and the price that covers it"))
    design_options(cost)
    cost.add_argument("--count", type=int, metavar="N", help=tr("how many of it are made"))
    cost.add_argument("--rate", metavar="PRICE", help=tr("what an hour is to earn"))
    cost.add_argument("--price", metavar="PRICE", help=tr("the price at which all are sold"))
    cost.add_argument("--json", action="store_true", help=tr("as JSON, printed"))


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    document, brief, bench = asked_for(args, words)
    if args.count is not None:
        if not 1 <= args.count <= MOST:
            raise CommandError(tr("--count: {n} is not allowed; use 1 to 1000.", n=args.count))
        brief = brief.replaced(count=args.count)
    if args.rate is not None:
        rate = _parse_price(args.rate, "--rate", bench, words)
        bench = bench.replaced(money=bench.money.replaced(rate=rate))
    plan = make_plan(document.figure, brief, bench)
    cost = cost_of(plan, bench)
    likely = likely_cost(plan, bench, cost, ())
    sale = (
        None
        if args.price is None
        else cost.sold_at(_parse_price(args.price, "--price", bench, words))
    )
    if args.json:
        data = {"figure": document.figure.name, **cost_data(cost, sale, bench.currency, likely)}
        say_json(json.dumps(data, ensure_ascii=False, indent=1) + "\n")
    else:
        print_now("\n".join(_cost_lines(cost, sale, likely, bench, words)) + "\n")


def _parse_price(text: str, option: str, bench: Bench, words: Words) -> Decimal:
    try:
        return parse_money(text, bench.currency)
    except QuantityError as error:
        raise CommandError(f"{option}: {error_words(error, words)}") from None


def _float_or_none(amount: Decimal | None) -> float | None:
    return None if amount is None else float(amount)


def cost_data(
    cost: Cost, sale: Sale | None, currency: str, likely: tuple[Decimal, Decimal] | None = None
) -> dict[str, Any]:
    """Return the cost as plain values, amounts in the currency; null where no price is known. ``likely``
    holds the total nine times in ten."""
    found: dict[str, Any] = {
        "currency": currency,
        "count": cost.count,
        "lines": [
            {
                "kind": line.key.partition(":")[0],
                "id": line.key.partition(":")[2],
                "what": ENGLISH.say(line.what),
                "used": ENGLISH.say(line.amount_text),
                "price": _float_or_none(line.price),
            }
            for line in cost.lines
        ],
        "minutes": cost.minutes,
        "work": _float_or_none(cost.work),
        "small": _float_or_none(cost.small),
        "packing": _float_or_none(cost.packing),
        "overheads": _float_or_none(cost.overheads),
        "total": _float_or_none(cost.total),
        "likely": None if likely is None else [_float_or_none(amount) for amount in likely],
        "covers": _float_or_none(cost.covers),
        "unpriced": [*(line.key for line in cost.unpriced), *_missing_inputs(cost)],
    }
    if sale is not None:
        found["sale"] = {
            "price": _float_or_none(sale.price),
            "fees": _float_or_none(sale.fees),
            "margin": _float_or_none(sale.margin),
            "hourly": None if sale.hourly is None else round(float(sale.hourly), 2),
        }
    return found


def _missing_inputs(cost: Cost) -> list[str]:
    return ["hour"] if cost.work is None else []


def _cost_lines(
    cost: Cost, sale: Sale | None, likely: tuple[Decimal, Decimal], bench: Bench, words: Words
) -> Iterator[str]:
    def money(amount: Decimal | None) -> str:
        if amount is None:
            return tr("no price")
        return bench.money_text(amount, words.units)

    rows = [
        (f"{words.say(line.what)}, {words.say(line.amount_text)}", line.price)
        for line in cost.lines
    ]
    rows += [(tr("{hours:.1f} h of work", hours=cost.minutes / 60), cost.work)]
    more = (
        (tr("glue and small things"), cost.small),
        (tr("packing"), cost.packing),
        (tr("overheads"), cost.overheads),
    )
    rows += [row for row in more if row[1]]
    rows += [(tr("together"), cost.total), (tr("the price that covers it"), cost.covers)]
    if sale is not None:
        rows += [(tr("fees"), sale.fees), (tr("beyond the cost"), sale.margin)]
        rows += [(tr("an hour earns"), sale.hourly)] if sale.hourly is not None else []
    wide = max(len(told) for told, _ in rows)
    for told, amount in rows:
        yield f"{told:<{wide}}  {money(amount):>12}"
    low, high = (bench.money_text(amount, words.units) for amount in likely)
    if low != high:
        yield tr("Nine times in ten it costs from {low} to {high}.", low=low, high=high)
    if cost.unpriced or cost.work is None:
        yield tr(
            "Things without a price are not counted: enter prices for wool, eyes, wire and "
            "your hour."
        )
