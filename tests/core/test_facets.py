"""Facets and outlines, held against what is known of a cube, a triangle and a square."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.solids.facets import (
    edges,
    facet_areas,
    facet_centres,
    facet_radii,
    quarter_facets,
)
from bambola.core.solids.outlines import distance, encloses, signed_distance

CORNERS = np.array([(x, y, z) for x in (0, 1) for y in (0, 1) for z in (0, 1)], dtype=float)
CUBE = np.array(
    [
        (0, 1, 3), (0, 3, 2), (4, 6, 7), (4, 7, 5), (0, 4, 5), (0, 5, 1),
        (2, 3, 7), (2, 7, 6), (0, 2, 6), (0, 6, 4), (1, 5, 7), (1, 7, 3),
    ]
)  # fmt: skip


def test_cube_has_its_edges_diagonals_and_skin() -> None:
    pairs, first, which, count = edges(CUBE)
    assert len(pairs) == 18 == len(CORNERS) + len(CUBE) - 2  # Euler
    assert (pairs[:, 0] < pairs[:, 1]).all() and (count == 2).all()
    sides = np.vstack([CUBE[:, [0, 1]], CUBE[:, [1, 2]], CUBE[:, [2, 0]]])
    assert (np.sort(sides, axis=1) == pairs[which]).all()
    assert (np.sort(sides[first], axis=1) == pairs).all()
    long = sorted(math.dist(*CORNERS[pair]) for pair in pairs)
    assert long == pytest.approx([1.0] * 12 + [math.sqrt(2)] * 6)
    assert facet_areas(CORNERS[CUBE]).sum() == pytest.approx(6)
    lid = edges(CUBE[2:])  # without the side x = 0 its four edges are of one face each
    assert (lid[3] == 1).sum() == 4


@given(st.lists(st.floats(-50, 50), min_size=9, max_size=9))
def test_quarters_are_four_of_one_size_round_one_middle(numbers: list[float]) -> None:
    triangle = np.array(numbers).reshape(1, 3, 3)
    four = quarter_facets(triangle)
    assert four.shape == (4, 3, 3)
    assert facet_areas(four) == pytest.approx(np.repeat(facet_areas(triangle) / 4, 4), abs=1e-6)
    assert facet_centres(four).mean(axis=0) == pytest.approx(facet_centres(triangle)[0], abs=1e-9)
    # Each is the whole triangle half as large, the middle one turned round: so is how far it reaches.
    whole = facet_radii(triangle, facet_centres(triangle))
    assert facet_radii(four, facet_centres(four)) == pytest.approx(
        np.repeat(whole / 2, 4), abs=1e-9
    )


def test_how_deep_point_lies_in_square() -> None:
    square = np.array([(0, 0), (4, 0), (4, 4), (0, 4)], dtype=float)
    points = np.array([(2, 2), (1, 2), (5, 2), (7, 8), (3.5, 3)])
    assert encloses(square, points).tolist() == [True, True, False, False, True]
    assert distance(square, points) == pytest.approx([2, 1, 1, 5, 0.5])
    assert signed_distance(square, points) == pytest.approx([2, 1, -1, -5, 0.5])
    assert signed_distance(square, points, 1.5).tolist() == [math.inf, 1, -1, -math.inf, 0.5]
