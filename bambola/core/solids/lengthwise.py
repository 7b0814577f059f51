"""What is visible of a part along its own line, from the rim of its seat to its tip, and its thickness there.

One end of a part lies in its bearer, and parts placed earlier may cover it anywhere. So it is cut into slices
across its line, and for each the hidden share is determined.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes import ChainShape, Leaf, Shape
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.forms import (
    Array,
    chain,
    curl_sheet,
    leaf_outline,
    profile,
    support_distances,
)

SLICES = 64
"""A limb six times as long as it is thick is cut every tenth of its thickness, and where it begins is known
to half of that. Judged."""
_IN_ONE = 16
"""Points in a slice, and as many on its rim: the shares that show are known to six per cent. Judged."""
_KEPT = 48
"""So many shapes are known in slices: those of a figure while it is measured. Judged."""
_TURN = np.pi * (3 - np.sqrt(5))
NEAR_END = 0.1
"""How thick a part is at its base and at its tip is measured a tenth of its length from either, where neither
the roundness of its end nor the slant of its seat counts. Judged. See craft.md, 10."""
_GONE = 1 - 0.5 / _IN_ONE
"""Of a slice with no point left nothing shows. Derived."""
SIDE = 0.6
"""A part lies on what bears it with its side if so many of the slices that show are cut. Judged.
See craft.md, 10."""
_STEEP = 0.7
"""A shape whose axis leads away from what it lies on more steeply, by the sine, stands on its end. Judged."""
LEAST_BURIED = 0.05
"""And if so much of its wool would lie in that: what is less is pressed in by itself. Judged."""
MOST = 0.8
"""Where what shows by half holds less than this of all that shows, the part lies along something. Judged.
See craft.md, 10."""
_HALF = 0.5
"""A slice counts as shown where half of it is: at the mean of a slanting rim. Derived."""
_KEPT_SHOWN = 512
"""What shows is remembered of all copies of 120 parts at two sizes: a list of sixty numbers each. Judged."""


@dataclass(frozen=True)
class Slices:
    """A shape cut across its line: places ``at`` (n,) along its whole ``length``, half widths and half depths
    (n,) there, all mm, and points (n * 2 k, 3), slice after slice: inner points, then points on the rim."""

    length: float
    at: Array
    wide: Array
    deep: Array
    points: Array


@frozen
class VisibleShape:
    """The visible part of a shape. ``along`` is the visible length of its line (mm), from the rim of its seat
    to its tip. Its size is ``length``, ``width`` and ``thickness`` (mm); its ``widths`` at base, middle and
    tip are across that length. A part other than a limb that lies on its side is measured from its bearer's
    skin: its thickness is how far it stands out, and its widths are near its foot, half way up and near its
    top. ``girth`` is its outer girth (mm) if something runs through it all along, else 0. ``begins`` is where
    on its line it becomes visible (mm)."""

    along: float
    length: float
    width: float
    thickness: float
    widths: tuple[float, float, float]
    is_flat: bool = False
    girth: float = 0.0
    begins: float = 0.0

    def scaled(self, s: float) -> VisibleShape:
        """Return it ``s`` times as large."""
        base, middle, tip = self.widths
        return VisibleShape(
            self.along * s, self.length * s, self.width * s, self.thickness * s,
            (base * s, middle * s, tip * s), self.is_flat, self.girth * s, self.begins * s,
        )  # fmt: skip


@remembered(_KEPT)
def slices(shape: Shape) -> Slices:
    """Return ``shape`` in slices, the first and the last half a slice from its ends."""
    share = (np.arange(SLICES) + _HALF) / SLICES
    if isinstance(shape, ChainShape):
        return _chain_slices(shape, share)
    if isinstance(shape, Leaf):
        return _leaf_slices(shape, share)
    form = profile(shape)
    length = float(form.z[-1] - form.z[0])
    at = share * length
    wide = np.interp(at + form.z[0], form.z, form.half_width)
    deep = np.interp(at + form.z[0], form.z, form.half_depth)
    disc = _disc_points()
    points = np.empty((SLICES, 2 * _IN_ONE, 3))
    points[:, :, 0] = wide[:, None] * disc[:, 0]
    points[:, :, 1] = deep[:, None] * disc[:, 1]
    points[:, :, 2] = (at + form.z[0])[:, None]
    return Slices(length, at, wide, deep, points.reshape(-1, 3))


def _disc_points() -> Array:
    """Return points (2 k, 2) of a circle of radius 1: inner points in a sunflower pattern, then points on its
    rim."""
    k = np.arange(_IN_ONE)
    far = np.append(np.sqrt((k + _HALF) / _IN_ONE), np.ones(_IN_ONE))
    turn = np.append(k * _TURN, k * 2 * np.pi / _IN_ONE)
    found: Array = np.column_stack([far * np.cos(turn), far * np.sin(turn)])
    return found


SAME_PLACE_MM = 1e-9
"""Rounds no farther apart are in one place."""


def _chain_slices(shape: ChainShape, share: Array) -> Slices:
    """Return slices along the middle line, and straight on through the round ends."""
    form = chain(shape)
    places, radii = form.points, form.radii
    if form.closed:
        places, radii = np.vstack([places, places[:1]]), np.append(radii, radii[0])
    steps = np.linalg.norm(np.diff(places, axis=0), axis=1)
    if (steps <= SAME_PLACE_MM).any():  # two joints in one place lead nowhere
        moved = np.append(True, steps > SAME_PLACE_MM)
        places, radii, steps = places[moved], radii[moved], steps[moved[1:]]
    run = np.concatenate([[0.0], np.cumsum(steps)])
    first, last = (0.0, 0.0) if form.closed else (float(radii[0]), float(radii[-1]))
    length = first + float(run[-1]) + last
    at = share * length
    on = at - first
    within = np.clip(on, 0.0, run[-1])
    middle = np.column_stack([np.interp(within, run, places[:, k]) for k in range(3)])
    i = np.clip(np.searchsorted(run, within, side="right") - 1, 0, len(steps) - 1)
    ahead = np.diff(places, axis=0)[i] / np.maximum(steps[i], 1e-12)[:, None]
    over = on - within
    middle = middle + ahead * over[:, None]
    radius = np.sqrt(np.maximum(0.0, np.interp(within, run, radii) ** 2 - over**2))
    aside = np.cross(ahead, np.where(np.abs(ahead[:, :1]) < 0.9, [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]))
    aside /= np.linalg.norm(aside, axis=1)[:, None]
    other = np.cross(ahead, aside)
    disc = _disc_points()
    points = middle[:, None] + radius[:, None, None] * (
        disc[None, :, :1] * aside[:, None] + disc[None, :, 1:] * other[:, None]
    )
    return Slices(length, at, radius, radius, points.reshape(-1, 3))


def _leaf_slices(shape: Leaf, share: Array) -> Slices:
    """Return slices across the sheet, in the middle of its thickness."""
    outline = leaf_outline(shape)
    at = share * shape.length
    left, right = np.array([_outline_interval(outline, float(z)) for z in at]).T
    even = np.tile(
        (np.arange(_IN_ONE) + _HALF) / _IN_ONE, 2
    )  # a sheet is asked for along its middle alone
    across = left[:, None] + (right - left)[:, None] * even
    flat = np.stack([across, np.zeros_like(across), np.broadcast_to(at[:, None], across.shape)], 2)
    half = shape.thickness / 2 * shape.thickness_ratio(at)
    return Slices(
        shape.length, at, (right - left) / 2, half, curl_sheet(shape, flat.reshape(-1, 3))
    )


def _outline_interval(outline: Array, z: float) -> tuple[float, float]:
    """Return the interval in which an outline (n, 2) is crossed at the height ``z``."""
    following = np.roll(outline, -1, axis=0)
    low, high = outline[:, 1], following[:, 1]
    meets = (low <= z) != (high <= z)
    if not meets.any():
        return 0.0, 0.0
    share = (z - low[meets]) / (high - low)[meets]
    x = outline[meets, 0] + share * (following - outline)[meets, 0]
    return float(x.min()), float(x.max())


def line_mm(shape: Shape) -> float:
    """Return the length of a shape along its own line, including round ends (mm)."""
    return slices(shape).length


def skin_mm(shape: Shape, begin: float, end: float) -> float:
    """Return the length of skin (mm) between two shares of the length of ``shape``, over its swelling, by the
    mean of width and depth."""
    if isinstance(shape, Leaf):
        return (end - begin) * shape.length
    if isinstance(shape, ChainShape):
        cut = slices(shape)
        at = np.concatenate([[0.0], cut.at, [cut.length]])
        radius = np.concatenate([[0.0], cut.wide, [0.0]])
    else:
        form = profile(shape)
        at, radius = form.z - form.z[0], (form.half_width + form.half_depth) / 2
    run = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(at), np.diff(radius)))])
    low, high = np.interp([begin * at[-1], end * at[-1]], at, run)
    return float(high - low)


def hidden_in(shape: Shape, is_taken: Callable[[Array], NDArray[np.bool_]]) -> bytes:
    """Return which points of the slices of ``shape`` others take by ``is_taken``, as bits."""
    return np.packbits(is_taken(slices(shape).points)).tobytes()


def _points_hidden(hidden: bytes) -> NDArray[np.bool_]:
    """Return the bits as (SLICES, 2, k): for each slice the inner points, then those on the rim."""
    if not hidden:
        return np.zeros((SLICES, 2, _IN_ONE), dtype=bool)
    bits = np.unpackbits(np.frombuffer(hidden, dtype=np.uint8)).astype(bool)
    return bits.reshape(SLICES, 2, _IN_ONE)


def any_hidden(each: Sequence[bytes]) -> bytes:
    """Return which points are hidden in any of ``each``."""
    if not each:
        return b""
    bits = [np.frombuffer(hidden, dtype=np.uint8) for hidden in each]
    return bytes(np.bitwise_or.reduce(bits).tobytes())


def rims_hidden(hidden: bytes) -> Array:
    """Return the share of the rim of each slice that is hidden, (SLICES,)."""
    found: Array = _points_hidden(hidden)[:, 1].mean(axis=1)
    return found


@remembered(_KEPT_SHOWN)
def shown_of(shape: Shape, hidden: bytes = b"", begins: float = 0.0) -> VisibleShape:
    """Return the visible part of ``shape``, which ``begins`` this far along its line (mm) and whose slices
    have these points ``hidden``."""
    cut, gone = slices(shape), _points_hidden(hidden)
    wool, rims = gone[:, 0].mean(axis=1), gone[:, 1].mean(axis=1)
    low, high = _from_to(cut, rims)
    low = max(low, begins)
    if not isinstance(shape, ChainShape) and high < cut.length:
        # What goes into the far end of a piece leaves a hole there, and round it all its length.
        high = float(cut.at[np.flatnonzero(rims < 1)[-1]])
    seen = (cut.at >= low) & (cut.at <= high)
    width, thickness = (
        2 * float(max(half[seen].max(initial=0.0), *np.interp((low, high), cut.at, half)))
        for half in (cut.wide, cut.deep)
    )
    places = low + (high - low) * np.array([NEAR_END, _HALF, 1 - NEAR_END])
    base, middle, tip = (2 * np.interp(places, cut.at, cut.wide)).tolist()
    long, widths, girth = high - low, (base, middle, tip), _outer_girth(cut, wool)
    if not _is_on_its_side(shape, cut, wool, rims):
        return VisibleShape(long, long, width, thickness, widths, False, girth, low)
    if isinstance(shape, ChainShape):
        out = thickness * _stands_out(cut, wool)
        return VisibleShape(long, long, width, out, widths, True, girth, low)
    up = _away_from_its_bed(cut, gone[:, 0])
    if abs(up[2]) > _STEEP:
        return VisibleShape(long, long, width, thickness, widths, False, girth, low)
    return VisibleShape(long, *_from_its_foot(shape, cut, gone, up), True, girth, low)


def _outer_girth(cut: Slices, wool: Array) -> float:
    """Return the outer girth of a shape, on the mean of its visible slices, if no slice is wholly visible,
    since something may run through it. Perimeter of an ellipse by Ramanujan's formula, within 0.1 %."""
    if (wool < 1 - _GONE).any() or not (wool < _GONE).any():
        return 0.0
    a, b = cut.wide[wool < _GONE], cut.deep[wool < _GONE]
    around = np.pi * (3 * (a + b) - np.sqrt((3 * a + b) * (a + 3 * b)))
    return float(around.mean())


