"""The command without a window: the same core, the same numbers."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, date, datetime
from pathlib import Path

from bambola import __version__
from bambola.core.bench import Bench, check_wools, load_bench
from bambola.core.export.advice_json import advice_json
from bambola.core.export.formats import FORMATS, Asked, ExportRefusedError
from bambola.core.export.json_plan import plan_schema
from bambola.core.export.packet import KIND_BY_ID, PAPERS, Job, UnknownPageError, packet_pdf
from bambola.core.export.packet.attached import attached_name, design_in
from bambola.core.export.step_png import step_png
from bambola.core.export.step_svg import step_svg
from bambola.core.facts import RefusedError
from bambola.core.figure import (
    Brief,
    Document,
    DocumentError,
    SizeRule,
    document_schema,
    load_document,
)
from bambola.core.figure.document import MAX_BYTES
from bambola.core.methods import Card, SlotError, card_for
from bambola.core.methods.told import told as card_told
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.reading.asked import set_aside
from bambola.core.quantities import (
    QuantityError,
    Units,
    parse_length,
    parse_mass,
    show_bought,
    show_length,
    show_mass,
)
from bambola.core.rescue import SYMPTOM_BY_ID, Reading, ReadingMissingError, advise
from bambola.core.resize import ResizeError
from bambola.core.words import Words, error_words
from bambola.files import ExportError, FileRefusedError, read_regular, write_made
from bambola.language import UnknownLanguageError, decimal, learn, spoken, tr
from bambola.shipped import default_bench

BAD_INPUT = 2
PDF = b"%PDF"
MOST_MM, MOST_G = 10_000.0, 100_000.0
UNITS: dict[str, Units] = {"mm": Units(), "cm": Units("cm"), "in": Units("in", "oz")}
"""Lengths, and the weights that go with them."""


class _RefusedError(Exception):
    """Bad input, in one sentence."""


_REFUSALS = (
    _RefusedError,
    DocumentError,
    ResizeError,
    OrderConflictError,
    ExportError,
    ExportRefusedError,
    UnknownLanguageError,
    SlotError,
    UnknownPageError,
    ReadingMissingError,
)


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command; returns the exit code: 0 planned, 2 bad input."""
    learn()
    args = parser().parse_args(argv)
    words = Words()
    try:
        learn(args.language)
        words = Words(_units(getattr(args, "units", "mm")), spoken())
        if args.command == "schema":
            schema = plan_schema() if args.of == "plan" else document_schema()
            _say(json.dumps(schema, indent=1, ensure_ascii=False) + "\n")
        else:
            {"plan": _plan, "step": _step, "packet": _packet, "mend": _mend}[args.command](
                args, words
            )
    except _REFUSALS as error:
        print("bambola:", " ".join(error_words(error, words).split()), file=sys.stderr)
        return BAD_INPUT
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def parser() -> argparse.ArgumentParser:
    """What the command understands; man page and completion are read off it."""
    parser = argparse.ArgumentParser(
        prog="bambola", description=tr("Resize a needle-felted figure.")
    )
    parser.add_argument("--version", action="version", version=f"Bambola {__version__}")
    parser.add_argument(
        "--language",
        metavar="LANGUAGE",
        help=tr("the language to speak, such as en, instead of the system’s"),
    )
    commands = parser.add_subparsers(dest="command", required=True)
    plan = commands.add_parser("plan", help=tr("compute a figure's plan"))
    _design_options(plan)
    group = plan.add_mutually_exclusive_group()
    for form in FORMATS:
        option, told = f"--{form.id}", tr(form.told)
        if form.id == "json":
            group.add_argument(option, action="store_true", help=tr("{told}, printed", told=told))
        else:
            where = "DIR" if form.is_folder else "FILE"
            group.add_argument(option, type=Path, metavar=where, help=told)
    step = commands.add_parser("step", help=tr("tell or draw how one step is done"))
    _design_options(step)
    step.add_argument("n", type=int, metavar="N", help=tr("which step, counted from 1"))
    drawn = step.add_mutually_exclusive_group()
    drawn.add_argument("--svg", type=Path, metavar="FILE", help=tr("its picture as SVG"))
    drawn.add_argument("--png", type=Path, metavar="FILE", help=tr("its picture as PNG"))
    packet = commands.add_parser("packet", help=tr("put a figure on paper, as one PDF"))
    _design_options(packet, several=True)
    packet.add_argument(
        "--paper",
        default="a4",
        metavar="PAPER",
        help=tr("the paper: {papers}", papers=", ".join(PAPERS)),
    )
    packet.add_argument(
        "--pages",
        metavar="KINDS",
        help=tr("which pages, such as cover,figure; of {kinds}", kinds=", ".join(KIND_BY_ID)),
    )
    packet.add_argument("--maker", default="", metavar="NAME", help=tr("whose pattern it is"))
    packet.add_argument(
        "--licence", default="", metavar="TEXT", help=tr("what others may do with it")
    )
    packet.add_argument("--note", default="", metavar="TEXT", help=tr("a note for the cover"))
    packet.add_argument("-o", "--output", type=Path, required=True, metavar="FILE",
                        help=tr("the PDF to be written"))  # fmt: skip
    mend = commands.add_parser("mend", help=tr("say what to do about a part that went wrong"))
    _design_options(mend)
    mend.add_argument("--part", required=True, metavar="PART", help=tr("which part"))
    mend.add_argument(
        "--symptom",
        required=True,
        metavar="SYMPTOM",
        help=tr("what is seen: {symptoms}", symptoms=", ".join(SYMPTOM_BY_ID)),
    )
    for option, told in (
        ("--length", tr("its length over all, now")),
        ("--thickness", tr("its thickness, now")),
        ("--grams", tr("its weight, now")),
        ("--twin-length", tr("the other one's length, where two are compared")),
        ("--twin-thickness", tr("the other one's thickness")),
    ):
        mend.add_argument(option, metavar="SIZE", help=told)
    mend.add_argument("--firmness", metavar="HOW", help=tr("how it feels: soft, medium or firm"))
    mend.add_argument("--json", action="store_true", help=tr("the advice as JSON"))
    schema = commands.add_parser("schema", help=tr("print a JSON Schema"))
    schema.add_argument("of", choices=("plan", "figure"))
    return parser


