"""Solids by points and by cutting, against closed forms."""

from __future__ import annotations

import math

import numpy as np
import pytest

from bambola.core.figure import Ball, Joint, Leaf, Limb, Rope
from bambola.core.solids import CopySolid, VisibleShape, inside
from bambola.core.solids.facets import quarter_facets
from bambola.core.solids.forms import chain
from bambola.core.solids.inside import points_within
from bambola.core.solids.meshes import Detail, mesh_of
from bambola.core.solids.outlines import AXES
from bambola.core.solids.shares import Neighbour, share
from tests.figures import ball

Points = np.ndarray


def scattered(low: Points, high: Points, n: int = 4000) -> Points:
    return np.random.default_rng(3).uniform(low, high, (n, 3))


@pytest.mark.parametrize("radii", [(6.0, 2.0), (2.0, 6.0), (4.0, 4.0), (9.0, 1.0)])
def test_limb_is_hull_of_rounds_along_it(radii: tuple[float, float]) -> None:
    limb = Limb(
        joints=(
            Joint(x=0, y=0, z=0, diameter=2 * radii[0]), Joint(x=9, y=-4, z=12, diameter=2 * radii[1]),
        )
    )  # fmt: skip
    a, b = chain(limb).points
    points = scattered(np.minimum(a, b) - 10, np.maximum(a, b) + 10)
    # The hull of two balls is all the balls between them, their radii growing evenly.
    share_ = np.linspace(0, 1, 1501)[:, None]
    centres, sizes = a + share_ * (b - a), radii[0] + share_[:, 0] * (radii[1] - radii[0])
    deep = np.array([(np.linalg.norm(centres - p, axis=1) - sizes).min() for p in points])
    sure = np.abs(deep) > 2e-3
    assert (points_within(limb, points)[sure] == (deep[sure] < 0)).all() and (
        deep[sure] < 0
    ).sum() > 100


@pytest.mark.parametrize("curl", [70.0, -110.0])
def test_curled_leaf_holds_what_flat_one_does_bent_round(curl: float) -> None:
    flat = Leaf(length=30, width=24, thickness=5)
    points = scattered(np.array([-13.0, -4, -1]), np.array([13.0, 4, 31]))
    radius = flat.width / math.radians(curl)
    angle = points[:, 0] / radius
    out = radius + points[:, 1]
    bent = np.column_stack([out * np.sin(angle), out * np.cos(angle) - radius, points[:, 2]])
    within = points_within(flat, points)
    assert (
        within.sum() > 400
        and (points_within(flat.replaced(curl=curl), bent) == within).mean() > 0.995
    )


def at(x: float, y: float, z: float) -> tuple[tuple[float, ...], ...]:
    return ((1.0, 0.0, 0.0, x), (0.0, 1.0, 0.0, y), (0.0, 0.0, 1.0, z))


def test_speck_hides_skin_its_ball_holds() -> None:
    # Of a ball's skin, one of radius r with its centre on it hides a cap of r² / 2R high: π r².
    for r, where in ((3.0, at(30, 0, 27)), (2.0, at(0, -30, 28)), (4.0, at(0, 0, 56))):
        found = share(ball(60.0), (Neighbour("later", ball(2 * r), where),), (), 8)
        assert found.skin == pytest.approx(math.pi * r * r, rel=0.03)
        assert found.volume == 0 and found.moment == (0, 0, 0) and found.join_mm2 == 0


def test_what_points_tell_in_crowd_is_what_cutting_tells() -> None:
    around = (
        Neighbour("parent", ball(40.0), at(0, 0, -32)), Neighbour("earlier", ball(20.0), at(13, 4, 6)),
        Neighbour("later", ball(18.0), at(-12, -6, 10)), Neighbour("later", ball(14.0), at(0, 12, 16)),
    )  # fmt: skip
    cut, thrown = (share(ball(30.0), around, (), most) for most in (8, 0))
    assert thrown.volume == pytest.approx(cut.volume, rel=0.02)
    assert thrown.moment == pytest.approx(cut.moment, rel=0.03, abs=0.01 * cut.moment[2])
    assert thrown.skin == pytest.approx(cut.skin, rel=0.03)
    assert thrown.join_mm2 == pytest.approx(cut.join_mm2, rel=0.02)
    assert thrown.join_line_mm == pytest.approx(cut.join_line_mm, rel=0.02)
    # Two balls meet in a lens: of radii 15 and 20, 27 mm apart.
    (lens,) = (share(ball(30.0), around[:1], (), most).volume for most in (8,))
    apart, r, q = 27.0, 15.0, 20.0
    exact = math.pi * (r + q - apart) ** 2
    exact *= (apart**2 + 2 * apart * (r + q) - 3 * (r - q) ** 2) / (12 * apart)
    assert lens == pytest.approx(
        exact, abs=0.003 * 4 / 3 * math.pi * r**3
    )  # of what is left of the ball


