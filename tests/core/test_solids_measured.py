"""Skin, places and patches on shapes that lie askew, against closed forms and points thrown at them."""

from __future__ import annotations

import itertools
import math

import manifold3d as m3
import numpy as np
import pytest
from scipy.integrate import quad

from bambola.core.bench import Bench
from bambola.core.figure import Joint, Leaf, Limb, Place, Seat, Tilt
from bambola.core.figure.places import Outline
from bambola.core.figure.shapes import Shape
from bambola.core.plan import make_plan
from bambola.core.solids import inside
from bambola.core.solids.edit import about_axis
from bambola.core.solids.forms import leaf_outline, seat_point
from bambola.core.solids.inside import buried_skin
from bambola.core.solids.meshes import Detail, mesh_of, solid_of
from bambola.core.solids.outlines import around_at, level_arc
from bambola.core.solids.patches import place_area, stripe_mm
from bambola.core.solids.placement import place, rotation
from bambola.core.solids.regions import points_in_places
from bambola.core.solids.shares import Neighbour, alone_worth, share
from bambola.core.solids.touch import frame_along, nearest_seat, seat_for
from bambola.demo import BADGER, HERON, TOAD, load_demo
from tests.figures import ball, patch

Points = np.ndarray
MIRRORED = np.diag([-1.0, 1.0, 1.0])


def area_of(triangles: Points) -> float:
    a, b, c = triangles[:, 0], triangles[:, 1], triangles[:, 2]
    return float(np.linalg.norm(np.cross(b - a, c - a), axis=1).sum() / 2)


def rows_at(turn: Points, at: tuple[float, float, float]) -> Points:
    return np.column_stack([turn, at])


def skin_of_ball(diameter: float, n: int = 200_000) -> Points:
    """Points spread evenly over a ball that stands on its base."""
    spread = np.random.default_rng(5).normal(size=(n, 3))
    unit = spread / np.linalg.norm(spread, axis=1, keepdims=True)
    return unit * diameter / 2 + [0, 0, diameter / 2]


SKEW = rotation(Tilt(nod=35, lean=-50, turn=20))[:3, :3]
ARM = Limb(joints=tuple(Joint(x=x, y=y, z=z, diameter=d) for x, y, z, d in (
    (0, 0, 0, 14), (9, -4, 16, 10), (-3, 6, 34, 7))))  # fmt: skip


@pytest.mark.parametrize(
    ("other", "turn", "at"),
    [
        (Leaf(length=30, width=24, thickness=5, curl=60), SKEW, (14.0, -12.0, 22.0)),
        (Leaf(length=30, width=24, thickness=5), MIRRORED @ SKEW, (-6.0, -16.0, 14.0)),
        (ARM, SKEW, (8.0, -10.0, 30.0)),
        (ARM, SKEW @ MIRRORED, (8.0, -10.0, 30.0)),
    ],
)
def test_covered_skin_agrees_with_sampling(
    other: Shape, turn: Points, at: tuple[float, float, float]
) -> None:
    rows = rows_at(turn, at)
    points = skin_of_ball(50.0)
    told = inside.buried_points([(other, rows)], points).mean() * math.pi * 50**2
    assert told > 60
    assert area_of(buried_skin(ball(50.0), [(other, rows)])) == pytest.approx(told, rel=0.05)


def test_ball_in_crowd_is_hidden_where_each_of_crowd_lies() -> None:
    # A ball whose middle lies on another's skin cuts off it a cap of π r² (Archimedes), wherever it is.
    r, at = 4.0, 20 * skin_of_ball(2.0, 400) - [0, 0, 20]
    apart: list[Points] = []
    for point in at:
        if all(np.linalg.norm(point - other) > 2.2 * r for other in apart):
            apart.append(point)
    crowd = [(ball(2 * r), rows_at(np.eye(3), (x, y, z + 20 - r))) for x, y, z in apart]
    assert len(crowd) > 2 * inside.THRONG
    found = area_of(buried_skin(ball(40.0), crowd))
    assert found == pytest.approx(len(crowd) * math.pi * r * r, rel=0.04)


