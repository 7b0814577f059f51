from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.interpolate import PchipInterpolator

from bambola.core.figure import (
    Ball,
    Cone,
    Figure,
    Garment,
    Joint,
    Leaf,
    Limb,
    Pad,
    Part,
    Rope,
    Sausage,
    Seat,
    Shape,
    Station,
    Turned,
)
from bambola.core.figure.shapes.profile import monotone_cubic
from bambola.core.solids import CopySolid, Detail, measure_solids, mesh_of, outlines, place
from bambola.core.solids.forms import leaf_outline, support_distances
from bambola.core.solids.shares import Neighbour, share
from tests.effort import examples
from tests.figures import ball, figure_of, figures, one_ball, shapes, skin_in_skin


def spheroid_area(a: float, c: float) -> float:
    """Surface of a spheroid, equatorial radius a, polar radius c > a (closed form)."""
    e = math.sqrt(1 - a * a / (c * c))
    return 2 * math.pi * a * a * (1 + c / (a * e) * math.asin(e))


def revolution(radius: float, height: float, profile: object) -> tuple[float, float]:
    """Volume and side area of a turned form by fine quadrature of its radius over z."""
    f = profile
    h = height * 1e-6
    volume = quad(lambda z: math.pi * f(z) ** 2, 0, height, limit=400)[0]  # type: ignore[operator]
    slope = lambda z: (f(min(z + h, height)) - f(max(z - h, 0))) / (2 * h)  # type: ignore[operator]  # noqa: E731
    area = quad(lambda z: 2 * math.pi * f(z) * math.hypot(1, slope(z)), 0, height, limit=800)[0]  # type: ignore[operator]
    return volume, area


def two_rounds(R: float, r: float, length: float) -> tuple[float, float]:
    """Hull of two spheres on an axis: two caps and a frustum (closed form)."""
    d = length - R - r
    s = (R - r) / d
    c = math.sqrt(1 - s * s)
    cap = lambda q, h: (math.pi * h * h * (3 * q - h) / 3, 2 * math.pi * q * h)  # noqa: E731
    low, high = cap(R, R * (1 + s)), cap(r, r * (1 - s))
    a, b = R * c, r * c
    tall = d - R * s + r * s
    frustum = math.pi * tall / 3 * (a * a + a * b + b * b)
    side = math.pi * (a + b) * math.hypot(tall, a - b)
    return low[0] + high[0] + frustum, low[1] + high[1] + side


def leaf_truth(leaf: Leaf) -> tuple[float, float]:
    """A sheet with half-round edges by Steiner's formula, its outline taken as convex."""
    run, r = leaf_outline(leaf), leaf.thickness / 2
    x, z = run.T
    area = abs(float((x * np.roll(z, -1) - np.roll(x, -1) * z).sum())) / 2
    around = float(np.linalg.norm(np.roll(run, -1, 0) - run, axis=1).sum())
    drawn = lambda y: r - math.sqrt(max(0.0, r * r - y * y))  # noqa: E731
    inner = lambda y: area - around * drawn(y) + math.pi * drawn(y) ** 2  # noqa: E731
    volume = quad(inner, -r, r)[0]
    rim = quad(
        lambda t: r * (around - 2 * math.pi * r * (1 - math.cos(t))), -math.pi / 2, math.pi / 2
    )[0]
    return volume, 2 * inner(r) + rim


TORUS = Rope(
    points=tuple((25 * math.cos(t), 25 * math.sin(t), 0) for t in np.arange(16) * math.pi / 8),
    thickness=10,
    closed=True,
)
STRAIGHT = Rope(points=((0, 0, 0), (0, 0, 40)), thickness=8)
LEAF = Leaf(length=20, width=14, thickness=3)
SPHERE_PROFILE = Turned(
    length=20,
    stations=tuple(
        Station(
            along=t,
            width=2 * math.sqrt(max(0, 100 - (20 * t - 10) ** 2)),
            depth=2 * math.sqrt(max(0, 100 - (20 * t - 10) ** 2)),
        )
        for t in np.linspace(0, 1, 21)
    ),
)


def egg_truth() -> tuple[float, float]:
    t = 0.3
    zeta = (1 - math.sqrt(1 + 8 * t * t)) / (4 * t)
    full = math.sqrt(1 - zeta * zeta) * (1 - t * zeta)

    def girth(z: float) -> float:
        zeta = z / 20 - 1
        return 15 * math.sqrt(max(0.0, 1 - zeta**2)) * (1 - t * zeta) / full

    return revolution(15, 40, girth)


