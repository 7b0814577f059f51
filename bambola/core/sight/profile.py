"""Measures the widths across a line drawn along a part, on a silhouette."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Literal

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.survey import Spot, Trace

if TYPE_CHECKING:  # what separates pictures is slow to load, and only wanted with pictures
    from bambola.core.sight.silhouette import Pixels, Silhouette

Array = NDArray[np.float64]
STATIONS = 33
SNAP = 0.025
"""An end of the line within this share of its length of the outline is meant to lie on it."""
SNAP_PX = 5.0
"""So is one within this many pixels: nobody points better."""
SQUAT = 1.6
"""A line is drawn along a part; where the outline lies so many of its lengths apart or more, what was meant
is within it. Judged. See craft.md, 9."""
OF_COLOUR = 15.0
"""What is farther in colour (units of Lab, lightness counting less) from what a line was drawn on is of
another wool. Judged. See craft.md, 9."""
_MOST_STEPS = 6000
FAR = 6.0
"""Widths are looked for up to this many lengths of the line to either side."""


def read_trace(
    silhouette: Silhouette,
    to_px: Callable[[float, float], Spot],
    part: str,
    view: str,
    points: Sequence[Spot],
    snap_base: bool = True,
    snap_tip: bool = True,
) -> Trace:
    """Return the trace of a line through ``points`` (mm), its ends snapped to the outline if near. ``to_px``
    maps mm to the picture's pixels."""
    line = np.array(points, dtype=np.float64)
    sight = _CoverSampler(silhouette, to_px)
    reach = max(SNAP * _line_length(line), SNAP_PX * sight.pixel_mm)
    if snap_base:
        line[0] = _snap_to_outline(sight, line[0], line[0] - line[1], reach)
    if snap_tip:
        line[-1] = _snap_to_outline(sight, line[-1], line[-1] - line[-2], reach)
    left, right = _reaches_beside(sight, line)
    return Trace.model_validate(
        {
            "part": part,
            "view": view,
            "points": [tuple(p) for p in line.tolist()],
            "left": left.tolist(),
            "right": right.tolist(),
        }
    )


def read_within(
    silhouette: Silhouette,
    picture: tuple[Pixels, float],
    to_px: Callable[[float, float], Spot],
    trace: Trace,
) -> Trace:
    """Return ``trace`` measured again if its line is far shorter than the width found there, such as a button
    on a body: then it ends where its colour does. ``picture`` is the pixels (rows, columns, 3), RGB, and
    their scale to the file's."""
    wide = float(np.median(np.array(trace.left) + np.array(trace.right)))
    if wide < SQUAT * trace.length:
        return trace
    alone = _of_one_colour(silhouette, picture, [to_px(*p) for p in trace.points])
    found = read_trace(alone, to_px, trace.part, trace.view, trace.points)
    narrow = float(np.median(np.array(found.left) + np.array(found.right)))
    return found if 0 < narrow < SQUAT * found.length else trace


def _of_one_colour(
    silhouette: Silhouette, picture: tuple[Pixels, float], run: Sequence[Spot]
) -> Silhouette:
    """Return the silhouette of the connected area with the colour under a ``run`` (px of the file)."""
    import cv2

    from bambola.core.sight.regions import LIGHT

    pixels, scale = picture
    line = np.array(run) * silhouette.scale
    far = int(2 * _line_length(line)) + 8
    (left, top), (right, low) = (line.min(axis=0) - far).astype(int), line.max(axis=0) + far
    rows, columns = slice(max(top, 0), int(low)), slice(max(left, 0), int(right))
    cover = silhouette.cover[rows, columns]
    share = scale / silhouette.scale
    shift = np.array([[share, 0, columns.start * share], [0, share, rows.start * share]])
    size = cover.shape[::-1]
    near = cv2.warpAffine(pixels, shift, size, flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP)
    soft = np.asarray(cv2.GaussianBlur(near, (0, 0), 2.0), dtype=np.float32) / 255
    lab = cv2.cvtColor(soft, cv2.COLOR_RGB2LAB)
    inner, _ = places_along(line, np.linspace(0.2, 0.8, 25))
    at = np.round(inner - (columns.start, rows.start)).astype(int).clip(0, np.array(size) - 1)
    middle = np.median(lab[at[:, 1], at[:, 0]], axis=0)
    off = np.linalg.norm((lab - middle) * (LIGHT, 1.0, 1.0), axis=-1)
    other = off[(off > OF_COLOUR) & (cover > 0.5)]
    # The edge of what is on another wool lies half way between the colours of both.
    like = off < (float(np.median(other)) / 2 if len(other) else OF_COLOUR)
    _, labels = cv2.connectedComponents(like.astype(np.uint8), connectivity=4)
    own = np.isin(labels, np.setdiff1d(labels[at[:, 1], at[:, 0]], 0))
    alone = np.zeros_like(silhouette.cover)
    alone[rows, columns] = np.minimum(cover, own)
    return replace(silhouette, cover=alone)


def is_beside(trace: Trace) -> bool:
    """Return whether most of a line was drawn outside the silhouette, so that it tells nothing of a part."""
    return float(np.median(np.array(trace.left) + np.array(trace.right))) <= 1e-3 * trace.length


def by_hand(part: str, view: str, points: Sequence[Spot], width: float) -> Trace:
    """Return a trace of one width all along, without looking at the silhouette, for the maker to correct."""
    half = [width / 2] * 9
    return Trace.model_validate(
        {
            "part": part,
            "view": view,
            "points": [tuple(p) for p in points],
            "left": half,
            "right": half,
            "edges": "hand",
        }
    )


