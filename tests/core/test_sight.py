"""Silhouettes, width profiles and the shapes they stand for, against figures drawn by formula."""

from __future__ import annotations

import itertools
import math
from dataclasses import replace

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench
from bambola.core.facts import RefusedError
from bambola.core.figure import (
    Ball,
    Coat,
    Framing,
    Landmark,
    Leaf,
    Limb,
    Part,
    Rope,
    Seat,
    Shape,
    Stroke,
    Survey,
    Taken,
    Trace,
)
from bambola.core.figure.shapes import KINDS, as_kind
from bambola.core.figure.survey import DOUBT
from bambola.core.plan.reading.naming import likely_name
from bambola.core.plan.reading.starting import start_from_pictures
from bambola.core.plan.reading.tracing import (
    proposed_pair,
    proposed_parent,
    with_new_part,
    with_root_traced,
)
from bambola.core.sight.build import BuiltPart, build_part, likely_parent, with_traces
from bambola.core.sight.fit import fit_chain, fit_shape, half_width, propose_kind
from bambola.core.sight.profile import by_hand, pull_handle, read_trace
from bambola.core.sight.silhouette import CancelledError, Silhouette, separate_silhouette, tidy_mask
from bambola.core.solids import AXES, Copy, place
from bambola.core.solids.forms import profile
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans
from tests.effort import examples
from tests.figures import ball, figure_of, shapes
from tests.said import refused

SCALE = 4.0  # pixels a millimetre of the drawn silhouettes


def drawn(inside: object, size: tuple[int, int] = (600, 600)) -> Silhouette:
    """A silhouette of what ``inside(u, v)`` (mm from the middle of the bottom) says is felt."""
    rows, columns = size
    fine = 4
    y, x = np.mgrid[0 : rows * fine, 0 : columns * fine] / fine
    assert callable(inside)
    mask = inside((x - columns / 2) / SCALE, (rows - y) / SCALE).astype(np.float32)
    cover = cv2.resize(mask, (columns, rows), interpolation=cv2.INTER_AREA)
    return Silhouette(cover.astype(np.float32), np.ones_like(cover), 1.0, 1.0)


def to_px(u: float, v: float) -> tuple[float, float]:
    return 300 + u * SCALE, 600 - v * SCALE


def ellipse(width: float, height: float, u0: float = 0.0, v0: float = 20.0) -> object:
    return lambda u, v: (
        ((u - u0) / (width / 2)) ** 2 + ((v - v0 - height / 2) / (height / 2)) ** 2 <= 1
    )


def test_ball_is_read_within_half_percent() -> None:
    trace = read_trace(drawn(ellipse(40, 60)), to_px, "body", "front", [(0.4, 20.6), (-0.3, 79.5)])
    assert propose_kind(trace) == "ball"
    found = fit_shape("ball", trace)
    assert found.across["width"] == pytest.approx(40, rel=0.005)
    assert found.length == pytest.approx(60, rel=0.005)
    assert abs(found.across["taper"]) < 0.02 and found.miss < 0.01


def test_ball_is_fitted_despite_crossing_parts() -> None:
    oval = ellipse(40, 60)

    def inside(u: np.ndarray, v: np.ndarray) -> np.ndarray:
        leg = (np.abs(u + 11) < 4) & (v > 0) & (v < 50)
        neck = (np.abs(u - 4) < 6) & (v > 60) & (v < 130)
        return oval(u, v) | leg | neck  # type: ignore[operator]

    trace = read_trace(drawn(inside), to_px, "body", "front", [(0, 20), (0, 80)])
    found = fit_shape("ball", trace)
    assert found.across["width"] == pytest.approx(40, rel=0.02)


@given(st.floats(20, 70), st.floats(0.3, 0.9), st.floats(10, 30))
@examples(15)
def test_cone_is_read_from_its_flanks(length: float, share: float, base: float) -> None:
    length, tip = length + base, base * share
    z = np.linspace(0, length, 400)
    half = half_width("cone", z / length, length, base, np.array([1.0, share]))

    def inside(u: np.ndarray, v: np.ndarray) -> np.ndarray:
        wide = np.interp(v - 20, z, half, left=0, right=0)
        result: np.ndarray = np.abs(u) < wide
        return result

    trace = read_trace(drawn(inside), to_px, "bill", "side", [(0, 20), (0, 20 + length)])
    found = fit_shape("cone", trace)
    assert found.across["base"] == pytest.approx(base, rel=0.03)
    assert found.across["tip"] == pytest.approx(tip, rel=0.05)


@pytest.mark.parametrize("kind", ["ball", "cone", "sausage", "pad"])
def test_profiles_of_fits_are_those_of_solids(kind: str) -> None:
    shape = as_kind(Ball(width=30 if kind == "ball" else 20, depth=30, height=50), kind)
    cut = profile(shape)
    wide = 2 * float(cut.half_width.max())
    share = np.linspace(0.02, 0.98, 40)
    own = np.array([1.0, 0.4 if kind == "cone" else 0.0])
    if kind == "cone":
        own[1] = shape.measures()["tip"] / shape.measures()["base"]
    found = half_width(kind, share, 50.0, wide, own)
    assert found == pytest.approx(np.interp(share * 50, cut.z, cut.half_width), rel=0.02, abs=0.15)


