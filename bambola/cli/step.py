"""``bambola step``: prints or draws the card of one step."""

from __future__ import annotations

import argparse
from pathlib import Path

from bambola.cli.arguments import Commands, design_options, plan_from_arguments, print_now, step_of
from bambola.core.export.step_drawn import step_png, step_svg
from bambola.core.methods import Card, card_for
from bambola.core.methods.told import told as card_told
from bambola.core.words import Words
from bambola.files import write_made
from bambola.language import tr


def options(commands: Commands) -> None:
    """Add the command's options."""
    step = commands.add_parser("step", help=tr("tell or draw how one step is done"))
    design_options(step)
    step.add_argument("n", type=int, metavar="N", help=tr("which step, counted from 1"))
    drawn = step.add_mutually_exclusive_group()
    drawn.add_argument("--svg", type=Path, metavar="FILE", help=tr("its picture as SVG"))
    drawn.add_argument("--png", type=Path, metavar="FILE", help=tr("its picture as PNG"))


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    plan, _, bench = plan_from_arguments(args, words)
    step = step_of(plan, args.n)
    if args.svg:
        write_made(args.svg, step_svg(plan, step, bench, words).encode())
    elif args.png:
        write_made(args.png, step_png(plan, step, bench, words))
    else:
        print_now(
            f"{step.n}  {words.say(step.text)}\n\n" + card_text(card_for(plan, step, bench), words)
        )


def card_text(card: Card, words: Words) -> str:
    """Return how a step is done, as a page of plain text."""
    said = card_told(card, words.say)
    lines = [said.start, said.amount, *(f"{n}. {line}" for n, line in enumerate(said.how, 1))]
    lines += [*said.needles, tr("Stop: {stop}", stop=said.stop)]
    for look, else_do in said.checks:
        lines.append(tr("Check: {look} If not: {do}", look=look, do=else_do))
    return "\n".join(line for line in lines if line) + "\n"
