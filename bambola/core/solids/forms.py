"""The geometry of one shape in its own axes: sections, seats, supports.

What a shape is, and the axes, stand in :mod:`bambola.core.figure.shapes`.
"""

from __future__ import annotations

import itertools
import math

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes import Chain, ChainShape, Leaf, Profile, ProfileShape, Shape
from bambola.core.figure.shapes.chain import smooth
from bambola.core.memo import remembered

Array = NDArray[np.float64]
FINE = 128
"""Sections used where a form is measured rather than drawn."""


@remembered(1024)
def profile(shape: ProfileShape, sections: int = FINE) -> Profile:
    """Return the profile of a shape that has one, cut into about ``sections`` slices."""
    return shape.profile(sections)


@remembered(1024)
def chain(shape: ChainShape) -> Chain:
    """Return the rounds of a shape that is swept."""
    return shape.chain()


@remembered(1024)
def leaf_outline(shape: Leaf, steps: int = 6) -> Array:
    """Return the leaf's smooth outline before curling, (n, 2) of x and z in mm, counter-clockwise."""
    run = smooth(np.array(shape.outline), True, steps)
    low, high = run.min(axis=0), run.max(axis=0)
    run = (run - [(low[0] + high[0]) / 2, low[1]]) / (high - low) * [shape.width, shape.length]
    x, z = run.T
    turning = float((x * np.roll(z, -1) - np.roll(x, -1) * z).sum())
    forwards: Array = run if turning > 0 else run[::-1].copy()
    return forwards


def _bend_curvature(shape: Leaf, z: Array) -> Array:
    """Return the curvature (radians a mm of width) of a sheet at heights ``z``; never exactly 0."""
    fades = 1.0 - np.clip(z / shape.length, 0.0, 1.0)
    bend = np.radians(shape.curl + shape.cup * fades) / shape.width
    return np.where(np.abs(bend) < 1e-12, 1e-12, bend)


def curl_sheet(shape: Leaf, flat: Array) -> Array:
    """Return ``flat`` points (n, 3) of the plane sheet, thickened at its ``foot`` and bent by ``curl`` and
    ``cup``."""
    if not shape.is_bent:
        return flat
    radius = 1.0 / _bend_curvature(shape, flat[:, 2])
    angle = flat[:, 0] / radius
    off = flat[:, 1] * shape.thickness_ratio(flat[:, 2])
    reach = radius + off
    # Of a radius without end the difference of two large numbers would be left.
    y = off * np.cos(angle) - 2 * radius * np.sin(angle / 2) ** 2
    return np.column_stack([reach * np.sin(angle), y, flat[:, 2]])


def flatten_sheet(shape: Leaf, points: Array) -> Array:
    """Return points (n, 3) of the bent sheet laid flat: the inverse of :func:`curl_sheet`."""
    if not shape.is_bent:
        return points
    radius = 1.0 / _bend_curvature(shape, points[:, 2])
    sense = np.sign(radius)
    x, y = points[:, 0] * sense, (points[:, 1] + radius) * sense
    far = np.hypot(x, y)
    # (far² - radius²) / (far + |radius|), without the difference of two large numbers.
    off = (points[:, 0] ** 2 + points[:, 1] ** 2 + 2 * points[:, 1] * radius) / (
        far + np.abs(radius)
    )
    off = off * sense / shape.thickness_ratio(points[:, 2])
    return np.column_stack([np.arctan2(x, y) * radius, off, points[:, 2]])


_TURN_DEG = 8.0
"""A curve is cut where it has turned by this much: its chords then fall short by less than 0.3 %."""


def thin_curve(form: Chain) -> Chain:
    """Return the curve with no more cuts than its bends need, and at least forty."""
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
    """Return the place (3,) of a seat on ``shape`` (see :class:`bambola.core.figure.Seat`), mm, local."""
    theta = math.radians(around)
    right, front = math.sin(theta) * out, math.cos(theta) * out
    if isinstance(shape, ChainShape):
        return _chain_point(chain(shape), along, right, front)
    if isinstance(shape, Leaf):
        flat = np.array(
            [[right * shape.width / 2, -front * shape.thickness / 2, along * shape.length]]
        )
        point: Array = curl_sheet(shape, flat)[0]
        return point
    form = profile(shape)
    z = along * float(form.z[-1])
    half_width = float(np.interp(z, form.z, form.half_width))
    half_depth = float(np.interp(z, form.z, form.half_depth))
    return np.array([half_width * right, -half_depth * front, z])


def _chain_point(form: Chain, along: float, right: float, front: float) -> Array:
    """Return a point beside a chain. Written in plain arithmetic, since it is called a thousand times a
    frame."""
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


def support_distances(shape: Shape, directions: Array) -> Array:
    """Return the reach (mm) of ``shape`` from its origin along unit ``directions`` (k, 3): (k,)."""
    reach: Array
    if isinstance(shape, ChainShape):
        form = chain(shape)
        reach = (form.points @ directions.T + form.radii[:, None]).max(axis=0)
    elif isinstance(shape, Leaf):
        outline = leaf_outline(shape)
        flat = np.column_stack([outline[:, 0], np.zeros(len(outline)), outline[:, 1]])
        # Half-round edges: the rim at depth y lies r - sqrt(r² - y²) further in, so that in a
        # direction leaning by l to the sheet it reaches r (1 - l) beyond the outline.
        lean = np.hypot(directions[:, 0], directions[:, 2])
        round_ = shape.thickness / 2 * shape.thickness_ratio(flat[:, 2])[:, None] * (1 - lean)
        reach = (curl_sheet(shape, flat) @ directions.T + round_).max(axis=0)
    else:
        cut = profile(shape)
        x, y, z = directions.T
        round_ = np.hypot(cut.half_width[:, None] * x, cut.half_depth[:, None] * y)
        reach = (cut.z[:, None] * z + round_).max(axis=0)
    return reach


@remembered(1024)
def box_of(shape: Shape) -> tuple[Array, Array]:
    """Return the centre and half size (3,) of a shape's own box, mm."""
    high, low = support_distances(shape, np.eye(3)), -support_distances(shape, -np.eye(3))
    return (low + high) / 2, np.maximum((high - low) / 2, 1e-9)