def _design_options(command: argparse.ArgumentParser, several: bool = False) -> None:
    """A design, and how it is to be planned: at one height, or at ``several``."""
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
        "--units",
        default="mm",
        metavar="UNITS",
        help=tr(
            "read and written in: mm (with grams), cm (with grams) or in (with ounces); JSON stays in mm"
        ),
    )


_FEELS = ("soft", "medium", "firm")


def _mend(args: argparse.Namespace, words: Words) -> None:
    plan, _, bench = _planned(args, words)
    if args.part not in plan.resized.figure.by_id:
        known = ", ".join(plan.resized.figure.by_id)
        raise _RefusedError(
            tr("--part: there is no part “{part}”; use {known}.", part=args.part, known=known)
        )
    symptom = SYMPTOM_BY_ID.get(args.symptom)
    if symptom is None:
        known = ", ".join(SYMPTOM_BY_ID)
        raise _RefusedError(
            tr("--symptom: “{said}” is not known; use {known}.", said=args.symptom, known=known)
        )
    if args.firmness not in (None, *_FEELS):
        raise _RefusedError(
            tr("--firmness: “{said}” is not known; use soft, medium or firm.", said=args.firmness)
        )
    reading = Reading(
        _length_of(args.length, "--length", words),
        _length_of(args.thickness, "--thickness", words),
        _mass_of(args.grams, words),
        args.firmness,
        _length_of(args.twin_length, "--twin-length", words),
        _length_of(args.twin_thickness, "--twin-thickness", words),
    )
    advice = advise(plan, args.part, symptom, reading, bench)
    if args.json:
        _say(advice_json(advice))
    else:
        lines = [words.say(a.told) for a in advice.actions] or [words.say(w) for w in advice.words]
        _say("\n".join([*lines, *(words.say(f) for f in advice.follows)]) + "\n")


