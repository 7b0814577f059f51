"""Measures the widths across a line drawn along a part by the edges beside it.

First the plain form expected of the part (an egg, a cone, a limb) is fitted in width so that its outline runs
along edges; then the outline may deviate slightly to nearby edges (dynamic programming, as for active
contours in Amini, Weymouth and Jain 1990).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.survey import Framing, Sight, Spot, Trace
from bambola.core.notes.kinds import Form
from bambola.core.sight.fit import half_width
from bambola.core.sight.light import evenly_lit
from bambola.core.sight.profile import STATIONS, places_along
from bambola.core.sight.silhouette import Pixels, Silhouette, resize_picture
from bambola.core.strokes.grouping import outline_of_trace
from bambola.core.strokes.outline import weighted_lab

Array = NDArray[np.float64]

TALL_PX = 480
"""Edges are looked for in a copy in which the figure is so tall: felt's grain is gone, a nose is still
there."""
CLEAR = 5.0
"""A step of so much (units of Lab, lightness counting less) is half an edge. Judged. See craft.md, 9."""
OTHER = 28.0
"""A colour so far from another (same units) is of another wool. Judged."""
OUTER = 1.2
"""The outline of the whole figure counts so many times a clear edge. Judged."""
OUTSIDE = 1.5
"""A form that reaches out of the figure loses so much, by the share of its outline that does. Judged."""
HIDDEN = 0.35
"""An outline that runs behind a smaller part counts so much of a clear edge. Judged."""
DOUBT = 0.45
"""How much a width may differ from the usual one (its logarithm, one standard deviation). Judged."""
USUAL = 0.2
"""What a width loses that differs by one standard deviation. Judged."""
PLAY = 0.3
"""An outline may leave its form by this share of its width. Judged."""
STIFF, BEND = 4.0, 60.0
"""What it loses by the square of how far it leaves its form, and by that of how far it bends from one station
to the next. Judged."""
BESIDE = 0.3
"""What a form loses by how far beside the line its middle lies, as a share of its width. Judged."""
STRAYS: Mapping[str, float] = {"limb": 0.22, "leaf": 0.16, "cone": 0.12}
"""Edges may run so far beside a form, as a share of its width; beside that of any other 0.06. Judged."""
SHORT = 0.06
"""A line ends at the figure's outline if that lies no farther off than this share of the line's last leg.
Judged."""
BULGE = 0.5
"""A tail may be so much thicker in its middle. Judged."""
LEAST_OWN = 0.2
"""So much of a line must be seen for its colour to be known. Judged."""
FOREIGN = 0.7
"""What a form loses by the share of its rim that shows another colour than lies under its line. Judged."""
_WIDTHS = np.geomspace(0.08, 4.0, 70)
_BESIDE = np.linspace(-0.3, 0.3, 13)
_TAPERS: Mapping[str, tuple[float, ...]] = {
    "ball": (-0.3, -0.15, 0.0, 0.15, 0.3),
    "leaf": (-0.3, 0.0, 0.3),
    "cone": (0.08, 0.2, 0.35, 0.5, 0.7, 0.9),
    "limb": (0.35, 0.55, 0.75, 1.0, 1.3),
}
_STEPS = 15


@dataclass(frozen=True)
class EdgeView:
    """A framed picture with its colours smoothed: ``lab`` (rows, columns, 3), ``cover`` (rows, columns) of
    what is figure, and the ``scale`` of their pixels to the file's. Whether the cover ``is_sure`` all of the
    figure and nothing else. Edges that are ``explained`` and pixels that are ``taken`` are of smaller
    parts."""

    view: Sight
    framing: Framing
    lab: NDArray[np.float32]
    cover: NDArray[np.float32]
    scale: float
    is_sure: bool
    explained: NDArray[np.float32]
    taken: NDArray[np.uint8]

    def to_pixels(self, places: Array) -> Array:
        """Return places (..., 2) in mm as pixels of ``lab``."""
        origin, right, up = (
            np.array(self.framing.original(*self.framing.to_px(*place)))
            for place in ((0, 0), (1, 0), (0, 1))
        )
        turn = np.stack([right - origin, up - origin])
        return np.asarray((origin + places @ turn) * self.scale - 0.5)

    @property
    def pixel_mm(self) -> float:
        """The size of a pixel, mm."""
        return (self.framing.mm_px or 1.0) / self.scale


def with_explained(seen: EdgeView, trace: Trace) -> EdgeView:
    """Return the view without the edges along the outline of a measured part, which belong to no other."""
    explained, taken = seen.explained.copy(), seen.taken.copy()
    run = np.round(seen.to_pixels(outline_of_trace(trace))).astype(np.int32).reshape(-1, 1, 2)
    for side in np.split(run, 2):
        cv2.polylines(explained, [side], False, 1.0, 7)
    cv2.fillPoly(taken, [run], 1)
    return replace(seen, explained=explained, taken=taken)


def edge_view(
    framing: Framing, picture: Pixels, silhouette: Silhouette, scale: float, is_sure: bool
) -> EdgeView:
    """Return a framed ``picture``, which may be smaller than the file by ``scale``, prepared for measuring;
    its ``silhouette`` may be known to be right."""
    _, top, _, bottom = silhouette.box()
    small_scale = min(scale, TALL_PX / max(bottom - top, 1.0))
    small = resize_picture(evenly_lit(picture), small_scale / scale)
    calm = cv2.medianBlur(small, 5)
    for _ in range(2):
        calm = cv2.bilateralFilter(calm, 7, 22, 3)
    size = small.shape[1::-1]
    cover = np.asarray(
        cv2.resize(silhouette.cover, size, interpolation=cv2.INTER_AREA), dtype=np.float32
    )
    lab = weighted_lab(np.asarray(calm, dtype=np.uint8))
    return EdgeView(
        framing.view,
        framing,
        lab,
        cover,
        small_scale,
        is_sure,
        np.zeros_like(cover),
        np.zeros(cover.shape, np.uint8),
    )


@dataclass(frozen=True)
class _Rays:
    """Edges beside a line: their strength (stations, 2, reaches), and where it is outside the figure or of
    another colour than under the line, at reaches ``step`` mm apart to the left and right of each station."""

    edge: Array
    outside: Array
    foreign: Array
    step: float

    def at(self, what: Array, reach: Array) -> Array:
        """Return values of ``what`` (stations, 2, reaches) at reaches (..., stations, 2), mm."""
        index = np.clip(np.round(reach / self.step).astype(int), 0, what.shape[2] - 1)
        rows, sides = np.indices(what.shape[:2])
        return np.asarray(what[rows, sides, index])


def read_contour(
    seen: EdgeView, points: Sequence[Spot], forms: Sequence[Form], usual: float, flat: bool
) -> tuple[Form, Trace]:
    """Return the best fitting of ``forms``, and the trace of a line through ``points`` (mm of the view) along
    a part that is usually ``usual`` times as wide as the line is long. A cone has ``flat`` or round ends."""
    line = np.array(points, dtype=np.float64)
    if seen.is_sure:
        line[0] = _at_outline(seen, line[0], line[0] - line[1])
        line[-1] = _at_outline(seen, line[-1], line[-1] - line[-2])
    run = float(np.hypot(*np.diff(line, axis=0).T).sum())
    rays = _rays_beside(seen, line, run * float(_WIDTHS[-1]) / 2)
    share = np.linspace(0, 1, STATIONS)
    tried = [(*_laid_on(rays, form, share, run, usual, flat), form) for form in forms]
    _, reach, form = max(tried, key=lambda one: one[0])
    reach = _moved_to_edges(rays, share, reach)
    if form == "limb":
        line, reach = _between_rounds(line, share, reach, run)
    trace = Trace.model_validate(
        {
            "part": "part",
            "view": seen.view,
            "points": [tuple(p) for p in line.tolist()],
            "left": reach[:, 0].tolist(),
            "right": reach[:, 1].tolist(),
        }
    )
    return form, trace


def _at_outline(seen: EdgeView, end: Array, way: Array) -> Array:
    """Return the ``end`` (2,) of a line moved along ``way`` to the figure's outline, if that is near."""
    steps = np.linspace(-SHORT, SHORT, 41)
    at = seen.to_pixels(end + steps[:, None] * way).astype(np.float32)
    cover = cv2.remap(seen.cover, at[:, 0], at[:, 1], cv2.INTER_LINEAR).ravel()
    leaving = np.flatnonzero((cover[:-1] >= 0.5) & (cover[1:] < 0.5))
    if not len(leaving):
        return end
    return np.asarray(end + way * steps[leaving[np.argmin(np.abs(steps[leaving]))]])


