"""``bambola measure``: makes a design from pictures of a figure."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Mapping
from pathlib import Path
from typing import get_args

from bambola.cli.arguments import CommandError, Commands, length_of, print_now, read_file, units_of
from bambola.core.bench import Bench, load_bench
from bambola.core.facts import Fact
from bambola.core.figure import Brief, Framing, Sight
from bambola.core.plan.reading.proposing import propose_figure
from bambola.core.sight.blobs import DividedPicture
from bambola.core.sight.framing import are_swapped, find_framing, taken_apart, told_of
from bambola.core.sight.silhouette import Silhouette, separate_silhouette
from bambola.core.strokes.document import check_strokes, load_strokes
from bambola.core.strokes.drawing import StrokedPicture, draw_figure
from bambola.core.words import Words
from bambola.files.pictures import ReadPicture, read_picture
from bambola.language import part_name, tr, trn
from bambola.shipped import body_plans, default_bench, plan_names
from bambola.store.designs import new_design, save_design

NONE = "none"
"""For like no body plan."""
SUREST = 0.6
"""Parts less sure than this are told to be looked at. Judged."""


def options(commands: Commands) -> None:
    """Add the command's options."""
    measured = commands.add_parser(
        "measure", help=tr("propose a figure’s parts from pictures of it, as a design")
    )
    for view in get_args(Sight):
        measured.add_argument(
            f"--{view}",
            type=Path,
            metavar="PICTURE",
            help=tr("the figure’s picture, view: {view}", view=view),
        )
    measured.add_argument(
        "--height", metavar="LENGTH", required=True, help=tr("how tall the figure stands")
    )
    plans = plan_names()
    measured.add_argument(
        "--like",
        choices=(*plans, NONE),
        metavar="PLAN",
        help=tr(
            "the body plan it is like ({plans}), or none; else the likeliest, if it is like one",
            plans=", ".join(plans),
        ),
    )
    measured.add_argument(
        "--strokes",
        type=Path,
        metavar="FILE",
        help=tr(
            "a line along each part as JSON (see bambola schema strokes), instead of proposing"
        ),
    )
    measured.add_argument("--name", metavar="NAME", help=tr("what it is called"))
    measured.add_argument(
        "-o", "--output", type=Path, metavar="DESIGN", required=True, help=tr("where to save it")
    )
    measured.add_argument(
        "--bench", type=Path, metavar="FILE", help=tr("a bench as JSON instead of the default")
    )
    measured.add_argument(
        "--units", default="mm", metavar="UNITS", help=tr("lengths are in: mm, cm or in")
    )


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    words = Words(units_of(args.units), words.catalogue)
    height = length_of(args.height, "--height", words)
    assert height is not None
    bench = default_bench()
    if args.bench:
        bench = load_bench(read_file(args.bench, tr("a bench")), args.bench.name)
    pictures: dict[Sight, Path] = {
        view: getattr(args, view) for view in get_args(Sight) if getattr(args, view)
    }
    if not pictures.keys() & {"front", "side", "back"}:
        raise CommandError(tr("--front, --side or --back: at least one picture is needed."))
    name = args.name or args.output.name.partition(".")[0]
    if args.strokes:
        _draw_from_strokes(args, pictures, height, bench, name, words)
        return
    views = _divided_pictures(pictures, height, words)
    plans = [plan for plan in body_plans() if args.like in (None, plan.figure.id)]
    found = propose_figure(views, height, bench, name, part_name, plans=plans)
    found, unknown = found.with_names_only(part_name(""))
    figure = found.figure
    save_design(args.output, figure, Brief(), found.survey, new_design(figure))
    if found.like:
        print_now(tr("Proposed from the body plan: {plan}.", plan=found.like) + "\n")
    for part, sure in sorted(found.sure.items(), key=lambda one: one[1]):
        if sure < SUREST:
            told = tr("{name}: not sure; look at it.", name=figure.by_id[part].name)
            print_now(f"{told}\n")
    if unknown:
        told = trn(
            "One more part was found, but not what it is: draw a stroke along it (--strokes).",
            "{n} more parts were found, but not what they are: draw a stroke along each "
            "(--strokes).",
            unknown,
        )
        print_now(f"{told}\n")
    print_now(tr("{name}: {count} parts.", name=name, count=len(figure.parts)) + "\n")


def _draw_from_strokes(
    args: argparse.Namespace,
    pictures: Mapping[Sight, Path],
    height: float,
    bench: Bench,
    name: str,
    words: Words,
) -> None:
    """Make the figure from strokes along its parts, and print what no picture shows."""
    strokes = load_strokes(read_file(args.strokes, tr("a file of strokes")), args.strokes.name)
    stroked: dict[Sight, StrokedPicture] = {}
    for view, path in pictures.items():
        taken = read_picture(path)
        stroked[view] = StrokedPicture(
            _framing_without_figure(view, path, taken), taken.pixels, taken.scale
        )
    check_strokes(strokes, {view: picture.framing for view, picture in stroked.items()})
    plans = [plan.figure for plan in body_plans()]
    found = draw_figure(stroked, strokes, height, bench, plans, name)
    save_design(args.output, found.figure, Brief(), found.survey, new_design(found.figure))
    for remark in found.remarks:
        print_now(words.say(remark) + "\n")
    print_now(tr("{name}: {count} parts.", name=name, count=len(found.figure.parts)) + "\n")


def _framing_without_figure(view: Sight, path: Path, taken: ReadPicture) -> Framing:
    """Return the framing of a picture before its figure is found."""
    return Framing(
        view=view,
        picture=str(path),
        width=taken.width,
        height=taken.height,
        ground=taken.height,
        midline=taken.width / 2,
    )


def _divided_pictures(
    pictures: dict[Sight, Path], height: float, words: Words
) -> dict[Sight, DividedPicture]:
    """Return each picture framed by its figure and divided into regions."""
    views: dict[Sight, DividedPicture] = {}
    outlines: dict[Sight, Silhouette] = {}
    for view, path in pictures.items():
        taken = read_picture(path)
        silhouette = separate_silhouette(taken.pixels, scale=taken.scale)
        if silhouette.is_empty:
            raise CommandError(tr("{file}: no figure is seen in it.", file=path.name))
        wrong = told_of(silhouette)
        if wrong is not None:
            raise CommandError(f"{path.name}: {words.say(wrong)}.")
        outlines[view] = silhouette
        front = views["front"].framing.mm_px if "front" in views else None
        framing = find_framing(
            _framing_without_figure(view, path, taken), silhouette, height, front
        )
        views[view] = taken_apart(framing, taken.pixels, silhouette, taken.scale)
    if (
        "front" in outlines
        and "side" in outlines
        and are_swapped(outlines["front"], outlines["side"])
    ):
        print(f"bambola: {words.say(Fact('sight.swapped'))}", file=sys.stderr)
    return views
