from __future__ import annotations

import math

import pytest

from bambola.core.armature import bundle_mm
from bambola.core.bench import Bench
from bambola.core.figure import (
    Bone,
    Brief,
    Datum,
    Document,
    Figure,
    Node,
    Pad,
    Part,
    Seat,
    Tilt,
    Wire,
)
from bambola.core.plan import Plan, make_plan
from tests.core.test_solids import overlapping
from tests.figures import arm_on_post, ball, figure_of
from tests.said import said


def plan_at(figure: Figure, height: float | None, bench: Bench, **answers: str) -> Plan:
    """The plan; answers are given as code_part="option"."""
    return make_plan(
        figure,
        Brief(height=height, answers={k.replace("_", ":"): v for k, v in answers.items()}),
        bench,
    )


def test_cut_length_is_path_take_up_and_allowances(bench: Bench, badger: Document) -> None:
    for wire in plan_at(badger.figure, 220.0, bench).wires:
        total = wire.path_mm + wire.takeup_mm + sum(a.mm for a in wire.allowances)
        assert wire.cut_mm == pytest.approx(total, abs=0.01)
        assert wire.path_mm == pytest.approx(
            sum(math.dist(a, b) for a, b in zip(wire.points_mm, wire.points_mm[1:], strict=False))
        )
        assert all(
            0 < bend.at_mm < wire.cut_mm and 0 < bend.angle_deg <= 180 for bend in wire.bends
        )


def test_paths_double_and_allowances_do_not(bench: Bench, badger: Document) -> None:
    small, large = (plan_at(badger.figure, h, bench) for h in (140.0, 280.0))
    for a, b in zip(small.wires, large.wires, strict=True):
        assert b.path_mm == pytest.approx(2 * a.path_mm, rel=1e-9)
        assert [x.why for x in a.allowances] == [x.why for x in b.allowances]
        ends = [x.mm for w in (a, b) for x in w.allowances if said(x.why).startswith("turn")]
        assert ends == [max(6.0, 4 * w.diameter_mm) for w in (a, a, b, b)]


def test_twisted_strands_take_up_and_folded_end_turns_right_round(bench: Bench) -> None:
    figure = arm_on_post()
    wire = figure.wires[0].replaced(route=("heart", "shoulder", "hand", "shoulder"))
    cut = plan_at(figure.replaced(wires=(wire,)), None, bench).wires[0]
    assert cut.strands == 2 and cut.path_mm == pytest.approx(25 + 120)
    assert cut.takeup_mm == pytest.approx(120 * 0.06)
    assert cut.bends[-1].angle_deg == pytest.approx(180)
    assert cut.bends[-1].at_mm == pytest.approx(6 + 25 + 60 * 1.06)


def test_neck_stub_and_bindings_go_by_wire_and_head(bench: Bench) -> None:
    figure = overlapping(28.0)
    nodes = (
        Node(id="a", part="body", along=0.2),
        Node(id="b", part="body", along=0.9),
        Node(id="c", part="body", along=0.2, around=90, out=0.5),
    )
    spine = Wire(
        id="spine", name="Spine", metal="soft steel", diameter=1.2, route=("a", "b"), stub="head"
    )
    rib = Wire(
        id="rib", name="Rib", metal="soft copper", diameter=0.8, route=("a", "c"), binds=("a",)
    )
    bones = (Bone(a="a", b="b"), Bone(a="a", b="c"))
    figure = Figure.model_validate(
        {**figure.model_dump(), "nodes": nodes, "bones": bones, "wires": (spine, rib)}
    )
    first, second = plan_at(figure, None, bench).wires
    assert [a.mm for a in first.allowances] == pytest.approx([6.0, 0.35 * 28])
    bound = next(a.mm for a in second.allowances if said(a.why).startswith("bind"))
    assert bound == pytest.approx(3 * math.pi * (0.8 + 1.2))


def test_bundles_of_strands() -> None:
    assert [bundle_mm(1.0, n) for n in (1, 2, 3, 4)] == [1.0, 2.0, 2.15, 2.41]