def test_join_in_crowd_is_what_earlier_parts_leave() -> None:
    around = (
        Neighbour("parent", ball(40.0), at(0, 0, -32)), Neighbour("earlier", ball(22.0), at(9, 0, -8)),
        Neighbour("earlier", ball(16.0), at(0, 0, 20)),
    )  # fmt: skip
    cut, thrown = (share(ball(30.0), around, (), most) for most in (8, 0))
    whole = share(ball(30.0), around[:1], (), 8)
    assert cut.join_mm2 < 0.9 * whole.join_mm2
    assert thrown.join_mm2 == pytest.approx(cut.join_mm2, rel=0.1)
    assert thrown.join_line_mm / whole.join_line_mm == pytest.approx(
        cut.join_mm2 / whole.join_mm2, rel=0.1
    )
    # Nothing is cut off sideways to the left; above the ball that lies there begins at its foot.
    low, high = np.array(thrown.box[:3]), np.array(thrown.box[3:])
    assert low[0] == pytest.approx(0.0 - 15.0, abs=0.5)
    assert low[1] == pytest.approx(-15.0, abs=0.5) and high[1] == pytest.approx(15.0, abs=0.5)
    for side, (one, other) in enumerate(zip(cut.box, thrown.box, strict=True)):
        if math.isfinite(one):
            assert other == pytest.approx(one, abs=0.8), side


def test_measures_scale_with_copy() -> None:
    seen = VisibleShape(10.0, 12.0, 8.0, 6.0, (8.0, 6.0, 4.0), True, 30.0)
    left = (0.5, 1.0, 0.25)
    solid = CopySolid(8.0, 4.0, (1.0, 2.0, 3.0), 4.0, 2.0, (4.0,), (2.0,), (2.0,), 16.0, left, seen)
    half = solid.scaled(0.5)
    assert half == CopySolid(
        1.0, 1.0, (0.5, 1.0, 1.5), 1.0, 1.0, (1.0,), (1.0,), (0.5,), 2.0, left,
        VisibleShape(5.0, 6.0, 4.0, 3.0, (4.0, 3.0, 2.0), True, 15.0),
    )  # fmt: skip
    assert half.visible_share == solid.visible_share == 0.5


def test_bent_rope_holds_what_way_of_its_middle_does() -> None:
    """Pappus: a round along a curve holds its area times the way of its middle, and a ball at the ends."""
    quarter = tuple(
        (60 * math.cos(t), 0.0, 60 * math.sin(t)) for t in np.linspace(0, math.pi / 2, 17)
    )
    rope = Rope(points=quarter, thickness=8.0)
    exact = math.pi * 16 * 60 * math.pi / 2 + 4 / 3 * math.pi * 64
    for detail in Detail:
        assert mesh_of(rope, detail).volume == pytest.approx(exact, rel=0.012)


def test_leaf_in_few_facets_holds_what_it_does_in_many() -> None:
    for width in (18.0, 40.0):
        leaf = Leaf(length=60.0, width=width, thickness=4.0)
        few, many = (mesh_of(leaf, detail).volume for detail in (Detail.UNION, Detail.DRAWN))
        assert few == pytest.approx(many, rel=0.01)


def test_every_view_looks_way_it_says() -> None:
    seen = {
        "front": ((1, 0, 0), (0, 0, 1), (0, -1, 0)), "back": ((-1, 0, 0), (0, 0, 1), (0, 1, 0)),
        "side": ((0, 1, 0), (0, 0, 1), (1, 0, 0)), "top": ((1, 0, 0), (0, 1, 0), (0, 0, 1)),
    }  # fmt: skip
    assert AXES.keys() == seen.keys()
    for view, axes in AXES.items():
        assert np.array_equal(axes, np.array(seen[view], dtype=float))
        assert np.array_equal(np.cross(axes[0], axes[1]), axes[2])  # right, up, towards the eye


def test_huge_neighbour_is_cut_in_limited_time(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """A brow 126 m wide on a head of 40 mm was cut into millions of pieces, for half a minute."""
    most = []

    def cut(triangles: Points) -> Points:
        most.append(4 * len(triangles))
        return quarter_facets(triangles)

    monkeypatch.setattr(inside, "quarter_facets", cut)
    giant, head = Ball(width=126_344, depth=12.6, height=12.6), Ball(width=40, depth=40, height=40)
    inside.buried_skin(giant, [(head, np.eye(3, 4))] * 3)
    assert most and max(most) <= inside._MOST_PIECES