def _between_rounds(line: Array, share: Array, reach: Array, run: float) -> tuple[Array, Array]:
    """Return the line and reaches of a limb from the centre of its first round to that of its last."""
    wide = reach.sum(axis=1)
    ends = [min(0.35, float(np.median(some)) / 2 / run) for some in (wide[3:9], wide[-9:-3])]
    kept = np.linspace(ends[0], 1 - ends[1], len(share))
    drawn = np.hypot(*np.diff(line, axis=0).T)
    corners = np.concatenate([[0.0], np.cumsum(drawn)])[1:-1] / run
    inner = corners[(corners > ends[0] + 0.05) & (corners < 1 - ends[1] - 0.05)]
    points, _ = places_along(line, np.concatenate([[ends[0]], inner, [1 - ends[1]]]))
    sides = [np.interp(kept, share, reach[:, side]) for side in (0, 1)]
    return points, np.column_stack(sides)


def _rays_beside(seen: EdgeView, line: Array, most: float) -> _Rays:
    share = np.linspace(0, 1, STATIONS)
    places, ahead = places_along(line, np.clip(share, 1e-4, 1 - 1e-4))
    aside = np.column_stack([-ahead[:, 1], ahead[:, 0]])
    step = seen.pixel_mm
    steps = np.arange(0, max(most, 4 * step), step)[:700]
    sides = np.stack([aside, -aside], axis=1)
    at = seen.to_pixels(places[:, None, None] + steps[:, None] * sides[:, :, None])
    x, y = (np.asarray(at[..., k], dtype=np.float32) for k in (0, 1))
    flat = x.reshape(len(share), -1), y.reshape(len(share), -1)
    border = cv2.BORDER_REPLICATE
    rows = cv2.remap(seen.lab, *flat, cv2.INTER_LINEAR, borderMode=border)
    lab = np.asarray(rows, dtype=np.float32).reshape(*x.shape, 3)
    cover = cv2.remap(seen.cover, *flat, cv2.INTER_LINEAR).reshape(x.shape)
    edge = np.zeros(x.shape)
    known = cv2.remap(seen.explained, *flat, cv2.INTER_NEAREST).reshape(x.shape)[:, :, 2:-2]
    change = np.linalg.norm(lab[:, :, 4:] - lab[:, :, :-4], axis=-1) ** 2
    change = change / (change + CLEAR**2)
    outer = (cover[:, :, :-4] - cover[:, :, 4:]).clip(0) * OUTER
    edge[:, :, 2:-2] = np.where(known > 0, HIDDEN, np.maximum(change, outer))
    # A line drawn by hand is off by a pixel or two, and so is a form.
    edge = np.maximum(
        edge, 0.8 * cv2.dilate(edge.reshape(-1, len(steps)), np.ones((1, 3))).reshape(edge.shape)
    )
    taken = cv2.remap(seen.taken, *flat, cv2.INTER_NEAREST).reshape(x.shape) > 0
    edge[taken] = np.maximum(edge[taken], HIDDEN)
    return _Rays(edge, (cover < 0.5).astype(float), _foreign_colours(lab, taken), step)