@pytest.mark.parametrize(
    ("shape", "volume", "area"),
    [
        (ball(20), 4 / 3 * math.pi * 1000, 4 * math.pi * 100),
        (Ball(width=20, depth=20, height=36), 4 / 3 * math.pi * 1800, spheroid_area(10, 18)),
        (Ball(width=30, depth=30, height=40, taper=0.3), *egg_truth()),
        (Sausage(length=50, diameter=12), math.pi * 36 * 38 + 288 * math.pi, math.pi * 12 * 50),
        (Cone(length=40, base=20, tip=6), *two_rounds(10, 3, 40)),
        (Cone(length=40, base=6, tip=20), *two_rounds(3, 10, 40)),
        (Pad(width=24, depth=24, height=12), 2 / 3 * math.pi * 12**3, 3 * math.pi * 144),
        (LEAF, *leaf_truth(LEAF)),
        (LEAF.replaced(curl=50.0), leaf_truth(LEAF)[0], leaf_truth(LEAF)[1]),
        (TORUS, 2 * math.pi**2 * 25 * 25, 4 * math.pi**2 * 25 * 5),
        (STRAIGHT, math.pi * 16 * 40 + 4 / 3 * math.pi * 64, math.pi * 8 * 40 + 64 * math.pi),
        (
            Limb(joints=(Joint(x=0, y=0, z=0, diameter=20), Joint(x=18, y=0, z=-20, diameter=6))),
            *two_rounds(10, 3, 13 + math.hypot(18, 20)),
        ),
        (SPHERE_PROFILE, 4 / 3 * math.pi * 1000, 4 * math.pi * 100),
    ],
)
def test_volume_and_area_against_closed_forms(shape: Shape, volume: float, area: float) -> None:
    (alone,) = measure_solids(
        figure_of(Part(id="it", name="It", shape=shape, core="cream"))
    ).measured
    assert alone.net_mm3 == pytest.approx(volume, rel=0.005)
    assert alone.exposed_mm2 == pytest.approx(area, rel=0.005)


def test_bent_limb_holds_what_points_thrown_at_it_find() -> None:
    joints = ((0, 0, 0, 12), (16, 0, -18, 10), (2, 8, -36, 8))
    limb = Limb(joints=tuple(Joint(x=x, y=y, z=z, diameter=d) for x, y, z, d in joints))
    rng = np.random.default_rng(3)
    low, high = np.array([-7.0, -7, -41]), np.array([22.0, 13, 7])
    points = rng.uniform(low, high, (250_000, 3))
    inside = np.zeros(len(points), dtype=bool)
    for a, b in pairwise(joints):
        # A tapered capsule is the union of all spheres between its ends.
        for t in np.linspace(0, 1, 80):
            centre = np.array(a[:3]) + t * (np.array(b[:3]) - np.array(a[:3]))
            radius = (a[3] + t * (b[3] - a[3])) / 2
            inside |= ((points - centre) ** 2).sum(axis=1) < radius**2
    assert mesh_of(limb).volume == pytest.approx(inside.mean() * np.prod(high - low), rel=0.012)


def overlapping(distance: float, R: float = 20.0, r: float = 14.0) -> Figure:
    """A ball on a ball, their centres ``distance`` apart."""
    seat = Seat(along=1.0, out=0.0, sink=R + r - distance)
    return figure_of(
        Part(id="body", name="Body", shape=ball(2 * R), core="core-batt"),
        Part(id="head", name="Head", parent="body", seat=seat, shape=ball(2 * r), core="core-batt"),
    )


@pytest.mark.parametrize("distance", [22.0, 28.0, 31.0])
def test_two_overlapping_balls_against_lens_formula(distance: float) -> None:
    R, r, d = 20.0, 14.0, distance
    lens = math.pi * (R + r - d) ** 2 * (d * d + 2 * d * (r + R) - 3 * (r - R) ** 2) / (12 * d)
    x = (d * d + R * R - r * r) / (2 * d)
    caps = 2 * math.pi * R * (R - x), 2 * math.pi * r * (r - (d - x))
    body, head = measure_solids(overlapping(d)).measured
    assert body.net_mm3 == pytest.approx(4 / 3 * math.pi * R**3, rel=0.005)
    assert head.net_mm3 == pytest.approx(4 / 3 * math.pi * r**3 - lens, rel=0.005)
    assert body.exposed_mm2 == pytest.approx(4 * math.pi * R * R - caps[0], rel=0.005)
    assert head.exposed_mm2 == pytest.approx(4 * math.pi * r * r - caps[1], rel=0.005)
    # Where two skins graze, facets meet before spheres would: joins are good to a few per cent.
    assert head.join_mm2 == pytest.approx(caps[0], rel=0.05)
    assert head.join_line_mm == pytest.approx(2 * math.pi * math.sqrt(R * R - x * x), rel=0.03)


