"""``bambola judge``: measures a piece, or the finished figure, on a picture with a card."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

from bambola.cli.arguments import (
    Commands,
    design_options,
    plan_from_arguments,
    print_now,
    say_json,
    step_of,
)
from bambola.core.rescue.judged import Judged, judge_piece
from bambola.core.rescue.upright import StandingJudgement, judge_upright
from bambola.core.words import ENGLISH, Words
from bambola.files.pictures import read_picture
from bambola.language import tr

PLACES = 2


def options(commands: Commands) -> None:
    """Add the command's options."""
    judged = commands.add_parser(
        "judge", help=tr("judge a piece, or the finished figure, by a picture of it beside a card")
    )
    judged.add_argument("picture", type=Path, metavar="PICTURE", help=tr("the picture"))
    design_options(judged, named=True)
    judged.add_argument(
        "--step",
        type=int,
        metavar="N",
        help=tr("the step whose piece lies there; without it, the finished figure from the front"),
    )
    judged.add_argument("--json", action="store_true", help=tr("as JSON, printed"))


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    plan, _, bench = plan_from_arguments(args, words)
    picture = read_picture(args.picture)
    if args.step is None:
        stood = judge_upright(plan, picture.pixels)
        _print_judgement(stood_data(stood) if args.json else None, stood, words)
        return
    judged = judge_piece(plan, step_of(plan, args.step), bench, picture.pixels, picture.lens_mm)
    _print_judgement(judged_data(judged) if args.json else None, judged, words)


def _print_judgement(
    data: dict[str, Any] | None, found: Judged | StandingJudgement, words: Words
) -> None:
    if data is None:
        print_now("\n".join(words.say(line) for line in found.as_facts) + "\n")
    else:
        say_json(json.dumps(data, ensure_ascii=False, indent=1) + "\n")


def judged_data(judged: Judged) -> dict[str, Any]:
    """Return what was read of a piece as plain values: mm; ``differ`` is null for one piece alone."""
    return {
        "part": judged.part,
        "known_by": judged.known,
        "within": judged.is_right,
        "measures": [
            {
                "what": one.what,
                "wanted_mm": round(one.wanted, PLACES),
                "found_mm": round(one.found, PLACES),
                "within": one.is_right,
            }
            for one in judged.measures
        ],
        "widths_mm": [round(width, PLACES) for width in judged.widths],
        "differ": None if judged.differ is None else round(judged.differ, 4),
        "told": [ENGLISH.say(line) for line in judged.as_facts],
    }


def stood_data(stood: StandingJudgement) -> dict[str, Any]:
    """Return what was read of a finished figure as plain values: mm and degrees."""
    return {
        "within": stood.is_right,
        "height_mm": round(stood.height, PLACES),
        "planned_mm": round(stood.planned, PLACES),
        "leans_deg": round(stood.leans, PLACES),
        "tops_differ_mm": round(stood.tops, PLACES),
        "eyes_differ_mm": None if stood.eyes is None else round(stood.eyes, PLACES),
        "told": [ENGLISH.say(line) for line in stood.as_facts],
    }
