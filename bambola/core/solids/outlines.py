"""Closed outlines in a plane, (n, 2) corners: which points lie within, and how far from the edge."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bambola.core.solids.facets import Array


def encloses(outline: Array, points: Array) -> NDArray[np.bool_]:
    """Which of ``points`` (n, 2) lie within: by the even-odd rule, all at once."""
    u, v = points[:, 0], points[:, 1]
    inside: NDArray[np.bool_] = np.zeros(len(points), dtype=bool)
    for (x1, y1), (x2, y2) in _sides(outline):
        if y1 != y2:
            crosses = (y1 > v) != (y2 > v)
            inside ^= crosses & (u < (x2 - x1) * (v - y1) / (y2 - y1) + x1)
    return inside


def distance(outline: Array, points: Array) -> Array:
    """How far ``points`` (n, 2) are from the outline itself, within it or not."""
    u, v = points[:, 0].copy(), points[:, 1].copy()
    best2 = np.full(len(points), np.inf)
    for (a, b), (c, d) in _sides(outline):
        along, up = c - a, d - b
        square = max(along * along + up * up, 1e-18)
        x, y = u - a, v - b
        share = np.minimum(np.maximum((x * along + y * up) / square, 0.0), 1.0)
        x -= share * along
        y -= share * up
        np.minimum(best2, x * x + y * y, out=best2)
    found: Array = np.sqrt(best2)
    return found


def depth(outline: Array, points: Array) -> Array:
    """How deep ``points`` (n, 2) lie within, negative outside."""
    far = distance(outline, points)
    found: Array = np.where(encloses(outline, points), far, -far)
    return found


def _sides(outline: Array) -> zip[tuple[list[float], list[float]]]:
    corners = outline.tolist()
    return zip(corners, corners[1:] + corners[:1], strict=True)
