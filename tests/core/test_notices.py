"""What the maker is told and asked, figure by figure."""

from __future__ import annotations

import pytest

from bambola.core.bench import Bench
from bambola.core.figure import (
    Brief,
    Datum,
    Document,
    Figure,
    Fitting,
    Leaf,
    Pad,
    Part,
    Piece,
    Rope,
    Sausage,
    Seat,
    SizeRule,
)
from bambola.core.plan import Notice, Plan, make_plan
from tests.figures import arm_on_post, ball, figure_of, one_ball
from tests.said import said


def told(plan: Plan, start: str) -> list[Notice]:
    return [notice for notice in plan.notices if notice.code.startswith(start)]


def with_part(**more: object) -> Figure:
    part = Part.model_validate(
        {
            "id": "it",
            "name": "It",
            "parent": "body",
            "core": "cream",
            "seat": Seat(around=180),
            **more,
        }
    )
    return figure_of(*one_ball(40.0).parts, part, datum=Datum(part="body"))


@pytest.mark.parametrize(
    ("shape", "droops"),
    [
        (Sausage(length=60, diameter=10), True),
        (Sausage(length=45, diameter=10), False),
        (Rope(points=((0, 0, 0), (0, 0, 60)), thickness=9), True),
        (
            Rope(points=((8, 0, 0), (0, 8, 0), (-8, 0, 0), (0, -8, 0)), thickness=3, closed=True),
            False,
        ),
        (Leaf(length=40, width=20, thickness=3), False),
        (ball(20), False),
    ],
)
def test_slender_part_without_wire_droops(bench: Bench, shape: object, droops: bool) -> None:
    plan = make_plan(with_part(shape=shape), Brief(), bench)
    assert bool(told(plan, "droop:it")) is droops


def test_wire_keeps_slender_limb_from_drooping(bench: Bench) -> None:
    assert not told(make_plan(arm_on_post(80.0, 12.0), Brief(), bench), "droop")
    bare = arm_on_post(80.0, 12.0).replaced(wires=(), bones=(), nodes=())
    assert told(make_plan(bare, Brief(), bench), "droop:arm")


@pytest.mark.parametrize(("foot", "level"), [(30.0, None), (7.0, "note")])
def test_figure_that_only_just_stands_is_warned_about(
    bench: Bench, foot: float, level: str | None
) -> None:
    shape = Pad(width=foot, depth=foot, height=12)
    figure = with_part(shape=shape, seat=Seat(along=0, out=0, sink=8))
    found = told(make_plan(figure, Brief(), bench), "standing")
    assert [notice.level for notice in found] == ([level] if level else [])


def test_hanging_figure_need_not_stand(bench: Bench) -> None:
    side = with_part(shape=ball(36), seat=Seat(along=0.5, around=90, sink=2))
    assert told(make_plan(side, Brief(), bench), "standing")
    hanging = side.replaced(stance="hanging")
    plan = make_plan(hanging, Brief(), bench)
    assert plan.balance.stands and not told(plan, "standing")


@pytest.mark.parametrize(
    ("rule", "words"),
    [
        (SizeRule(rule="hold"), "held"),
        (SizeRule(rule="hold", measure="width", value=9), "width: held at 9 mm"),
        (SizeRule(rule="floor", measure="height", value=50), "height: not under 50 mm"),
        (SizeRule(rule="ceiling", measure="depth", value=21), "depth: not over 21 mm"),
        (SizeRule(rule="multiply", value=1.25), "times 1.25"),
    ],
)
def test_every_bent_size_is_told_with_its_rule(bench: Bench, rule: SizeRule, words: str) -> None:
    figure = with_part(shape=ball(20), rules=(rule,))
    plan = make_plan(figure, Brief(height=80), bench)
    (notice,) = told(plan, "sized:it")  # once, not for each of its measures
    assert words in said(notice.title) and said(notice.title).count(":") <= 2
    assert not told(make_plan(figure, Brief(), bench), "sized:it")


def test_rule_of_brief_lies_over_figures_own(bench: Bench) -> None:
    figure = with_part(shape=ball(20), rules=(SizeRule(rule="multiply", value=2.0),))
    brief = Brief(height=80).ruled("it", (SizeRule(rule="hold"),))
    assert make_plan(figure, brief, bench).part("it").to_mm["width"] == 20.0
    assert make_plan(figure, brief.ruled("it", ()), bench).part("it").to_mm["width"] == 80.0


def test_wire_beyond_stoutest_stock_is_told(bench: Bench) -> None:
    plan = make_plan(arm_on_post(60.0, 40.0), Brief(height=150), bench)
    (notice,) = told(plan, "stock:arm")
    assert "3 mm" in said(notice.text) and plan.wires[0].diameter_mm == 3.0
    assert plan.wires[0].needed_mm > 3.0


@pytest.mark.parametrize(
    ("height", "asks"), [(40.0, False), (56.0, False), (28.0, True), (52.0, False)]
)
def test_eyes_more_than_eighth_off_are_asked_about(bench: Bench, height: float, asks: bool) -> None:
    eye = Fitting(
        id="eye", name="Eyes", kind="eye", part="body", seat=Seat(along=0.6), size=5, follows="ready-made",
        pieces=(Piece(shape=ball(5)),),
    )  # fmt: skip
    plan = make_plan(one_ball(40.0).replaced(fittings=(eye,)), Brief(height=height), bench)
    assert bool(told(plan, "eye-size")) is asks
    (row,) = plan.fittings
    assert row.deviation_pct == pytest.approx((row.use_mm / row.wanted_mm - 1) * 100)


def test_what_stops_comes_first_and_notes_last(bench: Bench, badger: Document) -> None:
    rank = {"stop": 0, "choose": 1, "note": 2}
    for height in (32.0, 100.0, 220.0, 700.0):
        levels = [
            rank[n.level]
            for n in make_plan(badger.figure, badger.brief.at_height(height), bench).notices
        ]
        assert levels == sorted(levels)


def test_every_question_offers_at_least_two_ways(bench: Bench, badger: Document) -> None:
    asked = 0
    for height in (32.0, 60.0, 100.0, 220.0, 500.0):
        for question in make_plan(
            badger.figure, badger.brief.at_height(height), bench
        ).open_questions:
            asked += 1
            assert len(question.options) >= 2 and len({o.id for o in question.options}) == len(
                question.options
            )
            assert all(option.label and option.effect for option in question.options)
    assert asked >= 5


def test_felted_eye_is_made_to_just_size_it_should_have(bench: Bench, badger: Document) -> None:
    brief = badger.brief.at_height(100).answered("eye-size:eye", "felted")
    plan = make_plan(badger.figure, brief, bench)
    eye = next(row for row in plan.fittings if row.id == "eye")
    assert eye.use_mm == pytest.approx(
        5 * 100 / 140, rel=1e-6
    ) and eye.deviation_pct == pytest.approx(0, abs=1e-6)
    assert told(plan, "eye-size")[0].answer == "felted"
    assert not [step for step in plan.steps if step.kind == "wait"]
