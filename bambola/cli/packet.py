"""``bambola packet``: everything on paper, as one PDF."""

from __future__ import annotations

import argparse
from datetime import date
from pathlib import Path

from bambola.cli.arguments import (
    CommandError,
    Commands,
    design_of,
    design_options,
    plan_from_arguments,
)
from bambola.core.export.packet import KIND_BY_ID, PAPERS, Job, packet_pdf
from bambola.core.export.packet.build import attached_name
from bambola.core.export.packet.papers import label_sheets
from bambola.core.figure.fields import in_letters
from bambola.core.words import Words
from bambola.files import write_made
from bambola.language import tr


def options(commands: Commands) -> None:
    """Add the command's options."""
    packet = commands.add_parser("packet", help=tr("put a figure on paper, as one PDF"))
    design_options(packet, several=True)
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
    packet.add_argument(
        "--labels",
        metavar="COUNT",
        help=tr("print the labels on sheets of so many labels instead of plain paper"),
    )
    packet.add_argument(
        "--maker", default="", type=in_letters, metavar="NAME", help=tr("whose pattern it is")
    )
    packet.add_argument(
        "--licence",
        default="",
        type=in_letters,
        metavar="TEXT",
        help=tr("what others may do with it"),
    )
    packet.add_argument(
        "--note", default="", type=in_letters, metavar="TEXT", help=tr("a note for the cover")
    )
    packet.add_argument(
        "--at-length", action="store_true", help=tr("cards with everything to do and to check")
    )
    packet.add_argument("-o", "--output", type=Path, required=True, metavar="FILE",
                        help=tr("the PDF to be written"))  # fmt: skip


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    paper = PAPERS.get(args.paper.lower())
    if paper is None:
        raise CommandError(
            tr(
                "--paper: “{said}” is not known; use {papers}.",
                said=args.paper,
                papers=", ".join(PAPERS),
            )
        )
    sheets = label_sheets(paper)
    if args.labels is not None and args.labels not in sheets:
        known = ", ".join(sheets)
        raise CommandError(
            tr(
                "--labels: there is no sheet of {said} labels on {paper}; use {known}.",
                said=args.labels,
                paper=paper.name,
                known=known,
            )
            if sheets
            else tr("--labels: there are no sheets of labels on {paper}.", paper=paper.name)
        )
    kinds = tuple(name.strip() for name in (args.pages or "").split(",") if name.strip())
    plans = []
    for height in args.heights or [None]:
        args.height = height
        plan, document, bench = plan_from_arguments(args, words)
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
        labels=sheets.get(args.labels),
        at_length=args.at_length,
        design=(attached_name(args.figure.name), design_of(args.figure)),
    )
    write_made(args.output, packet_pdf(job))
