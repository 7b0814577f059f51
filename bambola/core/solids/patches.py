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


@lru_cache(maxsize=2048)
def patch_edge(shape: Shape, inset: Inset) -> float:
    """Length (mm) of the edge of a patch on a shape's whole skin.

    Where its outline crosses the skin (by straight pieces within each facet), and where the skin turns
    away from the view within the outline (along the facets' own edges).
    """
    mesh = mesh_of(shape)
    centre, half = box_of(shape)
    (across, right), (up, rise), (facing, sense) = VIEWS[inset.view]
    points, faces = mesh.vertices, mesh.faces
    corners = points[faces]
    seen = (
        np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])[:, facing] * sense
        > 0
    )
    unit = (points - centre) / half
    flat = np.column_stack([unit[:, across] * right * half[across], unit[:, up] * rise * half[up]])
    polygon = np.array(inset.outline) * [half[across], half[up]]
    runs = (polygon, polygon * [-1, 1]) if inset.mirrored else (polygon,)
    within = np.max([_signed(run, flat) for run in runs], axis=0)
    crossing = _contour(within[faces][seen], corners[seen])
    return crossing + _turning(within, points, faces, seen)


def _contour(values: Array, corners: Array) -> float:
    """Length of the line where values (n, 3) at the corners (n, 3, 3) of facets pass nought."""
    length = 0.0
    for i, j, k in ((0, 1, 2), (1, 2, 0), (2, 0, 1)):
        # The corner i stands alone on its side.
        alone = ((values[:, i] > 0) != (values[:, j] > 0)) & (
            (values[:, i] > 0) != (values[:, k] > 0)
        )
        a, b, c = values[alone, i], values[alone, j], values[alone, k]
        p = corners[alone, i] + (a / (a - b))[:, None] * (corners[alone, j] - corners[alone, i])
        q = corners[alone, i] + (a / (a - c))[:, None] * (corners[alone, k] - corners[alone, i])
        length += float(np.linalg.norm(p - q, axis=1).sum())
    return length


def _turning(
    within: Array, points: Array, faces: NDArray[np.int64], seen: NDArray[np.bool_]
) -> float:
    """Length of the facets' edges between seen and unseen facets, inside the outline."""
    edges = np.sort(np.vstack([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]]), axis=1)
    pairs, which = np.unique(edges, axis=0, return_inverse=True)
    sides = np.bincount(which.ravel(), weights=np.tile(seen, 3), minlength=len(pairs))
    turn = pairs[sides == 1]
    inside = (within[turn] > 0).all(axis=1)
    return float(np.linalg.norm(points[turn[:, 0]] - points[turn[:, 1]], axis=1)[inside].sum())


def _signed(run: Array, points: Array) -> Array:
    """Distance of points (n, 2) from a closed run, positive within it."""
    best = np.full(len(points), np.inf)
    for a, b in zip(run, np.roll(run, -1, axis=0), strict=True):
        along = b - a
        square = max(float(along @ along), 1e-18)
        share = np.clip((points - a) @ along / square, 0, 1)
        best = np.minimum(best, np.linalg.norm(points - a - share[:, None] * along, axis=1))
    signed: Array = np.where(_in_polygon(run, points[:, 0], points[:, 1]), best, -best)
    return signed
