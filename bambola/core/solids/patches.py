"""Patches of another colour on a part's skin: which points they cover, and how much skin that is."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.model import Inset
from bambola.core.figure.shapes import Shape
from bambola.core.memo import remembered
from bambola.core.solids.facets import crosses, edges, lengths, middles, quartered, reaches
from bambola.core.solids.forms import Array, box_of
from bambola.core.solids.meshes import Detail, mesh_of
from bambola.core.solids.outlines import depth, encloses


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
    flat = np.stack([unit[:, across] * right, unit[:, up] * rise], axis=1)
    polygon = np.array(inset.outline)
    inside = encloses(polygon, flat)
    if inset.mirrored:
        inside |= encloses(polygon, flat * [-1, 1])
    covers: NDArray[np.bool_] = inside & (normals[:, facing] * sense > 0)
    return covers


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
        normal = crosses(pieces)
        unit = (pieces - centre) / half
        flat = np.stack([unit[..., across] * right, unit[..., up] * rise], axis=-1)
        seen = (normal[:, facing] * sense > 0) & _meets(flat, low, high)
        pieces, normal, flat = pieces[seen], normal[seen], flat[seen]
        middle = middles(flat)
        # Whole pieces count as they are; those on the edge of the patch are cut in four again.
        size = reaches(flat, middle)
        deep = _depth(polygon, middle, inset.mirrored, float(size.max(initial=0.0)))
        last = level == _SPLITS or len(pieces) > _MOST_PIECES
        done = (np.abs(deep) >= size) | (size < enough) | last
        area = lengths(normal) / 2
        total += float(area[done & (deep > 0)].sum())
        pieces = quartered(pieces[~done])
    return total


def _meets(flat: Array, low: Array, high: Array) -> NDArray[np.bool_]:
    """Which of triangles (n, 3, 2) reach into the box from ``low`` to ``high``."""
    a, b, c = flat[:, 0], flat[:, 1], flat[:, 2]
    over = np.maximum(np.maximum(a, b), c) > low
    under = np.minimum(np.minimum(a, b), c) < high
    found: NDArray[np.bool_] = over[:, 0] & over[:, 1] & under[:, 0] & under[:, 1]
    return found


_SPLITS = 8
_MOST_PIECES = 30_000
_ENOUGH = 0.02
"""A facet on the edge of a patch is cut in four, at most so often, until its pieces are a fiftieth of it."""


def _depth(polygon: Array, points: Array, mirrored: bool, most: float = math.inf) -> Array:
    """How deep points (n, 2) lie within a patch, negative outside it; endless beyond ``most``."""
    deep = depth(polygon, points, most)
    return np.maximum(deep, depth(polygon * [-1, 1], points, most)) if mirrored else deep


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

    def within(places: Array) -> Array:
        flat = np.stack(
            [(places[..., across] - centre[across]) * right, (places[..., up] - centre[up]) * rise],
            -1,
        )
        return _depth(polygon, flat.reshape(-1, 2), inset.mirrored).reshape(flat.shape[:-1])

    corners = points[faces]
    seen = crosses(corners)[:, facing] * sense > 0
    pieces = corners[seen]
    for _ in range(_SPLITS):  # the edge may wind within a facet
        centres = middles(pieces)
        size = reaches(pieces, centres)
        pieces = pieces[np.abs(within(centres)) <= size]
        if not 0 < len(pieces) < _MOST_PIECES or float(size.max()) < enough:
            break
        pieces = quartered(pieces)
    crossing = _contour(within(pieces), pieces) if len(pieces) else 0.0
    return crossing + _turning(within(points), points, faces, seen)


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
        length += float(lengths(p - q).sum())
    return length


def _turning(
    within: Array, points: Array, faces: NDArray[np.int64], seen: NDArray[np.bool_]
) -> float:
    """Length of the facets' edges between seen and unseen facets, inside the outline."""
    pairs, _, which, _ = edges(faces)
    sides = np.bincount(which, weights=np.tile(seen, 3), minlength=len(pairs))
    turn = pairs[sides == 1]
    inside = (within[turn] > 0).all(axis=1)
    return float(lengths(points[turn[:, 0]] - points[turn[:, 1]])[inside].sum())