def _length_of(text: str | None, option: str, words: Words) -> float | None:
    """A size typed on the command line, mm; above 0."""
    if text is None:
        return None
    try:
        mm = parse_length(text, words.units.length)
    except QuantityError as error:
        raise _RefusedError(f"{option}: {error_words(error, words)}") from None
    if not 0 < mm <= MOST_MM:
        raise _RefusedError(
            tr(
                "{option}: {text} is not allowed; it lies above 0 and up to 10 m.",
                option=option,
                text=text,
            )
        )
    return mm


def _mass_of(text: str | None, words: Words) -> float | None:
    if text is None:
        return None
    try:
        grams = parse_mass(text, words.units.mass)
    except QuantityError as error:
        raise _RefusedError(f"--grams: {error_words(error, words)}") from None
    if not 0 < grams <= MOST_G:
        raise _RefusedError(
            tr("--grams: {text} is not allowed; it lies above 0 and up to 100 kg.", text=text)
        )
    return grams


def _design(path: Path) -> bytes:
    """A design, or the one that travels within a packet."""
    data = _read(path, tr("a design"))
    if not data.startswith(PDF):
        return data
    try:
        return design_in(data)[1]
    except RefusedError as error:
        raise _RefusedError(f"{path.name}: {error_words(error, Words())}") from None


def _packet(args: argparse.Namespace, words: Words) -> None:
    paper = PAPERS.get(args.paper.lower())
    if paper is None:
        raise _RefusedError(
            tr(
                "--paper: “{said}” is not known; use {papers}.",
                said=args.paper,
                papers=", ".join(PAPERS),
            )
        )
    kinds = tuple(name.strip() for name in (args.pages or "").split(",") if name.strip())
    plans = []
    for height in args.heights or [None]:
        args.height = height
        plan, document, bench = _planned(args, words)
        plans.append(plan)
    plans.sort(key=lambda plan: plan.to_height_mm)
    job = Job(
        tuple(plans),
        document.figure,
        bench,
        date.today(),
        paper,
        kinds,
        words,
        maker=args.maker,
        licence=args.licence,
        note=args.note,
        design=(attached_name(args.figure.name), _design(args.figure)),
    )
    write_made(args.output, packet_pdf(job))


def _planned(args: argparse.Namespace, words: Words) -> tuple[Plan, Document, Bench]:
    """The plan that is asked for, of which design and on which bench."""
    document = load_document(_design(args.figure), args.figure.name)
    bench = default_bench()
    if args.bench:
        bench = load_bench(_read(args.bench, tr("a bench")), args.bench.name)
    check_wools(document.figure, bench, args.figure.name)
    for told in set_aside(document.figure, document.brief):
        print(f"bambola: {args.figure.name}: {words.say(told)}", file=sys.stderr)
    return make_plan(document.figure, _brief(document, args, words), bench), document, bench


def _step(args: argparse.Namespace, words: Words) -> None:
    plan, _, bench = _planned(args, words)
    if not 1 <= args.n <= len(plan.steps):
        raise _RefusedError(
            tr(
                "There is no step {n}: {figure} is made in steps 1 to {of}.",
                n=args.n,
                figure=plan.figure,
                of=len(plan.steps),
            )
        )
    step = plan.steps[args.n - 1]
    if args.svg:
        write_made(args.svg, step_svg(plan, step, bench, words).encode())
    elif args.png:
        write_made(args.png, step_png(plan, step, bench, words))
    else:
        _say(
            f"{step.n}  {words.say(step.text)}\n\n" + card_text(card_for(plan, step, bench), words)
        )


def _plan(args: argparse.Namespace, words: Words) -> None:
    plan, document, bench = _planned(args, words)
    form = next((form for form in FORMATS if getattr(args, form.id)), None)
    if form is not None:
        asked = Asked(plan, document.figure, bench, date.today(), datetime.now(UTC), words)
        made, where = form.make(asked), getattr(args, form.id)
        if isinstance(where, Path):
            write_made(where, made)
        elif isinstance(made, bytes):
            _say(made.decode())
    else:
        _say(summary(plan, words))


