from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.facts import Grams, Mm, fact
from bambola.core.quantities import (
    QuantityError,
    Units,
    parse_length,
    parse_mass,
    parse_sides,
    show_area,
    show_bought,
    show_exact,
    show_hand,
    show_length,
    show_mass,
    show_sizes,
    show_volume,
)
from bambola.core.words import Words, error_words
from tests.pseudo import Pseudo, pseudo


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


def test_bare_number_takes_makers_unit() -> None:
    assert parse_length("8½", "in") == pytest.approx(215.9)
    assert parse_length("22", "cm") == pytest.approx(220)
    assert parse_mass("0.35 oz") == pytest.approx(9.9223, abs=1e-3)
    assert parse_mass("2", "oz") == pytest.approx(56.699, abs=1e-3)


@pytest.mark.parametrize(
    ("text", "understood"),
    [
        ("", "number is missing"),
        ("tall", "cannot read"),
        ("22 lightyears", "understood the number 22"),
        ("22 cm and more", "understood 22 cm, but not"),
        ("1/0 in", "divides by nothing"),
        ("22 g", "“g”"),
    ],
)
def test_wrong_text_says_what_was_understood_and_expected(text: str, understood: str) -> None:
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
        "<0.01 g",
    ]
    assert show_length(215.9, Units("in")) == "8½ in"


INCHES, COUNTRY = Units("in", "oz"), Units("mm", "g", decimal=",")


@pytest.mark.parametrize(
    ("grams", "metric", "imperial"),
    [
        (0.0, "0 g", "0 oz"), (0.004, "a wisp", "a wisp"), (0.0049, "a wisp", "a wisp"),
        (0.006, "0.01 g", "0.01 g"), (2.8, "2.8 g", "2.8 g"), (2.9, "2.9 g", "0.1 oz"),
        (28.35, "28.4 g", "1 oz"), (283.5, "284 g", "10 oz"),
    ],
)  # fmt: skip
def test_what_no_scale_shows_is_wisp_in_every_language(
    grams: float, metric: str, imperial: str
) -> None:
    """A word of the language stands with the units; the core itself has none."""
    for units, told in ((Units(), metric), (INCHES, imperial)):
        assert f"(about {told})" in Words(units).say(
            fact("do.cut-tip", mm=Mm(5), grams=Grams(grams))
        )
    assert show_mass(0.004) == "<0.01 g" and show_mass(0.004, COUNTRY).startswith("<")
    said = Words(catalogue=Pseudo()).say(fact("do.cut-tip", mm=Mm(5), grams=Grams(0.004)))
    assert pseudo("a wisp") in said


@pytest.mark.parametrize(
    ("cm2", "metric", "imperial"),
    [
        (0.0, "0 cm²", "0 sq in"), (0.02, "0.02 cm²", "0.0031 sq in"), (0.3, "0.3 cm²", "0.047 sq in"),
        (0.64, "0.64 cm²", "0.099 sq in"), (6.4516, "6.5 cm²", "1 sq in"), (129.0, "129 cm²", "20 sq in"),
    ],
)  # fmt: skip
def test_small_areas_are_not_nought(cm2: float, metric: str, imperial: str) -> None:
    assert (show_area(cm2), show_area(cm2, INCHES)) == (metric, imperial)
    assert show_area(cm2, COUNTRY) == metric.replace(".", ",")


@pytest.mark.parametrize(
    ("cm3", "metric", "imperial"),
    [
        (0.004, "0.004 cm³", "0.00024 cu in"), (0.05, "0.05 cm³", "0.0031 cu in"),
        (0.756, "0.76 cm³", "0.046 cu in"), (16.387064, "16.39 cm³", "1 cu in"),
    ],
)  # fmt: skip
def test_small_volumes_are_not_nought(cm3: float, metric: str, imperial: str) -> None:
    assert (show_volume(cm3), show_volume(cm3, INCHES)) == (metric, imperial)


@pytest.mark.parametrize(
    ("mm", "hand", "exact", "bought", "inches"),
    [
        (1.24, "1.2 mm", "1.2 mm", "1.24 mm", "1/16 in"), (7.34, "7.5 mm", "7.3 mm", "7.34 mm", "5/16 in"),
        (19.6, "19.5 mm", "19.6 mm", "19.6 mm", "¾ in"), (23.46, "23 mm", "23.5 mm", "23.46 mm", "15/16 in"),
        (46.4, "46 mm", "46 mm", "46.4 mm", "1 13/16 in"), (2400.0, "2.4 m", "2400 mm", "2400 mm", "7.9 ft"),
        (0.0, "0 mm", "0 mm", "0 mm", "0 in"),
    ],
)  # fmt: skip
def test_length_is_told_as_it_is_used(
    mm: float, hand: str, exact: str, bought: str, inches: str
) -> None:
    """As a hand can work to it, as it is compared, as it is sold."""
    assert (show_hand(mm), show_exact(mm), show_bought(mm)) == (hand, exact, bought)
    assert (
        show_hand(mm, INCHES).replace("\u00a0", " ") == inches
    )  # the fraction keeps to its number
    assert show_bought(mm, INCHES).startswith(bought)
    assert show_hand(mm, COUNTRY) == hand.replace(".", ",")


def test_several_sides_have_their_unit_once_unless_they_have_two() -> None:
    assert show_sizes((120.0, 100.0)) == "120 × 100 mm"
    assert show_sizes((7.34, 100.0)) == "7.5 × 100 mm"
    assert show_sizes((2400.0, 100.0)) == "2.4 m × 100 mm"
    assert show_sizes((25.4, 12.7), INCHES) == "1 × ½ in"
    assert parse_sides("120 × 100 mm") == (120.0, 100.0)
    assert parse_sides("1 x 1/2 in", "in") == pytest.approx((25.4, 12.7))
