"""Tests whether points lie within a shape, by its form rather than by facets, and estimates solids from
random points.

Where many parts crowd together, cutting solids with solids takes long; points give the same in less time.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes import ChainShape, Leaf, Shape
from bambola.core.memo import remembered
from bambola.core.solids.facets import facet_centres, facet_radii, quarter_facets, subdivide_to
from bambola.core.solids.forms import (
    Array,
    box_of,
    chain,
    flatten_sheet,
    leaf_outline,
    profile,
    support_distances,
    thin_curve,
)
from bambola.core.solids.meshes import Detail, mesh_of
from bambola.core.solids.outlines import distance, encloses

Mask = NDArray[np.bool_]
POINTS = 8192
"""Points thrown into a shape's box: shares of its volume are then known to about a third of a per cent."""
KEPT_CHAINS = 512
"""So many chains are known to their hulls: as many as a figure may have parts. Judged."""
_GOLDEN = (0.8191725133961645, 0.6710436067037893, 0.5497004779019703)
"""Steps of an additive recurrence that fills a cube evenly: powers of the inverse of the root of
x^4 = x + 1 (Roberts's generalised golden ratio)."""


def points_within(shape: Shape, points: Array) -> Mask:
    """Return which of ``points`` (n, 3), in the shape's own axes, lie within it."""
    centre, half = box_of(shape)
    inside: Mask = np.ones(len(points), dtype=bool)
    for k in range(3):
        inside &= np.abs(points[:, k] - centre[k]) <= half[k]
    inside[inside] = _within_shape(shape, points[inside])
    return inside


def _within_shape(shape: Shape, points: Array) -> Mask:
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
    """Return which points lie within the hull of any two consecutive rounds."""
    hulls = _round_hulls(shape)
    inside: Mask = np.zeros(len(points), dtype=bool)
    # No point is asked of a pair of rounds that it is far from: a rope has many.
    near_run = _squared_distances(hulls.middles, points) <= hulls.reaches2[:, None]
    for run, near in enumerate(near_run):
        left = np.flatnonzero(near & ~inside)
        if not len(left):
            continue
        start, end = run * _RUN, min((run + 1) * _RUN, len(hulls.long))
        far2 = _squared_distances(hulls.a[start:end], points[left])
        round_ = (far2 <= (hulls.r[start:end] ** 2)[:, None]).any(axis=0)
        inside[left[round_]] = True
        far2, left = far2[:, ~round_], left[~round_]
        pair, at = np.nonzero(far2 <= hulls.reach2[start:end, None])
        hit = _within_hulls(hulls, pair + start, points[left[at]])
        inside[left[at[hit]]] = True
    return inside


_RUN = 8
"""So many pairs of rounds are passed over at once by points that are far from all of them."""


def _squared_distances(centres: Array, points: Array) -> Array:
    """Return the squared distances of ``points`` (n, 3) from ``centres`` (m, 3), (m, n)."""
    found: Array = np.einsum("ij,ij->i", centres, centres)[:, None] - 2 * centres @ points.T
    found += np.einsum("ij,ij->i", points, points)
    return found


@dataclass(frozen=True)
class _Hulls:
    """The hulls of consecutive rounds of a chain: start ``a``, direction ``unit`` and length ``long`` of
    each, and the squared distance (``reach2``) beyond which nothing lies within; the same for groups of them,
    about ``middles``."""

    a: Array
    b: Array
    unit: Array
    long: Array
    r: Array
    q: Array
    reach2: Array
    middles: Array
    reaches2: Array