def test_egg_is_as_wide_as_its_taper_says() -> None:
    """Half widths √(1 − ζ²) (1 − t ζ), of which the greatest is the half width that was asked for."""
    zeta = np.linspace(-1, 1, 2001)
    for taper in (-0.3, 0.0, 0.25):
        form = np.sqrt(1 - zeta**2) * (1 - taper * zeta)
        found = half_width("ball", (zeta + 1) / 2, 60.0, 40.0, np.array([1.2, taper]))
        assert found == pytest.approx(24.0 * form / form.max(), abs=0.01)


@pytest.mark.parametrize("lean", [0.0, 0.6, 2.2])
def test_reaches_are_read_to_tenth_of_millimetre(lean: float) -> None:
    """A rod 24 mm wide, of which the line runs 4 mm beside the middle; its ends are on the outline."""
    middle, way = np.array([0.0, 75.0]), np.array([math.sin(lean), math.cos(lean)])
    aside = np.array([-way[1], way[0]])

    def inside(u: np.ndarray, v: np.ndarray) -> np.ndarray:
        du, dv = u - middle[0], v - middle[1]
        along, across = du * way[0] + dv * way[1], du * aside[0] + dv * aside[1]
        result: np.ndarray = (np.abs(along) < 40) & (np.abs(across) < 12)
        return result

    start, end = (middle + aside * 4 + way * run for run in (-39.6, 40.3))
    trace = read_trace(drawn(inside), to_px, "arm", "front", [tuple(start), tuple(end)])
    within = slice(1, -1)
    assert trace.left[within] == pytest.approx([8.0] * 31, abs=0.1)
    assert trace.right[within] == pytest.approx([16.0] * 31, abs=0.1)
    # Ends that were pointed to within a pixel or two are brought to the outline.
    assert trace.length == pytest.approx(80.0, abs=0.1)


def test_bent_limb_is_read_at_its_joints() -> None:
    run = np.array([(0.0, 20.0), (-12.0, 60.0), (6.0, 110.0)])

    def inside(u: np.ndarray, v: np.ndarray) -> np.ndarray:
        felt = np.zeros(u.shape, dtype=bool)
        for (a, b), (d0, d1) in zip(
            itertools.pairwise(run), ((16.0, 13.0), (13.0, 10.0)), strict=True
        ):
            leg = b - a
            t = np.clip(((u - a[0]) * leg[0] + (v - a[1]) * leg[1]) / (leg @ leg), 0, 1)
            far = np.hypot(u - a[0] - t * leg[0], v - a[1] - t * leg[1])
            felt |= far < (d0 + t * (d1 - d0)) / 2
        return felt

    points = [(0.5, 20.0), (-11.0, 60.0), (6.4, 114.5)]
    trace = read_trace(drawn(inside), to_px, "arm", "front", points)
    assert propose_kind(trace) == "limb"
    # The tip was pointed to within half a millimetre of the outline, and is on it: a radius past the joint.
    way = (run[2] - run[1]) / np.linalg.norm(run[2] - run[1])
    assert (np.array(trace.points[-1]) - run[2]) @ way == pytest.approx(5.0, abs=0.25)
    found = fit_chain(trace)
    assert found.thickness == pytest.approx([16, 13, 10], rel=0.06)
    assert found.centres[-1] == pytest.approx(run[-1], abs=0.8)
    assert found.centres[0] == pytest.approx(points[0], abs=0.8)  # a centre was pointed to already


def test_thickness_of_limb_swells_and_thins_as_read() -> None:
    share = np.linspace(0, 1, 33)
    half = 5 + 12 * share - 10 * share**2
    trace = by_hand("arm", "front", [(0, 0), (0, 60)], 10.0)
    trace = trace.replaced(left=tuple(half + 0.5), right=tuple(half - 0.5))
    found = fit_chain(trace, rounds=5)
    at = np.linspace(0, 1, 5)
    assert found.thickness == pytest.approx(2 * (5 + 12 * at - 10 * at**2), rel=0.01)
    # Drawn half a millimetre beside the middle, which is to the left of a line upwards.
    assert found.centres == pytest.approx(np.column_stack([np.full(5, -0.5), at * 60]), abs=0.05)


def test_parent_is_what_base_lies_in_or_nearest_to() -> None:
    low = Part(id="low", name="Low", shape=ball(60), core="core-batt")
    high = Part(id="high", name="High", parent="low", shape=ball(40), core="core-batt",
                seat=Seat(along=1.0, out=1.0, sink=10.0))  # fmt: skip
    placement = place(figure_of(low, high))
    middles = [placement.copies_of(part)[0].point(0.5, 0, 0) for part in ("low", "high")]
    for part, middle, radius in zip(("low", "high"), middles, (30.0, 20.0), strict=True):
        for gap in (-8.0, 1.0, 6.0):  # within, and outside it
            base = middle + np.array([0.0, -1.0, 0.0]) * (radius + gap)
            assert likely_parent(placement, base, frozenset()) == part
            assert likely_parent(placement, base, frozenset([part])) != part
    assert likely_parent(placement, middles[0], frozenset(["low", "high"])) is None
    # In both: where it comes out is what it is nearer to the skin of. Here that is 2 mm to 8.
    both = middles[0] + np.array([0.0, 0.0, 22.0])
    assert likely_parent(placement, both, frozenset()) == "high"