@given(shapes(), st.integers(0, 10**6))
def test_support_touches_mesh(shape: Shape, seed: int) -> None:
    way = np.random.default_rng(seed).normal(size=3)
    way /= np.linalg.norm(way)
    reach = float((mesh_of(shape, Detail.DRAWN).vertices @ way).max())
    size = max(shape.measures().values())
    assert support_distances(shape, way[None])[0] == pytest.approx(reach, abs=0.02 * size)


@examples(15, 2)
@given(figures(), st.floats(0.3, 4.0))
def test_evenly_grown_figure_measures_as_its_scaled_self(figure: Figure, s: float) -> None:
    parts = tuple(
        p.replaced(shape=p.shape.scaled(s), seat=p.seat.replaced(sink=p.seat.sink * s))
        for p in figure.parts
    )
    small, large = measure_solids(figure), measure_solids(figure.replaced(parts=parts), s)
    assume(not skin_in_skin(small))
    assert large.placement.height == pytest.approx(small.placement.height * s, rel=1e-9)
    for a, b, copy in zip(small.measured, large.measured, large.placement.copies, strict=True):
        assert b.net_mm3 == pytest.approx(a.net_mm3 * s**3, rel=1e-6, abs=1e-6)
        # Where two copies lie in the very same place, rounding decides whose a facet of skin is.
        facet = mesh_of(copy.shape).area / 200
        assert b.exposed_mm2 == pytest.approx(a.exposed_mm2 * s**2, rel=1e-6, abs=facet)
        assert a.net_mm3 >= 0 and a.exposed_mm2 >= 0


def test_monotone_cubic_against_independent_library() -> None:
    x = np.array([0, 0.1, 0.35, 0.4, 0.8, 1.0])
    y = np.array([0, 5.0, 9.0, 8.0, 8.5, 0.0])
    at = np.linspace(0, 1, 101)
    assert monotone_cubic(x, y, at) == pytest.approx(PchipInterpolator(x, y)(at), abs=1e-9)


def test_outlines_enclose_what_figure_shows() -> None:
    for view in ("front", "side", "top"):
        (run,) = outlines(place(one_ball(40)), view)
        x, y = run.T
        area = abs(float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())) / 2
        assert area == pytest.approx(math.pi * 400, rel=0.01)


def test_seated_part_stays_put_when_its_parent_grows_unevenly() -> None:
    figure = overlapping(30.0)
    wide = figure.parts[0].replaced(shape=Ball(width=90, depth=40, height=40))
    ear = figure.parts[1].replaced(
        seat=Seat(along=0.5, around=90, out=1.0, tilt=figure.parts[1].seat.tilt)
    )
    for body in (figure.parts[0], wide):
        placed = place(figure.replaced(parts=(body, ear)))
        x = placed.copies_of("head")[0].matrix[0, 3]
        assert x == pytest.approx(body.shape.measures()["width"] / 2)


EARS = [
    ((-0.4, 0.0), (0.4, 0.0), (0.5, 0.3), (0.02, 1.0), (-0.02, 1.0), (-0.5, 0.3)),
    ((0.0, 0.0), (0.5, 0.35), (0.0, 1.0), (-0.5, 0.35)),
    ((-0.5, 0.0), (0.5, 0.0), (0.05, 0.95), (0.0, 1.0), (-0.05, 0.95)),
]


@pytest.mark.parametrize("outline", EARS)
def test_pointed_leaf_skin_equals_inset_outline(
    outline: tuple[tuple[float, float], ...],
) -> None:
    leaf = Leaf(length=30, width=18, thickness=4, outline=outline)
    drawn, r = shapely.Polygon(leaf_outline(leaf)), 2.0
    angles = (np.arange(400) + 0.5) / 400 * math.pi - math.pi / 2
    rings = [drawn.buffer(-r * (1 - math.cos(a)), join_style="mitre") for a in angles]
    rim = sum(ring.length for ring in rings) * r * math.pi / 400
    volume = (
        sum(ring.area * r * math.cos(a) for ring, a in zip(rings, angles, strict=True))
        * math.pi
        / 400
    )
    faces = 2 * drawn.buffer(-r, join_style="mitre").area
    solid = measure_solids(
        figure_of(Part(id="ear", name="Ear", shape=leaf, core="cream"))
    ).measured[0]
    assert solid.exposed_mm2 == pytest.approx(rim + faces, rel=0.01)
    assert solid.net_mm3 == pytest.approx(volume, rel=0.01)


