"""The command line: the same core and the same numbers, without a window.

A new command is a module here with ``options`` and ``run``, and one entry in ``COMMANDS``.
"""

from __future__ import annotations

import argparse
import io
import os
import sys
from collections.abc import Sequence

from bambola import __version__
from bambola.cli import (
    begin,
    book,
    cost,
    fair,
    heights,
    judge,
    measure,
    mend,
    packet,
    plan,
    schema,
    step,
    together,
)
from bambola.cli.arguments import CommandError, units_of
from bambola.core.export.formats import ExportRefusedError
from bambola.core.export.packet import UnknownPageError
from bambola.core.facts import RefusedError
from bambola.core.figure import DocumentError
from bambola.core.methods import SlotError
from bambola.core.order import OrderConflictError
from bambola.core.rescue import ReadingMissingError
from bambola.core.resize import ResizeError
from bambola.core.words import Words, error_words
from bambola.files import ExportError
from bambola.files.picture_job import PictureError
from bambola.language import UnknownLanguageError, choose_language, current_catalogue, tr

BAD_INPUT = 2
COMMANDS = {
    "plan": plan,
    "step": step,
    "packet": packet,
    "together": together,
    "heights": heights,
    "mend": mend,
    "judge": judge,
    "measure": measure,
    "begin": begin,
    "cost": cost,
    "book": book,
    "fair": fair,
    "schema": schema,
}
_REFUSALS = (
    CommandError,
    DocumentError,
    ResizeError,
    OrderConflictError,
    ExportError,
    ExportRefusedError,
    UnknownLanguageError,
    SlotError,
    UnknownPageError,
    ReadingMissingError,
    PictureError,
    RefusedError,
)


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command; returns the exit code: 0 planned, 2 bad input."""
    if isinstance(sys.stdout, io.TextIOWrapper):
        sys.stdout.reconfigure(errors="replace")  # no terminal is refused for want of a letter
    choose_language()
    args = parser().parse_args(argv)
    words = Words()
    try:
        choose_language(args.language)
        words = Words(units_of(getattr(args, "units", "mm")), current_catalogue())
        COMMANDS[args.command].run(args, words)
    except _REFUSALS as error:
        print("bambola:", " ".join(error_words(error, words).split()), file=sys.stderr)
        return BAD_INPUT
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def parser() -> argparse.ArgumentParser:
    """Return the parser of all commands; man page and completion are generated from it."""
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
    for command in COMMANDS.values():
        command.options(commands)
    return parser