def test_trace_by_hand_has_given_width() -> None:
    trace = by_hand("arm", "front", [(0, 0), (0, 40)], 12.0)
    assert trace.edges == "hand"
    assert fit_shape("sausage", trace).across["width"] == pytest.approx(12.0, rel=0.1)
    assert trace.length == 40


def test_what_no_shape_can_be_is_refused_in_sentence() -> None:
    wide = by_hand("bill", "side", [(0, 0), (0, 4)], 30.0)
    endless = by_hand("bill", "side", [(0, -1e6), (0, 1e6)], 30.0)
    with refused(RefusedError, "cannot have the shape “ball or egg”"):
        build_part("ball", [endless], None, False)
    for kind in KINDS:
        assert build_part(kind, [wide], None, False).shape.kind == kind


def test_two_views_make_solid() -> None:
    front = read_trace(drawn(ellipse(40, 60, 14)), to_px, "body", "front", [(14, 20), (14, 80)])
    side = read_trace(drawn(ellipse(30, 60, -9)), to_px, "body", "side", [(-9, 20), (-9, 80)])
    made = build_part("ball", [front, side], None, False)
    assert isinstance(made.shape, Ball)
    assert made.shape.measures() == pytest.approx(
        {"width": 40, "depth": 30, "height": 60}, rel=0.01
    )
    assert made.base == pytest.approx([14, -9, 20], abs=0.5)
    assert made.seen == {"width", "depth", "height"}
    assert made.turn[:, 2] == pytest.approx([0, 0, 1], abs=0.02)


def test_pair_traces_are_mirrored_and_averaged() -> None:
    left = by_hand("ear", "front", [(20, 10), (24, 30)], 10.0)
    right = by_hand("ear", "front", [(-22, 10), (-26, 30)], 12.0)
    assert left.key != right.key
    made = build_part("sausage", [left, right], None, True)
    assert made.base[0] == pytest.approx(21.0, abs=0.01)
    assert made.shape.measures()["diameter"] == pytest.approx(11.0, rel=0.1)


@pytest.mark.parametrize(("aside", "leans"), [(0.0, False), (7.0, False), (18.0, True)])
def test_pad_drawn_nearly_upright_stands_on_its_flat_side(aside: float, leans: bool) -> None:
    """7 mm in 40 are 10 degrees, 18 are 24."""
    made = build_part("pad", [by_hand("part", "front", [(0, 0), (aside, 40)], 60.0)], None, False)
    up = made.turn @ np.array([0.0, 0.0, 1.0])
    wanted = np.array([aside if leans else 0.0, 0.0, 40.0])
    assert up == pytest.approx(wanted / np.linalg.norm(wanted), abs=0.02)


@pytest.mark.parametrize("taper", [0.25, -0.25])
def test_egg_is_read_with_end_up_that_is_up(taper: float) -> None:
    zeta = np.linspace(-1, 1, 801)
    half = np.sqrt(1 - zeta**2) * (1 - taper * zeta)
    half *= 22.0 / half.max()

    def inside(u: np.ndarray, v: np.ndarray) -> np.ndarray:
        wide = np.interp(v, 20 + 35 * (zeta + 1), half, left=0, right=0)
        result: np.ndarray = np.abs(u) < wide
        return result

    trace = read_trace(drawn(inside), to_px, "part", "front", [(0, 20), (0, 90)])
    made = build_part("ball", [trace], None, False)
    assert isinstance(made.shape, Ball)
    assert made.shape.taper == pytest.approx(taper, abs=0.03)
    assert made.shape.width == pytest.approx(44.0, rel=0.02)
    assert made.shape.height == pytest.approx(70.0, rel=0.02)


def once_made(shape: Shape, at: tuple[float, float, float]) -> Copy:
    """A part as it was before it was drawn again, its base at a place in space."""
    part = Part(id="part", name="Part", shape=shape, core="core-batt")
    return replace(place(figure_of(part)).copies[0], matrix=moved_to(at))


def moved_to(at: tuple[float, float, float]) -> np.ndarray:
    matrix = np.eye(4)
    matrix[:3, 3] = at
    return matrix


