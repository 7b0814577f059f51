"""Arguments shared by several commands: a design, how to plan it, sizes and units; and errors for bad
input."""

from __future__ import annotations

import argparse
import json
import sys
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import TypeAlias

from bambola.core.bench import Bench, check_wools, load_bench
from bambola.core.figure import Brief, Document, SizeRule, load_document
from bambola.core.figure.document import MAX_BYTES
from bambola.core.figure.fields import FIRST_YEAR, LAST_YEAR
from bambola.core.figure.shapes import LEAST_MM
from bambola.core.order import Step
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.reading.asked import set_aside
from bambola.core.quantities import QuantityError, Units, parse_length, parse_mass
from bambola.core.words import Words, error_words
from bambola.files import FileRefusedError, read_regular
from bambola.language import decimal, tr
from bambola.shipped import default_bench
from bambola.store.designs import design_of as taken_out

Commands: TypeAlias = "argparse._SubParsersAction[argparse.ArgumentParser]"
MOST_MM, MOST_G = 10_000.0, 100_000.0
UNITS: dict[str, Units] = {"mm": Units(), "cm": Units("cm"), "in": Units("in", "oz")}
"""Lengths, and the weights that go with them."""


class CommandError(Exception):
    """Raised for bad input; the message is one sentence."""


def design_options(
    command: argparse.ArgumentParser, several: bool = False, named: bool = False
) -> None:
    """Add the arguments for a design, as an option (``named``) or the first argument, and for planning it at
    one height or at ``several``."""
    if named:
        design = tr("the design")
        command.add_argument("--figure", type=Path, metavar="FIGURE", required=True, help=design)
    else:
        command.add_argument("figure", type=Path, metavar="FIGURE")
    told = tr("finished height, such as 220mm or '8 1/2 in'")
    if several:
        command.add_argument(
            "--height",
            metavar="LENGTH",
            action="append",
            default=[],
            dest="heights",
            help=tr("{told}; more than one for a pattern in several sizes", told=told),
        )
    else:
        command.add_argument("--height", metavar="LENGTH", help=told)
    command.add_argument(
        "--bench", type=Path, metavar="FILE", help=tr("a bench as JSON instead of the default")
    )
    command.add_argument(
        "--hold",
        action="append",
        default=[],
        metavar="PART[.MEASURE]",
        help=tr("keep a part, or one measure of it, as it was made"),
    )
    command.add_argument(
        "--corrected",
        action="store_true",
        help=tr(
            "set the face right for the size: larger eyes on a small one, finer lines on a large"
        ),
    )
    command.add_argument(
        "--units",
        default="mm",
        metavar="UNITS",
        help=tr(
            "read and written in: mm (with grams), cm (with grams) or in (with ounces); JSON stays in mm"
        ),
    )


def plan_from_arguments(args: argparse.Namespace, words: Words) -> tuple[Plan, Document, Bench]:
    """Return the plan for the arguments."""
    document, brief, bench = asked_for(args, words)
    return make_plan(document.figure, brief, bench), document, bench


def step_of(plan: Plan, n: int) -> Step:
    """Return the step with a number. Raises :class:`CommandError`."""
    if not 1 <= n <= len(plan.steps):
        raise CommandError(
            tr(
                "There is no step {n}: {figure} is made in steps 1 to {of}.",
                n=n,
                figure=plan.figure,
                of=len(plan.steps),
            )
        )
    return plan.steps[n - 1]


def asked_for(args: argparse.Namespace, words: Words) -> tuple[Document, Brief, Bench]:
    """Return design, brief and bench for the arguments. Ignored entries are reported on standard error."""
    document = load_document(design_of(args.figure), args.figure.name)
    bench = default_bench()
    if args.bench:
        bench = load_bench(read_file(args.bench, tr("a bench")), args.bench.name)
    check_wools(document.figure, bench, args.figure.name)
    for told in set_aside(document.figure, document.brief, bench):
        print(f"bambola: {args.figure.name}: {words.say(told)}", file=sys.stderr)
    return document, brief_of(document, args, words), bench


