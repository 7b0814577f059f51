"""Vectorised measures of a skin's facets: middles, reaches, areas, edges, subdivision.

Triangles are (n, 3, 3): n times three corners of x, y, z. Sums over three are written out, since NumPy takes
several times as long to sum along so short an axis.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bambola.core.solids.forms import Array

Faces = NDArray[np.int64]


def facet_centres(triangles: Array) -> Array:
    """Return the mean corner of each facet, (n, k) for corners of k coordinates."""
    found: Array = (triangles[:, 0] + triangles[:, 1] + triangles[:, 2]) / 3
    return found


def facet_radii(triangles: Array, centres: Array) -> Array:
    """Return the distance of each facet's farthest corner from its centre (n, k): (n,)."""
    far2 = [_squared_lengths(triangles[:, i] - centres) for i in range(3)]
    found: Array = np.sqrt(np.maximum(np.maximum(far2[0], far2[1]), far2[2]))
    return found


def _squared_lengths(run: Array) -> Array:
    total: Array = run[:, 0] ** 2
    for k in range(1, run.shape[1]):
        total += run[:, k] ** 2
    return total


def vector_lengths(runs: Array) -> Array:
    """Return the lengths of vectors (n, k): (n,)."""
    found: Array = np.sqrt(_squared_lengths(runs))
    return found


def cross_products(triangles: Array) -> Array:
    """Return the cross product of two sides of each facet (n, 3): along its normal, with twice its area as
    length."""
    a = triangles[:, 0]
    (ux, uy, uz), (vx, vy, vz) = (triangles[:, 1] - a).T, (triangles[:, 2] - a).T
    return np.stack([uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx], axis=1)


def facet_areas(triangles: Array) -> Array:
    """Return the areas, (n,) mm²."""
    return vector_lengths(cross_products(triangles)) / 2


def edges(faces: Faces) -> tuple[Faces, Faces, Faces, Faces]:
    """Return the distinct edges of faces (n, 3) as sorted corner pairs (m, 2), the index of each one's first
    occurrence, its index for every side of every face (all first sides, then second, then third), and how
    many faces share it."""
    sides = np.vstack([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]])
    low, high = sides.min(axis=1), sides.max(axis=1)
    most = int(high.max(initial=0)) + 1
    found, first, which, count = np.unique(
        low * most + high, return_index=True, return_inverse=True, return_counts=True
    )
    return np.stack([found // most, found % most], axis=1), first, which, count


def quarter_facets(triangles: Array) -> Array:
    """Return each facet divided into four."""
    a, b, c = triangles[:, 0], triangles[:, 1], triangles[:, 2]
    ab, bc, ca = (a + b) / 2, (b + c) / 2, (c + a) / 2
    n = len(triangles)
    out = np.empty((4 * n, *triangles.shape[1:]))
    for k, corners in enumerate(((a, ab, ca), (ab, b, bc), (ca, bc, c), (ab, bc, ca))):
        for i, corner in enumerate(corners):
            out[k * n : (k + 1) * n, i] = corner
    return out


def subdivide_to(triangles: Array, mm: float, most: int) -> Array:
    """Return the skin in triangles of which none reaches farther than ``mm`` from its middle, by halving
    across the longest side; at most ``most`` triangles."""
    short, left = triangles[:0], triangles
    while len(left):
        done = facet_radii(left, facet_centres(left)) <= mm
        short, left = np.concatenate([short, left[done]]), left[~done]
        if len(short) + 2 * len(left) > most:
            return np.concatenate([short, left])
        left = _halve_triangles(left)
    return short


def _halve_triangles(triangles: Array) -> Array:
    n = np.arange(len(triangles))
    sides = np.stack(
        [vector_lengths(triangles[:, i] - triangles[:, (i + 1) % 3]) for i in range(3)]
    )
    at = sides.argmax(axis=0)
    a, b, c = (triangles[n, (at + k) % 3] for k in range(3))
    middle = (a + b) / 2
    return np.concatenate([np.stack([a, middle, c], axis=1), np.stack([middle, b, c], axis=1)])
