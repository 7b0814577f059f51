"""Patches of another colour on a part's skin: which points they cover, and how much skin that is."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.model import Inset
from bambola.core.figure.shapes import Shape
from bambola.core.memo import remembered
from bambola.core.solids.forms import Array, box_of
from bambola.core.solids.meshes import Detail, mesh_of


def stripe_mm(area: float, edge: float) -> float:
    """How wide (mm) a patch of ``area`` mm² with an ``edge`` of so many mm is, if it is taken for a straight
    stripe; one too round for that is taken for a disc."""
    stretched = edge * edge - 16 * area
    if stretched > -1e-9 * edge * edge:  # a square at least
        return (edge - math.sqrt(max(0.0, stretched))) / 4
    return math.sqrt(4 * area / math.pi)


# For each view: which local axes run across and up, their sense, and which way the skin must face.
VIEWS = {
    "front": ((0, 1.0), (2, 1.0), (1, -1.0)),
    "back": ((0, -1.0), (2, 1.0), (1, 1.0)),
    "left": ((1, 1.0), (2, 1.0), (0, 1.0)),
    "right": ((1, -1.0), (2, 1.0), (0, -1.0)),
    "top": ((0, 1.0), (1, 1.0), (2, 1.0)),
}


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
    centre, half = box_of(shape)
    (across, right), (up, rise), (facing, sense) = VIEWS[inset.view]
    polygon = np.array(inset.outline)
    low, high = polygon.min(axis=0), polygon.max(axis=0)
    if inset.mirrored:
        low, high = np.minimum(low, high * [-1, 1]), np.maximum(high, low * [-1, 1])
    enough = _ENOUGH * float((high - low).min())
    total, pieces = 0.0, skin
    for level in range(_SPLITS + 1):
        if not len(pieces):
            break
        normal = np.cross(pieces[:, 1] - pieces[:, 0], pieces[:, 2] - pieces[:, 0])
        unit = (pieces - centre) / half
        flat = np.stack([unit[..., across] * right, unit[..., up] * rise], axis=-1)
        seen = (normal[:, facing] * sense > 0) & (flat.max(axis=1) > low).all(axis=1)
        seen &= (flat.min(axis=1) < high).all(axis=1)
        pieces, normal, flat = pieces[seen], normal[seen], flat[seen]
        middle = flat.mean(axis=1)
        depth = _depth(polygon, middle, inset.mirrored)
        # Whole pieces count as they are; those on the edge of the patch are cut in four again.
        size = np.linalg.norm(flat - middle[:, None], axis=2).max(axis=1)
        last = level == _SPLITS or len(pieces) > _MOST_PIECES
        done = (np.abs(depth) >= size) | (size < enough) | last
        area = np.linalg.norm(normal, axis=1) / 2
        total += float(area[done & (depth > 0)].sum())
        pieces = quartered(pieces[~done])
    return total


_SPLITS = 8
_MOST_PIECES = 30_000
_ENOUGH = 0.02
"""A facet on the edge of a patch is cut in four, at most so often, until its pieces are a fiftieth of it."""


def depth_within(outline: Array, points: Array) -> Array:
    """How deep points (n, 2) lie within a closed run of corners, negative outside it."""
    return _signed(outline, points)


def _depth(polygon: Array, points: Array, mirrored: bool) -> Array:
    """How deep points (n, 2) lie within a patch, negative outside it."""
    depth = _signed(polygon, points)
    return np.maximum(depth, _signed(polygon * [-1, 1], points)) if mirrored else depth


def quartered(triangles: Array) -> Array:
    """Each of (n, 3, 3) triangles as four."""
    a, b, c = triangles[:, 0], triangles[:, 1], triangles[:, 2]
    ab, bc, ca = (a + b) / 2, (b + c) / 2, (c + a) / 2
    return np.concatenate(
        [np.stack(t, axis=1) for t in ((a, ab, ca), (ab, b, bc), (ca, bc, c), (ab, bc, ca))]
    )


@remembered(1024)
def patch_edge(shape: Shape, inset: Inset) -> float:
    """Length (mm) of the edge of a patch on a shape's whole skin.

    Where its outline crosses the skin (by straight pieces within each facet), and where the skin turns
    away from the view within the outline (along the facets' own edges).
    """
    mesh = mesh_of(shape, Detail.DRAWN)
    centre, half = box_of(shape)
    (across, right), (up, rise), (facing, sense) = VIEWS[inset.view]
    points, faces = mesh.vertices, mesh.faces
    polygon = np.array(inset.outline) * [half[across], half[up]]
    enough = 5 * _ENOUGH * float(np.ptp(polygon, axis=0).min())

    def depth(places: Array) -> Array:
        flat = np.stack(
            [(places[..., across] - centre[across]) * right, (places[..., up] - centre[up]) * rise],
            -1,
        )
        return _depth(polygon, flat.reshape(-1, 2), inset.mirrored).reshape(flat.shape[:-1])

    corners = points[faces]
    seen = (
        np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])[:, facing] * sense
        > 0
    )
    pieces = corners[seen]
    for _ in range(_SPLITS):  # the edge may wind within a facet
        size = np.linalg.norm(pieces - pieces.mean(axis=1, keepdims=True), axis=2).max(axis=1)
        pieces = pieces[np.abs(depth(pieces.mean(axis=1))) <= size]
        if not 0 < len(pieces) < _MOST_PIECES or float(size.max()) < enough:
            break
        pieces = quartered(pieces)
    crossing = _contour(depth(pieces), pieces) if len(pieces) else 0.0
    return crossing + _turning(depth(points), points, faces, seen)


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
    u, v = points[:, 0].copy(), points[:, 1].copy()
    best2 = np.full(len(points), np.inf)
    for (a, b), (c, d) in zip(run.tolist(), np.roll(run, -1, axis=0).tolist(), strict=True):
        along, up = c - a, d - b
        square = max(along * along + up * up, 1e-18)
        x, y = u - a, v - b
        share = np.minimum(np.maximum((x * along + y * up) / square, 0.0), 1.0)
        x -= share * along
        y -= share * up
        np.minimum(best2, x * x + y * y, out=best2)
    best = np.sqrt(best2)
    signed: Array = np.where(_in_polygon(run, u, v), best, -best)
    return signed