def design_of(path: Path) -> bytes:
    """Return a design from a file, or the one attached to a packet."""
    return taken_out(read_file(path, tr("a design")), path.name)


def brief_of(document: Document, args: argparse.Namespace, words: Words) -> Brief:
    """Return the design's brief with the given height and held sizes."""
    brief = document.brief
    if args.height is not None:
        try:
            height = parse_length(args.height, words.units.length)
        except QuantityError as error:
            raise CommandError(tr("--height: {told}", told=error_words(error, words))) from None
        if not 0 < height <= 1_000_000:
            raise CommandError(
                tr(
                    "--height: {height} is not allowed; a height lies above 0 and up to 1000 m.",
                    height=args.height,
                )
            )
        brief = brief.at_height(height)
    if args.corrected:
        brief = brief.replaced(corrected=True)
    for held in args.hold:
        part_id, _, measure = held.partition(".")
        part = document.figure.by_id.get(part_id)
        if part is None:
            raise CommandError(
                tr(
                    "--hold: there is no part “{part_id}”; use {by_id}.",
                    part_id=part_id,
                    by_id=", ".join(document.figure.by_id),
                )
            )
        known = part.shape.measure_names
        if measure and measure not in known:
            raise CommandError(
                tr(
                    "--hold: {part_id} has no measure “{measure}”; use {known}.",
                    part_id=part_id,
                    measure=measure,
                    known=", ".join(known),
                )
            )
        rule = SizeRule(measure=measure or "all", rule="hold")
        brief = brief.ruled(part_id, (*brief.rules.get(part_id, ()), rule))
    return brief


def length_of(text: str | None, option: str, words: Words) -> float | None:
    """Return a length from the command line, mm; above 0."""
    if text is None:
        return None
    try:
        mm = parse_length(text, words.units.length)
    except QuantityError as error:
        raise CommandError(f"{option}: {error_words(error, words)}") from None
    if not LEAST_MM <= mm <= MOST_MM:
        raise CommandError(
            tr(
                "{option}: {text} is not allowed; it lies above 0 and up to 10 m.",
                option=option,
                text=text,
            )
        )
    return mm


def mass_of(text: str | None, words: Words) -> float | None:
    """Return a weight from the command line, g; above 0."""
    if text is None:
        return None
    try:
        grams = parse_mass(text, words.units.mass)
    except QuantityError as error:
        raise CommandError(f"--grams: {error_words(error, words)}") from None
    if not 0 < grams <= MOST_G:
        raise CommandError(
            tr("--grams: {text} is not allowed; it lies above 0 and up to 100 kg.", text=text)
        )
    return grams


def day_of(text: str, option: str) -> date:
    """Return a date from the command line. Raises :class:`CommandError`."""
    try:
        day = date.fromisoformat(text)
        if not FIRST_YEAR <= day.year <= LAST_YEAR:
            raise ValueError
        return day
    except ValueError:
        told = tr(
            "{option}: “{text}” is not a day; write it such as 2026-12-12.",
            option=option,
            text=text,
        )
        raise CommandError(told) from None


def units_of(said: str) -> Units:
    """Return the units with this name."""
    known = UNITS.get(said)
    if known is None:
        raise CommandError(
            tr("--units: “{said}” is not known; use {units}.", said=said, units=", ".join(UNITS))
        )
    return replace(known, decimal=decimal(), wisp=tr("a wisp"))


def read_file(path: Path, what: str, most: int = MAX_BYTES) -> bytes:
    """Return the contents of a file of at most ``most`` bytes; ``what`` names it in errors."""
    try:
        return read_regular(path, most, what)
    except FileRefusedError as error:
        raise CommandError(str(error)) from None


def say_json(text: str) -> None:
    """Print JSON; letters the terminal cannot show are escaped."""
    try:
        text.encode(sys.stdout.encoding or "utf-8")
    except UnicodeEncodeError:
        text = json.dumps(json.loads(text), indent=1) + "\n"
    print_now(text)


def print_now(text: str) -> None:
    """Print text and flush it."""
    sys.stdout.write(text)
    sys.stdout.flush()