def _is_on_its_side(shape: Shape, cut: Slices, wool: Array, rims: Array) -> bool:
    """Return whether a shape lies on its bearer with its side rather than standing on it."""
    shows = rims < 1
    if isinstance(shape, Leaf) or not shows.any() or (wool == 1).all() or (wool == 0).all():
        return False
    areas = (cut.wide * cut.deep)[shows]
    buried = float((wool[shows] * areas).sum() / areas.sum())
    return float((rims[shows] > 0).mean()) >= SIDE and buried >= LEAST_BURIED


def _stands_out(cut: Slices, wool: Array) -> float:
    """Return the share of a limb's thickness that stands out, averaged over the cut slices. Each is taken to
    be cut by a plane; :data:`_SEGMENTS` gives the thickness left of a circle without a share of its area."""
    cuts = (wool < _GONE) & (wool > 1 - _GONE)
    areas = cut.wide[cuts] * cut.deep[cuts]
    thick = 1 - np.interp(wool[cuts], *_SEGMENTS)
    return float((thick * areas).sum() / areas.sum()) if cuts.any() else 1.0


_ANGLES = np.linspace(0, 2 * np.pi, 257)
_SEGMENTS = (_ANGLES - np.sin(_ANGLES)) / (2 * np.pi), (1 - np.cos(_ANGLES / 2)) / 2
"""The areas of the segments of a round, as shares of it, and their heights as shares of its width."""