def thin_arm() -> Figure:
    return arm_on_post(length=60.0, diameter=9.0)


def test_thin_limb_asks_and_each_answer_works(bench: Bench) -> None:
    open_plan = plan_at(thin_arm(), 30.0, bench)
    (question,) = open_plan.open_questions
    assert question.code == "thin-limb:arm" and "5.4 mm" in said(question.text)
    answers = {option.id for option in question.options}
    assert answers >= {"no-wire", "stouter-limb"}
    bare = plan_at(thin_arm(), 30.0, bench, **{"thin-limb_arm": "no-wire"})
    assert not bare.wires
    assert bare.part("arm").made != "on wire" and not bare.open_questions
    stout = plan_at(thin_arm(), 30.0, bench, **{"thin-limb_arm": "stouter-limb"})
    needs = bundle_mm(stout.wires[0].diameter_mm, 1) + 5
    assert stout.part("arm").to_mm["thickness"] == pytest.approx(needs, rel=1e-4)
    assert not stout.open_questions and any(n.answer == "stouter-limb" for n in stout.notices)


def footed(size: float, lean: float = 0.0) -> Figure:
    body = Part(
        id="body", name="Body", shape=ball(40), core="core-batt", seat=Seat(tilt=Tilt(lean=lean))
    )
    foot = Part(
        id="foot",
        name="Foot",
        parent="body",
        seat=Seat(along=0, out=0, sink=10),
        shape=Pad(width=size, depth=size, height=14),
        core="core-batt",
    )
    return figure_of(body, foot)


def test_tip_angle_of_ball_on_round_foot(bench: Bench) -> None:
    standing = plan_at(footed(24.0), None, bench).balance
    # The foot's sole (radius 12) at 2 % of the height up; the centre lies over it near the ball's.
    x, _, high = standing.centre_mm
    assert x == pytest.approx(0, abs=0.05) and 25 < high < 30
    sole = 12 * math.sqrt(1 - (0.02 * 50 / 14) ** 2)
    assert standing.tip_angle_deg == pytest.approx(math.degrees(math.atan(sole / high)), rel=0.02)
    assert standing.stands


def test_figure_outside_its_feet_is_refused(bench: Bench) -> None:
    side = Part(
        id="side",
        name="Side",
        parent="body",
        seat=Seat(along=0.5, around=90, sink=2),
        shape=ball(36),
        core="core-batt",
    )
    lopsided = footed(8.0)
    plan = plan_at(lopsided.replaced(parts=(*lopsided.parts, side)), None, bench)
    assert not plan.balance.stands and plan.balance.tip_angle_deg < 0
    assert plan.notices[0].level == "stop" and "touches the table" in said(plan.notices[0].text)
    # One that sits on itself has no feet that could be larger.
    leaning = figure_of(lopsided.parts[0].replaced(id="body"), side.replaced(shape=ball(70)))
    told = plan_at(leaning, None, bench).notices[0]
    assert told.code == "standing" and "eet" not in said(told.text)


def test_mass_of_balance_is_wool_wire_and_fittings(bench: Bench, badger: Document) -> None:
    plan = plan_at(badger.figure, 220.0, bench)
    fittings = sum(f.mass_g * f.count for f in plan.fittings)
    wool = sum(p.grams * p.count for p in plan.parts)
    assert plan.balance.mass_g == pytest.approx(
        wool + sum(w.grams for w in plan.wires) + fittings, rel=1e-6
    )


