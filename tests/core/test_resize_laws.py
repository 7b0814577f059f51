"""The laws of sizing against numbers worked out by hand."""

from __future__ import annotations

import pytest

from bambola.core.bench import Bench
from bambola.core.figure import (
    Brief,
    Cone,
    Datum,
    Figure,
    Fitting,
    Leaf,
    Part,
    Piece,
    Seat,
    SizeRule,
)
from bambola.core.figure.questions import Shaped
from bambola.core.resize import ResizeError, ready_size, resize, way_of_making
from bambola.core.resize.laws import size_fitting, size_part, wanted_size
from bambola.core.solids import place
from tests.figures import ball, figure_of, one_ball
from tests.said import refused

HOLD = (SizeRule(rule="hold"),)


def with_side_balls(**datum: object) -> Figure:
    """A ball of 40 with one of 10 high on its right, one of 16 lower on its left, and one held."""
    body = Part(id="body", name="Body", shape=ball(40), core="core-batt")
    high = Part(
        id="high", name="High", shape=ball(10), core="core-batt", parent="body",
        seat=Seat(along=0.9, around=270),
    )  # fmt: skip
    low = Part(
        id="low", name="Low", shape=ball(16), core="core-batt", parent="body",
        seat=Seat(along=0.3, around=90),
    )  # fmt: skip
    held = Part(
        id="held", name="Held", shape=ball(4), core="core-batt", parent="body", seat=Seat(along=0.5)
    )
    return figure_of(body, high, low, held, datum=Datum.model_validate(datum))


@pytest.mark.parametrize("mm", [3 + 40 * 0.15, 3 + 40 * 8.0])
def test_the_ends_of_the_range_can_be_made_and_a_hair_beyond_not(mm: float, bench: Bench) -> None:
    # A ball of 40 with one of 3 standing on it, which keeps its size.
    top = Part(id="top", name="Top", shape=ball(3), core="core-batt", parent="body")
    figure = figure_of(one_ball().parts[0], top, datum=Datum(part="top"))
    brief = Brief(height=mm).ruled("top", HOLD)
    found = resize(figure, brief, bench)
    assert found.to_height == mm and place(found.figure).height == pytest.approx(mm, abs=1e-3)
    beyond = mm - 0.1 if mm < 40 else mm + 0.1
    with refused(ResizeError, "from 9 mm to 323 mm"):
        resize(figure, brief.at(beyond), bench)


@pytest.mark.parametrize("datum", [{"part": "body"}, {"part": "high"}, {"part": "low"}, {}])
def test_the_height_is_met_whatever_it_is_measured_to(datum: dict[str, str], bench: Bench) -> None:
    figure = with_side_balls(**datum)
    made = place(figure).height
    for mm in (made * 0.5, made * 2.5):
        found = resize(figure, Brief(height=mm).ruled("held", HOLD), bench)
        assert not found.even and found.to_height == mm
        assert place(found.figure).height == pytest.approx(mm, abs=1e-3)
    even = resize(figure, Brief(height=made * 1.5), bench)
    assert even.even and even.scale == 1.5 and even.to_height == pytest.approx(made * 1.5)


def test_what_cannot_be_so_short_and_so_thick_gives_way_by_the_makers_word() -> None:
    # Two rounds of 31 and 17 cannot lie closer than the larger contains the smaller: 31 over all.
    part = Part(id="it", name="It", shape=Cone(length=60, base=31, tip=17), core="core-batt")
    rule = SizeRule(measure="length", rule="ceiling", value=9.3)
    slim = size_part(part, (rule,), 1.0, 0.11, Shaped.SLIMMER)
    assert slim.to_mm == pytest.approx({"length": 9.3, "base": 9.3, "tip": 5.1}, rel=1e-3)
    assert slim.impossible["length"] == pytest.approx(9.3)
    assert size_part(part, (rule,), 1.0, 0.11).to_mm == pytest.approx(
        {"length": 31, "base": 31, "tip": 17}, rel=1e-3
    )


def test_a_fitting_grows_with_its_places_and_keeps_what_is_held(bench: Bench) -> None:
    lamp = Fitting(
        id="lamp", name="Lamp", kind="prop", part="body", size=10.0, mass=2.0, follows="hold",
        seat=Seat(sink=3.0), pieces=(Piece(shape=ball(7.0), at=4.0, colour="#808080"),),
    )  # fmt: skip
    assert wanted_size(lamp, 1.7) == 10.0 and size_fitting(lamp, 1.7, bench, Brief()) == lamp
    free = lamp.replaced(follows="scale")
    grown = size_fitting(free, 1.7, bench, Brief())
    assert grown.size == pytest.approx(17.0) and grown.mass == pytest.approx(2.0 * 4.913)
    assert grown.seat.sink == pytest.approx(5.1) and grown.pieces[0].at == pytest.approx(6.8)
    assert grown.pieces[0].shape.measures()["width"] == pytest.approx(11.9)


@pytest.mark.parametrize(
    "answer, mm",
    [("0.5", 0.5), ("7.25", 7.25), ("0", 6.0), ("-2", 6.0), ("inf", 6.0), ("nan", 6.0)],
)
def test_an_eye_is_of_the_size_that_was_said_if_it_is_one(
    answer: str, mm: float, bench: Bench
) -> None:
    eye = Fitting(
        id="eyes", name="Eyes", kind="eye", part="body", size=6.0, mass=0.1, follows="ready-made",
        seat=Seat(), pieces=(Piece(shape=ball(6.0)),),
    )  # fmt: skip
    brief = Brief(answers={"eye-size:eyes": answer})
    assert size_fitting(eye, 1.0, bench, brief).size == mm


def test_of_two_ready_made_sizes_as_near_the_smaller_is_taken() -> None:
    assert ready_size(6.0, (9.0, 4.0)) == 4.0  # each 1.5 times away
    assert ready_size(6.1, (9.0, 4.0)) == 9.0


@pytest.mark.parametrize(
    "length, width, made", [(20.0, 9.0, "apart"), (20.0, 7.0, "in place"), (7.0, 20.0, "in place")]
)
def test_a_sheet_is_held_by_its_outline(
    length: float, width: float, made: str, bench: Bench
) -> None:
    leaf = Leaf(length=length, width=width, thickness=2.0)
    part = Part(id="leaf", name="Leaf", shape=leaf, core="core-batt", parent="body")
    figure = figure_of(one_ball().parts[0], part)
    assert way_of_making(part, leaf, figure, bench) == made