def _away_from_its_bed(cut: Slices, under: NDArray[np.bool_]) -> Array:
    """Return the direction (3,) from the hidden part ``under`` (SLICES, k) of a shape to its visible part."""
    inner = cut.points.reshape(SLICES, 2, _IN_ONE, 3)[:, 0]
    weights = np.repeat((cut.wide * cut.deep)[:, None], _IN_ONE, axis=1)
    up: Array = np.average(inner[~under], axis=0, weights=weights[~under]) - np.average(
        inner[under], axis=0, weights=weights[under]
    )
    return up / np.linalg.norm(up)


def _from_its_foot(
    shape: Shape, cut: Slices, gone: NDArray[np.bool_], up: Array
) -> tuple[float, float, float, tuple[float, float, float]]:
    """Return length, width, height and the widths near foot, middle and top (mm) of a shape lying on its
    side, with ``up`` pointing away from its bearer. The bearer is taken for a plane that leaves the visible
    volume."""
    points = cut.points.reshape(SLICES, 2, _IN_ONE, 3)
    weights = np.repeat((cut.wide * cut.deep)[:, None], _IN_ONE, axis=1)
    heights = (points[:, 0] @ up).ravel()
    order = np.argsort(-heights)
    over = np.cumsum(weights.ravel()[order]) <= weights[~gone[:, 0]].sum()
    foot = float(heights[order][over].min(initial=float(heights.max())))
    proud = float(support_distances(shape, up[None])[0]) - foot
    long = np.array([0.0, 0.0, 1.0]) - up[2] * up
    long /= np.linalg.norm(long)
    rims = points[:, 1]
    shown = rims[(rims @ up) >= min(foot, float((rims @ up).max()))]
    aside = np.cross(up, long)
    wide = [
        _width_at(rims, up, aside, foot + share * proud)
        for share in (NEAR_END, _HALF, 1 - NEAR_END)
    ]
    length, width = (float(np.ptp(shown @ way)) for way in (long, aside))
    return length, max(width, *wide), proud, (wide[0], wide[1], wide[2])