@pytest.mark.parametrize("kind", ["ball", "pad", "turned"])
def test_what_one_view_does_not_show_stays_as_it_was(kind: str) -> None:
    was = once_made(Ball(width=40, depth=20, height=60), (3.0, 7.0, 10.0))
    front = by_hand("part", "front", [(5, 20), (5, 90)], 50.0)
    made = build_part(kind, [front], was, False)
    measures = made.shape.measures()
    assert measures["depth"] / measures["width"] == pytest.approx(0.5)
    assert made.base == pytest.approx([5, 7, 20], abs=0.1)
    assert "width" in made.seen and "depth" not in made.seen
    # From the side it is the other way round: 7 is not where it lay across.
    side = by_hand("part", "side", [(5, 20), (5, 90)], 30.0)
    made = build_part(kind, [side], was, False)
    measures = made.shape.measures()
    assert measures["width"] / measures["depth"] == pytest.approx(2.0)
    assert made.base[0] == pytest.approx(3.0, abs=0.1) and "width" not in made.seen
    # What is new is round, and lies on the midline.
    new = build_part(kind, [front], None, False)
    assert new.shape.measures()["depth"] == pytest.approx(new.shape.measures()["width"])
    assert new.base == pytest.approx([5, 0, 20], abs=0.1)


def test_rope_drawn_anew_keeps_how_it_ran_in_depth() -> None:
    before = Rope(points=((0, 0, 0), (0, 8, 20), (0, 16, 40)), thickness=4.0)
    was = once_made(before, (0.0, 2.0, 0.0))
    made = build_part(
        "rope", [by_hand("part", "front", [(0, 0), (6, 25), (0, 50)], 4.0)], was, False
    )
    assert isinstance(made.shape, Rope)
    assert made.base == pytest.approx([0, 2, 0], abs=0.2)
    assert [p[1] for p in made.shape.points] == pytest.approx([0, 8, 16], abs=0.3)
    other = by_hand("part", "side", [(30, 0), (40, 25), (50, 50)], 4.0)
    seen = build_part(
        "rope", [by_hand("part", "front", [(0, 0), (6, 25), (0, 50)], 4.0), other], was, False
    )
    run = np.array(seen.shape.points) @ AXES["side"][:2].T  # type: ignore[union-attr]
    assert run[:, 0] - run[0, 0] == pytest.approx([0, 10, 20], abs=0.3)


def test_leaf_keeps_drawn_outline_and_faces_viewer() -> None:
    """A kite, 12 mm to the left of the line and 4 to the right at its broadest."""
    rise = np.interp(np.linspace(0, 1, 33), [0, 0.25, 1], [0, 1, 0])
    broad = by_hand("part", "front", [(0, 0), (0, 40)], 8.0)
    broad = broad.replaced(left=tuple(12 * rise), right=tuple(4 * rise))
    thin = by_hand("part", "side", [(0, 0), (0, 40)], 3.0)
    made = build_part("leaf", [broad, thin], None, False)
    assert isinstance(made.shape, Leaf)
    assert made.shape.measures() == pytest.approx(
        {"length": 40, "width": 16, "thickness": 3}, rel=1e-6
    )
    outline = np.array(made.shape.outline)
    # Its broadest place lies a quarter up; the line is 4 mm, a quarter of the width, off its middle.
    assert outline[:, 0].min() == pytest.approx(-0.5) and outline[:, 0].max() == pytest.approx(0.5)
    assert outline[outline[:, 0].argmax(), 1] == pytest.approx(0.25)
    foot = outline[np.abs(outline[:, 1]) < 1e-6]
    assert foot[:, 0] == pytest.approx([0.25], abs=0.01)
    front = made.turn @ np.array([0.0, -1.0, 0.0])
    assert front == pytest.approx([0, -1, 0], abs=1e-6) and made.seen == {
        "length",
        "width",
        "thickness",
    }
    alone = build_part(
        "leaf", [broad], once_made(made.shape.resized({"thickness": 2.0}), (0, 0, 0)), False
    )
    assert alone.shape.measures()["thickness"] == 2.0 and "thickness" not in alone.seen
    assert build_part("leaf", [broad], None, False).shape.measures()["thickness"] == pytest.approx(
        16 / 5
    )


@pytest.mark.parametrize(
    ("kind", "half"),
    [
        ("ball", lambda t: 20 * np.sqrt(np.maximum(0, 1 - (2 * t - 1) ** 2))),
        ("cone", lambda t: half_width("cone", t, 60.0, 30.0, np.array([1.0, 0.4]))),
        ("pad", lambda t: 20 * np.sqrt(np.maximum(0, 1 - t**2))),
        ("turned", lambda t: 12 + 6 * np.sin(t * 12)),
    ],
)
def test_plainest_shape_that_does_is_proposed(kind: str, half: object) -> None:
    def inside(u: np.ndarray, v: np.ndarray) -> np.ndarray:
        t = (v - 20) / 60
        assert callable(half)
        result: np.ndarray = (t >= 0) & (t <= 1) & (np.abs(u) < half(np.clip(t, 0, 1)))
        return result

    trace = read_trace(drawn(inside), to_px, "part", "front", [(0, 20), (0, 80)])
    assert propose_kind(trace) == kind


