"""``bambola book``: lists the makings, shows one, exports or imports them."""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from bambola.cli.arguments import CommandError, Commands, print_now, read_file, say_json
from bambola.core.bench import Making
from bambola.core.book.document import MAX_BYTES, dump_book, load_book
from bambola.core.export.tables import makings_csv
from bambola.core.quantities import show_length
from bambola.core.words import Words
from bambola.files import write_made
from bambola.language import tr, trn
from bambola.shipped import default_bench
from bambola.store.bench_book import BenchBook, bench_path
from bambola.store.database import BenchBookError


def options(commands: Commands) -> None:
    """Add the command's options."""
    book = commands.add_parser("book", help=tr("the book of all figures made"))
    book.add_argument(
        "--bench-book",
        type=Path,
        metavar="FILE",
        help=tr("another bench book than the maker’s own"),
    )
    book.add_argument(
        "--units",
        default="mm",
        metavar="UNITS",
        help=tr("read and written in: mm, cm or in; JSON stays in mm"),
    )
    actions = book.add_subparsers(dest="action", required=True)
    listed = actions.add_parser("list", help=tr("all makings, a line each"))
    listed.add_argument("--json", action="store_true", help=tr("as JSON, printed"))
    shown = actions.add_parser("show", help=tr("one making, whole"))
    shown.add_argument("making", metavar="ID")
    shown.add_argument("--json", action="store_true", help=tr("as JSON, printed"))
    out = actions.add_parser(
        "export", help=tr("write all makings into a file: JSON, or CSV by its ending")
    )
    out.add_argument("-o", "--output", type=Path, metavar="FILE", required=True)
    brought = actions.add_parser("import", help=tr("bring in makings from a file of JSON"))
    brought.add_argument("file", type=Path, metavar="FILE")


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    path = args.bench_book or bench_path()
    if args.bench_book and not path.exists() and args.action != "import":
        raise CommandError(tr("{file}: there is no bench book.", file=path.name))
    try:
        # Who only reads begins no book.
        book = BenchBook(
            path if path.exists() or args.action == "import" else None, default_bench()
        )
        try:
            _ACTIONS[args.action](book, args, words)
        finally:
            book.close()
            book.wait_for_disk()
    except BenchBookError as error:
        raise CommandError(str(error)) from None


def _print_list(book: BenchBook, args: argparse.Namespace, words: Words) -> None:
    found = {name: m for name, m in book.makings().items() if m.is_begun}
    if args.json:
        rows = [{"id": name, **_making_data(making)} for name, making in found.items()]
        say_json(json.dumps(rows, ensure_ascii=False, indent=1) + "\n")
        return
    lines = [_making_line(name, making, words) for name, making in found.items()]
    print_now("\n".join(lines or [tr("Nothing has been made yet.")]) + "\n")


def _print_making(book: BenchBook, args: argparse.Namespace, words: Words) -> None:
    making = book.makings().get(args.making)
    if making is None:
        raise CommandError(tr("{id}: there is no such making.", id=args.making))
    if args.json:
        data = {"id": args.making, **_making_data(making)}
        say_json(json.dumps(data, ensure_ascii=False, indent=1) + "\n")
    else:
        print_now(
            "\n".join((_making_line(args.making, making, words), *_making_lines(making))) + "\n"
        )


def _export_makings(book: BenchBook, args: argparse.Namespace, words: Words) -> None:
    found = book.makings()
    if args.output.suffix.lower() == ".csv":
        write_made(args.output, makings_csv(found, words).encode())
    else:
        whole = {name: book.making(name) for name in found}
        write_made(args.output, dump_book(whole).encode())


def _import_makings(book: BenchBook, args: argparse.Namespace, words: Words) -> None:
    found = load_book(read_file(args.file, tr("a book of makings"), MAX_BYTES), args.file.name)
    book.put_makings(found)
    print_now(trn("{n} making brought in.", "{n} makings brought in.", len(found)) + "\n")


_ACTIONS = {
    "list": _print_list,
    "show": _print_making,
    "export": _export_makings,
    "import": _import_makings,
}


def _making_data(making: Making) -> dict[str, Any]:
    """Return a making as plain values, with derived ones."""
    data = making.model_dump(mode="json", exclude={"begun"})
    return {**data, "hours": round(making.spent / 60, 3), "failed": list(making.failed)}


def _making_line(name: str, making: Making, words: Words) -> str:
    said = [name, making.figure or tr("unnamed")]
    high = making.reached_mm or making.height_mm
    said += [show_length(high, words.units)] if high else []
    said += [tr("{hours:.1f} h", hours=making.spent / 60)]
    said += [
        tr("finished {day}", day=making.finished)
        if making.finished
        else tr("at {step}", step=making.at)
    ]
    return "  ".join(said)


def _making_lines(making: Making) -> Iterator[str]:
    for sitting in making.sittings:
        yield tr(
            "{day}: {minutes:.0f} min, {first} to {last}",
            day=sitting.day,
            minutes=sitting.minutes,
            first=sitting.first,
            last=sitting.last,
        )
    for step in making.failed:
        yield tr(
            "{step} failed: {how}", step=step, how=", ".join(making.mended.get(step, ())) or "–"
        )
    for step, note in making.notes.items():
        if note:
            yield f"{step}: {note}"
    if making.next_time:
        yield tr("Next time: {what}", what=making.next_time)