@pytest.mark.parametrize("large", [30.0, 90.0, 400.0])
def test_thread_over_coarse_facets_hides_what_it_covers(large: float) -> None:
    # A thread of 1 mm stands straight through a ball: it hides a disc where it goes in, and one where out.
    thread = Limb(joints=tuple(Joint(x=0, y=0, z=z, diameter=2.0) for z in (0, 2 * large)))
    rows = rows_at(np.eye(3), (large / 6, -large / 7, -large / 2))
    hidden = area_of(buried_skin(ball(large), [(thread, rows)]))
    off = math.hypot(large / 6, large / 7) / (large / 2)
    slanting = math.pi / math.sqrt(1 - off**2)  # of a disc of 1 mm radius, seen askew
    assert hidden == pytest.approx(2 * slanting, rel=0.15)
    assert area_of(buried_skin(ball(large), [(thread, rows), (thread, rows)])) == hidden


def test_what_is_shared_is_known_wherever_other_comes_from() -> None:
    """A small ball half sunk in a large one shares a lens, joins along a circle: from any side."""
    large, small, apart = 60.0, 12.0, 29.0
    r, q = small / 2, large / 2
    along = (apart**2 + q * q - r * r) / (2 * apart)  # from the large one's middle to the circle
    round_ = 2 * math.pi * math.sqrt(q * q - along**2)
    cap = 2 * math.pi * q * (q - along)
    lens = math.pi * (r + q - apart) ** 2
    lens *= (apart**2 + 2 * apart * (r + q) - 3 * (r - q) ** 2) / (12 * apart)
    for way in (
        (0, 0, -1),
        (1, 0, 0),
        (0, -1, 0),
        (0.6, 0.64, 0.48),
        (-0.8, 0, 0.6),
        (0, 0.6, 0.8),
    ):
        at = np.array([0, 0, r]) - np.array(way) * apart - [0, 0, q]
        rows = tuple(map(tuple, rows_at(np.eye(3), tuple(at)).tolist()))
        found = share(ball(small), (Neighbour("parent", ball(large), rows),), (), 8)
        assert found.volume == pytest.approx(lens, rel=0.03), way
        assert found.join_mm2 == pytest.approx(cap, rel=0.03), way
        assert found.join_line_mm == pytest.approx(round_, rel=0.03), way
        # Its moment is that of the lens about the small one's base.
        middle = np.array(found.moment) / found.volume
        assert middle - [0, 0, r] == pytest.approx(
            -np.array(way) * np.linalg.norm(middle - [0, 0, r]), abs=0.15
        )


def test_thick_sheet_holds_what_points_thrown_at_it_find() -> None:
    # Its edge is drawn in by half its thickness, but by no more than a fifth of its width.
    for thick in (30.0, 6.0):
        leaf = Leaf(length=40, width=40, thickness=thick)
        points = np.random.default_rng(4).uniform(
            [-21, -thick / 2, -1], [21, thick / 2, 41], (60_000, 3)
        )
        held = (
            inside.buried_points([(leaf, rows_at(np.eye(3), (0, 0, 0)))], points).mean()
            * 42
            * thick
            * 42
        )
        assert alone_worth(leaf, ()).volume == pytest.approx(held, rel=0.02)
    flat = alone_worth(leaf.replaced(thickness=0.01), ()).volume / 0.01
    assert held / thick < 0.97 * flat and held / thick > 0.8 * flat


def drawn(place: Place, **changes: object) -> Place:
    return place.replaced(where=place.where.replaced(**changes))


def test_mirrored_patch_covers_both_sides() -> None:
    # Seen from in front a ball's skin within a strip of the picture is a zone: 2πR times its height, halved.
    high = ((-1.2, 0.2), (1.2, 0.2), (1.2, 0.6), (-1.2, 0.6))
    half = patch("a", "w", view="front", outline=((0, 0.2), (1.2, 0.2), (1.2, 0.6), (0, 0.6)))
    assert isinstance(half.where, Outline)
    zone = math.pi * 25 * (0.4 * 25)
    for inset, area in (
        (half, zone / 2),
        (drawn(half, mirrored=True), zone),
        (drawn(half, outline=tuple((-u, v) for u, v in half.where.outline)), zone / 2),
        (drawn(half, outline=high), zone),
        (drawn(half, outline=high, mirrored=True), zone),
    ):
        (told,) = alone_worth(ball(50.0), (inset,)).patches
        assert told == pytest.approx(area, rel=0.01)
        skin = buried_skin(ball(50.0), [(ball(80.0), rows_at(np.eye(3), (0, 0, -15.0)))])
        assert place_area(ball(50.0), skin, inset.where) == pytest.approx(
            area, rel=0.01
        )  # all of it lies within


