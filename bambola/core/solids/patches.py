"""Patches of another colour on a part's skin: which points they cover, and how much skin that is."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.model import Inset
from bambola.core.figure.shapes import Shape
from bambola.core.solids.forms import Array
from bambola.core.solids.meshes import mesh_of

# For each view: which local axes run across and up, their sense, and which way the skin must face.
VIEWS = {
    "front": ((0, 1.0), (2, 1.0), (1, -1.0)),
    "back": ((0, -1.0), (2, 1.0), (1, 1.0)),
    "left": ((1, 1.0), (2, 1.0), (0, 1.0)),
    "right": ((1, -1.0), (2, 1.0), (0, -1.0)),
    "top": ((0, 1.0), (1, 1.0), (2, 1.0)),
}


@lru_cache(maxsize=2048)
def box_of(shape: Shape) -> tuple[Array, Array]:
    """Centre and half size (3,) of a shape's own box, mm."""
    corners = mesh_of(shape).vertices
    low, high = corners.min(axis=0), corners.max(axis=0)
    return (low + high) / 2, np.maximum((high - low) / 2, 1e-9)


def covered(
    shape: Shape, inset: Inset, points: NDArray[np.floating], normals: NDArray[np.floating]
) -> NDArray[np.bool_]:
    """Which of ``points`` (n, 3), with outward ``normals`` (n, 3), ``inset`` covers.

    Both are in the part's own axes, points in mm of ``shape``.
    """
    centre, half = box_of(shape)
    (across, right), (up, rise), (facing, sense) = VIEWS[inset.view]
    unit = (points - centre) / half
    u, v = unit[:, across] * right, unit[:, up] * rise
    polygon = np.array(inset.outline)
    inside = _in_polygon(polygon, u, v)
    if inset.mirrored:
        inside |= _in_polygon(polygon, -u, v)
    covers: NDArray[np.bool_] = inside & (normals[:, facing] * sense > 0)
    return covers


def _in_polygon(
    polygon: Array, u: NDArray[np.floating], v: NDArray[np.floating]
) -> NDArray[np.bool_]:
    """Even-odd rule, all points at once."""
    inside = np.zeros(len(u), dtype=bool)
    for (x1, y1), (x2, y2) in zip(polygon, np.roll(polygon, -1, axis=0), strict=True):
        if y1 != y2:
            crosses = (y1 > v) != (y2 > v)
            inside ^= crosses & (u < (x2 - x1) * (v - y1) / (y2 - y1) + x1)
    return inside


def patch_area(shape: Shape, skin: Array, inset: Inset) -> float:
    """Area in mm² of ``skin`` (n, 3, 3), triangles in the part's own axes, under ``inset``."""
    if not len(skin):
        return 0.0
    small = skin
    for _ in range(2):  # sixteen pieces to a triangle: finer than the eye sees on a patch's edge
        a, b, c = small[:, 0], small[:, 1], small[:, 2]
        ab, bc, ca = (a + b) / 2, (b + c) / 2, (c + a) / 2
        small = np.concatenate(
            [np.stack(t, axis=1) for t in ((a, ab, ca), (ab, b, bc), (ca, bc, c), (ab, bc, ca))]
        )
    normal = np.cross(small[:, 1] - small[:, 0], small[:, 2] - small[:, 0])
    area = np.linalg.norm(normal, axis=1) / 2
    return float(area[covered(shape, inset, small.mean(axis=1), normal)].sum())
