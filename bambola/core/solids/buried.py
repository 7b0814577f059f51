"""How much of a shape's skin lies within its neighbours, by their own forms.

Facets whose corners agree count as they are; those on the edge of a neighbour are cut small, and each piece
counts by its middle.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bambola.core.figure.shapes import Shape
from bambola.core.memo import remembered
from bambola.core.solids.facets import middles, quartered, reaches
from bambola.core.solids.forms import Array, box_of
from bambola.core.solids.inside import Mask, within
from bambola.core.solids.meshes import KEPT_SHAPES, Detail, mesh_of

Placed = tuple[Shape, Array]
"""A shape, and the rows (3, 4) that take its own axes to those of the one whose skin is asked for."""

_CUTS = 2
"""How often a facet on an edge is cut in four. Middles of its sixteen pieces err to either side alike: round
a join a hundred facets long by about half a facet."""
_MORE_CUTS = 3
"""How often what is still coarse beside something thin is cut again. Judged."""


def buried_skin(shape: Shape, others: Sequence[Placed]) -> Array:
    """The triangles (n, 3, 3), in the shape's own axes, of its skin that lie within any of ``others``."""
    mesh = mesh_of(shape, Detail.DRAWN)
    corners = _within_any(others, mesh.vertices)[mesh.faces]
    whole, some = corners.all(axis=1), corners.any(axis=1)
    coarse = _may_be_crossed(others, *_facets(shape))
    pieces = mesh.vertices[mesh.faces[(some & ~whole) | coarse]]
    for _ in range(_CUTS):
        pieces = quartered(pieces)
    for _ in range(_MORE_CUTS if coarse.any() else 0):
        still = _may_be_crossed(others, *_middles(pieces))
        pieces = np.concatenate([pieces[~still], quartered(pieces[still])])
    cut = pieces[_within_any(others, middles(pieces))]
    return np.concatenate([mesh.vertices[mesh.faces[whole & ~coarse]], cut])


def covers(other: Shape, rows: Array, points: Array) -> Mask:
    """Which of ``points`` (n, 3) lie within ``other``, whose axes ``rows`` (3, 4) take to theirs."""
    return within(other, seen_by(rows, points))


def seen_by(rows: Array, points: Array) -> Array:
    """``points`` (n, 3) in the axes that ``rows`` (3, 4), a turn or a mirrored one, take to theirs."""
    found: Array = (points - rows[:, 3]) @ rows[:, :3]
    return found


def _within_any(others: Sequence[Placed], points: Array) -> Mask:
    found: Mask = np.zeros(len(points), dtype=bool)
    for other, rows in others:
        found |= covers(other, rows, points)
    return found


@remembered(KEPT_SHAPES)
def _facets(shape: Shape) -> tuple[Array, Array]:
    """Middles (n, 3) of a shape's facets, and how far (n,) their corners are from them at most, mm."""
    mesh = mesh_of(shape, Detail.DRAWN)
    return _middles(mesh.vertices[mesh.faces])


def _middles(triangles: Array) -> tuple[Array, Array]:
    centres = middles(triangles)
    return centres, reaches(triangles, centres)


def _may_be_crossed(others: Sequence[Placed], centres: Array, size: Array) -> Mask:
    """Which facets are so coarse that something thin may lie between their corners."""
    found: Mask = np.zeros(len(centres), dtype=bool)
    for other, rows in others:
        coarse = size > other.thinnest_mm / 2
        if coarse.any():
            centre, half = box_of(other)
            off = np.abs(seen_by(rows, centres) - centre)
            found |= coarse & (off <= half + size[:, None]).all(axis=1)
    return found
