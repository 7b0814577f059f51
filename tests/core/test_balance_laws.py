"""The laws of standing, hanging and joining against numbers worked out by hand."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest

from bambola.core.balance import JoinStress, balance, join_for, join_stresses, loop_point, remedies
from bambola.core.balance.joins import ALLOWED_KPA
from bambola.core.balance.standing import WARN_DEG, hull_of, nearest_edge
from bambola.core.figure import Figure, Part, Seat
from bambola.core.solids import measure_solids, place
from tests.figures import ball, figure_of, one_ball

SIDES = ("left", "back left", "back", "back right", "right", "front right", "front", "front left")
RING = np.column_stack([f(np.radians(np.arange(360.0))) for f in (np.cos, np.sin)])


def octagon(turned_deg: float) -> np.ndarray:
    """Of 10 mm, with an edge square to every eighth of a turn from ``turned_deg`` on."""
    corners = np.radians(turned_deg + 22.5 + 45 * np.arange(8))
    return 10 * np.column_stack([np.cos(corners), np.sin(corners)])


@pytest.mark.parametrize("off", [-22.0, 0.0, 22.0])
@pytest.mark.parametrize("eighth", range(8))
def test_side_figure_tips_to_is_eighth_its_edge_lies_in(eighth: int, off: float) -> None:
    placement = place(one_ball())
    way = math.radians(45 * eighth + off)
    masses = [(0.2, (0.0, 0.0, 8.0)), (0.3, (5 * math.cos(way), 5 * math.sin(way), 8.0))]
    found = balance(placement, masses, octagon(off))
    assert found.towards == SIDES[eighth]
    # Three fifths of five millimetres towards an edge 10 cos 22.5° away, eight millimetres up.
    assert math.hypot(*found.centre_mm[:2]) == pytest.approx(3.0)
    left = 10 * math.cos(math.pi / 8) - 3
    assert found.tip_angle_deg == pytest.approx(math.degrees(math.atan2(left, 8.0)))
    assert found.stands and found.mass_g == pytest.approx(0.5)


def test_plumb_point_half_millimetre_outside_does_not_stand() -> None:
    square = np.array([(-5.0, -5), (5, -5), (5, 5), (-5, 5)])
    found = balance(place(one_ball()), [(4.0, (5.5, 1.0, 20.0))], square)
    assert not found.stands and found.towards == "left"
    assert found.tip_angle_deg == pytest.approx(-math.degrees(math.atan(0.5 / 20)))
    assert sorted(found.edge_mm) == [(5.0, -5.0), (5.0, 5.0)]


def test_figure_tipping_below_eight_degrees_is_warned_of() -> None:
    assert WARN_DEG == 8


def test_what_is_no_polygon_holds_nothing() -> None:
    assert hull_of([]).shape == (0, 2)
    assert nearest_edge(np.zeros((0, 2)), np.zeros(2))[0] == -math.inf
    two = np.array([(0.0, 0.0), (10.0, 2.0)])
    assert nearest_edge(two, np.array([3.0, 4.0]))[0] == pytest.approx(-5)
    triangle = np.array([(0.0, 0.0), (12.0, 0.0), (0.0, 12.0)])
    assert nearest_edge(triangle, np.array([2.0, 3.0]))[0] == pytest.approx(2)
    doubled = np.array([(0.0, 0.0), (12.0, 0.0), (12.0, 0.0), (0.0, 12.0)])
    assert nearest_edge(doubled, np.array([2.0, 3.0]))[0] == pytest.approx(2)


def of_kind(kind: str, *args: Any) -> Any:
    return next((r for r in remedies(*args) if r.kind == kind), None)


def test_stand_reaches_feet_or_lean_whichever_is_further() -> None:
    feet = [np.array([(10.0, 2.0), (4.0, -6.0), (7.0, -1.0)])]
    # The plumb point is (7, -2), so the furthest corner lies 5 mm away; the lean asks but 1 mm.
    stand = of_kind("stand", feet, (7.0, -2.0, 1.0), 20.0, 50.0, 45.0)
    assert (stand.value, stand.at_mm) == (pytest.approx(10), pytest.approx((7.0, -2.0)))
    (alone,) = remedies([], (7.0, -2.0, 100.0), 20.0, 150.0, 45.0)
    assert (alone.kind, alone.value, alone.at_mm) == ("stand", pytest.approx(200), (7.0, -2.0))


def test_feet_grow_fourfold_at_most_ballast_over_their_middle() -> None:
    foot = [RING + np.array([30.0, 10.0])]
    for need, grown in ((3.9, True), (4.1, False)):
        feet = of_kind("feet", foot, (30.0, 10.0, need), 5.0, 40.0, 45.0)
        assert (feet is not None) is grown
        assert feet is None or feet.value == pytest.approx(need)
    # Ballast draws the centre, 1.2 mm up of 2, down to where the foot's millimetre is enough.
    ballast = of_kind("ballast", foot, (30.1, 10.0, 2.0), 5.0, 5.0, 35.0)
    assert ballast.at_mm == pytest.approx((30.0, 10.0))


@pytest.mark.parametrize("need, within", [(5.5, True), (5.8, False)])
def test_third_contact_lies_no_further_off_than_twice_height(need: float, within: bool) -> None:
    turns = np.radians(np.linspace(0, 360, 3601))
    cut = np.column_stack([np.minimum(10 * np.cos(turns), 2.0), 10 * np.sin(turns)])
    found = of_kind("contact", [cut], (0.0, 0.0, need), 5.0, 3.0, 45.0)
    assert (found is not None) is within
    if found is not None:
        # The corner at (2, √96) falls short up to φ where 2 cos φ + √96 sin φ is the need.
        corner = math.hypot(2, math.sqrt(96))
        short = math.asin(need / corner) - math.atan2(2, math.sqrt(96))
        assert found.value == pytest.approx(need / math.cos(short), rel=0.01)


def two_balls(sink: float) -> Figure:
    seat = Seat(along=1.0, around=0, sink=sink)
    body = Part(id="body", name="Body", shape=ball(40), core="core-batt")
    other = Part(
        id="other", name="Other", shape=ball(20), core="core-batt", parent="body", seat=seat
    )
    return figure_of(body, other, stance="hanging")


def test_loop_goes_where_plumb_line_leaves_figure_for_last_time() -> None:
    plumb = np.array([3.0, 0.0, 20.0])
    above, within = (loop_point(place(two_balls(sink)), plumb, 0.0) for sink in (0.0, 30.0))
    assert above is not None and within is not None
    # Through the small ball on top, whose middle is 50 up; where that lies within, out of the large one.
    assert above[1] == 1 and above[0] == pytest.approx((3, 0, 50 + math.sqrt(91)), abs=0.3)
    assert within[1] == 0 and within[0] == pytest.approx((3, 0, 20 + math.sqrt(391)), abs=0.3)


def stress(kind: str, kpa: float, carries: bool = False, was: float = 0.0) -> JoinStress:
    return JoinStress("head", kind, kpa, ALLOWED_KPA[kind], 100.0, carries, was)  # type: ignore[index, arg-type]


def test_what_each_join_bears_decides_what_it_becomes() -> None:
    assert ALLOWED_KPA == {"fringe": 4, "patch": 10, "scarf": 10, "peg": 40, "wire": 40}
    for join, becomes in (
        (stress("fringe", 4.0), "fringe"), (stress("fringe", 4.1), "patch"),
        (stress("fringe", 4.1, carries=True), "scarf"), (stress("fringe", 10.0, carries=True), "scarf"),
        (stress("fringe", 10.1, carries=True), "peg"), (stress("patch", 10.1), "peg"),
        (stress("wire", 40.0), "wire"), (stress("peg", 9.0), "peg"),
        (stress("wire", 9.0, carries=True, was=12.0), "wire"),
        # A peg in the neck that was needed as made, and no longer is, falls away; one there by choice stays.
        (stress("peg", 10.0, carries=True, was=12.0), "scarf"),
        (stress("peg", 10.1, carries=True, was=12.0), "peg"),
        (stress("peg", 8.0, carries=True, was=10.0), "peg"),
        (stress("peg", 8.0, carries=True, was=6.0), "peg"),
    ):  # fmt: skip
        assert join_for(join) == becomes, join


def armed() -> Figure:
    body = Part(id="body", name="Body", shape=ball(50), core="core-batt")
    arm = Part(
        id="arm", name="Arm", parent="body", pair=True, shape=ball(16), core="core-batt",
        seat=Seat(along=0.5, around=90, sink=4),
    )  # fmt: skip
    return figure_of(body, arm, datum={"part": "body"})


@pytest.mark.parametrize("heavy", ["left", "right"])
def test_of_pair_arm_that_bears_more_is_told(heavy: str) -> None:
    solids = measure_solids(armed())
    seats = {
        c.side: (c.matrix[:3, 3], s.join_mm2)
        for c, s in zip(solids.placement.copies, solids.measured, strict=True)
    }
    seat, area = seats[heavy]  # type: ignore[index]
    other = seats["left" if heavy == "right" else "right"][0]
    hung = (float(seat[0]) * 3, float(seat[1]), float(seat[2]))
    lumps = [
        ("arm", heavy, 10.0, hung), ("arm", "left" if heavy == "right" else "right", 2.0, tuple(other)),
        ("arm", None, 7.0, (float(seat[0]), float(seat[1]), 0.0)),
    ]  # fmt: skip
    (told,) = join_stresses(solids, lumps, {}, {})  # type: ignore[arg-type]
    # Its own ten grams and half of the seven that are on both, jerked; the ten on their lever.
    lever = abs(float(seat[0])) * 2
    d = math.sqrt(4 * area / math.pi)
    by_hand = 3 * 13.5 * 9.81 / area + 10 * 9.81 * lever * 32 / (math.pi * d**3)
    assert told.stress_kpa == pytest.approx(by_hand, rel=1e-3) and told.area_mm2 == area
    (idle,) = join_stresses(solids, [], {}, {})
    assert idle.stress_kpa == 0