def _foreign_colours(lab: NDArray[np.float32], taken: NDArray[np.bool_]) -> Array:
    """Return where (stations, 2, reaches) the colour differs from that under the line, except under smaller
    parts."""
    own = lab[:, 0, 0][~taken[:, 0, 0]]
    if len(own) < LEAST_OWN * len(lab):
        return np.zeros(taken.shape)
    off = np.linalg.norm(lab - np.median(own, axis=0), axis=-1) / OTHER
    return np.asarray(np.where(taken, 0.0, np.clip(off - 0.5, 0, 1)), dtype=np.float64)


def _form_profile(
    form: Form, share: Array, run: float, wide: float, taper: float, flat: bool
) -> Array:
    """Return the half widths (stations,) of a form ``wide`` mm wide."""
    if form in ("ball", "leaf", "eyes"):
        return half_width("ball", share, run, wide, np.array([1.0, taper]))
    if form == "pad":
        return half_width("pad", share, run, wide, np.array([1.0]))
    if form == "limb" or (form == "cone" and not flat):
        return half_width("cone", share, run, wide, np.array([1.0, taper]))
    if form == "cone":
        return np.asarray(wide / 2 * (1 + (taper - 1) * share))
    return np.full(len(share), wide / 2)


def _laid_on(
    rays: _Rays, form: Form, share: Array, run: float, usual: float, flat: bool
) -> tuple[float, Array]:
    """Return the score of the best fit of the form to edges, and its reaches (stations, 2)."""
    inner = (share > 0.08) & (share < 0.92)
    tapers = _TAPERS.get(form, (0.0,))
    wide = np.repeat(_WIDTHS * run, len(tapers))
    half = np.array(
        [_form_profile(form, share, run, float(w), t, flat) for w in _WIDTHS * run for t in tapers]
    )
    if form == "limb":
        bulge = 1 + BULGE * 4 * share * (1 - share)
        wide, half = np.tile(wide, 2), np.concatenate([half, half * bulge])
    shift = np.multiply.outer(wide, _BESIDE)[..., None]
    half = half[:, None]
    reach = np.stack([half + shift, half - shift], axis=-1).clip(0)
    strays = STRAYS.get(form, 0.06) * np.array([-1.0, -0.5, 0.0, 0.5, 1.0])
    near = np.array(
        [rays.at(rays.edge, reach * (1 + off)) * (1 - 0.7 * abs(off)) for off in strays]
    )
    edge = near.max(axis=0)[..., inner, :].mean(axis=(-1, -2))
    out = rays.at(rays.outside, reach - 2 * rays.step)[..., inner, :].mean(axis=(-1, -2))
    other = rays.at(rays.foreign, reach - 3 * rays.step)[..., inner, :].mean(axis=(-1, -2))
    widest = 2 * half[:, 0].max(axis=-1)
    off = np.log(widest / run / usual) / DOUBT
    score = (
        edge
        - FOREIGN * other
        - OUTSIDE * out
        - USUAL * (off**2)[:, None]
        - BESIDE * np.abs(_BESIDE)
    )
    best = np.unravel_index(int(score.argmax()), score.shape)
    return float(score[best]), np.asarray(reach[best])


