"""``bambola heights``: at which heights something turns, which heights meet conditions, and sizes
compared."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from datetime import date

from bambola.cli.arguments import (
    CommandError,
    Commands,
    asked_for,
    day_of,
    design_options,
    length_of,
    mass_of,
    print_now,
    say_json,
)
from bambola.core.bench import Bench, Niche
from bambola.core.book.costing import cost_of
from bambola.core.export.json_plan import HeightsSheet, heights_json
from bambola.core.figure import Figure
from bambola.core.heights.conditions import (
    Condition,
    EyesOf,
    FitsPlace,
    NoQuestions,
    ReadyBy,
    SizeOf,
    StandsUpright,
    WireOnShelf,
    WoolOnShelf,
    cost_at_most,
    grams_at_most,
    hours_at_most,
    size_is,
)
from bambola.core.heights.values import MOST_BESIDE
from bambola.core.heights.whole import Heights, SizeSeries, sizes_of
from bambola.core.plan import draft_plan
from bambola.core.quantities import QuantityError, parse_money, show_length, show_mass
from bambola.core.words import Words, error_words
from bambola.language import tr

MOST_HOURS = 10_000.0
LEAST_RANGE_MM = 1.0
"""Heights no further apart than this are one height: all sizes are held. Judged."""


def options(commands: Commands) -> None:
    """Add the command's options."""
    heights = commands.add_parser(
        "heights", help=tr("what changes at other heights, and which heights fit your conditions")
    )
    design_options(heights)
    add = heights.add_argument
    add("--wool-on-shelf", action="store_true", help=tr("no wool is to be bought"))
    add("--wire-on-shelf", action="store_true", help=tr("no wire is to be bought"))
    add("--eyes", metavar="SIZE", help=tr("eyes of this size are right, such as 6"))
    add("--hours", type=float, metavar="N", help=tr("made in so many hours"))
    add("--grams", metavar="MASS", help=tr("weighs no more than this when finished, such as 90g"))
    add("--cost", metavar="PRICE", help=tr("it costs no more"))
    add(
        "--size",
        dest="measure",
        nargs=2,
        metavar=("PART.MEASURE", "LENGTH"),
        help=tr("a measure of a part, such as head.width 60mm"),
    )
    add("--room", metavar="LENGTH", help=tr("it fits under this height, ears and all"))
    add("--ready", metavar="DATE", help=tr("ready by this day, such as 2026-12-12"))
    add("--from", dest="first", metavar="DATE", help=tr("begun on; else today"))
    add("--stands", action="store_true", help=tr("it stands"))
    add("--nothing-to-decide", action="store_true", help=tr("no open questions"))
    add(
        "--beside",
        metavar="LENGTH",
        action="append",
        default=[],
        help=tr("a size to be laid beside others; two to five of them"),
    )
    add("--json", action="store_true", help=tr("as JSON, printed"))


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    document, brief, bench = asked_for(args, words)
    beside = [length_of(text, "--beside", words) for text in args.beside]
    if len(beside) == 1 or len(beside) > MOST_BESIDE:
        raise CommandError(tr("--beside: give two to {most} sizes.", most=MOST_BESIDE))
    heights = Heights(document.figure, brief, bench)
    if heights.high - heights.low < LEAST_RANGE_MM:
        raise CommandError(
            tr("{figure} holds its sizes: no other height can be met.", figure=document.figure.name)
        )
    conditions = tuple(_read_conditions(args, heights, words))
    plans = [draft_plan(document.figure, brief.at_height(mm), bench) for mm in beside if mm]
    turns = heights.turns()
    answer = heights.answer(conditions) if conditions else None
    sheet = HeightsSheet(
        document.figure.name,
        document.figure.datum.as_fact,
        heights.made_mm,
        heights.low,
        heights.high,
        turns,
        tuple(heights.fits()),
        heights.sensible(brief.height or heights.made_mm, turns),
        answer,
        answer.best if answer else None,
        sizes_of(plans, bench) if plans else None,
    )
    if args.json:
        say_json(heights_json(sheet))
    else:
        made = draft_plan(document.figure, brief.as_made(), bench)
        unpriced = args.cost is not None and bool(cost_of(made, bench).unpriced)
        print_now("\n".join(_sheet_lines(sheet, unpriced, bench, words)) + "\n")


def _read_conditions(
    args: argparse.Namespace, heights: Heights, words: Words
) -> Iterator[Condition]:
    if args.wool_on_shelf:
        if not any(wool.grams for wool in heights.bench.wools):
            raise CommandError(
                tr(
                    "--wool-on-shelf: nothing is counted on the shelf; name a bench file with "
                    "--bench."
                )
            )
        yield WoolOnShelf()
    if args.wire_on_shelf:
        yield WireOnShelf()
    if args.stands:
        yield StandsUpright()
    if args.nothing_to_decide:
        yield NoQuestions()
    if args.ready is not None:
        first = day_of(args.first, "--from") if args.first else date.today()
        yield ReadyBy(day_of(args.ready, "--ready"), first)
    yield from _read_size_conditions(args, heights, words)
    yield from _read_limits(args, heights.bench, words)


