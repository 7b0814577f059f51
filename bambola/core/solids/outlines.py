"""Closed outlines in a plane, (n, 2) corners: which points lie within, and how far from the edge.

Every side is compared with every point, in blocks small enough for the processor's cache.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from bambola.core.solids.forms import Array

_AT_A_TIME = 30_000
"""So many pairs of a side and a point are held against each other at a time: what stays near a processor."""


def encloses(outline: Array, points: Array) -> NDArray[np.bool_]:
    """Return which of ``points`` (n, 2) lie within, by the even-odd rule."""
    (x1, y1), (x2, y2) = outline.T[:, :, None], np.roll(outline, -1, axis=0).T[:, :, None]
    low, high = np.minimum(y1, y2), np.maximum(y1, y2)
    run = (x2 - x1) / np.where(y1 == y2, 1.0, y2 - y1)
    inside = np.empty(len(points), dtype=bool)
    for here, (u, v) in _pieces(outline, points):
        crossed = (low <= v) & (v < high) & (u < run * (v - y1) + x1)
        inside[here] = np.count_nonzero(crossed, axis=0) % 2 == 1
    return inside


def distance(outline: Array, points: Array, most: float = math.inf) -> Array:
    """Return the distance of ``points`` (n, 2) from the outline, on either side of it; infinite beyond
    ``most``."""
    (a, b), (c, d) = outline.T[:, :, None], np.roll(outline, -1, axis=0).T[:, :, None]
    along, up = c - a, d - b
    square = np.maximum(along * along + up * up, 1e-18)
    found = np.empty(len(points))
    for here, (u, v) in _pieces(outline, points):
        x, y = u - a, v - b
        share = np.clip((x * along + y * up) / square, 0.0, 1.0)
        x -= share * along
        y -= share * up
        found[here] = np.sqrt((x * x + y * y).min(axis=0))
    found[found > most] = np.inf
    return found


def _pieces(outline: Array, points: Array) -> Iterator[tuple[slice, Array]]:
    """Yield the points in blocks, with their indices."""
    each = max(1, _AT_A_TIME // max(1, len(outline)))
    for start in range(0, len(points), each):
        here = slice(start, start + each)
        yield here, np.ascontiguousarray(points[here].T)


def signed_distance(outline: Array, points: Array, most: float = math.inf) -> Array:
    """Return the signed distance of ``points`` (n, 2) from the outline, negative outside; infinite beyond
    ``most``."""
    far = distance(outline, points, most)
    found: Array = np.where(encloses(outline, points), far, -far)
    return found
