"""Tapes: girths against elliptic integrals, surfaces against quadrature."""

from __future__ import annotations

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.special import ellipe

from bambola.core.facts import RefusedError
from bambola.core.figure import Ball, Cone, Joint, Leaf, Limb, Pad, Rope, Sausage, Shape
from bambola.core.tape import by_tape, ellipse_girth, tape_now, ways_of_taking, width_from_girth
from tests.figures import shapes
from tests.said import refused

sizes = st.floats(1.0, 500.0)


def by_integral(width: float, depth: float) -> float:
    a, b = max(width, depth) / 2, min(width, depth) / 2
    return float(4 * a * ellipe(1 - (b / a) ** 2))


@given(sizes, st.floats(0.01, 1.0))
def test_girth_against_the_elliptic_integral(width: float, ratio: float) -> None:
    depth = width * ratio
    assert ellipse_girth(width, depth) == pytest.approx(by_integral(width, depth), rel=1e-9)
    assert ellipse_girth(depth, width) == pytest.approx(by_integral(width, depth), rel=1e-9)


@given(sizes, st.floats(0.05, 20.0))
def test_diameters_from_a_girth_are_right_within_a_thousandth(width: float, ratio: float) -> None:
    girth = by_integral(width, width * ratio)
    assert width_from_girth(girth, ratio) == pytest.approx(width, rel=1e-3)


def test_a_round_and_a_flat_girth() -> None:
    assert ellipse_girth(10, 10) == pytest.approx(10 * math.pi, rel=1e-12)
    assert ellipse_girth(10, 0) == 20


def test_over_a_ball_is_half_an_ellipse() -> None:
    ball = Ball(width=30, depth=40, height=60)
    assert tape_now(ball, "height", "over the surface") == pytest.approx(
        by_integral(60, 40) / 2, rel=1e-3
    )
    assert tape_now(ball, "width", "over the surface") == pytest.approx(by_integral(30, 40) / 2)


def test_over_a_cone_against_quadrature() -> None:
    cone = Cone(length=50, base=24, tip=8)
    # Two round ends joined by a straight flank that touches both.
    gap, sine = 50 - 12 - 4, (12 - 4) / (50 - 12 - 4)
    flank = math.sqrt(gap**2 - 8**2)
    low, _ = quad(lambda a: 12, -math.pi / 2, math.asin(sine))
    high, _ = quad(lambda a: 4, math.asin(sine), math.pi / 2)
    assert tape_now(cone, "length", "over the surface") == pytest.approx(
        low + flank + high, rel=2e-3
    )


def test_over_a_limb_and_a_rope_runs_over_the_round_end() -> None:
    limb = Limb(joints=(Joint(x=0, y=0, z=0, diameter=12), Joint(x=0, y=0, z=40, diameter=8)))
    assert tape_now(limb, "length", "over the surface") == pytest.approx(40 + math.pi / 2 * 4)
    rope = Rope(points=((0, 0, 0), (0, 0, 30)), thickness=10, tip=0.5)
    assert tape_now(rope, "length", "over the surface") == pytest.approx(30 + math.pi / 2 * 2.5)


@given(shapes(), st.floats(0.6, 1.7))
def test_every_way_of_taking_reads_back_what_it_measured(shape: Shape, factor: float) -> None:
    for measure, mm in shape.measures().items():
        for how in ways_of_taking(shape, measure):
            target = shape.resized({measure: mm * factor})
            if how == "girth" or (how == "over the surface" and measure in ("width", "depth")):
                # A tape round an oval keeps its proportion.
                target = shape.resized({n: v * factor for n, v in shape.measures().items()})
            if isinstance(shape, Sausage | Cone):
                assume(target.measures()["length"] > 1.05 * target.smallest_mm)
            read = tape_now(target, measure, how)
            if how == "over the surface" and measure in ("width",) and isinstance(shape, Leaf):
                read = tape_now(shape.resized({measure: mm * factor}), measure, how)
            found = by_tape(shape, measure, read, how)
            assert found[measure] == pytest.approx(mm * factor, rel=1e-3), (measure, how)


def test_a_tape_too_short_for_the_part_is_refused_in_words() -> None:
    with refused(RefusedError, "less than the part is thick"):
        by_tape(Pad(width=60, depth=60, height=20), "height", 5.0, "over the surface")
    with refused(RefusedError, "less than the part is thick"):
        by_tape(Leaf(length=20, width=20, thickness=6), "width", 1.0, "over the surface")