def test_join_stress_by_hand_and_by_size(bench: Bench) -> None:
    figure = overlapping(30.0).replaced(datum=overlapping(30.0).datum.replaced(part="head"))
    (small,) = plan_at(figure, 64.0, bench).joins
    (large,) = plan_at(figure, 500.0, bench, join_head="leave").joins
    body = plan_at(figure, None, bench).part("body").grams
    assert small.stress_kpa == pytest.approx(3 * body * 9.81 / small.area_mm2, rel=1e-6)
    # Weight goes with the cube, the join with the square: so the stress goes with the size.
    assert large.stress_kpa == pytest.approx(500 / 64 * small.stress_kpa, rel=1e-6)
    assert small.holds and not large.holds
    question = next(n for n in plan_at(figure, 500.0, bench).notices if n.code == "join:head")
    assert {o.id for o in question.options} >= {"patch", "scarf", "peg", "leave"}
    pegged = plan_at(figure, 500.0, bench, join_head="peg")
    assert any(step.key == "peg:head" for step in pegged.steps) and not pegged.open_questions


def weights(plan: Plan, *parts: str) -> float:
    """Wool of one copy of each of these parts, g; of a pair, both."""
    return sum(plan.part(p).count * sum(w.grams for w in plan.part(p).portions) for p in parts)


def test_both_arms_of_pair_bear_what_single_arms_do(bench: Bench) -> None:
    arm = arm_on_post().parts[1].replaced(seat=Seat(along=0.5, around=90, sink=3))
    other = arm.replaced(id="other", seat=Seat(along=0.5, around=-90, sink=3, tilt=Tilt(turn=180)))
    body = arm_on_post().parts[0]
    pair = plan_at(figure_of(body, arm.replaced(pair=True)), None, bench).joins
    singles = plan_at(figure_of(body, arm, other), None, bench).joins
    assert len(pair) == 1 and len(singles) == 2
    for row in singles:
        assert pair[0].stress_kpa == pytest.approx(row.stress_kpa, rel=0.01)
    # By hand: three times the weight over the area, and the weight on its lever over pi d^3 / 32.
    plan = plan_at(figure_of(body, arm.replaced(pair=True)), None, bench)
    grams, area = weights(plan, "arm") / 2, pair[0].area_mm2
    (copy, solid), _ = plan.solids.copies_of("arm")
    at = copy.matrix[:3, :3] @ solid.centre
    lever = math.hypot(at[0], at[1])
    d = math.sqrt(4 * area / math.pi)
    by_hand = 3 * grams * 9.81 / area + grams * 9.81 * lever * 32 / (math.pi * d**3)
    assert pair[0].stress_kpa == pytest.approx(by_hand, rel=1e-3)
    assert by_hand > 5 * 3 * grams * 9.81 / area  # nearly all of it is bending


def test_every_join_bears_all_that_hangs_beyond_it(bench: Bench, badger: Document) -> None:
    neck = Part(
        id="neck", name="Neck", parent="body", shape=ball(24), core="cream", seat=Seat(sink=4)
    )
    head = Part(
        id="head", name="Head", parent="neck", shape=ball(40), core="cream", seat=Seat(sink=4)
    )
    nose = Part(
        id="nose", name="Nose", parent="head", shape=ball(12), core="cream", made="apart",
        seat=Seat(along=0.5, sink=3, tilt=Tilt(nod=90)),
    )  # fmt: skip
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    figure = figure_of(body, neck, head, nose, datum=Datum(part="head"))
    plan = plan_at(figure, None, bench)
    rows = {row.part: row for row in plan.joins}
    assert [name for name, row in rows.items() if row.carries_all] == ["neck", "head"]
    total, lifted = plan.wool_g, {"neck": ("neck", "head", "nose"), "head": ("head", "nose")}
    for name, beyond in lifted.items():
        hung = total - weights(plan, *beyond)
        d = math.sqrt(4 * rows[name].area_mm2 / math.pi)
        # Only the nose is off the axis: its weight on its lever bends both joins.
        nose_at = abs(plan.solids.centroids[3][1])
        bend = weights(plan, "nose") * 9.81 * nose_at * 32 / (math.pi * d**3)
        assert rows[name].stress_kpa == pytest.approx(
            3 * hung * 9.81 / rows[name].area_mm2 + bend, rel=0.01
        )
    shipped = plan_at(badger.figure, None, bench)
    joined = {p.id for p in badger.figure.parts if p.parent is not None and p.garment is None}
    assert {row.part for row in shipped.joins} == joined
