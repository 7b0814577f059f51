"""``bambola together``: several figures made at once, variants or other designs, as PDF or JSON."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

from bambola.cli.arguments import (
    CommandError,
    Commands,
    asked_for,
    design_of,
    design_options,
    length_of,
)
from bambola.core.bench import Bench, check_wools
from bambola.core.export.together_sheets import act_words, kits_pdf
from bambola.core.figure import load_document
from bambola.core.plan.counter.together import (
    Asked,
    Together,
    make_together,
    named_variants,
)
from bambola.core.words import Words
from bambola.files import write_made
from bambola.language import tr

MOST = 1000
"""More of one figure are not made at once."""


def options(commands: Commands) -> None:
    """Add the command's options."""
    together = commands.add_parser(
        "together", help=tr("make several variants or figures at once: one weigh-out, one order")
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
        "--with",
        nargs=3,
        action="append",
        default=[],
        dest="others",
        metavar=("FIGURE", "LENGTH", "N"),
        help=tr("another figure that is made too, its height, and how many of it"),
    )
    together.add_argument(
        "-o", "--output", type=Path, metavar="FILE", help=tr("the PDF to be written; else JSON")
    )


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    document, brief, bench = asked_for(args, words)
    known = [variant.name for variant in brief.variants]
    if not known and not args.others:
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
    asked = list(named_variants(document.figure, brief.taking(""), names))
    if args.others:
        if not known:
            asked = [(document.figure.name, document.figure, brief)]
        asked += [_read_other_figure(told, bench, words) for told in args.others]
    both = make_together(asked, bench)
    if args.output is None:
        print(json.dumps(together_data(both, words), ensure_ascii=False, indent=1))
        return
    write_made(args.output, kits_pdf(both, bench, words))


def _read_other_figure(told: list[str], bench: Bench, words: Words) -> Asked:
    """Return another figure from the arguments: its file, height and count."""
    path, height, n = Path(told[0]), told[1], told[2]
    document = load_document(design_of(path), path.name)
    check_wools(document.figure, bench, path.name)
    mm = length_of(height, "--with", words)
    assert mm is not None
    if not (n.isdecimal() and 1 <= int(n) <= MOST):
        raise CommandError(tr("--with: {n} is not allowed; use 1 to 1000.", n=n))
    return (
        document.figure.name,
        document.figure,
        document.brief.at_height(mm).replaced(count=int(n)),
    )


def together_data(both: Together, words: Words) -> dict[str, Any]:
    """Return what is common, as plain values: mm, g, minutes."""
    return {
        "figures": [
            {
                "figure": plan.figure,
                "variant": name,
                "count": plan.count,
                "height_mm": plan.to_height_mm,
                "wool_g": plan.wool_g,
            }
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
                "of": list(act.figure_count),
                "minutes": sum(step.minutes for _, step in act.steps),
                "text": act_words(both, act, words),
            }
            for act in both.acts
        ],
    }
