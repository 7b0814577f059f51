"""Rows of like parts and of fur, folded wire, props that are held, dress: what a new size asks about them."""

from __future__ import annotations

import itertools
import math

import pytest

from bambola.core.bench import Bench
from bambola.core.facts import NOTHING, RefusedError
from bambola.core.figure import (
    Ball,
    Brief,
    Figure,
    Fitting,
    Fur,
    Joint,
    Limb,
    Part,
    Piece,
    Row,
    Seat,
    Tilt,
    dump_document,
    load_document,
)
from bambola.core.figure.additions import with_row
from bambola.core.figure.places import fur_all_over
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.weighing import dress_told
from bambola.core.plan.making.reaching import prop_gap
from bambola.core.solids import place
from bambola.core.words import ENGLISH, error_words
from bambola.demo import BADGER, HERON, load_demo
from tests.figures import ball, figure_of
from tests.said import said


def backed_by_spines(count: int = 7, pair: bool = False) -> Figure:
    body = Part(id="body", name="Body", shape=ball(80), core="core-batt")
    spine = Part(
        id="spine", name="Spine", shape=ball(3), core="cream", parent="body", pair=pair,
        seat=Seat(along=0.25, around=150 if pair else 180, sink=0.6),
        row=Row(count=count, along=0.75, around=150 if pair else 180),
    )  # fmt: skip
    return figure_of(body, spine)


def planned(figure: Figure, times: float, bench: Bench, **answers: str) -> Plan:
    height = place(figure).height * times
    return make_plan(figure, Brief(height=height, answers=answers), bench)


def test_row_stands_evenly_from_its_first_to_its_last(bench: Bench) -> None:
    placement = place(backed_by_spines(5))
    skin = [copy.point(0.0) for copy in placement.copies_of("spine")]
    assert len(skin) == 5
    # On a ball of radius 40 a share of the height is a share of the diameter: equal steps up.
    rises = [b[2] - a[2] for a, b in itertools.pairwise(skin)]
    assert max(rises) - min(rises) < 1.0
    assert len(place(backed_by_spines(5, pair=True)).copies_of("spine")) == 10


@pytest.mark.parametrize(
    ("kept", "count", "long"), [("number", 7, 6.0), ("size", 13, 3.0), ("spacing", 13, 6.0)]
)
def test_row_keeps_what_maker_wants_kept(kept: str, count: int, long: float, bench: Bench) -> None:
    plan = planned(backed_by_spines(), 2.0, bench, **{"row:spine": kept})
    row = plan.part("spine")
    assert row.count == count  # twelve gaps where there were six, or as many as before
    assert max(row.to_mm.values()) == pytest.approx(long, rel=0.01)
    one = planned(backed_by_spines(), 2.0, bench).part("spine").grams
    assert row.grams == pytest.approx(one * (long / 6.0) ** 3, rel=0.1)
    weight = sum(p.grams * p.count for p in plan.parts)
    assert plan.wool_g == pytest.approx(weight, rel=1e-6)


def test_question_of_row_says_what_each_answer_makes(bench: Bench) -> None:
    plan = planned(backed_by_spines(), 2.0, bench)
    asked = next(n for n in plan.open_questions if n.code == "row:spine")
    told = {option.id: said(option.effect) for option in asked.options}
    assert told == {"number": "7 of 6 mm", "size": "13 of 3 mm", "spacing": "13 of 6 mm"}
    assert not planned(backed_by_spines(), 1.1, bench).open_questions
    small = planned(backed_by_spines(), 0.15, bench)
    fewer = next(n for n in small.open_questions if n.code == "row:spine").options[-1]
    assert (fewer.id, said(fewer.effect)[:1]) == ("fewer", "4")


def test_every_join_of_row_bears_its_own_part_alone(bench: Bench) -> None:
    few, many = (planned(backed_by_spines(n), 2.0, bench) for n in (2, 9))
    a, b = (next(j for j in plan.joins if j.part == "spine") for plan in (few, many))
    assert b.stress_kpa == pytest.approx(a.stress_kpa, rel=0.05)


def test_row_is_leaf_of_figure(bench: Bench) -> None:
    figure = backed_by_spines()
    assert with_row(figure, "spine", 1, 0.5, 0.0).by_id["spine"].row is None
    with pytest.raises(RefusedError) as refused:
        with_row(figure, "body", 3, 0.5, 0.0)
    assert error_words(refused.value) == "There is one body only: everything else sits on it."
    on_a_row = Part(id="tip", name="Tip", shape=ball(3), core="cream", parent="spine")
    with pytest.raises(ValueError, match=r"fault\.row-bears"):
        figure_of(*figure.parts, on_a_row)
    assert load_document(dump_document(figure, Brief()).encode(), "spines").figure == figure


