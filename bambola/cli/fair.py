"""``bambola fair``: how many of which figures to make by a date, what to buy, and the calendar."""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterator
from datetime import UTC, date, datetime
from decimal import Decimal
from pathlib import Path
from typing import Any

from bambola.cli.arguments import (
    CommandError,
    Commands,
    day_of,
    design_of,
    length_of,
    print_now,
    read_file,
    say_json,
)
from bambola.core.bench import Bench, check_wools, load_bench
from bambola.core.book.fair import Fair, FairError, Ware, plan_fair
from bambola.core.export.ics import calendar_ics
from bambola.core.export.together_sheets import kits_pdf
from bambola.core.figure import load_document
from bambola.core.order.sittings import SittingError
from bambola.core.plan import make_plan
from bambola.core.plan.counter.together import Asked, make_together
from bambola.core.quantities import QuantityError, parse_money, show_bought
from bambola.core.words import Words, error_words
from bambola.files import write_made
from bambola.language import tr
from bambola.shipped import default_bench


def options(commands: Commands) -> None:
    """Add the command's options."""
    fair = commands.add_parser("fair", help=tr("how many of which figures to make by a day"))
    fair.add_argument(
        "--ware",
        nargs=3,
        action="append",
        required=True,
        dest="wares",
        metavar=("FIGURE", "LENGTH", "PRICE"),
        help=tr(
            "a figure you could sell, its height, and the price of one; may be given several times"
        ),
    )
    fair.add_argument("--by", required=True, metavar="DATE", help=tr("the day, such as 2026-12-12"))
    fair.add_argument("--from", dest="first", metavar="DATE", help=tr("begun on; else today"))
    fair.add_argument(
        "--bench", type=Path, metavar="FILE", help=tr("a bench as JSON instead of the default")
    )
    fair.add_argument("--ics", type=Path, metavar="FILE", help=tr("the sittings, as a calendar"))
    fair.add_argument(
        "--kits",
        type=Path,
        metavar="FILE",
        help=tr("the wool of all split, and a bag for each: a PDF"),
    )
    fair.add_argument("--json", action="store_true", help=tr("as JSON, printed"))
    fair.add_argument(
        "--units", default="mm", metavar="UNITS", help=tr("read and written in: mm, cm or in")
    )


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    bench = default_bench()
    if args.bench:
        bench = load_bench(read_file(args.bench, tr("a bench")), args.bench.name)
    first = day_of(args.first, "--from") if args.first else date.today()
    asked = [_ware_from_arguments(told, bench, words) for told in args.wares]
    wares = [Ware(make_plan(figure, brief, bench), price) for (_, figure, brief), price in asked]
    try:
        fair = plan_fair(wares, bench, first, day_of(args.by, "--by"))
    except (FairError, SittingError) as error:
        raise CommandError(error_words(error, words)) from None
    if args.ics and fair.calendar is not None:
        stamp = datetime.now(UTC)
        write_made(args.ics, calendar_ics(tr("Fair"), fair.steps, fair.calendar, stamp, words))
    made = [
        (name, figure, brief.replaced(count=n))
        for ((name, figure, brief), _), n in zip(asked, fair.counts, strict=True)
        if n
    ]
    if args.kits and made:
        write_made(args.kits, kits_pdf(make_together(made, bench), bench, words))
    if args.json:
        say_json(json.dumps(fair_data(fair, wares, bench), ensure_ascii=False, indent=1) + "\n")
    else:
        print_now("\n".join(_fair_lines(fair, wares, bench, words)) + "\n")


def _ware_from_arguments(told: list[str], bench: Bench, words: Words) -> tuple[Asked, Decimal]:
    """Return one ware from the arguments: its design and its price."""
    figure, height, price = told
    path = Path(figure)
    document = load_document(design_of(path), path.name)
    check_wools(document.figure, bench, path.name)
    mm = length_of(height, "--ware", words)
    assert mm is not None
    try:
        money = parse_money(price, bench.currency)
    except QuantityError as error:
        raise CommandError(f"--ware: {error_words(error, words)}") from None
    brief = document.brief.at_height(mm).replaced(count=1)
    return (document.figure.name, document.figure, brief), money


def fair_data(fair: Fair, wares: list[Ware], bench: Bench) -> dict[str, Any]:
    """Return the fair as plain values: minutes, and amounts in the bench's currency."""
    sittings = fair.calendar.sittings if fair.calendar else ()
    return {
        "currency": bench.currency,
        "wares": [
            {
                "figure": ware.plan.figure,
                "height_mm": ware.plan.to_height_mm,
                "price": float(ware.price),
                "count": count,
            }
            for ware, count in zip(wares, fair.counts, strict=True)
        ],
        "brings": float(fair.brings),
        "hourly": None if fair.hourly is None else round(float(fair.hourly), 2),
        "minutes": fair.minutes,
        "free_minutes": fair.free_min,
        "proved": fair.is_proved,
        "buy_packs": fair.buys,
        "buy_eyes": [{"size_mm": size, "count": n} for size, n in fair.eyes.items()],
        "sittings": [{"start": s.start.isoformat(), "end": s.end.isoformat()} for s in sittings],
    }


def _fair_lines(fair: Fair, wares: list[Ware], bench: Bench, words: Words) -> Iterator[str]:
    for ware, count in zip(wares, fair.counts, strict=True):
        yield f"{count:>3} × {ware.plan.figure}"
    told = {"brings": bench.money_text(fair.brings, words.units), "hours": fair.minutes / 60}
    yield tr("brings {brings} for {hours:.1f} h of work", **told)
    for wool, packs in fair.buys.items():
        yield tr("buy {packs} × {wool}", packs=packs, wool=bench.wool_by_id[wool].name)
    for size, n in fair.eyes.items():
        yield tr("buy {n} eyes {size}", n=n, size=show_bought(size, words.units))
    if fair.calendar is not None:
        yield tr("last sitting {day}", day=fair.calendar.finish.date().isoformat())
    yield tr("No other choice brings more.") if fair.is_proved else tr("A better one may be found.")
