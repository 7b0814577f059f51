"""Variants of a figure made at once: one weigh-out and one order, as PDF or JSON."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

from bambola.cli.asked import CommandError, Commands, asked_for, design_options
from bambola.core.export.packet.papers import PAPERS
from bambola.core.export.together_sheets import act_words, together_pdf
from bambola.core.plan.counter.together import Together, make_together, splits_together
from bambola.core.words import Words
from bambola.files import write_made
from bambola.language import tr

PATIENCE_S = 3.0
"""So long a colour's tree is looked for."""


def options(commands: Commands) -> None:
    """What it understands."""
    together = commands.add_parser(
        "together", help=tr("make several variants of a figure at once: one weigh-out, one order")
    )
    design_options(together)
    together.add_argument(
        "--variant",
        action="append",
        default=[],
        dest="variants",
        metavar="NAME",
        help=tr("a variant that is made too, by its name; all of them if none is named"),
    )
    together.add_argument(
        "--without-made", action="store_true", help=tr("leave out the figure as it was made")
    )
    together.add_argument(
        "-o", "--output", type=Path, metavar="FILE", help=tr("the PDF to be written; else JSON")
    )


def run(args: argparse.Namespace, words: Words) -> None:
    """Do it. Bad input raises what the command tells in one sentence."""
    document, brief, bench = asked_for(args, words)
    known = [variant.name for variant in brief.variants]
    if not known:
        raise CommandError(tr("{figure} has no variants.", figure=args.figure.name))
    for name in args.variants:
        if name not in known:
            raise CommandError(
                tr(
                    "--variant: “{said}” is not known; use {names}.",
                    said=name,
                    names=", ".join(known),
                )
            )
    names = ([] if args.without_made else [""]) + (args.variants or known)
    both = make_together(document.figure, brief.taking(""), bench, names)
    if args.output is None:
        print(json.dumps(together_data(both, words), ensure_ascii=False, indent=1))
        return
    splits = splits_together(both, bench, PATIENCE_S)
    write_made(args.output, together_pdf(both, bench, words, splits, PAPERS["a4"]))


def together_data(both: Together, words: Words) -> dict[str, Any]:
    """What is common, as plain values: mm, g, minutes."""
    return {
        "figures": [
            {"variant": name, "height_mm": plan.to_height_mm, "wool_g": plan.wool_g}
            for name, plan in zip(both.names, both.plans, strict=True)
        ],
        "wools": [
            {
                "wool": total.wool,
                "grams": [both.grams(i, total.wool) for i in range(len(both.plans))],
                "taken_g": total.taken_g,
                "packs": total.packs,
            }
            for total in both.wools
        ],
        "acts": [
            {
                "key": act.step.key,
                "of": list(act.of),
                "minutes": sum(step.minutes for _, step in act.steps),
                "text": act_words(both, act, words),
            }
            for act in both.acts
        ],
    }