def _units(said: str) -> Units:
    known = UNITS.get(said)
    if known is None:
        raise _RefusedError(
            tr("--units: “{said}” is not known; use {units}.", said=said, units=", ".join(UNITS))
        )
    return replace(known, decimal=decimal())


def _brief(document: Document, args: argparse.Namespace, words: Words) -> Brief:
    brief = document.brief
    if args.height is not None:
        try:
            height = parse_length(args.height, words.units.length)
        except QuantityError as error:
            raise _RefusedError(tr("--height: {told}", told=error_words(error, words))) from None
        if not 0 < height <= 1_000_000:
            raise _RefusedError(
                tr(
                    "--height: {height} is not allowed; a height lies above 0 and up to 1000 m.",
                    height=args.height,
                )
            )
        brief = brief.at(height)
    for held in args.hold:
        part_id, _, measure = held.partition(".")
        part = document.figure.by_id.get(part_id)
        if part is None:
            raise _RefusedError(
                tr(
                    "--hold: there is no part “{part_id}”; use {by_id}.",
                    part_id=part_id,
                    by_id=", ".join(document.figure.by_id),
                )
            )
        known = part.shape.measure_names
        if measure and measure not in known:
            raise _RefusedError(
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


def _read(path: Path, what: str) -> bytes:
    try:
        return read_regular(path, MAX_BYTES, what)
    except FileRefusedError as error:
        raise _RefusedError(str(error)) from None


def _say(text: str) -> None:
    sys.stdout.write(text)
    sys.stdout.flush()


def card_text(card: Card, words: Words) -> str:
    """How a step is done, as a page of plain text."""
    said = card_told(card, words.say)
    lines = [said.start, said.amount, *(f"{n}. {line}" for n, line in enumerate(said.how, 1))]
    lines += [*said.needles, tr("Stop: {stop}", stop=said.stop)]
    for look, else_do in said.checks:
        lines.append(tr("Check: {look} If not: {do}", look=look, do=else_do))
    return "\n".join(line for line in lines if line) + "\n"


def summary(plan: Plan, words: Words) -> str:
    """The plan in a page of plain text."""
    units = words.units
    lines = [
        tr(
            "{figure}: {from_height} to {height}, {datum}, every length × {scale:.3f}",
            figure=plan.figure,
            from_height=show_length(plan.from_height_mm, units),
            height=show_length(plan.to_height_mm, units),
            datum=words.say(plan.datum),
            scale=plan.scale,
        ),
        tr(
            "{wool} of wool, about {minutes:.1f} h, {n} steps",
            wool=show_mass(plan.wool_g, units),
            minutes=plan.minutes / 60,
            n=len(plan.steps),
        ),
        "",
    ]
    for part in plan.parts:
        sizes = " × ".join(show_length(mm, units, with_unit=False) for mm in part.to_mm.values())
        wool = ", ".join(
            f"{p.wool} {show_mass(p.take_g, units)}" for p in part.portions if p.grams > 0
        )
        lines.append(
            tr(
                "{count} {name:<10} {sizes:<22} {length}  {made:<9} take {wool}",
                count=part.count,
                name=part.name,
                sizes=sizes,
                length=units.length,
                made=part.made,
                wool=wool,
            )
        )
    lines.append("")
    lines += [
        tr(
            "{name}: cut {cut} of {stock} {diameter}",
            name=words.say(w.name),
            cut=show_length(w.cut_mm, units),
            stock=w.stock,
            diameter=show_bought(w.diameter_mm, units),
        )
        for w in plan.wires
    ]
    lines.append("")
    lines += [f"{s.n:>3}  {words.say(s.text)}" for s in plan.steps]
    notices = [n for n in plan.notices if n.level != "note"]
    lines += (
        ["", *(f"{n.level}: {words.say(n.title)}. {words.say(n.text)}" for n in notices)]
        if notices
        else []
    )
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    sys.exit(main())
