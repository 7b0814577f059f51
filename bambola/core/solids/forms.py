"""The geometry of one shape in its own axes: sections, seats, supports.

Three families carry all eight shapes. A *profile* form has elliptical sections along a straight
axis (ball, sausage, cone, pad, turned). A *chain* form is a round swept through points (limb,
rope). A *leaf* is a sheet. See :mod:`bambola.core.figure.shapes` for the axes.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes import Ball, Cone, Leaf, Limb, Pad, Rope, Sausage, Shape, Turned

Array = NDArray[np.float64]
FINE = 128
"""Sections used where a form is measured rather than drawn."""


@dataclass(frozen=True, slots=True)
class Profile:
    """Half width and half depth (mm) at rising heights ``z`` (mm); all arrays of shape (n,)."""

    z: Array
    half_width: Array
    half_depth: Array

    @property
    def volume(self) -> float:
        """Volume in mm³, sections taken as ellipses and interpolated linearly."""
        a, b, dz = self.half_width, self.half_depth, np.diff(self.z)
        mean = (2 * a[1:] * b[1:] + 2 * a[:-1] * b[:-1] + a[1:] * b[:-1] + a[:-1] * b[1:]) / 6
        return float(math.pi * (mean * dz).sum())


@dataclass(frozen=True, slots=True)
class Chain:
    """Round sections of ``radii`` (n,) centred on ``points`` (n, 3), all mm."""

    points: Array
    radii: Array
    closed: bool


@lru_cache(maxsize=4096)
def profile(shape: Ball | Sausage | Cone | Pad | Turned, sections: int = FINE) -> Profile:
    """The profile of a shape that has one, cut into about ``sections`` slices."""
    if isinstance(shape, Ball):
        return _ball(shape, sections)
    if isinstance(shape, Sausage):
        return _two_rounds(shape.diameter / 2, shape.diameter / 2, shape.length, sections)
    if isinstance(shape, Cone):
        return _two_rounds(shape.base / 2, shape.tip / 2, shape.length, sections)
    if isinstance(shape, Pad):
        rise = np.linspace(0.0, math.pi / 2, sections * 3 // 4 + 1)
        return Profile(
            shape.height * np.sin(rise),
            shape.width / 2 * np.cos(rise),
            shape.depth / 2 * np.cos(rise),
        )
    return _turned(shape, sections)


def _ball(shape: Ball, sections: int) -> Profile:
    zeta = -np.cos(np.linspace(0.0, math.pi, sections + 1))
    girth = np.sqrt(np.maximum(0.0, 1 - zeta**2)) * (1 - shape.taper * zeta) / fullest(shape.taper)
    return Profile(shape.height / 2 * (1 + zeta), shape.width / 2 * girth, shape.depth / 2 * girth)


def fullest(taper: float) -> float:
    """The largest of sqrt(1 - ζ²)(1 - tζ): where the derivative's 2tζ² - ζ - t is nought."""
    if abs(taper) < 1e-9:
        return 1.0
    zeta = (1 - math.sqrt(1 + 8 * taper * taper)) / (4 * taper)
    return math.sqrt(1 - zeta * zeta) * (1 - taper * zeta)