def _moved_to_edges(rays: _Rays, share: Array, reach: Array) -> Array:
    """Return ``reach`` (stations, 2) moved to nearby edges."""
    offsets = np.linspace(-PLAY, PLAY, _STEPS)
    inner = (share > 0.06) & (share < 0.94)
    tried = reach * (1 + offsets)[:, None, None]
    worth = rays.at(rays.edge, tried) - rays.at(rays.outside, tried - 2 * rays.step)
    worth -= STIFF * (offsets**2)[:, None, None]
    worth[:, ~inner] = -20.0 * np.abs(offsets)[:, None, None]
    made = reach.copy()
    for side in (0, 1):
        made[:, side] *= 1 + offsets[_best_run(worth[:, :, side].T, offsets)]
    return made


def _best_run(worth: Array, offsets: Array) -> NDArray[np.int64]:
    """Return the path of columns (rows,) through ``worth`` (rows, columns) with the highest sum, minus a cost
    of bends."""
    bend = BEND * (offsets[:, None] - offsets[None]) ** 2
    total, back = worth[0], []
    for row in worth[1:]:
        reached = total[None] - bend
        back.append(reached.argmax(axis=1))
        total = reached.max(axis=1) + row
    run = [int(total.argmax())]
    for came in reversed(back):
        run.append(int(came[run[-1]]))
    return np.array(run[::-1])
