"""Colours and their differences against published numbers."""

from __future__ import annotations

import itertools

import pytest

from bambola.core.wool.colour import Lab, difference, lab_of

PUBLISHED: list[tuple[Lab, Lab, float]] = [
    ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425),
    ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
    ((50, 2.8361, -74.0200), (50, 0, -82.7485), 3.4412),
    ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0000),
    ((50, -1.1848, -84.8006), (50, 0, -82.7485), 1.0000),
    ((50, -0.9009, -85.5211), (50, 0, -82.7485), 1.0000),
    ((50, 0, 0), (50, -1, 2), 2.3669),
    ((50, 2.5, 0), (50, 0, -2.5), 4.3065),
    ((50, 2.5, 0), (73, 25, -18), 27.1492),
    ((50, 2.5, 0), (61, -5, 29), 22.8977),
    ((50, 2.5, 0), (56, -27, -3), 31.9030),
    ((50, 2.5, 0), (58, 24, 15), 19.4535),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
    ((22.7233, 20.0904, -46.6940), (23.0331, 14.9730, -42.5619), 2.0373),
    ((90.8027, -2.0831, 1.4410), (91.1528, -1.6435, 0.0447), 1.4441),
]
"""Of the supplementary test data of Sharma, Wu and Dalal (2005)."""


@pytest.mark.parametrize(("one", "other", "told"), PUBLISHED)
def test_differences_are_those_published_and_same_both_ways(
    one: Lab, other: Lab, told: float
) -> None:
    assert difference(one, other) == pytest.approx(told, abs=1e-4)
    assert difference(other, one) == pytest.approx(told, abs=1e-4)


@pytest.mark.parametrize(
    ("colour", "lab"),
    [
        ("#FFFFFF", (100.0, 0.0, 0.0)),
        ("#000000", (0.0, 0.0, 0.0)),
        ("#FF0000", (53.24, 80.09, 67.20)),
        ("#0000FF", (32.30, 79.19, -107.86)),
        ("#808080", (53.59, 0.0, 0.0)),
        # Where it is so dark that the cube root is a line: L* is 903.3 Y, and Y 0.000129 of so little red.
        ("#020000", (0.117, 0.523, 0.184)),
    ],
)
def test_screen_colours_have_their_known_places(colour: str, lab: Lab) -> None:
    assert lab_of(colour) == pytest.approx(lab, abs=0.03 if lab[0] > 1 else 0.002)


def test_like_colours_are_like_and_colour_is_itself() -> None:
    steps = [lab_of(f"#{v:02X}{v:02X}{v:02X}") for v in range(0, 256, 17)]
    assert all(difference(lab, lab) == 0 for lab in steps)
    near = [difference(a, b) for a, b in itertools.pairwise(steps)]
    assert min(near) > 1 and difference(steps[0], steps[-1]) == pytest.approx(100, abs=0.1)