def test_small_figure_may_fold_one_wire(bench: Bench) -> None:
    badger = load_demo(BADGER)
    low = badger.brief.at_height(100.0)
    offered = make_plan(badger.figure, low, bench)
    code = f"folding:{badger.figure.id}"
    assert next(n for n in offered.notices if n.code == code).level == "note"
    folded = make_plan(badger.figure, low.answered(code, "folded"), bench)
    assert len([w for w in folded.wires if not w.id.startswith("peg")]) == 1 < len(offered.wires)
    told = [said(change.text) for change in folded.changes]
    assert any(text.startswith("1 wire to cut, not 3") for text in told)
    # Pulled up again, the figure is as it was drawn; and one that was small as made is not asked.
    high = make_plan(badger.figure, badger.brief.at_height(150.0).answered(code, "folded"), bench)
    assert len([w for w in high.wires if not w.id.startswith("peg")]) == 3
    heron = load_demo(HERON)
    assert not any(
        n.code.startswith("folding")
        for n in make_plan(heron.figure, heron.brief.at_height(120.0), bench).notices
    )


def holding_a_tray() -> Figure:
    """Two arms reach forward and down to a bought tray that one of them carries."""
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    joints = (Joint(x=0, y=0, z=0, diameter=10), Joint(x=0, y=0, z=40, diameter=10))
    arm = Part(
        id="arm", name="Arm", shape=Limb(joints=joints), core="core-batt", parent="body", pair=True,
        seat=Seat(along=0.5, around=60, sink=4.0, tilt=Tilt(nod=90)),
    )  # fmt: skip
    tray = Fitting(
        id="tray", name="Tray", kind="prop", part="body", follows="hold", size=60.0, mass=5.0,
        seat=Seat(along=0.5, around=0, out=1.0, sink=-24.0, tilt=Tilt(nod=90)),
        pieces=(Piece(shape=Ball(width=60, depth=12, height=12)),),
    )  # fmt: skip
    return figure_of(body, arm, fittings=(tray,))


def test_arm_not_reaching_prop_can_be_lengthened(
    bench: Bench,
) -> None:
    figure = holding_a_tray()
    assert prop_gap(place(figure), "tray", "arm") <= 1.0
    small = planned(figure, 0.8, bench)
    gap = prop_gap(small.solids.placement, "tray", "arm")
    question = next((n for n in small.open_questions if n.code == "reach:tray"), None)
    assert (question is not None) == (gap > 1.0)
    assert question is not None, gap
    longer = planned(figure, 0.8, bench, **{"reach:tray": "longer-arm"})
    assert prop_gap(longer.solids.placement, "tray", "arm") <= 1.0
    plain, stretched = (p.part("arm").to_mm["length"] for p in (small, longer))
    assert stretched == pytest.approx(plain + gap, abs=1.5)  # the arms point straight at it
    assert math.isclose(longer.to_height_mm, small.to_height_mm, rel_tol=1e-6)


def test_fur_in_more_rows_than_anyone_lays_is_refused(bench: Bench) -> None:
    def furred(spacing: float) -> Figure:
        fur = Fur(wool="cream", kind="fleece", hair=30.0, spacing=spacing)
        limb = Limb(joints=tuple(Joint(x=0, y=0, z=z, diameter=20) for z in (0, 180)))
        tail = Part(id="tail", name="Tail", parent="body", core="core-batt", seat=Seat(along=0.5),
                    places=(fur_all_over(fur),), shape=limb)  # fmt: skip
        return figure_of(Part(id="body", name="Body", shape=ball(60), core="core-batt"), tail)

    # A row to the millimetre on 200 mm and less is just possible, two are not.
    most = planned(furred(1.1), 1.0, bench)
    assert 100 < sum(step.key.startswith("fur:") for step in most.steps) <= 200
    with pytest.raises(OrderConflictError) as told:
        planned(furred(0.5), 1.0, bench)
    assert "Tail" in error_words(told.value, ENGLISH) and "200" in error_words(told.value, ENGLISH)


def test_garment_is_told_only_at_its_step(bench: Bench) -> None:
    badger = load_demo(BADGER)
    plan = make_plan(badger.figure, badger.brief.at_height(200.0), bench)
    worn = {row.part for row in plan.dress}
    told = {step.part for step in plan.steps if dress_told(plan, step) != NOTHING}
    assert told == worn and len(worn) > 1
    for step in plan.steps:
        assert (dress_told(plan, step) != NOTHING) is (step.kind == "dress" and step.part in worn)


def test_limb_made_stouter_is_just_stout_enough(bench: Bench) -> None:
    heron = load_demo(HERON)
    asked = make_plan(heron.figure, heron.brief, bench)
    question = next(n for n in asked.open_questions if n.code == "thin-limb:leg")
    plan = make_plan(heron.figure, heron.brief.answered(question.code, "stouter-limb"), bench)
    (wire,) = plan.wires_in("leg")
    needs = wire.diameter_mm + 5.0
    assert plan.resized.figure.by_id["leg"].shape.thinnest_mm == pytest.approx(needs, rel=1e-4)
