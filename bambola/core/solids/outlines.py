"""Closed outlines in a plane, (n, 2) corners: which points lie within, and how far from the edge.

Points are put in order of their height once, so that each side is asked about those at its own height only.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from bambola.core.solids.forms import Array


def encloses(outline: Array, points: Array) -> NDArray[np.bool_]:
    """Which of ``points`` (n, 2) lie within: by the even-odd rule, all at once."""
    order = np.argsort(points[:, 1])
    u, v = points[order].T.copy()
    inside = np.zeros(len(points), dtype=bool)
    for (x1, y1), (x2, y2) in _sides(outline):
        if y1 != y2:
            here = slice(*np.searchsorted(v, (min(y1, y2), max(y1, y2))))
            inside[here] ^= u[here] < (x2 - x1) * (v[here] - y1) / (y2 - y1) + x1
    found = np.empty_like(inside)
    found[order] = inside
    return found


def distance(outline: Array, points: Array, most: float = math.inf) -> Array:
    """How far ``points`` (n, 2) are from the outline itself, within it or not; endless beyond ``most``."""
    order = np.argsort(points[:, 1])
    u, v = points[order].T.copy()
    best2 = np.full(len(points), np.inf)
    for (a, b), (c, d) in _sides(outline):
        here = slice(*np.searchsorted(v, (min(b, d) - most, max(b, d) + most)))
        along, up = c - a, d - b
        square = max(along * along + up * up, 1e-18)
        x, y = u[here] - a, v[here] - b
        share = np.minimum(np.maximum((x * along + y * up) / square, 0.0), 1.0)
        x -= share * along
        y -= share * up
        best2[here] = np.minimum(best2[here], x * x + y * y)
    best2[best2 > most * most] = np.inf
    found = np.empty_like(best2)
    found[order] = np.sqrt(best2)
    return found


def depth(outline: Array, points: Array, most: float = math.inf) -> Array:
    """How deep ``points`` (n, 2) lie within, negative outside; endless beyond ``most``."""
    far = distance(outline, points, most)
    found: Array = np.where(encloses(outline, points), far, -far)
    return found


def _sides(outline: Array) -> zip[tuple[list[float], list[float]]]:
    corners = outline.tolist()
    return zip(corners, corners[1:] + corners[:1], strict=True)
