"""Parts copied at another size, pictures laid down in mm, and what is refused on the way: by hand."""

from __future__ import annotations

import json
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.facts import RefusedError
from bambola.core.figure import Ball, DocumentError, Sausage, load_document
from bambola.core.figure.additions import core_of, with_core, with_eyes, with_row
from bambola.core.figure.graft import check_figure, graft_part
from bambola.core.figure.survey import Framing
from bambola.core.figure.variants import Alteration, Shift, altered
from bambola.demo import BADGER, HERON, load_demo
from tests.figures import head_with_a_face, one_ball
from tests.said import refused


def test_part_copied_at_half_size_scales_everything_on_it() -> None:
    source, heron = load_demo(BADGER).figure, load_demo(HERON).figure
    for s in (0.5, 1.0):
        new, head = graft_part(heron, source, "head", "body", s)
        eye = next(f for f in source.fittings if f.kind == "eye")
        (copy,) = (f for f in new.fittings if f.kind == "eye" and f.part == head)
        assert (copy.size, copy.seat.sink) == pytest.approx((eye.size * s, eye.seat.sink * s))
        assert copy.mass == pytest.approx(eye.mass * s**3)
        assert [p.shape.extents() for p in copy.pieces] == [
            pytest.approx([mm * s for mm in p.shape.extents()]) for p in eye.pieces
        ]
        assert new.by_id[head].seat.sink == pytest.approx(source.by_id["head"].seat.sink * s)
        assert {m.name for m in new.marks if m.part == head} == {
            m.name for m in source.marks if m.part == "head"
        }
    # Wire stays behind, so that what was joined by it is joined by its fringe, and all else as before.
    for join, then in (("wire", "fringe"), ("fringe", "fringe"), ("sewn", "sewn")):
        was = source.by_id["head"].replaced(join=join)
        parts = tuple(was if p.id == "head" else p for p in source.parts)
        new, head = graft_part(heron, source.replaced(parts=parts), "head", "body")
        assert new.by_id[head].join == then


def test_copies_of_copies_keep_their_marks_apart() -> None:
    figure = head_with_a_face()
    twice, _ = graft_part(figure, figure, "head", "body")  # brings mouth-2
    more, _ = graft_part(twice, twice, "body", "body")
    assert len({m.id for m in more.marks}) == len(more.marks) == 4


FRAMING = Framing(
    view="side", picture="p.png", width=400, height=300, ground=250.0, midline=180.0, mm_px=0.5
)


@pytest.mark.parametrize(("flipped", "sense"), [(False, 1.0), (True, -1.0)])
def test_picture_lies_in_mm_from_its_ground_and_midline(flipped: bool, sense: float) -> None:
    framing = FRAMING.replaced(flipped=flipped)
    assert framing.to_mm(200.0, 150.0) == pytest.approx((10.0 * sense, 50.0))
    assert framing.to_mm(160.0, 251.0) == pytest.approx((-10.0 * sense, -0.5))
    assert framing.to_px(10.0 * sense, 50.0) == pytest.approx((200.0, 150.0))
    assert FRAMING.replaced(mm_px=None).to_mm(200.0, 150.0) == (20.0, 100.0)  # till it is known


@given(st.floats(-180, 180), st.floats(0, 400), st.floats(0, 300))
def test_straightened_picture_is_found_again_in_its_file(turn: float, x: float, y: float) -> None:
    framing = FRAMING.replaced(turn=turn)
    assert framing.original(*framing.straightened(x, y)) == pytest.approx((x, y), abs=1e-9)
    # Counter-clockwise, about its middle.
    far, up = x - 200, 150 - y
    there = framing.straightened(x, y)
    at = math.atan2(up, far) + math.radians(turn)
    size = math.hypot(far, up)
    assert (there[0] - 200, 150 - there[1]) == pytest.approx(
        (size * math.cos(at), size * math.sin(at)), abs=1e-6
    )


def test_crop_of_turned_picture_holds_all_its_corners() -> None:
    assert FRAMING.crop_in_file is None
    whole = FRAMING.replaced(crop=(150.0, 100.0, 250.0, 200.0))
    assert whole.crop_in_file == pytest.approx((150, 100, 250, 200))
    reach = 50 * math.sqrt(2)  # a square on its corner
    on_end = whole.replaced(turn=45.0).crop_in_file
    assert on_end == pytest.approx((200 - reach, 150 - reach, 200 + reach, 150 + reach))


def test_small_eye_and_core_keep_weight_and_place() -> None:
    eye = with_eyes(one_ball(60.0), "body", 0.6, 30.0, 1.3, "Eyes").fittings[0]
    assert eye.mass == 0.0026 and eye.seat.tilt.nod == 90.0 and eye.seat.around == 30.0
    core = core_of(with_core(one_ball(60.0), "body", 5.0, "Cork"), "body")
    assert core is not None and core.mass == 0.0327
    assert (core.seat.along, core.seat.out, core.seat.sink) == (0.5, 0.0, 2.5)


def test_what_bears_something_is_refused_row_in_so_many_words() -> None:
    with refused(RefusedError, "^The snout sits on the head"):
        with_row(load_demo(BADGER).figure, "head", 2, 0.5, 0.0)


@pytest.mark.parametrize(("length", "is_one"), [(30.0, True), (29.9, False), (20.0, False)])
def test_sausage_is_no_shorter_than_it_is_thick(length: float, is_one: bool) -> None:
    if is_one:
        assert Sausage(length=length, diameter=30.0).measures()["length"] == length
    else:
        with pytest.raises(ValueError):
            Sausage(length=length, diameter=30.0)


@pytest.mark.parametrize(("long", "told"), [(60, "x{60}"), (61, "x{57}…")])
def test_long_name_is_shortened_in_errors(long: int, told: str) -> None:
    raw = json.loads(BADGER.read_text(encoding="utf-8"))
    raw["figure"]["parts"][1]["id"] = "x" * long
    raw["figure"]["parts"][1]["shape"] = "flat"
    with refused(DocumentError, rf"› {told} ›"):
        load_document(json.dumps(raw), "long.json")


def test_mark_of_variant_goes_by_what_it_is_shifted() -> None:
    figure = head_with_a_face()
    change = Alteration(shifts={"mouth": Shift(along=0.05, around=7.0)})
    (was,), (now,) = figure.marks, altered(figure, change).marks
    assert (now.along, now.around) == pytest.approx((was.along + 0.05, was.around + 7.0))


def test_figure_of_more_parts_than_can_be_handled_is_refused() -> None:
    small = head_with_a_face().by_id["head"].replaced(shape=Ball(width=9, depth=9, height=9))
    for more in (399, 400, 440):
        parts = tuple(small.replaced(id=f"p{n}") for n in range(more))
        figure = one_ball().model_copy(update={"parts": (*one_ball().parts, *parts)})
        if more == 399:
            assert check_figure(figure) is figure
        else:
            with refused(RefusedError, "400"):
                check_figure(figure)
