"""What a hand bends: to five degrees, small bends in a run as one curve."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from bambola.core.armature.cuts import Bend, by_hand
from tests.said import said


def test_small_bends_merge_and_sharp_ones_stay() -> None:
    bends = [Bend(20.0, 12.0), Bend(35.0, 14.0), Bend(50.0, 11.0), Bend(80.0, 74.7, -88.0)]
    assert [said(bend.as_fact) for bend in by_hand(bends)] == [
        "curve 35° in all from 20 mm to 50 mm",
        "turn the wire 90° anticlockwise and bend 75° at 80 mm",
    ]


def test_bends_far_apart_or_to_different_sides_are_no_curve() -> None:
    apart = by_hand([Bend(10.0, 20.0), Bend(41.0, 20.0)])
    aside = by_hand([Bend(10.0, 20.0), Bend(20.0, 20.0, 180.0)])
    assert [bend.start_mm for bend in apart] == [10.0, 41.0]
    assert [bend.start_mm for bend in aside] == [10.0, 20.0]


@given(st.lists(st.tuples(st.floats(1.0, 60.0), st.floats(0.0, 180.0)), max_size=12))
def test_no_angle_is_lost_but_what_hand_cannot_set(steps: list[tuple[float, float]]) -> None:
    at, bends = 0.0, []
    for gap, angle in steps:
        at += gap
        bends.append(Bend(at, angle))
    told = by_hand(bends)
    assert all(bend.angle_deg % 5 == 0 and bend.angle_deg > 0 for bend in told)
    # Each bend or curve is rounded once; what is left out is less than half of five degrees.
    missing = abs(sum(b.angle_deg for b in told) - sum(angle for _, angle in steps))
    assert missing <= 2.5 * len(bends) + 1e-9