@remembered(KEPT_CHAINS)
def _round_hulls(shape: ChainShape) -> _Hulls:
    form = thin_curve(chain(shape))
    last = len(form.points) if form.closed else len(form.points) - 1
    a, r = form.points[:last], form.radii[:last]
    b, q = np.roll(form.points, -1, axis=0)[:last], np.roll(form.radii, -1)[:last]
    long = np.linalg.norm(b - a, axis=1)
    unit = (b - a) / np.maximum(long, 1e-12)[:, None]
    reach = (long + np.maximum(r, q)) * (1 + 1e-9)
    starts = range(0, last, _RUN)
    middles = np.array([(a[n : n + _RUN].sum(0) + b[n : n + _RUN].sum(0)) / (2 * len(a[n : n + _RUN]))
                        for n in starts])  # fmt: skip
    far = np.array([
        max(float((np.linalg.norm(end[n : n + _RUN] - middle, axis=1) + size[n : n + _RUN]).max())
            for end, size in ((a, r), (b, q)))
        for n, middle in zip(starts, middles, strict=True)
    ])  # fmt: skip
    reaches2 = (far * (1 + 1e-9)) ** 2 + 1e-6
    return _Hulls(a, b, unit, long, r, q, reach * reach + 1e-6, middles, reaches2)


def _within_hulls(hulls: _Hulls, pair: NDArray[np.intp], points: Array) -> Mask:
    """Return which of ``points`` lie within the hull of a ball of radius ``r`` at ``a`` and one of radius
    ``q`` at ``b``, each of its own ``pair``.

    Between the circles where the cone touches the balls, the distance to the axis is compared with the
    cone's; beyond them, with the balls'.
    """
    r, q, long = hulls.r[pair], hulls.q[pair], hulls.long[pair]
    from_a, from_b = points - hulls.a[pair], points - hulls.b[pair]
    far2 = np.einsum("ij,ij->i", from_a, from_a)
    inside: Mask = (far2 <= r * r) | (np.einsum("ij,ij->i", from_b, from_b) <= q * q)
    apart = long > np.abs(r - q)  # else the larger ball holds the other
    slope = np.where(apart, (r - q) / np.maximum(long, 1e-12), 0.0)
    along = np.einsum("ij,ij->i", from_a, hulls.unit[pair])
    off = np.sqrt(np.maximum(0.0, far2 - along**2))
    # The touching rounds stand r·slope and long + q·slope along the axis.
    span = np.where(apart, long + (q - r) * slope, 1.0)
    share = (along - r * slope) / span
    radius = (r + share * (q - r)) * np.sqrt(1 - slope * slope)
    between: Mask = apart & (share >= 0) & (share <= 1) & (off <= radius)
    return inside | between


def _within_leaf(shape: Leaf, points: Array) -> Mask:
    """Return which points lie deep enough within the outline for their depth in the sheet: r - sqrt(r² - y²)
    from its edge."""
    flat = flatten_sheet(shape, points)
    r = shape.thickness / 2
    inside: Mask = np.abs(flat[:, 1]) <= r
    outline = leaf_outline(shape)
    inside[inside] = encloses(outline, flat[inside][:, [0, 2]])
    edge = min(r, 0.2 * shape.width, 0.2 * shape.length)
    needed = edge * (1 - np.sqrt(np.maximum(0.0, 1 - (flat[inside][:, 1] / r) ** 2)))
    inside[inside] = distance(outline, flat[inside][:, [0, 2]], edge) >= needed
    return inside


@remembered(128)
def random_points_within(shape: Shape, many: int = POINTS) -> Array:
    """Return random points (n, 3) spread evenly within ``shape``, of ``many`` in its box."""
    low, high = -support_distances(shape, -np.eye(3)), support_distances(shape, np.eye(3))
    spread = np.modf(0.5 + np.arange(1, many + 1)[:, None] * np.array(_GOLDEN))[0]
    points = low + spread * (high - low)
    found: Array = points[points_within(shape, points)]
    return found


PlacedPart = tuple[Shape, Array]
"""A shape, and the rows (3, 4) that take its own axes to those of the one whose skin is asked for."""

_CUTS = 2
"""How often a facet on an edge is cut in four. Middles of its sixteen pieces err to either side alike: round
a join a hundred facets long by about half a facet."""
THRONG = 16
"""Among more neighbours than this nearly every facet lies on some edge: then fewer facets, none of them cut,
err as little over all. Judged."""
_MORE_CUTS = 3
"""How often what is still coarse beside something thin is cut again. Judged."""
_LONG, _SHORT = 0.5, 0.04
"""A piece that reaches farther than half of its part's thickness is cut until none reaches farther than a
twenty-fifth of it. Judged."""
_MOST_PIECES = 200_000
"""Into more pieces no skin is cut: that is a shape of metres among shapes of millimetres. Judged."""

