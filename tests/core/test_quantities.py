from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.quantities import (
    QuantityError,
    Units,
    parse_length,
    parse_mass,
    show_length,
    show_mass,
)
from bambola.core.words import error_words


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ("22cm", 220.0),
        ("22 cm", 220.0),
        ("8 1/2 in", 215.9),
        ('8½"', 215.9),
        ("8 ½ inches", 215.9),
        ("12,5 mm", 12.5),
        ("0.5m", 500.0),
        ("1 ft 3 in", 381.0),
        ("1' 3\"", 381.0),
        ("3/4 in", 19.05),
        ("220", 220.0),
        (" .5 cm ", 5.0),
    ],
)
def test_lengths_as_makers_write_them(text: str, mm: float) -> None:
    assert parse_length(text) == pytest.approx(mm)


def test_a_bare_number_takes_the_makers_unit() -> None:
    assert parse_length("8½", "in") == pytest.approx(215.9)
    assert parse_length("22", "cm") == pytest.approx(220)
    assert parse_mass("0.35 oz") == pytest.approx(9.9223, abs=1e-3)
    assert parse_mass("2", "oz") == pytest.approx(56.699, abs=1e-3)


@pytest.mark.parametrize(
    ("text", "understood"),
    [
        ("", "no number"),
        ("tall", "cannot read"),
        ("22 lightyears", "understood the number 22"),
        ("22 cm and more", "understood 22 cm, but not"),
        ("1/0 in", "divides by nothing"),
        ("22 g", "“g”"),
    ],
)
def test_a_wrong_text_says_what_was_understood_and_expected(text: str, understood: str) -> None:
    with pytest.raises(QuantityError) as error:
        parse_length(text)
    assert understood in error_words(error.value)
    assert "220 mm" in error_words(error.value) or "use mm, cm" in error_words(error.value)


@given(st.floats(1.0, 5000.0), st.sampled_from(["mm", "cm", "in"]), st.sampled_from([8, 16, 64]))
def test_what_is_shown_reads_back_within_its_last_figure(
    mm: float, unit: str, fraction: int
) -> None:
    units = Units(unit, inch_fraction=fraction)  # type: ignore[arg-type]
    step = {"mm": 1.0, "cm": 1.0, "in": 25.4 / fraction}[unit]
    assert parse_length(show_length(mm, units)) == pytest.approx(mm, abs=step / 2 + 1e-6)


def test_weights_are_shown_to_three_figures() -> None:
    assert [show_mass(g) for g in (112.4, 20.66, 1.643, 0.004)] == [
        "112 g",
        "20.7 g",
        "1.64 g",
        "a wisp",
    ]
    assert show_length(215.9, Units("in")) == "8½ in"
