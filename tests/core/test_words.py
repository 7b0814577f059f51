"""What numbers are called at the table."""

from __future__ import annotations

import pytest

from bambola.core.words import growth_phrase, standing_phrase, stiffness_phrase, times_held
from tests.said import said


@pytest.mark.parametrize(
    ("share", "words"),
    [
        (0.5, "50 % of it"), (0.889, "89 % of it"), (1.0, "just"), (1.04, "just"), (1.06, "1.1 times over"),
        (1.97, "2 times over"), (2.54, "2.5 times over"), (7.4, "7 times over"), (19.6, "20 times over"),
        (27.1, "many times over"), (0.899, "90 % of it"), (0.9, "almost, but not quite"),
        (0.994, "almost, but not quite"), (0.995, "just"), (4.4, "4.4 times over"), (5.0, "5 times over"),
        (5.4, "5 times over"), (20.0, "many times over"), (20.4, "many times over"),
    ],
)  # fmt: skip
def test_what_holds_is_told_in_times_its_load(share: float, words: str) -> None:
    assert said(times_held(share)) == words


def test_wire_is_told_beside_one_as_stiff_as_before() -> None:
    told = [said(stiffness_phrase(share)) for share in (0.3, 0.5, 0.89, 0.9, 1.0, 1.49, 1.5)]
    assert told == [
        "softer than before", "a little softer than before", "a little softer than before",
        "as stiff as before", "as stiff as before", "as stiff as before", "stiffer than before",
    ]  # fmt: skip


def test_standing_is_told_in_makers_terms() -> None:
    assert said(standing_phrase(False, -3.0)) == "falls over"
    told = [said(standing_phrase(True, deg)) for deg in (0.5, 7.9, 8.0, 14.9, 15.0, 40.0)]
    assert told == ["falls at a nudge"] * 2 + ["stands when pushed"] * 2 + ["steady"] * 2


@pytest.mark.parametrize(
    ("scale", "words"),
    [
        (0.15, "0.15 times its size"), (0.5, "half its size"), (0.643, "two thirds of its size"),
        (0.97, "a little smaller"), (1.0, "as large as it was made"), (1.04, "a little larger"),
        (1.26, "a quarter as big again"), (1.571, "half as big again"), (2.0, "twice its size"),
        (3.3, "three times its size"), (8.0, "eight times its size"),
        (0.06, "0.06 times its size"), (0.2, "a quarter of its size"), (1 / 3, "a third of its size"),
        (2 / 3, "two thirds of its size"), (3 / 4, "three quarters of its size"), (0.9, "a little smaller"),
        (0.996, "as large as it was made"), (1.006, "a little larger"), (1.25, "a quarter as big again"),
        (4 / 3, "a third as big again"), (1.5, "half as big again"), (1.75, "three quarters as big again"),
        (2, "twice its size"), (2.5, "two and a half times its size"), (3, "three times its size"),
        (4, "four times its size"), (5, "five times its size"), (6, "six times its size"),
        (7, "seven times its size"), (8, "eight times its size"), (12, "12 times its size"),
        (21.4, "21 times its size"), (137.0, "140 times its size"),
    ],
)  # fmt: skip
def test_new_size_is_told_in_fractions_and_times(scale: float, words: str) -> None:
    assert said(growth_phrase(scale)) == words