def test_only_bent_or_long_traces_are_limbs() -> None:
    straight = by_hand("part", "front", [(0, 0), (0, 60)], 10.0)
    assert propose_kind(straight) != "limb"
    for points, wide, limb in (
        ([(0, 0), (0, 30), (0, 60)], 10.0, True),
        ([(0, 0), (0, 30), (0, 60)], 25.0, False),
        ([(0, 0), (14, 30), (0, 60)], 25.0, True),
    ):
        assert (propose_kind(by_hand("part", "front", points, wide)) == "limb") == limb  # type: ignore[arg-type]


def survey_of(*traces: Trace) -> Survey:
    survey = Survey()
    for trace in traces:
        survey = survey.traced(trace)
    return survey


def test_typed_measures_override_traces(bench: Bench) -> None:
    figure = start_from_pictures(200.0, bench, "New figure", "Body")
    body = by_hand("new", "front", [(0, 30), (0, 110)], 60.0)
    figure, survey, root = with_root_traced(figure, Survey(), body, "Trunk", "sausage")
    assert figure.parts[0].name == "Trunk" and root == figure.parts[0].id
    arm = by_hand("new", "front", [(26, 95), (60, 60)], 14.0)
    assert proposed_pair(arm) and not proposed_pair(body)
    assert proposed_parent(figure, survey, arm, "limb") == (root, "arm")
    figure, survey, part = with_new_part(figure, survey, arm, "Arm", "limb", root, True, bench)
    copies = place(figure).copies_of(part)
    assert len(copies) == 2
    assert copies[0].matrix[:3, 3] == pytest.approx([26, 0, 65], abs=0.1)
    assert (
        survey.how_taken(part, "length") == "picture"
        and survey.how_taken(part, "thickness") == "picture"
    )
    survey = survey.with_readings(Taken(part=part, measure="length", mm=70.0, how="straight"))
    figure, survey = with_traces(figure, survey)
    assert figure.by_id[part].shape.measures()["length"] == pytest.approx(70.0)
    assert survey.how_taken(part, "length") == "straight"


def test_redrawing_root_carries_other_parts_along(bench: Bench) -> None:
    figure = start_from_pictures(200.0, bench, "New figure", "Body")
    body = by_hand("new", "side", [(5, 30), (5, 110)], 60.0)
    figure, survey, root = with_root_traced(figure, Survey(), body, "Trunk", "ball")
    head = by_hand("new", "side", [(0, 105), (0, 150)], 40.0)
    figure, survey, part = with_new_part(figure, survey, head, "Head", "ball", root, False, bench)
    was = place(figure).copies_of(part)[0].matrix[:3, 3]
    lower = body.replaced(part=root, points=((5.0, 20.0), (5.0, 112.0)))
    figure, survey = with_traces(figure, survey.traced(lower))
    now = place(figure).copies_of(part)[0].matrix[:3, 3]
    # The head is where it was in the picture, so further from the body's base, which went down.
    assert now - was == pytest.approx([0, 0, 10], abs=0.05)


@given(shapes(), st.sampled_from(sorted(KINDS)))
def test_any_shape_can_be_called_another_of_about_its_size(shape: Shape, kind: str) -> None:
    new = as_kind(shape, kind)
    assert new.kind == kind
    run = shape.measures().get("height") or shape.measures()["length"]
    grown = new.measures().get("height") or new.measures()["length"]
    assert 0.9 * run <= grown <= max(2.1 * run, 1.2 * max(shape.measures().values()))
    if kind == "limb" and isinstance(shape, Limb):
        assert new == shape


# Framing


@given(
    st.floats(-60, 60), st.floats(0, 1000), st.floats(0, 1000), st.booleans(), st.floats(0.05, 2)
)
def test_framing_leads_there_and_back(
    turn: float, x: float, y: float, flipped: bool, scale: float
) -> None:
    framing = Framing(
        view="side", picture="a.png", width=1000, height=1000, turn=turn, ground=900, midline=450,
        mm_px=scale, flipped=flipped,
    )  # fmt: skip
    assert framing.original(*framing.straightened(x, y)) == pytest.approx((x, y), abs=1e-6)
    assert framing.to_px(*framing.to_mm(x, y)) == pytest.approx((x, y), abs=1e-6)
    assert framing.to_mm(450, 900) == pytest.approx((0, 0))
    # What is to the right of the midline and above the ground is so in millimetres, unless mirrored.
    assert framing.to_mm(550, 700) == pytest.approx(
        ((-1 if flipped else 1) * 100 * scale, 200 * scale)
    )


def test_crop_in_file_encloses_kept_area() -> None:
    """A square of 40 that is turned by 45 degrees about the middle is 56.6 across."""
    framing = Framing(view="front", picture="a.png", width=200, height=200, turn=45, ground=0, midline=0,
                      crop=(80, 80, 120, 120))  # fmt: skip
    half = 20 * math.sqrt(2)
    assert framing.crop_in_file == pytest.approx((100 - half, 100 - half, 100 + half, 100 + half))
    assert framing.replaced(crop=(-50, 80, 120, 120), turn=0).crop_in_file == (0, 80, 120, 120)
    assert framing.replaced(crop=None).crop_in_file is None