def _read_size_conditions(
    args: argparse.Namespace, heights: Heights, words: Words
) -> Iterator[Condition]:
    eyes, room = length_of(args.eyes, "--eyes", words), length_of(args.room, "--room", words)
    if eyes is not None:
        if not heights.eyes:
            raise CommandError(
                tr("--eyes: {figure} has none that come in sizes.", figure=heights.figure.name)
            )
        yield EyesOf(eyes, heights.eyes)
    if room is not None:
        yield FitsPlace(Niche(name=show_length(room, words.units), height=room))
    if args.measure is not None:
        named, length = args.measure
        yield _read_size_condition(named, length, heights.figure, words)


def _read_limits(args: argparse.Namespace, bench: Bench, words: Words) -> Iterator[Condition]:
    if args.hours is not None:
        if not 0 < args.hours <= MOST_HOURS:
            raise CommandError(
                tr("--hours: {n:g} is not allowed; use more than 0 and up to 10000.", n=args.hours)
            )
        yield hours_at_most(args.hours)
    grams = mass_of(args.grams, words)
    if grams is not None:
        yield grams_at_most(grams)
    if args.cost is not None:
        yield cost_at_most(_parse_price(args.cost, bench, words), bench)


def _parse_price(text: str, bench: Bench, words: Words) -> float:
    try:
        return float(parse_money(text, bench.currency))
    except QuantityError as error:
        raise CommandError(f"--cost: {error_words(error, words)}") from None


def _read_size_condition(named: str, length: str, figure: Figure, words: Words) -> SizeOf:
    part_id, _, measure = named.partition(".")
    part = figure.by_id.get(part_id)
    known = part.shape.measure_names if part else ()
    if part is None or measure not in known:
        names = (f"{p.id}.{m}" for p in figure.parts for m in p.shape.measure_names)
        told = tr(
            "--size: there is no “{named}”; use {names}.", named=named, names=", ".join(names)
        )
        raise CommandError(told)
    mm = length_of(length, "--size", words)
    assert mm is not None
    return size_is(part.name, named, mm)


def _sheet_lines(sheet: HeightsSheet, unpriced: bool, bench: Bench, words: Words) -> Iterator[str]:
    def mm(height: float) -> str:
        return show_length(height, words.units)

    def reach(low: float, high: float) -> str:
        return tr("{low} to {high}", low=mm(low), high=mm(high))

    yield tr(
        "{figure}: made {height}, {datum}; looked at from {low} to {high}",
        figure=sheet.figure,
        height=mm(sheet.from_height_mm),
        datum=words.say(sheet.datum),
        low=mm(sheet.low_mm),
        high=mm(sheet.high_mm),
    )
    yield ""
    for turn in sheet.turns:
        yield f"{mm(turn.height_mm):>10}  {words.say(turn.text)}"
    yield ""
    for fit in sheet.bands:
        yield f"{reach(fit.from_mm, fit.to_mm):>22}  {words.say(fit.text)}"
    yield ""
    if sheet.sensible is None:
        yield tr("At every height there is something to decide.")
    else:
        band = sheet.sensible.band
        yield tr(
            "Nothing to decide from {low} to {high}.",
            low=mm(band.from_mm),
            high=mm(band.to_mm),
        )
    if sheet.answer is not None:
        yield ""
        for met in sheet.answer.each:
            where = ", ".join(reach(b.from_mm, b.to_mm) for b in met.bands) or tr("nowhere")
            yield f"{words.say(met.told)}: {where}"
        spans = ", ".join(reach(b.from_mm, b.to_mm) for b in sheet.answer.together)
        yield tr("All of it: {spans}.", spans=spans) if spans else words.say(sheet.answer.why)
        if unpriced:
            yield tr(
                "Things without a price are not counted: enter prices for wool, eyes, wire and "
                "your hour."
            )
    if sheet.sizes is not None:
        yield ""
        yield from _comparison_lines(sheet.sizes, bench, words)


def _comparison_lines(sizes: SizeSeries, bench: Bench, words: Words) -> Iterator[str]:
    for row in sizes.rows:
        yield tr(
            "{height}: {wool} of wool, {hours:.1f} h, {cost}, {n} to decide",
            height=show_length(row.height_mm, words.units),
            wool=show_mass(row.wool_g, words.units),
            hours=row.minutes / 60,
            cost=bench.money_text(row.cost, words.units),
            n=len(row.questions),
        )
        for change in row.differs:
            yield f"    {words.say(change)}"
    for total in sizes.wools:
        told = tr(
            "all of them: {wool} {mass}", wool=total.name, mass=show_mass(total.grams, words.units)
        )
        buys = tr("buy {packs} × {wool}", packs=total.packs, wool=total.name)
        yield f"{told}; {buys}" if total.packs else told
