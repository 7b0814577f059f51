"""``bambola begin``: makes a design from a list of parts, as a maker notes them."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from bambola.cli.arguments import CommandError, Commands, length_of, print_now, read_file, units_of
from bambola.core.bench import load_bench
from bambola.core.facts import Fact, Mm, fact
from bambola.core.figure import Brief, Survey
from bambola.core.notes.building import ListedFigure, colour_words, figure_of
from bambola.core.notes.reading import read_notes
from bambola.core.words import Words
from bambola.files import FileRefusedError
from bambola.files.spreadsheet import table_text
from bambola.language import tr
from bambola.shipped import body_plans, default_bench
from bambola.store.designs import new_design, save_design


def options(commands: Commands) -> None:
    """Add the command's options."""
    begun = commands.add_parser(
        "begin", help=tr("make a design of a list of parts, a line a part, such as “2 ears 9 x 7”")
    )
    begun.add_argument(
        "list",
        type=Path,
        metavar="LIST",
        help=tr("the list as text, CSV, TSV or ODS; - reads it from a pipe"),
    )
    begun.add_argument(
        "--height", metavar="LENGTH", help=tr("how tall it is to stand: all sizes are scaled to it")
    )
    begun.add_argument("--name", metavar="NAME", help=tr("what it is called"))
    begun.add_argument(
        "-o", "--output", type=Path, metavar="DESIGN", required=True, help=tr("where to save it")
    )
    begun.add_argument(
        "--bench", type=Path, metavar="FILE", help=tr("a bench as JSON instead of the default")
    )
    begun.add_argument(
        "--units", default="mm", metavar="UNITS", help=tr("lengths are in: mm, cm or in")
    )


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Raises :class:`CommandError` with every line that is not understood, and why."""
    words = Words(units_of(args.units), words.catalogue)
    height = length_of(args.height, "--height", words) if args.height else None
    bench = default_bench()
    if args.bench:
        bench = load_bench(read_file(args.bench, tr("a bench")), args.bench.name)
    text = _read_text(args.list)
    notes = read_notes(text, words.units.length, colour_words(bench))
    if notes.faults:
        told = (fact("notes.at", line=fault.line, why=fault.why) for fault in notes.faults)
        raise CommandError("\n".join(map(words.say, told)))
    plans = [plan.figure for plan in body_plans()]
    found = figure_of(notes, bench, plans, height, args.name or "")
    if found is None:
        raise CommandError(words.say(Fact("notes.nothing")))
    save_design(args.output, found.figure, Brief(), Survey(), new_design(found.figure))
    _print_result(found, words)


def _read_text(path: Path) -> str:
    if str(path) == "-":
        return sys.stdin.read()
    try:
        return table_text(path)
    except FileRefusedError as error:
        raise CommandError(str(error)) from error


def _print_result(found: ListedFigure, words: Words) -> None:
    """Print what was made, and what was assumed."""
    for told in (*found.doubts, *found.taken):
        print_now(words.say(fact("notes.at", line=told.line, why=told.what)) + "\n")
    typed = Mm(found.height_mm)
    if abs(found.scale - 1) > 1e-3:
        print_now(
            words.say(fact("notes.scaled", typed=typed, percent=round(100 * found.scale))) + "\n"
        )
    else:
        print_now(words.say(fact("notes.high", typed=typed)) + "\n")
    count = len(found.figure.parts)
    print_now(tr("{name}: {count} parts.", name=found.figure.name, count=count) + "\n")
