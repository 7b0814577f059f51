"""The laws of sizing against numbers worked out by hand."""

from __future__ import annotations

import math

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
    Row,
    Seat,
    SizeRule,
)
from bambola.core.figure.questions import KeptAnswer, ShapedAnswer
from bambola.core.resize import ResizeError, ready_size, resize, way_of_making
from bambola.core.resize.laws import row_count, size_fitting, size_part, size_row, wanted_size
from bambola.core.resize.solve import gap_kept, seat_with_gap
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
def test_ends_of_range_can_be_made_and_hair_beyond_not(mm: float, bench: Bench) -> None:
    # A ball of 40 with one of 3 standing on it, which keeps its size.
    top = Part(id="top", name="Top", shape=ball(3), core="core-batt", parent="body")
    figure = figure_of(one_ball().parts[0], top, datum=Datum(part="top"))
    brief = Brief(height=mm).ruled("top", HOLD)
    found = resize(figure, brief, bench)
    assert found.to_height == mm and place(found.figure).height == pytest.approx(mm, abs=1e-3)
    beyond = mm - 0.1 if mm < 40 else mm + 0.1
    with refused(ResizeError, "from 9 mm to 323 mm"):
        resize(figure, brief.at_height(beyond), bench)


@pytest.mark.parametrize("datum", [{"part": "body"}, {"part": "high"}, {"part": "low"}, {}])
def test_height_is_met_whatever_it_is_measured_to(datum: dict[str, str], bench: Bench) -> None:
    figure = with_side_balls(**datum)
    made = place(figure).height
    for mm in (made * 0.5, made * 2.5):
        found = resize(figure, Brief(height=mm).ruled("held", HOLD), bench)
        assert not found.even and found.to_height == mm
        assert place(found.figure).height == pytest.approx(mm, abs=1e-3)
    even = resize(figure, Brief(height=made * 1.5), bench)
    assert even.even and even.scale == 1.5 and even.to_height == pytest.approx(made * 1.5)


def test_impossible_shape_gives_way_by_answer() -> None:
    # Two rounds of 31 and 17 cannot lie closer than the larger contains the smaller: 31 over all.
    part = Part(id="it", name="It", shape=Cone(length=60, base=31, tip=17), core="core-batt")
    rule = SizeRule(measure="length", rule="ceiling", value=9.3)
    slim = size_part(part, (rule,), 1.0, 0.11, ShapedAnswer.SLIMMER)
    assert slim.to_mm == pytest.approx({"length": 9.3, "base": 9.3, "tip": 5.1}, rel=1e-3)
    assert slim.impossible["length"] == pytest.approx(9.3)
    assert size_part(part, (rule,), 1.0, 0.11).to_mm == pytest.approx(
        {"length": 31, "base": 31, "tip": 17}, rel=1e-3
    )


def test_fitting_grows_with_its_places_and_keeps_what_is_held(bench: Bench) -> None:
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
def test_answered_eye_size_is_used(answer: str, mm: float, bench: Bench) -> None:
    eye = Fitting(
        id="eyes", name="Eyes", kind="eye", part="body", size=6.0, mass=0.1, follows="ready-made",
        seat=Seat(), pieces=(Piece(shape=ball(6.0)),),
    )  # fmt: skip
    brief = Brief(answers={"eye-size:eyes": answer})
    assert size_fitting(eye, 1.0, bench, brief).size == mm


def test_of_two_ready_made_sizes_as_near_smaller_is_taken() -> None:
    assert ready_size(6.0, (9.0, 4.0)) == 4.0  # each 1.5 times away
    assert ready_size(6.1, (9.0, 4.0)) == 9.0


@pytest.mark.parametrize(
    "length, width, made", [(20.0, 9.0, "apart"), (20.0, 7.0, "in place"), (7.0, 20.0, "in place")]
)
def test_sheet_is_held_by_its_outline(length: float, width: float, made: str, bench: Bench) -> None:
    leaf = Leaf(length=length, width=width, thickness=2.0)
    part = Part(id="leaf", name="Leaf", shape=leaf, core="core-batt", parent="body")
    figure = figure_of(one_ball().parts[0], part)
    assert way_of_making(part, leaf, figure, bench) == made


