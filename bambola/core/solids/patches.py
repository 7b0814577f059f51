"""The areas and edge lengths of places on a part's skin, such as patches of another colour."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.places import Outline, Place, Where
from bambola.core.figure.shapes import Shape
from bambola.core.memo import remembered
from bambola.core.solids.facets import (
    cross_products,
    edges,
    facet_areas,
    facet_centres,
    facet_radii,
    quarter_facets,
    subdivide_to,
    vector_lengths,
)
from bambola.core.solids.forms import Array, box_of
from bambola.core.solids.meshes import Detail, mesh_of
from bambola.core.solids.outlines import signed_distance
from bambola.core.solids.regions import VIEWS, Deep, as_seen, deep_in, faces_view, span_of


def stripe_mm(area: float, edge: float) -> float:
    """Return the width (mm) of a patch of ``area`` mm² with an ``edge`` of this many mm, taken for a straight
    stripe, or for a disc if it is too round."""
    stretched = edge * edge - 16 * area
    if stretched > -1e-9 * edge * edge:  # a square at least
        return (edge - math.sqrt(max(0.0, stretched))) / 4
    return math.sqrt(4 * area / math.pi)


def place_areas(shape: Shape, skin: Array, places: Sequence[Place]) -> tuple[float, ...]:
    """Return for each of ``places`` its visible area in mm² on ``skin`` (n, 3, 3; triangles in the part's own
    axes): what no later place covers."""
    found = []
    for i, place in enumerate(places):
        later = places[i + 1 :]
        whole = place.is_whole
        alone = float(facet_areas(skin).sum()) if whole else place_area(shape, skin, place.where)
        found.append(alone - _shared_area(shape, skin, place, later) if later and alone else alone)
    return tuple(found)


@remembered(512)
def places_under(shape: Shape, places: tuple[Place, ...]) -> tuple[tuple[str, ...], ...]:
    """Return for each of ``places`` (settled ones) the ids of earlier ones that it partly covers, to half a
    facet of the mesh for pictures."""
    mesh = mesh_of(shape, Detail.DRAWN)
    corners = mesh.vertices[mesh.faces]
    middle, normal = facet_centres(corners), cross_products(corners)
    size = facet_radii(corners, middle)
    near = [
        deep_in(shape, place.where)(middle, normal, float(size.max())) > -size / 2
        for place in places
    ]
    return tuple(
        tuple(below.id for k, below in enumerate(places[:i]) if (near[i] & near[k]).any())
        for i in range(len(places))
    )


def _shared_area(shape: Shape, skin: Array, place: Place, later: Sequence[Place]) -> float:
    """Return the area in mm² that ``place`` and any of ``later`` have in common."""
    own = deep_in(shape, place.where)
    over = [deep_in(shape, other.where) for other in later]

    def deep(points: Array, normals: Array, most: float) -> Array:
        covered = np.maximum.reduce([each(points, normals, most) for each in over])
        return np.minimum(own(points, normals, most), covered)

    enough = _ENOUGH * min(span_of(shape, each.where) for each in (place, *later))
    return _area_in(shape, skin, deep, enough)


def _area_in(shape: Shape, skin: Array, deep: Deep, enough: float) -> float:
    """Return the area in mm² of ``skin`` where ``deep`` is positive, subdivided down to ``enough`` mm."""
    even = subdivide_to(skin, shape.thinnest_mm / 4, _MOST_PIECES)
    every = slice(None)
    return _positive_area(even, lambda points: points, lambda *_: every, deep, enough)


def place_area(shape: Shape, skin: Array, where: Where) -> float:
    """Return the area in mm² of ``skin`` (n, 3, 3), triangles in the part's own axes, that lies within a
    place."""
    if not isinstance(where, Outline):
        enough = _ENOUGH * span_of(shape, where)
        return _area_in(shape, skin, deep_in(shape, where), enough)
    centre, half = box_of(shape)
    polygon = np.array(where.outline)
    low, high = polygon.min(axis=0), polygon.max(axis=0)
    if where.mirrored:
        low, high = np.minimum(low, high * [-1, 1]), np.maximum(high, low * [-1, 1])

    return _positive_area(
        skin,
        lambda points: as_seen(where.view, (points - centre) / half),
        lambda normal, flat: faces_view(where.view, normal) & _meets_box(flat, low, high),
        lambda middle, _, most: _signed_distances(polygon, middle, where.mirrored, most),
        _ENOUGH * float((high - low).min()),
    )


def _positive_area(
    skin: Array,
    lay: Callable[[Array], Array],
    may: Callable[[Array, Array], NDArray[np.bool_] | slice],
    deep: Deep,
    enough: float,
) -> float:
    """Return the area of the triangles of ``skin`` where ``deep`` is positive, among those that ``may`` by
    normal and place."""
    total, pieces = 0.0, skin
    for level in range(_SPLITS + 1):
        if not len(pieces):
            break
        normal, flat = cross_products(pieces), lay(pieces)
        seen = may(normal, flat)
        pieces, normal, flat = pieces[seen], normal[seen], flat[seen]
        middle = facet_centres(flat)
        # Whole pieces count as they are; those on the edge of the patch are cut in four again.
        size = facet_radii(flat, middle)
        into = deep(middle, normal, float(size.max(initial=0.0)))
        last = level == _SPLITS or len(pieces) > _MOST_PIECES
        done = (np.abs(into) >= size) | (size < enough) | last
        area = vector_lengths(normal) / 2
        total += float(area[done & (into > 0)].sum())
        pieces = quarter_facets(pieces[~done])
    return total


def _meets_box(flat: Array, low: Array, high: Array) -> NDArray[np.bool_]:
    """Return which triangles (n, 3, 2) reach into the box from ``low`` to ``high``."""
    a, b, c = flat[:, 0], flat[:, 1], flat[:, 2]
    over = np.maximum(np.maximum(a, b), c) > low
    under = np.minimum(np.minimum(a, b), c) < high
    found: NDArray[np.bool_] = over[:, 0] & over[:, 1] & under[:, 0] & under[:, 1]
    return found


_SPLITS = 8
_MOST_PIECES = 30_000
_ENOUGH = 0.02
"""A facet on the edge of a patch is cut in four, at most so often, until its pieces are a fiftieth of it."""


def _signed_distances(
    polygon: Array, points: Array, mirrored: bool, most: float = math.inf
) -> Array:
    """Return the signed distance of points (n, 2) from a patch's outline, negative outside; infinite beyond
    ``most``."""
    deep = signed_distance(polygon, points, most)
    return np.maximum(deep, signed_distance(polygon * [-1, 1], points, most)) if mirrored else deep


@remembered(1024)
def place_edge(shape: Shape, where: Where) -> float:
    """Return the length (mm) of the edge of a place on a shape's whole skin.

    Where its edge crosses the skin (by straight pieces within each facet), and where the skin turns
    away from the view within an outline (along the facets' own edges).
    """
    mesh = mesh_of(shape, Detail.DRAWN)
    points, faces = mesh.vertices, mesh.faces
    corners = points[faces]
    deep = deep_in(shape, where)
    ways = cross_products(corners)
    seen = np.isfinite(deep(facet_centres(corners), ways, math.inf))
    enough = 5 * _ENOUGH * span_of(shape, where)

    def within(places: Array, normals: Array) -> Array:
        flat = places.reshape(-1, 3)
        every = np.repeat(normals, len(flat) // max(1, len(normals)), axis=0)
        return deep(flat, every, math.inf).reshape(places.shape[:-1])

    pieces, normals = corners[seen], ways[seen]
    for _ in range(_SPLITS):  # the edge may wind within a facet
        centres = facet_centres(pieces)
        size = facet_radii(pieces, centres)
        near = np.abs(within(centres, normals)) <= size
        pieces, normals = pieces[near], normals[near]
        if not 0 < len(pieces) < _MOST_PIECES or float(size.max()) < enough:
            break
        pieces, normals = quarter_facets(pieces), np.tile(normals, (4, 1))
    crossing = _zero_line_length(within(pieces, normals), pieces) if len(pieces) else 0.0
    if not isinstance(where, Outline):
        return crossing
    (_, _, (facing, sense)) = VIEWS[where.view]
    turned = np.zeros((len(points), 3))
    turned[:, facing] = sense
    return crossing + _turning_length(deep(points, turned, math.inf), points, faces, seen)


def _zero_line_length(values: Array, corners: Array) -> float:
    """Return the length of the zero line of values (n, 3) given at the corners (n, 3, 3) of facets."""
    length = 0.0
    for i, j, k in ((0, 1, 2), (1, 2, 0), (2, 0, 1)):
        # The corner i stands alone on its side.
        alone = ((values[:, i] > 0) != (values[:, j] > 0)) & (
            (values[:, i] > 0) != (values[:, k] > 0)
        )
        a, b, c = values[alone, i], values[alone, j], values[alone, k]
        p = corners[alone, i] + (a / (a - b))[:, None] * (corners[alone, j] - corners[alone, i])
        q = corners[alone, i] + (a / (a - c))[:, None] * (corners[alone, k] - corners[alone, i])
        length += float(vector_lengths(p - q).sum())
    return length


def _turning_length(
    within: Array, points: Array, faces: NDArray[np.int64], seen: NDArray[np.bool_]
) -> float:
    """Return the length of facet edges between visible and invisible facets inside the outline."""
    pairs, _, which, _ = edges(faces)
    sides = np.bincount(which, weights=np.tile(seen, 3), minlength=len(pairs))
    turn = pairs[sides == 1]
    inside = (within[turn] > 0).all(axis=1)
    return float(vector_lengths(points[turn[:, 0]] - points[turn[:, 1]])[inside].sum())
