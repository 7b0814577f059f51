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
    assert told == ["falls over at a nudge"] * 2 + ["steady"] * 2 + ["very steady"] * 2


@pytest.mark.parametrize(
    ("scale", "words"),
    [
        (0.15, "0.15 times as tall"), (0.5, "half as tall"), (0.643, "two thirds as tall"),
        (0.97, "a little smaller"), (1.0, "as large as it was made"), (1.04, "a little larger"),
        (1.26, "1.25 times as tall"), (1.571, "1.5 times as tall"), (2.0, "twice as tall"),
        (3.3, "three times as tall"), (8.0, "eight times as tall"),
        (0.06, "0.06 times as tall"), (0.2, "a quarter as tall"), (1 / 3, "a third as tall"),
        (2 / 3, "two thirds as tall"), (3 / 4, "three quarters as tall"), (0.9, "a little smaller"),
        (0.996, "as large as it was made"), (1.006, "a little larger"), (1.25, "1.25 times as tall"),
        (4 / 3, "1.33 times as tall"), (1.5, "1.5 times as tall"), (1.75, "1.75 times as tall"),
        (2, "twice as tall"), (2.5, "2.5 times as tall"), (3, "three times as tall"),
        (4, "four times as tall"), (5, "five times as tall"), (6, "six times as tall"),
        (7, "seven times as tall"), (8, "eight times as tall"), (12, "12 times as tall"),
        (21.4, "21 times as tall"), (137.0, "140 times as tall"),
    ],
)  # fmt: skip
def test_new_size_is_told_in_fractions_and_times(scale: float, words: str) -> None:
    assert said(growth_phrase(scale)) == words