@pytest.mark.parametrize(("wide", "deep"), [(40.0, 40.0), (40.0, 24.0), (18.0, 50.0)])
@pytest.mark.parametrize("around", [20.0, 75.0, -130.0, 180.0])
def test_level_thread_is_arc_of_ellipse(wide: float, deep: float, around: float) -> None:
    shape = ball(40.0).replaced(width=wide, depth=deep)
    along = 0.3
    slim = math.sqrt(1 - (1 - 2 * along) ** 2)
    a, b = wide / 2 * slim, deep / 2 * slim
    exact, _ = quad(
        lambda t: math.hypot(a * math.cos(t), b * math.sin(t)), 0, math.radians(abs(around))
    )
    assert level_arc(shape, along, around) == pytest.approx(exact, rel=1e-3)
    assert around_at(shape, along, exact) == pytest.approx(abs(around), abs=0.2)


@pytest.mark.parametrize(
    "shape",
    [
        Leaf(length=30, width=24, thickness=5),
        Leaf(length=30, width=24, thickness=5, curl=70),
        Leaf(length=30, width=24, thickness=5, curl=-110),
        ARM,
        ball(30.0).replaced(width=22.0, depth=41.0),
    ],
)
def test_seat_is_read_back_from_where_it_is(shape: Shape) -> None:
    for along, around, out in (
        (0.2, 30.0, 0.9),
        (0.7, -110.0, 0.6),
        (0.5, 200.0, 0.8),
        (0.4, 5.0, 1.0),
    ):
        found = nearest_seat(shape, seat_point(shape, along, around, out))
        assert found[0] == pytest.approx(along, abs=0.02) and found[2] == pytest.approx(
            out, abs=0.03
        )
        assert math.cos(math.radians(found[1] - around)) > 0.999
        seat = Seat(
            along=along, around=around, out=out, sink=3.0, tilt=Tilt(nod=25, lean=-40, turn=65)
        )
        turned = rotation(seat.tilt)[:3, :3]
        base = seat_point(shape, along, around, out) - turned[:, 2] * 3.0
        again = seat_for(shape, base, turned, sink=3.0)
        assert again.sink == pytest.approx(3.0) and again.tilt == pytest.approx(seat.tilt)


def test_frames_and_turns_about_any_axis() -> None:
    for axis in np.array([[1.0, 0, 0], [0.2, -0.5, 0.8], [0, 0, -1], [-0.9, 0.1, 0.3]]):
        turn = about_axis(axis, 37.0)
        unit = axis / np.linalg.norm(axis)
        assert turn @ unit == pytest.approx(unit)
        aside = np.cross(unit, [0.3, 0.4, -0.7])
        aside /= np.linalg.norm(aside)
        assert aside @ turn @ aside == pytest.approx(math.cos(math.radians(37)))
        assert np.cross(aside, turn @ aside) @ unit == pytest.approx(math.sin(math.radians(37)))
        for across in ([1.0, 0, 0], [0.1, 0.7, 0.2], unit):
            frame = frame_along(axis, np.array(across))
            assert frame.T @ frame == pytest.approx(np.eye(3)) and frame[:, 2] == pytest.approx(
                unit
            )
            assert np.linalg.det(frame) == pytest.approx(1) and frame[:, 0] @ across >= -1e-9


@pytest.mark.parametrize("demo", [BADGER, HERON, TOAD])
@pytest.mark.parametrize("times", [1.0, 1.6])
def test_skin_that_shows_is_that_of_all_parts_in_one(
    demo: object, times: float, bench: Bench
) -> None:
    """The copies' skins add up to the surface of the one solid that a library makes of all of them."""
    document = load_demo(demo)  # type: ignore[arg-type]
    height = place(document.figure).height * times
    solids = make_plan(document.figure, document.brief.at_height(height), bench).solids
    bodies = [
        solid_of(copy.shape, Detail.DRAWN).transform(copy.matrix[:3])
        for copy in solids.placement.copies
    ]
    one = m3.Manifold.batch_boolean(bodies, m3.OpType.Add)
    # What lies shut in between parts is a surface too, but nobody's skin: only the outermost shell counts.
    shells = one.decompose()
    outer = sum(shell.surface_area() for shell in shells)
    shown = sum(solid.exposed_mm2 for solid in solids.measured)
    assert shown == pytest.approx(outer, rel=0.02)
    assert solids.net_mm3 == pytest.approx(one.volume(), rel=0.02)