def _two_rounds(base: float, tip: float, length: float, sections: int) -> Profile:
    """Hull of two spheres on the axis, radii ``base`` and ``tip``, ``length`` over all."""
    gap = length - base - tip
    slope = math.asin(max(-1.0, min(1.0, (base - tip) / gap))) if gap > 0 else 0.0
    low = np.linspace(-math.pi / 2, slope, sections // 2 + 1)
    high = np.linspace(slope, math.pi / 2, sections // 2 + 1)
    z = np.concatenate([base + base * np.sin(low), length - tip + tip * np.sin(high)])
    radius = np.concatenate([base * np.cos(low), tip * np.cos(high)])
    keep = np.concatenate([[True], np.diff(z) > 1e-12 * length])
    return Profile(z[keep], radius[keep], radius[keep])


def _turned(shape: Turned, sections: int) -> Profile:
    """Monotone cubic through the *squared* widths, so that a width of nought gives a round end."""
    at = np.array([st.along for st in shape.stations])
    t = (1 - np.cos(np.linspace(0.0, math.pi, sections + 1))) / 2
    widths = [np.array([getattr(st, side) for st in shape.stations]) for side in ("width", "depth")]
    wide, deep = (np.sqrt(np.maximum(0.0, monotone_cubic(at, w**2, t))) / 2 for w in widths)
    return Profile(t * shape.length, wide, deep)


def monotone_cubic(x: Array, y: Array, at: Array) -> Array:
    """Piecewise cubic Hermite values at ``at`` that never overshoot (Fritsch and Carlson 1980).

    Written out because the library that has it takes longer to load than the window may; the
    tests hold it against that library.
    """
    h, slope = np.diff(x), np.diff(y) / np.diff(x)
    d = np.zeros_like(y)
    if len(x) == 2:
        d[:] = slope[0]
    else:
        w1, w2 = 2 * h[1:] + h[:-1], h[1:] + 2 * h[:-1]
        same = slope[1:] * slope[:-1] > 0
        with np.errstate(divide="ignore", invalid="ignore"):
            mean = (w1 + w2) / (w1 / slope[:-1] + w2 / slope[1:])
        d[1:-1] = np.where(same, mean, 0.0)
        d[0] = _end_slope(h[0], h[1], slope[0], slope[1])
        d[-1] = _end_slope(h[-1], h[-2], slope[-1], slope[-2])
    i = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(h) - 1)
    t = (at - x[i]) / h[i]
    return (
        y[i] * (1 + 2 * t) * (1 - t) ** 2 + h[i] * d[i] * t * (1 - t) ** 2
        + y[i + 1] * t**2 * (3 - 2 * t) + h[i] * d[i + 1] * t**2 * (t - 1)
    )  # fmt: skip


def _end_slope(h0: float, h1: float, m0: float, m1: float) -> float:
    d = ((2 * h0 + h1) * m0 - h0 * m1) / (h0 + h1)
    if d * m0 <= 0:
        return 0.0
    return 3 * m0 if m0 * m1 <= 0 and abs(d) > 3 * abs(m0) else float(d)


@lru_cache(maxsize=4096)
def chain(shape: Limb | Rope) -> Chain:
    """The rounds of a limb, or of a rope's smooth curve (Catmull-Rom, twelve steps a span)."""
    if isinstance(shape, Limb):
        return Chain(shape.centres(), np.array([j.diameter / 2 for j in shape.joints]), False)
    points = _smooth(np.array(shape.points), shape.closed, 12)
    share = np.linspace(1.0, shape.tip, len(points))
    return Chain(points, shape.thickness / 2 * share, shape.closed)


def _smooth(points: Array, closed: bool, steps: int) -> Array:
    """Catmull-Rom through ``points`` (n, d), ends doubled unless ``closed``."""
    if len(points) == 2 and not closed:
        straight: Array = points[0] + np.linspace(0, 1, steps + 1)[:, None] * (
            points[1] - points[0]
        )
        return straight
    padded = (
        np.vstack([points[-1:], points, points[:2]])
        if closed
        else np.vstack([2 * points[0] - points[1], points, 2 * points[-1] - points[-2]])
    )
    t = np.linspace(0, 1, steps, endpoint=False)[None, :, None]
    p0, p1, p2, p3 = (padded[i : len(padded) - 3 + i, None, :] for i in range(4))
    run = 0.5 * (
        2 * p1 + (p2 - p0) * t + (2 * p0 - 5 * p1 + 4 * p2 - p3) * t**2
        + (3 * p1 - p0 - 3 * p2 + p3) * t**3
    ).reshape(-1, points.shape[1])  # fmt: skip
    return run if closed else np.vstack([run, points[-1:]])


@lru_cache(maxsize=1024)
def leaf_outline(shape: Leaf, steps: int = 6) -> Array:
    """The leaf's smooth outline before curling, (n, 2) of x and z in mm, counter-clockwise."""
    run = _smooth(np.array(shape.outline), True, steps)
    low, high = run.min(axis=0), run.max(axis=0)
    run = (run - [(low[0] + high[0]) / 2, low[1]]) / (high - low) * [shape.width, shape.length]
    x, z = run.T
    turning = float((x * np.roll(z, -1) - np.roll(x, -1) * z).sum())
    forwards: Array = run if turning > 0 else run[::-1].copy()
    return forwards


def curled(shape: Leaf, flat: Array) -> Array:
    """``flat`` points (n, 3) of the uncurled sheet, bent round the sheet's length by ``curl``."""
    if abs(shape.curl) < 1e-9:
        return flat
    radius = shape.width / math.radians(shape.curl)
    angle = flat[:, 0] / radius
    reach = radius + flat[:, 1]
    return np.column_stack([reach * np.sin(angle), reach * np.cos(angle) - radius, flat[:, 2]])


_TURN_DEG = 8.0
"""A curve is cut where it has turned by this much: its chords then fall short by less than 0.3 %."""


def thinned(form: Chain) -> Chain:
    """The same curve with no more cuts than its bends ask for, and at least forty."""
    n = len(form.points)
    runs = np.diff(form.points, axis=0)
    unit = runs / np.maximum(np.linalg.norm(runs, axis=1, keepdims=True), 1e-12)
    turns = np.degrees(np.arccos(np.clip((unit[1:] * unit[:-1]).sum(axis=1), -1, 1)))
    turned = np.concatenate([[0.0], np.cumsum(turns), [turns.sum()]]) // _TURN_DEG
    every = np.arange(n) // max(1, n // 40)
    new = (np.diff(turned, prepend=-1) > 0) | (np.diff(every, prepend=-1) > 0)
    new[-1] = True
    return Chain(form.points[new], form.radii[new], form.closed)


def seat_point(shape: Shape, along: float, around: float, out: float) -> Array:
    """The place (3,) of a seat on ``shape`` (see :class:`bambola.core.figure.Seat`), mm, local."""
    theta = math.radians(around)
    right, front = math.sin(theta) * out, math.cos(theta) * out
    if isinstance(shape, Limb | Rope):
        return _chain_point(chain(shape), along, right, front)
    if isinstance(shape, Leaf):
        flat = np.array(
            [[right * shape.width / 2, -front * shape.thickness / 2, along * shape.length]]
        )
        point: Array = curled(shape, flat)[0]
        return point
    form = profile(shape)
    z = along * float(form.z[-1])
    half_width = float(np.interp(z, form.z, form.half_width))
    half_depth = float(np.interp(z, form.z, form.half_depth))
    return np.array([half_width * right, -half_depth * front, z])


def _chain_point(form: Chain, along: float, right: float, front: float) -> Array:
    """A point beside a chain. Plain arithmetic: it is asked for a thousand times a frame."""
    points, radii = form.points.tolist(), form.radii.tolist()
    if form.closed:
        points, radii = [*points, points[0]], [*radii, radii[0]]
    runs = [math.dist(a, b) for a, b in itertools.pairwise(points)]
    left, i = along * sum(runs), 0
    while i < len(runs) - 1 and left > runs[i]:
        left, i = left - runs[i], i + 1
    share = min(1.0, left / runs[i]) if runs[i] else 0.0
    a, b = points[i], points[i + 1]
    ax, ay, az = ((q - p) / (runs[i] or 1.0) for p, q in zip(a, b, strict=True))
    # The front is the figure's own, made square to the axis; sideways is towards its left.
    fx, fy, fz = (0.0, -1.0, 0.0) if abs(ay) < 0.9 else (0.0, 0.0, 1.0)
    along_axis = fx * ax + fy * ay + fz * az
    fx, fy, fz = fx - along_axis * ax, fy - along_axis * ay, fz - along_axis * az
    size = math.sqrt(fx * fx + fy * fy + fz * fz)
    fx, fy, fz = fx / size, fy / size, fz / size
    sx, sy, sz = fy * az - fz * ay, fz * ax - fx * az, fx * ay - fy * ax
    if sx < 0:
        sx, sy, sz = -sx, -sy, -sz
    radius = radii[i] + share * (radii[i + 1] - radii[i])
    return np.array(
        [
            p + share * (q - p) + radius * (front * f + right * s)
            for p, q, f, s in zip(a, b, (fx, fy, fz), (sx, sy, sz), strict=True)
        ]
    )


def supports(shape: Shape, directions: Array) -> Array:
    """How far ``shape`` reaches (mm) along unit ``directions`` (k, 3) from its own origin: (k,)."""
    reach: Array
    if isinstance(shape, Limb | Rope):
        form = chain(shape)
        reach = (form.points @ directions.T + form.radii[:, None]).max(axis=0)
    elif isinstance(shape, Leaf):
        outline = leaf_outline(shape)
        flat = np.column_stack([outline[:, 0], np.zeros(len(outline)), outline[:, 1]])
        # Half-round edges: the rim at depth y lies r - sqrt(r² - y²) further in, so that in a
        # direction leaning by l to the sheet it reaches r (1 - l) beyond the outline.
        lean = np.hypot(directions[:, 0], directions[:, 2])
        reach = (curled(shape, flat) @ directions.T).max(axis=0) + shape.thickness / 2 * (1 - lean)
    else:
        cut = profile(shape)
        x, y, z = directions.T
        round_ = np.hypot(cut.half_width[:, None] * x, cut.half_depth[:, None] * y)
        reach = (cut.z[:, None] * z + round_).max(axis=0)
    return reach
