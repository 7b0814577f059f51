"""``bambola mend``: what to do about a part that went wrong."""

from __future__ import annotations

import argparse

from bambola.cli.arguments import (
    CommandError,
    Commands,
    design_options,
    length_of,
    mass_of,
    plan_from_arguments,
    print_now,
    say_json,
)
from bambola.core.export.json_plan import advice_json
from bambola.core.rescue import SYMPTOM_BY_ID, PieceReading, advise
from bambola.core.words import Words
from bambola.language import tr

_FEELS = ("soft", "medium", "firm")


def options(commands: Commands) -> None:
    """Add the command's options."""
    mend = commands.add_parser("mend", help=tr("say what to do about a part that went wrong"))
    design_options(mend)
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


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    plan, _, bench = plan_from_arguments(args, words)
    if args.part not in plan.resized.figure.by_id:
        known = ", ".join(plan.resized.figure.by_id)
        raise CommandError(
            tr("--part: there is no part “{part}”; use {known}.", part=args.part, known=known)
        )
    symptom = SYMPTOM_BY_ID.get(args.symptom)
    if symptom is None:
        known = ", ".join(SYMPTOM_BY_ID)
        raise CommandError(
            tr("--symptom: “{said}” is not known; use {known}.", said=args.symptom, known=known)
        )
    if args.firmness not in (None, *_FEELS):
        raise CommandError(
            tr("--firmness: “{said}” is not known; use soft, medium or firm.", said=args.firmness)
        )
    reading = PieceReading(
        length_of(args.length, "--length", words),
        length_of(args.thickness, "--thickness", words),
        mass_of(args.grams, words),
        args.firmness,
        length_of(args.twin_length, "--twin-length", words),
        length_of(args.twin_thickness, "--twin-thickness", words),
    )
    advice = advise(plan, args.part, symptom, reading, bench)
    if args.json:
        say_json(advice_json(advice))
    else:
        lines = [words.say(a.told) for a in advice.actions] or [words.say(w) for w in advice.words]
        print_now("\n".join([*lines, *(words.say(f) for f in advice.follows)]) + "\n")