@pytest.mark.parametrize(("left", "right"), [(3, 2), (2, 3), (1, 1)])
def test_line_without_two_sides_alike_is_no_trace(left: int, right: int) -> None:
    said = {"part": "leg", "view": "side", "points": [(0, 0), (0, 9)]}
    with pytest.raises(ValueError):
        Trace.model_validate(said | {"left": [1.0] * left, "right": [1.0] * right})
    with pytest.raises(ValueError):
        Trace.model_validate(said | {"points": [(1, 2), (1, 2)], "left": [1, 1], "right": [1, 1]})
    Trace.model_validate(said | {"left": [1.0, 1.0], "right": [1.0, 1.0]})


def test_trace_side_needs_quarter_of_width() -> None:
    for aside, left in ((-2.4, False), (-2.6, True), (2.6, False)):
        assert by_hand("ear", "front", [(aside, 0), (aside, 9)], 10.0).key == ("ear", "front", left)
    assert by_hand("ear", "side", [(-9, 0), (-9, 9)], 10.0).key == ("ear", "side", False)


@pytest.mark.parametrize(
    ("aside", "long", "wide", "pair"),
    # Half its width beside the midline, or a seventh of its length, whichever is more.
    [(5.1, 10, 10, True), (4.9, 10, 10, False), (14.0, 100, 10, False), (16.0, 100, 10, True),
     (-16.0, 100, 10, True)],
)  # fmt: skip
def test_what_lies_beside_midline_has_twin(
    aside: float, long: float, wide: float, pair: bool
) -> None:
    trace = by_hand("ear", "front", [(aside, 0), (aside, long)], wide)
    assert proposed_pair(trace) == pair
    assert not proposed_pair(trace.replaced(view="side"))


def test_what_is_measured_better_is_doubted_less() -> None:
    surer = sorted(DOUBT, key=lambda how: DOUBT[how])
    assert surer[0] == "caliper" and surer[-1] == "plan"
    assert DOUBT["straight"] == DOUBT["girth"] < DOUBT["picture"] < DOUBT["over the surface"]
    assert all(0.005 < share < 0.2 for share in DOUBT.values())


def test_straightening_turns_way_picture_leans() -> None:
    framing = Framing(
        view="front", picture="a.png", width=200, height=200, turn=90, ground=0, midline=0
    )
    # Counter-clockwise: what was to the right of the centre is now above it.
    assert framing.straightened(150, 100) == pytest.approx((100, 50))


def test_survey_keeps_one_of_each() -> None:
    survey = Survey().marked(Landmark(name="Crown", view="front", at=(0, 99)))
    survey = survey.marked(Landmark(name="Crown", view="front", at=(0, 98)))
    survey = survey.marked(Landmark(name="Crown", view="side", at=(0, 97)))
    assert [m.at[1] for m in survey.landmarks] == [98, 97]
    survey = survey.traced(by_hand("leg", "side", [(0, 0), (0, 9)], 3))
    assert survey.without_parts(frozenset(["leg"])).traces == ()
    assert survey.unframed("side").landmarks[0].view == "front"


# Separating


def photograph(rows: int = 480, columns: int = 360) -> tuple[np.ndarray, np.ndarray]:
    """A cream oval with a brown leg before a green wall, and what of it is figure."""
    rng = np.random.default_rng(1)
    y, x = np.mgrid[0:rows, 0:columns] * (480 / rows)
    truth = ((x - 180) / 70) ** 2 + ((y - 180) / 110) ** 2 <= 1
    leg = (np.abs(x - 180) < 9) & (y > 270) & (y < 440)
    picture = np.empty((rows, columns, 3))
    picture[:] = (70, 110, 76)
    picture[leg] = (104, 72, 52)
    picture[truth] = (226, 218, 200)
    picture += rng.normal(0, 5, picture.shape)
    return np.clip(picture, 0, 255).astype(np.uint8), truth | leg


def test_figure_is_separated_to_pixel() -> None:
    picture, truth = photograph()
    found = separate_silhouette(picture)
    wrong = (found.cover > 0.5) != truth
    rim = cv2.morphologyEx(truth.astype(np.uint8), cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8))
    assert wrong.sum() < 0.25 * (rim > 0).sum()
    assert not (wrong & (cv2.dilate(rim, np.ones((5, 5), np.uint8)) == 0)).any()
    assert found.sure > 0.9
    left, top, right, bottom = found.box()
    assert (left, top, right, bottom) == pytest.approx((110, 70, 250, 440), abs=2)


def test_strokes_and_crop_have_last_word() -> None:
    picture, _ = photograph()
    picture[40:90, 290:340] = (230, 60, 60)
    assert separate_silhouette(picture).cover[60, 310] > 0.5
    away = Stroke(points=((295, 65), (335, 65)), radius=30, figure=False)
    assert separate_silhouette(picture, (away,)).cover[60, 310] < 0.5
    assert separate_silhouette(picture, crop=(60, 30, 270, 470)).cover[60, 310] < 0.5
    more = Stroke(points=((20, 400), (60, 400)), radius=8, figure=True)
    assert separate_silhouette(picture, (away, more)).cover[400, 40] > 0.5


