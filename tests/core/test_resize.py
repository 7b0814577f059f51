from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench
from bambola.core.figure import (
    Ball,
    Brief,
    Datum,
    Document,
    Figure,
    Fitting,
    Leaf,
    Part,
    Piece,
    Seat,
    SizeRule,
)
from bambola.core.plan import make_plan
from bambola.core.resize import (
    ResizeError,
    core_rounds,
    reachable,
    ready_size,
    resize,
    way_of_making,
)
from bambola.core.resize.laws import size_fringe
from bambola.core.solids import place
from bambola.shipped import default_bench
from tests.effort import examples
from tests.figures import ball, figure_of, figures, shapes
from tests.said import refused, said


def stack(*diameters: float) -> Figure:
    """Balls standing on each other, touching at a point: heights add up."""
    parts = [
        Part(
            id=f"b{i}",
            name=f"Ball {i}",
            shape=ball(d),
            core="core-batt",
            parent=f"b{i - 1}" if i else None,
        )
        for i, d in enumerate(diameters)
    ]
    return figure_of(*parts, datum=Datum(part=f"b{len(diameters) - 1}"))


@given(shapes(), st.floats(0.2, 6.0))
def test_scaling_there_and_back_returns_shape(shape: Ball, s: float) -> None:
    back = shape.scaled(s).scaled(1 / s)
    assert back.measures() == pytest.approx(shape.measures(), rel=1e-12)


@examples(20)
@given(figures(), st.floats(0.4, 3.0))
def test_resizing_there_and_back_returns_figure(figure: Figure, s: float) -> None:
    bench = default_bench()
    height = place(figure).height
    there = resize(figure, Brief(height=height * s), bench)
    back = resize(there.figure, Brief(height=height), bench)
    assert there.to_height == pytest.approx(place(there.figure).height, abs=1e-3)
    if there.even and back.even:
        for part in figure.parts:
            assert back.parts[part.id].to_mm == pytest.approx(part.shape.measures(), rel=1e-9)


@pytest.mark.parametrize(("target", "s"), [(140.0, 1.5), (260.0, 3.0), (35.0, 0.1875)])
def test_held_part_leaves_rest_to_make_up_height(bench: Bench, target: float, s: float) -> None:
    figure = stack(50.0, 20.0, 30.0)
    brief = Brief(height=target).ruled("b1", (SizeRule(rule="hold"),))
    resized = resize(figure, brief, bench)
    expected = (target - 20.0) / 80.0
    assert resized.scale == pytest.approx(expected) and expected == pytest.approx(s)
    assert resized.parts["b1"].to_mm == {"width": 20.0, "depth": 20.0, "height": 20.0}
    assert place(resized.figure).height == pytest.approx(target, abs=1e-3)


def test_floors_ceilings_and_factors_bend_single_measures(bench: Bench) -> None:
    rules = (
        SizeRule(measure="width", rule="floor", value=90.0),
        SizeRule(measure="depth", rule="ceiling", value=55.0),
        SizeRule(measure="height", rule="multiply", value=1.2),
    )
    figure = stack(50.0, 20.0)
    resized = resize(figure, Brief(height=140.0).ruled("b0", rules), bench)
    s = 140.0 / (50.0 * 1.2 + 20.0)
    assert resized.parts["b0"].to_mm == pytest.approx(
        {"width": 90.0, "depth": 55.0, "height": 60.0 * s}
    )
    assert place(resized.figure).height == pytest.approx(140.0, abs=1e-3)


def test_height_out_of_reach_is_refused_with_range(bench: Bench) -> None:
    figure = stack(50.0, 20.0)
    brief = Brief(height=25.0).ruled("b1", (SizeRule(rule="hold"),))
    low, high = reachable(figure, brief, bench)
    assert (low, high) == pytest.approx((27.5, 420.0))
    with refused(ResizeError, "25 mm high with ball 1 held or bounded: .* from 27.5 mm to 420 mm"):
        resize(figure, brief, bench)
    with refused(ResizeError, "560"):
        resize(figure, Brief(height=1000.0), bench)


def test_flat_part_stays_thick_enough_to_stop_light(bench: Bench) -> None:
    ear = Part(
        id="ear",
        name="Ear",
        parent="b1",
        shape=Leaf(length=20, width=16, thickness=3),
        core="cream",
    )
    figure = stack(50.0, 20.0)
    figure = Figure.model_validate({**figure.model_dump(), "parts": (*figure.parts, ear)})
    half = resize(figure, Brief(height=35.0), bench).parts["ear"].to_mm
    assert half == pytest.approx({"length": 10, "width": 8, "thickness": 2.0})
    firm = figure.replaced(parts=(*figure.parts[:2], ear.replaced(firmness="firm")))
    # Firmer felt stops light sooner: 2.0 mm at 0.11 g/cm³ is as much wool as 1.47 mm at 0.15.
    assert resize(firm, Brief(height=28.0), bench).parts["ear"].to_mm["thickness"] == pytest.approx(
        22 / 15
    )