def _width_at(rims: Array, up: Array, aside: Array, height: float) -> float:
    """Return the width of slices with ``rims`` (n, k, 3) along ``aside`` at a ``height`` along ``up``."""
    following = np.roll(rims, -1, axis=1)
    a, b = rims @ up - height, following @ up - height
    meets = (a <= 0) != (b <= 0)
    if not meets.any():
        return 0.0
    share = (a / np.where(meets, a - b, 1.0))[meets]
    across = (rims[meets] + share[:, None] * (following - rims)[meets]) @ aside
    return float(np.ptp(across))


def _from_to(cut: Slices, hidden: NDArray[np.float64]) -> tuple[float, float]:
    """Return the visible interval: the longest run of slices that are half visible; for a part lying in
    something along its side and mostly visible elsewhere, the run of those visible at all."""
    shows = (1 - hidden) * cut.wide * cut.deep
    low, high, within = _visible_run(cut, hidden, _HALF, shows)
    if within < MOST * shows.sum():
        low, high, _ = _visible_run(cut, hidden, _GONE, shows)
    return low, high


def _visible_run(
    cut: Slices, hidden: NDArray[np.float64], most: float, shows: NDArray[np.float64]
) -> tuple[float, float, float]:
    """Return the run of slices hidden to less than ``most`` with the largest visible sum, its ends
    interpolated between slices, and that sum (``shows``)."""
    is_shown = hidden < most
    if not is_shown.any():
        return 0.0, cut.length, 0.0
    edges = np.flatnonzero(np.diff(np.concatenate([[0], is_shown.astype(int), [0]])))
    runs = zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True)
    first, end = max(runs, key=lambda run: float(shows[run[0] : run[1]].sum()))

    def passed(out: int, inside: int) -> float:
        share = (hidden[out] - most) / (hidden[out] - hidden[inside])
        return float(cut.at[out] + share * (cut.at[inside] - cut.at[out]))

    low = passed(first - 1, first) if first > 0 else 0.0
    high = passed(end, end - 1) if end < len(hidden) else cut.length
    return low, high, float(shows[first:end].sum())