@pytest.mark.parametrize("scale", [1.0, 0.5])
def test_stroke_is_as_wide_as_its_brush(scale: float) -> None:
    picture, _ = photograph()
    shown = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    more = Stroke(points=((40, 300), (40, 400)), radius=10, figure=True)
    dot = Stroke(points=((320, 420),), radius=14, figure=True)
    cover = (
        separate_silhouette(np.asarray(shown, dtype=np.uint8), (more, dot), scale=scale).cover > 0.5
    )
    row = np.flatnonzero(cover[round(350 * scale), : round(90 * scale)]) / scale
    assert (row[0], row[-1]) == pytest.approx((30, 50), abs=2.5)
    column = np.flatnonzero(cover[round(380 * scale) :, round(320 * scale)]) / scale + 380
    assert (column[0], column[-1]) == pytest.approx((406, 434), abs=2.5)


def test_pinholes_are_filled_and_crumbs_left_away_unless_stroked() -> None:
    picture, _ = photograph()
    picture[148:152, 178:182] = (70, 110, 76)  # a pinhole in the oval, of the wall's colour
    picture[30:60, 30:36] = (226, 218, 200)  # a crumb beside it
    picture[180:230, 150:200] = (70, 110, 76)  # a hole to look through
    cover = separate_silhouette(picture).cover > 0.5
    assert cover[150, 180] and not cover[45, 33] and not cover[205, 175]
    crumb = Stroke(points=((33, 40), (33, 50)), radius=2, figure=True)
    hole = Stroke(points=((180, 150),), radius=3, figure=False)
    cover = separate_silhouette(picture, (crumb, hole)).cover > 0.5
    assert cover[45, 33] and not cover[150, 180]


def test_what_cut_leaves_is_tidied_by_its_size() -> None:
    """A figure of 6,400 dots: holes below 26 of them are filled, crumbs below 512 left away."""
    found = np.zeros((120, 120), dtype=np.bool_)
    found[20:100, 20:100] = True
    found[30:35, 30:35] = found[40:45, 60:66] = found[60:65, 80:85] = False  # 25, 30 and 25 dots
    found[2:5, 2:10] = found[105:118, 20:60] = found[108:112, 100:104] = True  # 24, 520 and 16 dots
    hints = np.full(found.shape, cv2.GC_PR_BGD, dtype=np.uint8)
    hints[62, 82] = hints[2, 110] = cv2.GC_BGD  # stroked out of it, and beside it
    hints[110, 102] = cv2.GC_FGD
    tidy = tidy_mask(found, hints)
    assert (
        tidy[30:35, 30:35].all() and not tidy[40:45, 60:66].any() and not tidy[60:65, 80:85].any()
    )
    assert not tidy[:20].any() and tidy[105:118, 20:60].all() and tidy[108:112, 100:104].all()


def test_figure_s_box_is_told_in_pixels_of_its_picture() -> None:
    cover = np.zeros((20, 30), dtype=np.float32)
    cover[2:6, 3:11] = 0.6
    cover[15, 25] = 0.4
    seen = Silhouette(cover, np.ones_like(cover), 0.4, 1.0)
    assert seen.box() == pytest.approx((7.5, 5.0, 27.5, 15.0))


def test_empty_picture_has_no_figure_and_says_so() -> None:
    blank = np.full((200, 200, 3), 128, dtype=np.uint8)
    found = separate_silhouette(blank)
    assert found.is_empty and found.box() == (0, 0, 200, 200)


def test_separating_tells_how_far_it_is_and_stops_when_told() -> None:
    picture, _ = photograph()
    shares: list[float] = []
    separate_silhouette(picture, progress=lambda share: shares.append(share) or True)  # type: ignore[func-returns-value]
    assert shares == sorted(shares) and len(shares) > 5 and shares[-1] > 0.9
    with pytest.raises(CancelledError):
        separate_silhouette(picture, progress=lambda share: share < 0.3)


def test_picture_of_twelve_megapixels_keeps_its_scale() -> None:
    picture, _ = photograph(4000, 3000)
    found = separate_silhouette(picture)
    left, top, right, bottom = found.box()
    assert (left, right) == pytest.approx((110 * 8.333, 250 * 8.333), abs=12)
    assert max(found.cover.shape) <= 2000 and found.scale == pytest.approx(0.5)
    assert (top, bottom) == pytest.approx((70 * 8.333, 440 * 8.333), abs=12)