def test_badger_meets_280_with_its_head_held(bench: Bench, badger: Document) -> None:
    resized = resize(
        badger.figure, Brief(height=280.0).ruled("head", (SizeRule(rule="hold"),)), bench
    )
    head = badger.figure.by_id["head"].shape.measures()
    assert resized.parts["head"].to_mm == head
    assert place(resized.figure).height == pytest.approx(280.0, abs=0.1)
    assert resized.scale > 2.2


@pytest.mark.parametrize("answer", [None, "with-it", "with-the-figure"])
def test_parts_on_held_head_follow_answer(
    answer: str | None, bench: Bench, badger: Document
) -> None:
    """At 220 mm with its head held, the badger's eyes were to be 9 mm and its snout 49 mm on a head of 53."""
    brief = badger.brief.at_height(220.0).ruled("head", (SizeRule(rule="hold"),))
    plan = make_plan(badger.figure, brief.answered("sits-on:head", answer), bench)
    as_made = badger.figure.by_id["snout"].shape.measures()
    s = plan.scale if answer == "with-the-figure" else 1.0
    assert plan.part("snout").to_mm == pytest.approx({k: s * mm for k, mm in as_made.items()})
    eye = next(f for f in plan.fittings if f.id == "eye")
    assert eye.wanted_mm == pytest.approx(s * 5.0) and abs(eye.deviation_pct) < 12
    notice = next(n for n in plan.notices if n.code == "sits-on:head")
    assert (notice.level, notice.answer, len(notice.options)) == ("note", answer, 2)
    assert "Eyes, Snout and Ear" in said(notice.text)
    assert plan.part("arm").to_mm["length"] > 1.7 * plan.part("arm").from_mm["length"]


def test_eyes_come_in_whole_sizes_and_maker_may_choose(bench: Bench) -> None:
    assert ready_size(7.4, bench.eye_sizes) == 7 and ready_size(10.9, bench.eye_sizes) == 10
    eye = Fitting(
        id="eye",
        name="Eyes",
        kind="eye",
        part="b1",
        seat=Seat(),
        size=5,
        mass=0.1,
        follows="ready-made",
        pieces=(Piece(shape=ball(5)),),
    )
    figure = stack(50.0, 20.0).replaced(fittings=(eye,))
    at = Brief(height=145.0)
    (used,) = resize(figure, at, bench).figure.fittings
    assert (used.size, used.mass) == (10, pytest.approx(0.8))
    (chosen,) = resize(figure, at.answered("eye-size:eye", "12"), bench).figure.fittings
    assert chosen.size == 12 and chosen.pieces[0].shape.measures()["width"] == pytest.approx(12)


@pytest.mark.parametrize(
    ("diameter", "beginner", "made"),
    [
        (8.0, False, "apart"),
        (8.0, True, "in place"),
        (7.9, False, "in place"),
        (2.5, False, "in place"),
        (2.4, False, "detail"),
    ],
)
def test_small_parts_are_built_in_place_or_drawn(
    diameter: float, beginner: bool, made: str
) -> None:
    figure = stack(50.0, diameter)
    bench = default_bench().replaced(beginner=beginner)
    part = figure.parts[1]
    assert way_of_making(part, part.shape, figure, bench) == made
    # Drawn as made otherwise, it is made so, whatever its size.
    for way in ("apart", "in place", "detail"):
        assert way_of_making(part.replaced(made=way), part.shape, figure, bench) == way


def test_thick_cores_go_in_rounds_and_fringes_keep_within_reach() -> None:
    assert [core_rounds(mm) for mm in (12, 75, 75.1, 125, 126)] == [1, 1, 2, 2, 3]
    # However thick, what is built in place is built at once.
    assert core_rounds(120.0, "in place") == 1
    assert [size_fringe(10.0, s) for s in (0.3, 1.5, 4.0)] == [6.0, 15.0, 25.0]


def test_parts_on_smaller_head_shrink_and_say_so(badger: Document, bench: Bench) -> None:
    smaller = {"head": (SizeRule(measure="all", rule="multiply", value=0.9),)}
    brief = badger.brief.at_height(220.0).replaced(rules=smaller)
    plan = make_plan(badger.figure, brief, bench)
    for name in ("head", "snout", "nose", "ear"):
        row = plan.part(name)
        for measure, mm in row.from_mm.items():
            assert row.to_mm[measure] == pytest.approx(0.9 * plan.scale * mm), (name, measure)
        told = {said(fact).partition(": ")[2] for fact in row.sized_by}
        assert told == (
            {"times 0.9"}
            if name == "head"
            else {f"with the {plan.part(plan.resized.figure.by_id[name].parent).name.lower()}"}
        )
    assert plan.part("leg").sized_by == ()
    assert not any(n.code == "sized:nose" for n in plan.notices)
