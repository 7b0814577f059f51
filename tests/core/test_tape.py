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
def test_girth_against_elliptic_integral(width: float, ratio: float) -> None:
    depth = width * ratio
    assert ellipse_girth(width, depth) == pytest.approx(by_integral(width, depth), rel=1e-9)
    assert ellipse_girth(depth, width) == pytest.approx(by_integral(width, depth), rel=1e-9)


@given(sizes, st.floats(0.05, 20.0))
def test_diameters_from_girth_are_right_within_thousandth(width: float, ratio: float) -> None:
    girth = by_integral(width, width * ratio)
    assert width_from_girth(girth, ratio) == pytest.approx(width, rel=1e-3)


def test_round_and_flat_girth() -> None:
    assert ellipse_girth(10, 10) == pytest.approx(10 * math.pi, rel=1e-12)
    assert ellipse_girth(10, 0) == 20


def test_over_ball_is_half_ellipse() -> None:
    ball = Ball(width=30, depth=40, height=60)
    assert tape_now(ball, "height", "over the surface") == pytest.approx(
        by_integral(60, 40) / 2, rel=1e-3
    )
    assert tape_now(ball, "width", "over the surface") == pytest.approx(by_integral(30, 40) / 2)


def test_over_cone_against_quadrature() -> None:
    cone = Cone(length=50, base=24, tip=8)
    # Two round ends joined by a straight flank that touches both.
    gap, sine = 50 - 12 - 4, (12 - 4) / (50 - 12 - 4)
    flank = math.sqrt(gap**2 - 8**2)
    low, _ = quad(lambda a: 12, -math.pi / 2, math.asin(sine))
    high, _ = quad(lambda a: 4, math.asin(sine), math.pi / 2)
    assert tape_now(cone, "length", "over the surface") == pytest.approx(
        low + flank + high, rel=2e-3
    )


def test_over_limb_and_rope_runs_over_round_end() -> None:
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


def test_tape_too_short_for_part_is_refused_in_words() -> None:
    with refused(RefusedError, "less than the part is thick"):
        by_tape(Pad(width=60, depth=60, height=20), "height", 5.0, "over the surface")
    with refused(RefusedError, "less than the part is thick"):
        by_tape(Leaf(length=20, width=20, thickness=6), "width", 1.0, "over the surface")


SHEET = Leaf(length=40.0, width=24.0, thickness=6.0)
EGG = Ball(width=30.0, depth=40.0, height=60.0)
LIMB = Limb(joints=(Joint(x=0, y=0, z=0, diameter=12), Joint(x=0, y=0, z=40, diameter=8)))


@pytest.mark.parametrize(
    ("shape", "measure", "how", "read"),
    [
        # Over a sheet the tape goes round half its edge at the tip, and round both at its sides.
        (SHEET, "length", "over the surface", 40.0 - 3.0 + math.pi / 2 * 3.0),
        (SHEET, "width", "over the surface", 24.0 - 6.0 + math.pi / 2 * 6.0),
        (SHEET, "length", "straight", 40.0),
        (SHEET, "width", "straight", 24.0),
        (SHEET, "thickness", "straight", 6.0),
        (EGG, "height", "straight", 60.0),
        (EGG, "width", "girth", by_integral(30.0, 40.0)),
        (EGG, "depth", "girth", by_integral(30.0, 40.0)),
        (EGG, "depth", "over the surface", by_integral(30.0, 40.0) / 2),
        (LIMB, "thickness", "girth", math.pi * 12.0),
        (LIMB, "thickness", "over the surface", math.pi * 6.0),
        (Sausage(length=50.0, diameter=16.0), "diameter", "girth", math.pi * 16.0),
        (Cone(length=50.0, base=24.0, tip=8.0), "tip", "over the surface", math.pi * 4.0),
        (Rope(points=((0, 0, 0), (0, 0, 30)), thickness=10, closed=False), "thickness", "straight", 10.0),
    ],
)  # fmt: skip
def test_what_tape_reads_and_what_follows_from_it(
    shape: Shape, measure: str, how: str, read: float
) -> None:
    assert how in ways_of_taking(shape, measure)
    assert tape_now(shape, measure, how) == pytest.approx(read, rel=1e-3)  # type: ignore[arg-type]
    found = by_tape(shape, measure, tape_now(shape, measure, how), how)  # type: ignore[arg-type]
    assert found[measure] == pytest.approx(shape.measures()[measure], rel=1e-4)
    # Of an oval that is taped round, both ways across follow; of all else the one that was asked for.
    other = {"width": "depth", "depth": "width"}.get(measure)
    round_it = how != "straight" and other in shape.measures() and not shape.flat
    assert set(found) == ({measure, other} if round_it else {measure})
    if round_it:
        assert found[str(other)] == pytest.approx(shape.measures()[str(other)], rel=1e-4)


def test_how_each_measure_can_be_taken() -> None:
    over, round_ = "over the surface", "girth"
    assert ways_of_taking(EGG, "height") == ("straight", over)
    assert ways_of_taking(EGG, "width") == ("straight", round_, over)
    assert ways_of_taking(SHEET, "width") == ("straight", over)
    assert ways_of_taking(SHEET, "thickness") == ("straight",)
    assert ways_of_taking(LIMB, "length") == ("straight", over)
    assert ways_of_taking(LIMB, "thickness") == ("straight", round_, over)


@given(st.floats(0.2, 12.0))
def test_closed_rope_has_no_end_for_tape_to_go_over(times: float) -> None:
    ring = Rope(
        points=((10, 0, 0), (0, 10, 0), (-10, 0, 0), (0, -10, 0)), thickness=4.0, closed=True
    )
    ring = ring.resized({"length": ring.measures()["length"] * max(times, 1.0)})
    long = ring.measures()["length"]
    assert tape_now(ring, "length", "over the surface") == pytest.approx(long + math.pi / 2 * 2.0)
    assert tape_now(ring, "thickness", "girth") == pytest.approx(4.0 * math.pi)


def test_impossible_tape_reading_is_refused() -> None:
    pad = Pad(width=60.0, depth=60.0, height=20.0)
    flat = tape_now(pad.resized({"height": 0.05}), "height", "over the surface")
    assert by_tape(pad, "height", flat * 1.02, "over the surface")["height"] < 20
    with refused(RefusedError, f"it would be {flat:.1f}".removesuffix(".0")):
        by_tape(pad, "height", flat * 0.9, "over the surface")
    edges = 6.0 * (math.pi / 2 - 1)  # what a sheet's edges alone add
    assert by_tape(SHEET, "width", edges + 0.5, "over the surface")["width"] == pytest.approx(0.5)
    for mm in (edges, edges - 0.1, 0.5):
        with refused(RefusedError, "less than the part is thick"):
            by_tape(SHEET, "width", mm, "over the surface")
    short = Sausage(length=50.0, diameter=16.0)
    least = tape_now(short.resized({"length": 16.001}), "length", "over the surface")
    assert by_tape(short, "length", least + 1.0, "over the surface")["length"] > 16
    with refused(RefusedError, "flat"):
        by_tape(short, "length", least - 1.0, "over the surface")
