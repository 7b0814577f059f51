"""Whether points lie within a shape, by its own form rather than by facets; and solids by points thrown in.

Where many parts crowd together, cutting solids with solids takes long; points tell as much in less time.
"""

from __future__ import annotations

import itertools
import math

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes import ChainShape, Leaf, Shape
from bambola.core.memo import remembered
from bambola.core.solids.forms import (
    Array,
    box_of,
    chain,
    leaf_outline,
    profile,
    supports,
    thinned,
)
from bambola.core.solids.outlines import distance, encloses

Mask = NDArray[np.bool_]
_POINTS = 8192
"""Points thrown into a shape's box: shares of its volume are then known to about a third of a per cent."""
_GOLDEN = (0.8191725133961645, 0.6710436067037893, 0.5497004779019703)
"""Steps of an additive recurrence that fills a cube evenly: powers of the inverse of the root of
x^4 = x + 1 (Roberts's generalised golden ratio)."""


def within(shape: Shape, points: Array) -> Mask:
    """Which of ``points`` (n, 3), in the shape's own axes, lie within it."""
    centre, half = box_of(shape)
    inside: Mask = np.ones(len(points), dtype=bool)
    for k in range(3):
        inside &= np.abs(points[:, k] - centre[k]) <= half[k]
    inside[inside] = _within(shape, points[inside])
    return inside


def _within(shape: Shape, points: Array) -> Mask:
    if isinstance(shape, ChainShape):
        return _within_chain(shape, points)
    if isinstance(shape, Leaf):
        return _within_leaf(shape, points)
    form = profile(shape)
    z = points[:, 2]
    wide = np.interp(z, form.z, form.half_width)
    deep = np.interp(z, form.z, form.half_depth)
    inside: Mask = (z >= form.z[0]) & (z <= form.z[-1]) & (wide > 0) & (deep > 0)
    far = (points[:, 0] / np.maximum(wide, 1e-12)) ** 2 + (
        points[:, 1] / np.maximum(deep, 1e-12)
    ) ** 2
    return inside & (far <= 1)


def _within_chain(shape: ChainShape, points: Array) -> Mask:
    """Within the hull of any two rounds that follow one another."""
    form = thinned(chain(shape))
    ends = list(zip(form.points, form.radii.tolist(), strict=True))
    runs = itertools.pairwise([*ends, ends[0]] if form.closed else ends)
    far2 = np.einsum("ij,ij->i", form.points, form.points)[:, None] - 2 * form.points @ points.T
    far2 += np.einsum("ij,ij->i", points, points)
    inside: Mask = (far2 <= (form.radii**2)[:, None]).any(axis=0)
    # No point is asked of a pair of rounds that it is far from: a rope has many.
    left = np.flatnonzero(~inside)
    far2 = far2[:, left]
    for k, ((a, r), (b, q)) in enumerate(runs):
        reach = (math.dist(a, b) + max(r, q)) * (1 + 1e-9)
        near = left[far2[k] <= reach * reach + 1e-6]
        if len(near):
            inside[near] |= _within_hull(points[near], a, b, r, q)
    return inside


def _within_hull(points: Array, a: Array, b: Array, r: float, q: float) -> Mask:
    """Within the hull of a ball of radius ``r`` at ``a`` and one of ``q`` at ``b``.

    Between the rounds in which the cone touches the balls the distance to the axis is compared with the
    cone's; beyond them the balls' own.
    """
    way = b - a
    long = float(np.linalg.norm(way))
    from_a, from_b = points - a, points - b
    far2 = np.einsum("ij,ij->i", from_a, from_a)
    inside: Mask = far2 <= r * r
    inside |= np.einsum("ij,ij->i", from_b, from_b) <= q * q
    if long <= abs(r - q):
        return inside
    along = from_a @ (way / long)
    off = np.sqrt(np.maximum(0.0, far2 - along**2))
    slope = (r - q) / long
    cosine = math.sqrt(1 - slope * slope)
    # The touching rounds stand r·slope and long + q·slope along the axis.
    share = (along - r * slope) / (long + (q - r) * slope)
    radius = (r + share * (q - r)) * cosine
    between: Mask = (share >= 0) & (share <= 1) & (off <= radius)
    return inside | between


def _within_leaf(shape: Leaf, points: Array) -> Mask:
    """Deep enough within the outline for the depth in the sheet: r - sqrt(r² - y²) from its edge."""
    flat = points
    if abs(shape.curl) > 1e-9:
        radius = shape.width / math.radians(shape.curl)
        x, y = (
            points[:, 0] * math.copysign(1, radius),
            (points[:, 1] + radius) * math.copysign(1, radius),
        )
        away = np.hypot(x, y) * math.copysign(1, radius)
        flat = np.column_stack([np.arctan2(x, y) * radius, away - radius, points[:, 2]])
    r = shape.thickness / 2
    inside: Mask = np.abs(flat[:, 1]) <= r
    outline = leaf_outline(shape)
    inside[inside] = encloses(outline, flat[inside][:, [0, 2]])
    edge = min(r, 0.2 * shape.width)
    needed = edge * (1 - np.sqrt(np.maximum(0.0, 1 - (flat[inside][:, 1] / r) ** 2)))
    inside[inside] = distance(outline, flat[inside][:, [0, 2]], edge) >= needed
    return inside


@remembered(128)
def thrown(shape: Shape) -> Array:
    """Points (n, 3) spread evenly within ``shape``."""
    low, high = -supports(shape, -np.eye(3)), supports(shape, np.eye(3))
    spread = np.modf(0.5 + np.arange(1, _POINTS + 1)[:, None] * np.array(_GOLDEN))[0]
    points = low + spread * (high - low)
    found: Array = points[within(shape, points)]
    return found