def test_results_are_in_pixels_of_file() -> None:
    picture, _ = photograph()
    picture[40:90, 290:340] = (230, 60, 60)
    half = cv2.resize(picture, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    away = Stroke(points=((295, 65), (335, 65)), radius=30, figure=False)
    cropped = separate_silhouette(
        np.asarray(half, dtype=np.uint8), crop=(60, 30, 270, 470), scale=0.5
    )
    assert cropped.box() == pytest.approx((110, 70, 250, 440), abs=3)
    found = separate_silhouette(np.asarray(half, dtype=np.uint8), (away,), scale=0.5)
    assert found.scale == 0.5 and found.box() == pytest.approx((110, 70, 250, 440), abs=3)


def test_even_figure_is_its_own_trace() -> None:
    figure = figure_of(
        Part(id="body", name="Body", shape=ball(50), core="core-batt", coat=Coat(wool="woad"))
    )
    trace = read_trace(drawn(ellipse(50, 50, 0, 0)), to_px, "body", "front", [(0, 0), (0, 50)])
    new, _ = with_traces(figure, survey_of(trace))
    assert new.by_id["body"].shape.measures()["width"] == pytest.approx(50, rel=0.01)
    assert math.isclose(place(new).height, 50, rel_tol=0.01)


@pytest.mark.parametrize("kind", ["ball", "sausage", "cone", "turned"])
def test_pulling_bead_in_makes_part_narrower_and_out_wider(kind: str) -> None:
    """A flipper crosses the outline of a body, and is read as wide as both: beads that are pulled to where
    the body ends bring it there, wild neighbours give way; pulled in it grows narrower, pulled out wider."""

    def inside(u: np.ndarray, v: np.ndarray) -> np.ndarray:
        body = (u / 25) ** 2 + ((v - 60) / 55) ** 2 <= 1
        return body | ((u > 0) & (np.abs(v - 62) < 16) & (u < 60))

    trace = read_trace(drawn(inside), to_px, "part", "front", [(0, 6), (0, 114)])

    def width(t: Trace) -> float:
        if kind == "turned":
            return max(a + b for a, b in zip(t.left, t.right, strict=True))
        return max(mm for name, mm in fit_shape(kind, t).across.items() if name != "taper")

    last, pulled = len(trace.left) - 1, trace
    widths = [width(trace)]
    for i in (round(last / 2), round(last * 0.4), round(last * 0.6)):
        share = i / last
        true = 25 * math.sqrt(max(0.0, 1 - (2 * share - 1) ** 2))
        pulled = pull_handle(pulled, ("right", i), (true, 6 + share * 108))
        widths.append(width(pulled))
    assert pulled.edges == "outline" and len(pulled.pulled) == 3
    assert abs(widths[-1] - 50) <= max(1.0, abs(widths[0] - 50)), widths
    # Both sides pulled in by a third, or out: whatever the outline says.
    plain, at = trace.replaced(right=trace.left), round(last / 2)
    before = width(plain)
    for u, sense in ((16.0, -1), (34.0, 1)):
        pulled = plain
        for side, way in (("right", 1), ("left", -1)):
            pulled = pull_handle(pulled, (side, at), (way * u, 60.0))
        assert sense * (width(pulled) - before) >= (0 if kind == "turned" else 2.0), (u, before)


def test_name_is_proposed_by_place_and_shape() -> None:
    """Of our own figures and every body plan: what is proposed is right, wherever it is proposed."""
    like = {"paw": "hand", "hind leg": "leg", "front leg": "leg"}
    figures = [load_demo(path).figure for path in (BADGER, TOAD, HERON)]
    right = told = 0
    for figure in (*figures, *(plan.figure for plan in body_plans())):
        placement = place(figure)
        for part in figure.parts:
            if part.parent is None or part.garment or part.name == "Mouth":
                continue
            copy = placement.copies_of(part.id)[0]
            built = BuiltPart(copy.shape, copy.matrix[:3, 3], copy.matrix[:3, :3], frozenset())
            name = likely_name(figure, built, part.parent, copy.side is not None)
            told += 1
            right += bool(name)
            known = like.get(part.name.casefold(), part.name.casefold())
            assert name in ("", known), (figure.name, part.name, name)
    assert right > 0.5 * told


def test_small_part_drawn_on_another_sits_on_its_skin(bench: Bench) -> None:
    """A snout and a nose drawn from the front, a patch from the side: each lies where it is seen, half of it
    out of the skin; a leg that goes beyond the outline stays under the middle."""
    figure = start_from_pictures(200.0, bench, "New figure", "Body")
    body = by_hand("new", "front", [(0, 30), (0, 110)], 70.0)
    figure, survey, root = with_root_traced(figure, Survey(), body, "Head", "ball")
    snout = by_hand("new", "front", [(0, 55), (0, 75)], 22.0)
    figure, survey, part = with_new_part(figure, survey, snout, "Snout", "ball", root, False, bench)
    copy = place(figure).copies_of(part)[0]
    middle = copy.point(0.5)
    skin = 35.0 * math.sqrt(1 - ((65 - 70) / 40) ** 2)
    assert middle[1] == pytest.approx(-skin, abs=3.0) and abs(middle[0]) < 0.5
    leg = by_hand("new", "front", [(20, 40), (24, 0)], 14.0)
    figure, survey, part = with_new_part(figure, survey, leg, "Leg", "limb", root, True, bench)
    assert abs(place(figure).copies_of(part)[0].matrix[1, 3]) < 12.0