def test_rope_that_lies_on_itself_is_counted_once() -> None:
    def hairpin(long: float) -> CopySolid:
        # Two straight runs 6 mm apart, 8 mm thick, and a bend: they lie in one another all along.
        up = [(0.0, 0.0, z) for z in np.arange(0.0, long + 1, 5.0)]
        down = [(6.0, 0.0, z) for _, _, z in reversed(up)]
        rope = Rope(points=(*up, (3.0, 0.0, long + 3), *down), thickness=8)
        return measure_solids(figure_of(Part(id="a", name="A", shape=rope, core="cream"))).measured[
            0
        ]

    short, long = hairpin(40.0), hairpin(60.0)
    r, half = 4.0, 3.0
    lens = 2 * r * r * math.acos(half / r) - 2 * half * math.sqrt(r * r - half * half)
    girth = 2 * (math.tau * r - 2 * r * math.acos(half / r))
    assert (long.net_mm3 - short.net_mm3) / 20 == pytest.approx(
        2 * math.pi * r * r - lens, rel=0.01
    )
    assert (long.exposed_mm2 - short.exposed_mm2) / 20 == pytest.approx(girth, rel=0.01)


def test_winding_rope_is_as_long_as_its_curve() -> None:
    turns = np.linspace(0, 8 * math.pi, 60)
    points = tuple((8 * math.cos(t), 8 * math.sin(t), 1.5 * t) for t in turns)
    coil = Rope(points=points, thickness=5)
    solid = measure_solids(figure_of(Part(id="a", name="A", shape=coil, core="cream"))).measured[0]
    run = 8 * math.pi * math.hypot(8, 1.5)
    # Pappus: a round moved square to its way; half a ball at each end.
    assert solid.net_mm3 == pytest.approx(
        run * math.pi * 2.5**2 + 4 / 3 * math.pi * 2.5**3, rel=0.01
    )
    assert solid.exposed_mm2 == pytest.approx(run * math.tau * 2.5 + 4 * math.pi * 2.5**2, rel=0.01)


@pytest.mark.parametrize("thick", [0.6, 1.5, 3.0])
def test_line_on_head_joins_along_all_its_length(thick: float) -> None:
    radius, reach = 30.0, 0.35
    points = tuple(
        (radius * math.sin(a), 0.0, radius * math.cos(a) - radius)
        for a in np.linspace(-reach, reach, 9)
    )
    line = Part(
        id="line",
        name="Line",
        parent="body",
        shape=Rope(points=points, thickness=thick),
        core="cream",
    )
    figure = figure_of(Part(id="body", name="B", shape=ball(60), core="core-batt"), line)
    solid = measure_solids(figure).measured[1]
    run, r = 2 * reach * radius, thick / 2
    assert solid.join_mm2 == pytest.approx(thick * run + math.pi * r * r, rel=0.02)
    # Half of it lies in the head, and a little less, since the head falls away beneath it.
    share = solid.net_mm3 / (math.pi * r * r * run + 4 / 3 * math.pi * r**3)
    assert 0.49 < share < 0.53


def test_what_is_worn_takes_no_volume_from_what_lies_deeper() -> None:
    body = Part(id="body", name="B", shape=ball(60), core="core-batt")
    cape = Part(
        id="cape", name="Cape", parent="body", shape=Pad(width=70, depth=70, height=30), core="madder",
        seat=Seat(along=0.4, out=0.0), garment=Garment(opening=200, passes="arm"),
    )  # fmt: skip
    arm = Part(
        id="arm", name="Arm", parent="body", shape=ball(20), core="cream",
        seat=Seat(along=0.6, around=90, sink=5),
    )  # fmt: skip
    worn = measure_solids(figure_of(body, cape, arm))
    bare = measure_solids(figure_of(body, arm))
    assert worn.copies_of("arm")[0][1].net_mm3 == pytest.approx(bare.copies_of("arm")[0][1].net_mm3)
    assert worn.net_mm3 > bare.net_mm3


def test_half_ball_beside_giant_is_exact() -> None:
    # A ball a hundred metres wide whose skin goes through the middle of one of 10 mm is a plane there.
    rows = ((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 5.0 - 1e5))
    found = share(ball(10), (Neighbour("earlier", ball(1e5), rows),), (), 8)
    assert found.volume == pytest.approx(math.pi / 6 * 1000 / 2, rel=0.03)
    assert found.skin == pytest.approx(math.pi * 100 / 2, rel=0.03)
