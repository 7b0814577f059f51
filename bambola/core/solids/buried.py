"""Computes how much of a shape's skin lies within its neighbours, by their own forms.

Facets whose corners agree are counted whole; those on the edge of a neighbour are subdivided, and each piece
is counted by its middle.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np

from bambola.core.figure.shapes import Shape
from bambola.core.memo import remembered
from bambola.core.solids.facets import facet_centres, facet_radii, quarter_facets, subdivide_to
from bambola.core.solids.forms import Array, box_of
from bambola.core.solids.inside import Mask, points_within
from bambola.core.solids.meshes import Detail, mesh_of

Placed = tuple[Shape, Array]
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


def buried_skin(shape: Shape, others: Sequence[Placed]) -> Array:
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
    coarse = _may_be_crossed(others, *_facets(shape))
    pieces = mesh.vertices[mesh.faces[(some & ~whole) | coarse]]
    for _ in range(_CUTS):
        pieces = quarter_facets(pieces)
    # The facets of a straight limb are as long as it is: their middles say little of where others begin.
    long = facet_radii(pieces, facet_centres(pieces)) > _LONG * shape.thinnest_mm
    if long.any():
        short = subdivide_to(pieces[long], _SHORT * shape.thinnest_mm, _MOST_PIECES)
        pieces = np.concatenate([pieces[~long], short])
    for _ in range(_MORE_CUTS if coarse.any() else 0):
        still = _may_be_crossed(others, *_middles(pieces))
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


def buried_points(others: Iterable[Placed], points: Array) -> Mask:
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
def _facets(shape: Shape) -> tuple[Array, Array]:
    """Return the middles (n, 3) of a shape's facets, and the distances (n,) of their farthest corners, mm."""
    mesh = mesh_of(shape, Detail.DRAWN)
    return _middles(mesh.vertices[mesh.faces])


def _middles(triangles: Array) -> tuple[Array, Array]:
    centres = facet_centres(triangles)
    return centres, facet_radii(triangles, centres)


def _may_be_crossed(others: Sequence[Placed], centres: Array, size: Array) -> Mask:
    """Return which facets are so coarse that something thin may pass between their corners."""
    found: Mask = np.zeros(len(centres), dtype=bool)
    for other, rows in others:
        coarse = size > other.thinnest_mm / 2
        if coarse.any():
            centre, half = box_of(other)
            off = np.abs(seen_by(rows, centres) - centre)
            found |= coarse & (off <= half + size[:, None]).all(axis=1)
    return found
