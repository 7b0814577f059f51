"""From pictures with strokes to a figure: outlines, scales, widths, then all parts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.bench import Bench
from bambola.core.figure import Figure, Framing, Survey, Trace
from bambola.core.figure.survey import Sight, Spot
from bambola.core.notes.building import meant_kind
from bambola.core.notes.reading import read_name
from bambola.core.sight.build import origin_of
from bambola.core.sight.framing import find_framing, told_of
from bambola.core.sight.silhouette import Pixels, Silhouette, separate_silhouette
from bambola.core.solids import AXES, place
from bambola.core.strokes.building import DrawnFigure, figure_drawn
from bambola.core.strokes.contour import edge_view
from bambola.core.strokes.document import PartStroke
from bambola.core.strokes.grouping import StrokeLine, agreed_levels
from bambola.core.strokes.outline import colours_under, covers_lines, separate_drawn
from bambola.core.strokes.reading import ReadPart, read_parts

Array = NDArray[np.float64]

FRONT_SITES = ("snout", "nose", "muzzle", "eye", "beard", "belly", "cheek", "front", "foot")
BACK_SITES = ("rump", "back", "spine", "fluke")
"""Where parts sit that tell which way a figure looks."""
STEADY_MM, UNSTEADY = 1.0, 0.02
"""A hand strays by so much, or by this share of what it draws. Judged. See craft.md, 9."""


@dataclass(frozen=True)
class StrokedPicture:
    """A picture with strokes: its ``pixels`` (rows, columns, 3) RGB, which may be smaller than the file by
    ``scale``, its framing (scale and ground line are found later), and its silhouette if known."""

    framing: Framing
    pixels: Pixels
    scale: float
    silhouette: Silhouette | None = None


def draw_figure(
    pictures: Mapping[Sight, StrokedPicture],
    strokes: Sequence[PartStroke],
    height: float,
    bench: Bench,
    plans: Sequence[Figure],
    name: str,
) -> DrawnFigure:
    """Return the figure, ``height`` mm tall, whose parts have ``strokes`` along them in ``pictures``. Raises
    ``ValueError`` if no such figure can be built."""
    seen = _outline_again(pictures, strokes)
    framings = {
        view: find_framing(picture.framing, outline, height)
        for view, (picture, outline, _) in seen.items()
    }
    for view, (times, up) in agreed_levels(_stroke_lines(strokes, framings)).items():
        framings[view] = _rescaled_framing(framings[view], up, times)
    if looks_the_other_way(_stroke_lines(strokes, framings)):
        side = framings["side"]
        framings["side"] = side.replaced(flipped=not side.flipped)
    lines = _stroke_lines(strokes, framings)
    edges = {
        view: edge_view(framings[view], picture.pixels, outline, picture.scale, is_sure)
        for view, (picture, outline, is_sure) in seen.items()
    }
    drawn = read_parts(lines, edges)
    survey = Survey(framings=tuple(framings.values()))
    found = figure_drawn(drawn, survey, bench, plans, name)
    return _rebuild_to_height(found, drawn, height, bench, plans, name)


def _outline_again(
    pictures: Mapping[Sight, StrokedPicture], strokes: Sequence[PartStroke]
) -> dict[Sight, tuple[StrokedPicture, Silhouette, bool]]:
    """Return each picture with its silhouette, separated again with the strokes if it is not exactly the
    figure, and whether that was needed."""
    lines = {
        view: [np.array(s.points, dtype=np.float64) for s in strokes if s.view == view]
        for view in pictures
    }
    found: dict[Sight, tuple[StrokedPicture, Silhouette, bool]] = {}
    felt: Array | None = None
    for view, picture in pictures.items():
        if not lines[view]:
            continue
        outline = picture.silhouette or separate_silhouette(picture.pixels, scale=picture.scale)
        is_sure = told_of(outline) is None and covers_lines(outline, lines[view])
        if not is_sure:
            if felt is None:
                under = (colours_under(p.pixels, lines[v], p.scale) for v, p in pictures.items())
                felt = np.concatenate(list(under))
            outline = separate_drawn(picture.pixels, lines[view], felt, picture.scale)
        found[view] = picture, outline, is_sure
    return found


def _stroke_lines(
    strokes: Sequence[PartStroke], framings: Mapping[Sight, Framing]
) -> list[StrokeLine]:
    lines = []
    for stroke in strokes:
        framing = framings.get(stroke.view)
        if framing is not None:
            steady = simplify_line(stroke.points, STEADY_MM / (framing.mm_px or 1.0))
            places = (framing.to_mm(*framing.straightened(*point)) for point in steady)
            lines.append(StrokeLine(stroke, tuple(places)))
    return lines


def looks_the_other_way(lines: Sequence[StrokeLine]) -> bool:
    """Return whether the side picture looks to the right, by which parts lie at which end; it is stored
    looking to the left."""
    ahead: list[float] = []
    side = [line for line in lines if line.view == "side"]
    middle = float(np.mean([line.middle[0] for line in side])) if side else 0.0
    for line in side:
        kind = meant_kind(read_name(line.stroke.name, 0), ())
        if kind is not None and kind.site in FRONT_SITES:
            ahead.append(line.middle[0] - middle)
        elif kind is not None and kind.site in BACK_SITES:
            ahead.append(middle - line.middle[0])
    return sum(ahead) > 0


def simplify_line(points: Sequence[Spot], stray: float) -> list[Spot]:
    """Return the fewest of ``points`` whose line deviates from the others by at most ``stray`` and a fiftieth
    of its length (Douglas and Peucker 1973), since a drawing hand is unsteady."""
    line = np.array(points, dtype=np.float32)
    run = float(np.hypot(*(line[-1] - line[0])))
    kept = cv2.approxPolyDP(line[:, None], max(stray, UNSTEADY * run), False)
    return [(float(x), float(y)) for x, y in kept[:, 0]]


def _rebuild_to_height(
    found: DrawnFigure,
    drawn: Sequence[ReadPart],
    height: float,
    bench: Bench,
    plans: Sequence[Figure],
    name: str,
) -> DrawnFigure:
    """Return the figure built again with its pictures scaled and shifted so that it has its height and stands
    on the ground, which its own parts tell better than its outline."""
    placed = place(found.figure)
    low = float(origin_of(found.figure, found.survey)[2]) + placed.ground
    times = height / placed.height
    framings = tuple(_rescaled_framing(framing, low, times) for framing in found.survey.framings)
    moved = [
        replace(one, traces=tuple(_move_trace(trace, low, times) for trace in one.traces))
        for one in drawn
    ]
    return figure_drawn(moved, Survey(framings=framings, height=height), bench, plans, name)


def _rescaled_framing(framing: Framing, up: float, times: float) -> Framing:
    """Return ``framing`` with its ground ``up`` mm higher, and then scaled by ``times``."""
    mm_px = framing.mm_px or 1.0
    return framing.replaced(ground=framing.ground - up / mm_px, mm_px=mm_px * times)


def _move_trace(trace: Trace, low: float, times: float) -> Trace:
    """Return ``trace`` with its ground ``low`` mm higher, and then scaled by ``times``."""
    up = AXES[trace.view][:2] @ np.array([0.0, 0.0, low])
    return trace.replaced(
        points=tuple(((u - up[0]) * times, (v - up[1]) * times) for u, v in trace.points),
        left=tuple(reach * times for reach in trace.left),
        right=tuple(reach * times for reach in trace.right),
    )