_FACET_BYTES = 3_000_000
"""Those of sixty shapes: more than a figure has. Judged."""


def buried_skin(shape: Shape, others: Sequence[PlacedPart]) -> Array:
    """Return the triangles (n, 3, 3), in the shape's own axes, of its skin that lie within any of
    ``others``."""
    if len(others) > THRONG:
        mesh = mesh_of(shape, Detail.UNION)
        facets: Array = mesh.vertices[mesh.faces]
        found: Array = facets[buried_points(others, facet_centres(facets))]
        return found
    mesh = mesh_of(shape, Detail.DRAWN)
    corners = buried_points(others, mesh.vertices)[mesh.faces]
    whole, some = corners.all(axis=1), corners.any(axis=1)
    coarse = _may_be_crossed(others, *_facet_middles(shape))
    pieces = mesh.vertices[mesh.faces[(some & ~whole) | coarse]]
    for _ in range(_CUTS):
        pieces = quarter_facets(pieces)
    # The facets of a straight limb are as long as it is: their middles say little of where others begin.
    long = facet_radii(pieces, facet_centres(pieces)) > _LONG * shape.thinnest_mm
    if long.any():
        short = subdivide_to(pieces[long], _SHORT * shape.thinnest_mm, _MOST_PIECES)
        pieces = np.concatenate([pieces[~long], short])
    for _ in range(_MORE_CUTS if coarse.any() else 0):
        still = _may_be_crossed(others, *_triangle_middles(pieces))
        if len(pieces) + 3 * int(still.sum()) > _MOST_PIECES:
            break
        pieces = np.concatenate([pieces[~still], quarter_facets(pieces[still])])
    cut = pieces[buried_points(others, facet_centres(pieces))]
    return np.concatenate([mesh.vertices[mesh.faces[whole & ~coarse]], cut])


def seen_by(rows: Array, points: Array) -> Array:
    """Return ``points`` (n, 3) transformed by ``rows`` (3, 4), a rotation or mirrored rotation with an
    offset."""
    found: Array = (points - rows[:, 3]) @ rows[:, :3]
    return found


def buried_points(others: Iterable[PlacedPart], points: Array) -> Mask:
    """Return which of ``points`` (n, 3) lie within any of ``others``. Points already found are not tested
    again."""
    found: Mask = np.zeros(len(points), dtype=bool)
    left, at = points, np.arange(len(points))
    for other, rows in others:
        if not len(left):
            break
        inside = points_within(other, seen_by(rows, left))
        if inside.any():
            found[at[inside]] = True
            left, at = left[~inside], at[~inside]
    return found


def _bytes_of(facets: tuple[Array, Array]) -> int:
    return facets[0].nbytes + facets[1].nbytes


@remembered(_FACET_BYTES, _bytes_of)
def _facet_middles(shape: Shape) -> tuple[Array, Array]:
    """Return the middles (n, 3) of a shape's facets, and the distances (n,) of their farthest corners, mm."""
    mesh = mesh_of(shape, Detail.DRAWN)
    return _triangle_middles(mesh.vertices[mesh.faces])


def _triangle_middles(triangles: Array) -> tuple[Array, Array]:
    centres = facet_centres(triangles)
    return centres, facet_radii(triangles, centres)


def _may_be_crossed(others: Sequence[PlacedPart], centres: Array, size: Array) -> Mask:
    """Return which facets are so coarse that something thin may pass between their corners."""
    found: Mask = np.zeros(len(centres), dtype=bool)
    for other, rows in others:
        coarse = size > other.thinnest_mm / 2
        if coarse.any():
            centre, half = box_of(other)
            off = np.abs(seen_by(rows, centres) - centre)
            found |= coarse & (off <= half + size[:, None]).all(axis=1)
    return found