@pytest.mark.parametrize("apart", [21.0, 27.0, 33.0, 39.9])
@pytest.mark.parametrize("turn", [0.0, 50.0, 140.0])
def test_overlapping_balls_lose_caps(apart: float, turn: float) -> None:
    """Balls of 15 and 25 mm radius, one seen from the other wherever it is: caps of 2πrh each way."""
    r, q = 15.0, 25.0
    way = rotation(Tilt(nod=turn, turn=2 * turn))[:3, :3] @ np.array([0.0, 0, 1])
    along = (apart**2 + r * r - q * q) / (2 * apart)  # from the small one's middle to the circle
    for own, other, cut in ((r, q, along), (q, r, apart - along)):
        at = np.array([0, 0, own]) + way * apart - [0, 0, other]
        skin = area_of(
            buried_skin(ball(2 * own), [(ball(2 * other), rows_at(np.eye(3), tuple(at)))])
        )
        assert skin == pytest.approx(2 * math.pi * own * (own - cut), rel=0.02, abs=3.0)
    # Both at once lose no more than the one and the other, and what is in both but once.
    at = np.array([0, 0, r]) + way * apart - [0, 0, q]
    there = (ball(2 * q), rows_at(np.eye(3), tuple(at)))
    twice = area_of(buried_skin(ball(2 * r), [there, there]))
    assert twice == pytest.approx(area_of(buried_skin(ball(2 * r), [there])))


def test_how_wide_patch_is_as_stripe_or_as_disc() -> None:
    for wide, long in ((2.0, 30.0), (7.0, 8.0), (5.0, 5.0)):
        assert stripe_mm(wide * long, 2 * (wide + long)) == pytest.approx(wide, rel=1e-4)
    assert stripe_mm(math.pi * 6.0**2, 2 * math.pi * 6.0) == pytest.approx(12.0)


@pytest.mark.parametrize(
    ("view", "seen"),
    [
        ("front", (0.3, -0.9, 0.3)), ("back", (-0.3, 0.9, 0.3)), ("left", (0.9, 0.3, 0.3)),
        ("right", (-0.9, -0.3, 0.3)), ("top", (0.3, 0.3, 0.9)),
    ],
)  # fmt: skip
def test_patch_lies_to_upper_right_as_one_looks_at_it(
    view: str, seen: tuple[float, float, float]
) -> None:
    """Of a ball's skin near the six axes and their neighbours, only what is in that quarter on that side."""
    inset = patch("patch", "cream", view=view, outline=((0.1, 0.1), (0.5, 0.1), (0.5, 0.5), (0.1, 0.5))
    )  # fmt: skip
    shape, high = ball(40.0), np.array([0.0, 0.0, 20.0])
    signs = np.array(list(itertools.product((-1, 1), repeat=3)))
    ways = np.concatenate([signs * np.roll([0.9, 0.3, 0.3], n) for n in range(3)])
    ways /= np.linalg.norm(ways, axis=1)[:, None]
    found = ways[points_in_places(shape, inset.where, ways * 20.0 + high, ways)]
    assert found == pytest.approx(np.array([seen]) / np.linalg.norm(seen))
    both = ways[
        points_in_places(shape, inset.where.replaced(mirrored=True), ways * 20.0 + high, ways)
    ]
    assert len(both) == 2 and any(np.allclose(way, found[0]) for way in both)


def test_outline_drawn_other_way_round_is_same_leaf() -> None:
    outline = ((-0.3, 0.0), (0.3, 0.0), (0.5, 0.4), (0.1, 1.0), (-0.4, 0.6))
    one, other = (
        Leaf(length=30.0, width=20.0, thickness=3.0, outline=run)
        for run in (outline, outline[::-1])
    )
    for leaf in (one, other):
        x, z = leaf_outline(leaf).T
        assert (x * np.roll(z, -1) - np.roll(x, -1) * z).sum() > 0
        assert (np.ptp(x), np.ptp(z)) == pytest.approx((20.0, 30.0))
    assert (
        mesh_of(one).volume == pytest.approx(mesh_of(other).volume, rel=1e-3)
        and mesh_of(one).volume > 0
    )
