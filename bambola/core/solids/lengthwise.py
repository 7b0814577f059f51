"""What shows of a part along its own line: from the rim of its seat to its tip, and how thick it is there.

A part lies in what it sits on with one of its ends, and may be covered anywhere by what was placed before it.
So it is cut into slices across its line, and of each it is asked how much of it is still to be seen.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes import ChainShape, Leaf, Shape
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.forms import Array, chain, curled, leaf_outline, profile

SLICES = 64
"""A limb six times as long as it is thick is cut every tenth of its thickness, and where it begins is known
to half of that. Judged."""
_IN_ONE = 16
"""Points in a slice: its share that shows is known to six per cent. Judged."""
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
    (n,) there, all mm, and points (n * k, 3) within the slices, one slice after the other."""

    length: float
    at: Array
    wide: Array
    deep: Array
    points: Array


@frozen
class Shown:
    """What shows of a shape: from ``low`` to ``high`` along its line (mm), its greatest width and thickness,
    its widths at base, middle and tip, as much of it as stays ``hollow``, and how far it is round outside
    (mm) where something else is in it all along, 0 elsewhere."""

    low: float
    high: float
    width: float
    thickness: float
    widths: tuple[float, float, float]
    hollow: float
    girth: float = 0.0

    @property
    def length(self) -> float:
        """From the rim of its seat to its tip, mm."""
        return self.high - self.low

    def scaled(self, s: float) -> Shown:
        """The same ``s`` times as large."""
        base, middle, tip = self.widths
        return Shown(
            self.low * s, self.high * s, self.width * s, self.thickness * s,
            (base * s, middle * s, tip * s), self.hollow, self.girth * s,
        )  # fmt: skip


@remembered(_KEPT)
def slices(shape: Shape) -> Slices:
    """``shape`` in slices, the first and the last half a slice from its ends."""
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
    disc = _disc()
    points = np.empty((SLICES, _IN_ONE, 3))
    points[:, :, 0] = wide[:, None] * disc[:, 0]
    points[:, :, 1] = deep[:, None] * disc[:, 1]
    points[:, :, 2] = (at + form.z[0])[:, None]
    return Slices(length, at, wide, deep, points.reshape(-1, 3))


def _disc() -> Array:
    """Points (k, 2) spread evenly in a round of radius 1, as seeds in a sunflower."""
    k = np.arange(_IN_ONE)
    far, turn = np.sqrt((k + _HALF) / _IN_ONE), k * _TURN
    found: Array = np.column_stack([far * np.cos(turn), far * np.sin(turn)])
    return found


SAME_PLACE_MM = 1e-9
"""Rounds no farther apart are in one place."""


def _chain_slices(shape: ChainShape, share: Array) -> Slices:
    """Along the middle line, and on straight ahead through the round ends."""
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
    disc = _disc()
    points = middle[:, None] + radius[:, None, None] * (
        disc[None, :, :1] * aside[:, None] + disc[None, :, 1:] * other[:, None]
    )
    return Slices(length, at, radius, radius, points.reshape(-1, 3))


def _leaf_slices(shape: Leaf, share: Array) -> Slices:
    """Across the sheet, in the middle of its thickness."""
    outline = leaf_outline(shape)
    at = share * shape.length
    left, right = np.array([_crossed(outline, float(z)) for z in at]).T
    across = left[:, None] + (right - left)[:, None] * (np.arange(_IN_ONE) + _HALF) / _IN_ONE
    flat = np.stack([across, np.zeros_like(across), np.broadcast_to(at[:, None], across.shape)], 2)
    half = shape.thickness / 2 * shape.swells(at)
    return Slices(shape.length, at, (right - left) / 2, half, curled(shape, flat.reshape(-1, 3)))


def _crossed(outline: Array, z: float) -> tuple[float, float]:
    """From where to where an outline (n, 2) is crossed at the height ``z``."""
    following = np.roll(outline, -1, axis=0)
    low, high = outline[:, 1], following[:, 1]
    meets = (low <= z) != (high <= z)
    if not meets.any():
        return 0.0, 0.0
    share = (z - low[meets]) / (high - low)[meets]
    x = outline[meets, 0] + share * (following - outline)[meets, 0]
    return float(x.min()), float(x.max())


def hidden_in(shape: Shape, is_taken: Callable[[Array], NDArray[np.bool_]]) -> tuple[float, ...]:
    """Return the share of each slice of ``shape`` whose points ``is_taken`` by others."""
    inside = is_taken(slices(shape).points).reshape(SLICES, _IN_ONE)
    return tuple(inside.mean(axis=1).tolist())


@remembered(_KEPT_SHOWN)
def shown_of(shape: Shape, hidden: tuple[float, ...]) -> Shown:
    """What shows of ``shape``, of whose slices these shares are ``hidden``; all of it where none are told."""
    cut = slices(shape)
    low, high = _from_to(cut, np.array(hidden)) if hidden else (0.0, cut.length)
    seen = (cut.at >= low) & (cut.at <= high)
    width, thickness = (
        2 * float(max(half[seen].max(initial=0.0), *np.interp((low, high), cut.at, half)))
        for half in (cut.wide, cut.deep)
    )
    places = low + (high - low) * np.array([NEAR_END, _HALF, 1 - NEAR_END])
    base, middle, tip = (2 * np.interp(places, cut.at, cut.wide)).tolist()
    widths, hollow = (base, middle, tip), _hollow(shape, cut, hidden)
    return Shown(low, high, width, thickness, widths, hollow, _girth(cut, hidden))


def _girth(cut: Slices, hidden: tuple[float, ...]) -> float:
    """How far it is round a shape outside, on the mean of the slices that show, if no slice shows whole: what
    is in it may run through it. That of an ellipse within 0.1 %, by Ramanujan's formula."""
    gone = np.array(hidden)
    if not hidden or (gone < 1 - _GONE).any() or not (gone < _GONE).any():
        return 0.0
    a, b = cut.wide[gone < _GONE], cut.deep[gone < _GONE]
    around = np.pi * (3 * (a + b) - np.sqrt((3 * a + b) * (a + 3 * b)))
    return float(around.mean())


def _hollow(shape: Shape, cut: Slices, hidden: tuple[float, ...]) -> float:
    """As much of a shape that lies on something with its side as is in that: a hollow along it. Nothing where
    it only stands on it with its end."""
    if not hidden or isinstance(shape, Leaf):
        return 0.0
    gone = np.array(hidden)
    shows = gone < _GONE
    if float((gone[shows] > 1 - _GONE).mean() if shows.any() else 0.0) < SIDE:
        return 0.0
    areas = np.where(shows, cut.wide * cut.deep, 0.0)
    return float((gone * areas).sum() / areas.sum())


def _from_to(cut: Slices, hidden: NDArray[np.float64]) -> tuple[float, float]:
    """From where to where it shows: the longest run of slices of which half shows; of what lies in something
    along its side, and shows most of its wool elsewhere, of those of which anything does."""
    shows = (1 - hidden) * cut.wide * cut.deep
    low, high, within = _run(cut, hidden, _HALF, shows)
    if within < MOST * shows.sum():
        low, high, _ = _run(cut, hidden, _GONE, shows)
    return low, high


def _run(
    cut: Slices, hidden: NDArray[np.float64], most: float, shows: NDArray[np.float64]
) -> tuple[float, float, float]:
    """The run of slices hidden to less than ``most`` that shows most, to where that share is passed between
    two slices; and how much it ``shows``."""
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