def places_along(points: Array, share: Array) -> tuple[Array, Array]:
    """Return places (n, 2) at shares of the run of ``points`` (k, 2), and the unit directions there."""
    legs = np.diff(points, axis=0)
    runs = np.hypot(*legs.T)
    ends = np.concatenate([[0.0], np.cumsum(runs)])
    at = np.clip(share, 0, 1) * ends[-1]
    i = np.clip(np.searchsorted(ends, at, side="right") - 1, 0, len(runs) - 1)
    local = (at - ends[i]) / np.maximum(runs[i], 1e-12)
    return points[i] + local[:, None] * legs[i], legs[i] / np.maximum(runs[i], 1e-12)[:, None]


class _CoverSampler:
    """Interpolates the cover of a silhouette at places in mm."""

    def __init__(self, silhouette: Silhouette, to_px: Callable[[float, float], Spot]) -> None:
        self.cover, self.scale = silhouette.cover, silhouette.scale
        # A framing is a similarity: three places tell all.
        origin, right, up = (np.array(to_px(*p)) for p in ((0, 0), (1, 0), (0, 1)))
        self.origin, self.turn = origin, np.stack([right - origin, up - origin])

    @property
    def pixel_mm(self) -> float:
        """The size of a pixel of the silhouette, mm."""
        return 1.0 / (float(np.linalg.norm(self.turn[0])) * self.scale)

    def at(self, places: Array) -> Array:
        from scipy.ndimage import map_coordinates

        px = (self.origin + places @ self.turn) * self.scale - 0.5
        found: Array = map_coordinates(
            self.cover, [px[..., 1], px[..., 0]], order=1, mode="constant", cval=0.0
        ).astype(np.float64)
        return found


def _snap_to_outline(sight: _CoverSampler, end: Array, way: Array, reach: float) -> Array:
    """Return ``end`` moved along ``way`` to the outline, if that is within ``reach``."""
    unit = way / np.linalg.norm(way)
    steps = np.linspace(-reach, reach, 161)
    cover = sight.at(end + steps[:, None] * unit)
    leaving = np.flatnonzero((cover[:-1] >= 0.5) & (cover[1:] < 0.5))
    if not len(leaving):
        return end
    i = leaving[np.argmin(np.abs(steps[leaving]))]
    share = (cover[i] - 0.5) / (cover[i] - cover[i + 1])
    moved: Array = end + unit * (steps[i] + share * (steps[i + 1] - steps[i]))
    return moved


def _reaches_beside(sight: _CoverSampler, line: Array) -> tuple[Array, Array]:
    """Return the distances (mm) from the line to the outline on either side, (STATIONS,) each."""
    share = np.linspace(0, 1, STATIONS)
    places, ahead = places_along(line, np.clip(share, 1e-4, 1 - 1e-4))
    left = np.column_stack([-ahead[:, 1], ahead[:, 0]])
    most = FAR * _line_length(line)
    steps = np.arange(0.0, max(most, sight.pixel_mm), 0.5 * sight.pixel_mm)[:_MOST_STEPS]
    found = []
    for side in (left, -left):
        cover = sight.at(places[:, None] + steps[None, :, None] * side[:, None])
        out = cover < 0.5
        first = out.argmax(axis=1)
        rows = np.arange(STATIONS)
        before = np.maximum(first - 1, 0)
        a, b = cover[rows, before], cover[rows, first]
        part = np.where(np.abs(a - b) > 1e-9, (a - 0.5) / np.where(a == b, 1, a - b), 0.0)
        reach = steps[before] + np.clip(part, 0, 1) * steps[1]
        reach[first == 0] = 0.0
        reach[~out.any(axis=1)] = most
        found.append(reach)
    return found[0], found[1]


def _line_length(line: Array) -> float:
    return float(sum(math.dist(a, b) for a, b in itertools.pairwise(line.tolist())))


def place_at_station(trace: Trace, i: int) -> tuple[Array, Array]:
    """Return the place on the line at a station, and the direction to its left."""
    share = np.array([i / (len(trace.left) - 1)])
    places, ahead = places_along(np.array(trace.points), share)
    return places[0], np.array([-ahead[0, 1], ahead[0, 0]])


def pull_handle(trace: Trace, bead: tuple[str, int], to: tuple[float, float]) -> Trace:
    """Return ``trace`` with one handle pulled to a place (mm). A pulled width is exact: the widths between it
    and its neighbouring handles are interpolated."""
    kind, i = bead
    if kind == "point":
        points = tuple(to if k == i else p for k, p in enumerate(trace.points))
        return (
            trace.replaced(points=points)
            if len(without_duplicates(list(points))) == len(points)
            else trace
        )
    centre, aside = place_at_station(trace, i)
    reach = float((np.array(to) - centre) @ aside) * (1 if kind == "left" else -1)
    sides = list(trace.left if kind == "left" else trace.right)
    last = len(sides) - 1
    sides[i] = max(0.0, reach)
    span = max(1, round(last / 8))
    for sense in (-1, 1):
        end = min(max(i + sense * span, 0), last)
        for k in range(i + sense, end, sense):
            share = (k - i) / (end - i)
            sides[k] = sides[i] + (sides[end] - sides[i]) * share
    side: Literal["left", "right"] = "left" if kind == "left" else "right"
    known = dict.fromkeys((*trace.pulled, (side, i)))
    return trace.replaced(**{side: tuple(sides)}, pulled=tuple(known))


def without_duplicates(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Return the points without duplicates."""
    kept = points[:1]
    for point in points[1:]:
        if math.dist(point, kept[-1]) > 1e-6:
            kept.append(point)
    return kept