@pytest.mark.parametrize(
    ("count", "s", "kept", "found"),
    [
        (7, 1.5, None, 7),
        (7, 1.5, KeptAnswer.NUMBER, 7),
        (7, 1.5, KeptAnswer.SIZE, 10),
        (7, 1.5, KeptAnswer.SPACING, 10),
        (7, 0.5, KeptAnswer.SIZE, 4),
        (7, 0.05, KeptAnswer.SPACING, 2),
        (7, 9.0, KeptAnswer.SIZE, 55),
        (7, 10.0, KeptAnswer.SIZE, 60),
        (7, 1.5, KeptAnswer.FEWER, 4),
        (8, 1.5, KeptAnswer.FEWER, 4),
        (3, 0.5, KeptAnswer.FEWER, 2),
        (2, 0.5, KeptAnswer.FEWER, 2),
    ],
)
def test_row_has_as_many_as_there_is_room_for(
    count: int, s: float, kept: str | None, found: int
) -> None:
    """From the first to the last of seven are six gaps; half as long again, there is room for nine."""
    assert row_count(count, s, kept) == found
    part = one_ball().parts[0].replaced(row=Row(count=count, along=0.9, around=0.0))
    row, rules = size_row(part, s, kept)
    assert row is not None and row.count == found and row.along == 0.9
    assert [rule.rule for rule in rules] == (["hold"] if kept == KeptAnswer.SIZE else [])
    assert size_row(one_ball().parts[0], s, kept) == (None, ())


@pytest.mark.parametrize("around", [35.0, -35.0])
def test_larger_eye_moves_out_by_half_of_what_it_grew(around: float) -> None:
    head = ball(
        60.0
    )  # its level through the middle is a circle of 30 mm: an arc is 30 times its angle
    seat = Seat(along=0.5, around=around)
    for off, least in ((4.0, 0.0), (-4.0, 0.0), (-30.0, 6.0), (0.0, 0.0)):
        moved = seat_with_gap(seat, off, head, least)
        arc = max(30 * math.radians(35.0) + off / 2, least)
        assert abs(moved.around) == pytest.approx(math.degrees(arc / 30), abs=0.05)
        assert moved.around * around > 0 and moved.along == 0.5
    sheet = Leaf(length=30, width=24, thickness=5)
    assert seat_with_gap(seat, 4.0, sheet) == seat  # it has no level to go along


def test_only_pair_of_eyes_of_another_size_is_moved() -> None:
    eye = Fitting(
        id="eye", name="Eye", kind="eye", part="body", seat=Seat(along=0.5, around=30), size=8.0,
        follows="ready-made", pair=True, pieces=(Piece(shape=ball(8), colour="#000000"),),
    )  # fmt: skip
    head = ball(60.0)
    assert (
        gap_kept(eye, 8.0, head) == eye
        and gap_kept(eye.replaced(pair=False), 6.0, head).seat == eye.seat
    )
    assert gap_kept(eye.replaced(kind="bead"), 6.0, head).seat == eye.seat
    wider, nearer = (gap_kept(eye, wanted, head).seat.around for wanted in (6.0, 10.0))
    assert wider - 30 == pytest.approx(30 - nearer, abs=0.1)
    assert wider - 30 == pytest.approx(math.degrees(1.0 / 30), abs=0.1)
    # However small they were wished, they do not overlap.
    assert gap_kept(eye, 40.0, head).seat.around == pytest.approx(math.degrees(4.0 / 30), abs=0.1)


def test_oval_eye_of_wool_moves_by_what_it_is_wide(bench: Bench) -> None:
    body = Part(id="body", name="Body", shape=ball(80), core="core-batt")
    eye = Part(
        id="eye", name="Eye", parent="body", face=True, eye=True, pair=True, core="core-batt",
        shape=ball(12.0).replaced(height=6.0, width=12.0, depth=9.0), seat=Seat(along=0.5, around=30),
    )  # fmt: skip
    figure = figure_of(body, eye, datum=Datum(part="body"))
    for corrected, times in ((False, 1.0), (True, 1.1)):
        new = resize(figure, Brief(height=40.0, corrected=corrected), bench).figure.by_id["eye"]
        assert new.shape.measures() == pytest.approx(
            {"width": 6 * times, "depth": 4.5 * times, "height": 3 * times}
        )
        # Half a tenth of its width, along a level of 20 mm round the middle.
        turned = math.degrees((new.shape.extents()[1] / times) * (times - 1) / 2 / 20)
        assert new.seat.around == pytest.approx(30 + turned, abs=0.05)
