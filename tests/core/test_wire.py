"""Cut lengths, bends, loads, gauges, stock: against closed forms and independent searches."""

from __future__ import annotations

import itertools
import math
import random

import numpy as np
import pytest

from bambola.core.armature import SCHOOLS, CutWire, Support, bone_loads, rig_figure
from bambola.core.armature.cuts import SPLICE_MM, pieces_of
from bambola.core.armature.loads import Mass, reactions
from bambola.core.armature.stock import StockPiece, cutting_plan, search_all_cuts, solve_cutting
from bambola.core.armature.strength import bundle_mm, take_up
from bambola.core.bench import Bench, WireStock
from bambola.core.facts import Fact
from bambola.core.figure import (
    Bone,
    Brief,
    Document,
    Figure,
    Fitting,
    Node,
    Part,
    Seat,
)
from bambola.core.figure import (
    Piece as Drawn,
)
from bambola.core.plan import Plan, make_plan
from bambola.core.solids import measure_solids
from bambola.demo import HERON, load_demo
from tests.effort import THOROUGH
from tests.figures import arm_on_post, ball, figure_of
from tests.said import said

N_PER_GRAM = 9.81e-3


def plan_with(
    figure: Figure, height: float | None, bench: Bench, school: str = "drawn", **more: object
) -> Plan:
    return make_plan(figure, Brief(height=height, schools={"wire": school}, **more), bench)  # type: ignore[arg-type]


def every_wire(bench: Bench) -> list[tuple[Plan, CutWire]]:
    found = []
    for demo in (None, HERON):
        document = load_demo(demo) if demo else load_demo()
        for school, factor in itertools.product(SCHOOLS, (0.4, 1.0, 1.6)):
            height = make_plan(document.figure, Brief(), bench).from_height_mm * factor
            plan = plan_with(document.figure, height, bench, school)
            found += [(plan, wire) for wire in plan.wires]
    return found


def test_stretches_bones_take_up_and_allowances_all_add_up(bench: Bench) -> None:
    for plan, wire in every_wire(bench):
        runs = [s for s in wire.stretches if s.kind == "run"]
        assert wire.path_mm == pytest.approx(sum(s.bone_mm for s in runs), abs=1e-6)
        assert wire.takeup_mm == pytest.approx(
            sum(s.bone_mm * (take_up(s.strands) - 1) for s in runs), abs=1e-6
        )
        total = wire.path_mm + wire.takeup_mm + sum(a.mm for a in wire.allowances)
        assert wire.cut_mm == pytest.approx(total, abs=0.01)
        assert sum(piece.mm for piece in wire.pieces) == pytest.approx(wire.cut_mm, abs=0.01)
        assert [s.start_mm for s in wire.stretches[1:]] == [s.end_mm for s in wire.stretches[:-1]]
        nodes = plan.solids.placement.nodes
        for s in runs:
            assert s.bone_mm == pytest.approx(
                float(np.linalg.norm(nodes[s.a] - nodes[s.b])), abs=1e-6
            )


def rebuilt(wire: CutWire) -> np.ndarray:
    """The polyline from the bend list alone: straight on between bends, turned in each bend's plane."""
    runs = [s for s in wire.stretches if s.kind == "run" and s.bone_mm > 1e-9]
    bends = {bend.at_mm: bend for bend in wire.bends}
    here, way, normal = np.zeros(3), np.array([1.0, 0, 0]), np.array([0.0, 0, 1])
    points = [here]
    for i, run in enumerate(runs):
        here = here + way * run.bone_mm
        points.append(here)
        bend = bends.get(run.end_mm)
        if bend is not None and i + 1 < len(runs):
            normal = turn(normal, way, bend.twist_deg)
            way = turn(way, normal, bend.angle_deg)
    return np.array(points)


def turn(vector: np.ndarray, about: np.ndarray, degrees: float) -> np.ndarray:
    a = math.radians(degrees)
    return (
        vector * math.cos(a)
        + np.cross(about, vector) * math.sin(a)
        + about * (about @ vector) * (1 - math.cos(a))
    )


def test_bend_list_rebuilds_wire_in_space(bench: Bench) -> None:
    for _, wire in every_wire(bench):
        if not wire.path_mm:
            continue
        true = np.array(wire.points_mm)
        keep = [
            0,
            *(
                i + 1
                for i, run in enumerate(np.linalg.norm(np.diff(true, axis=0), axis=1))
                if run > 1e-9
            ),
        ]
        true, made = true[keep], rebuilt(wire)
        # Every distance between two points agrees, so the shapes do (up to a mirror, told by a volume).
        far = [np.linalg.norm(p[:, None] - p[None], axis=2) for p in (true, made)]
        # Turns of under a degree are left out of the list: over a bone that is a sixtieth of its length.
        assert np.abs(far[0] - far[1]).max() < 0.02 * wire.path_mm
        if all(b.angle_deg > 1.01 for b in wire.bends) and len(wire.bends) == len(made) - 2:
            assert np.abs(far[0] - far[1]).max() < 1e-6
            volumes = [np.linalg.det(p[1:4] - p[0]) if len(p) > 3 else 0.0 for p in (true, made)]
            assert volumes[0] == pytest.approx(volumes[1], abs=1e-3)


def test_cantilever_bears_weight_times_lever(bench: Bench) -> None:
    figure = arm_on_post()
    solids = measure_solids(figure)
    rigging = rig_figure(figure, solids.placement)
    assert rigging is not None
    wool = np.array([5.0 if copy.part.id == "arm" else 20.0 for copy in solids.placement.copies])
    loads = bone_loads(rigging, solids.placement, wool, solids.centroids, [], [])
    bone = frozenset(("shoulder", "hand"))
    arm = next(c for c in range(len(wool)) if solids.placement.copies[c].part.id == "arm")
    lever = float(np.hypot(*(solids.centroids[arm] - solids.placement.nodes["shoulder"])[:2]))
    assert loads[bone].static_nmm == pytest.approx(5 * N_PER_GRAM * lever, rel=1e-9)
    assert loads[bone].lever_mm == pytest.approx(60, rel=1e-6)
    # A weight at the very end adds its own lever; twice the size and eight times the mass, sixteen times.
    end = Mass(3.0, tuple(solids.placement.nodes["hand"].tolist()), "arm", None)
    more = bone_loads(rigging, solids.placement, wool, solids.centroids, [end], [])[bone]
    assert more.static_nmm == pytest.approx(loads[bone].static_nmm + 3 * N_PER_GRAM * 60, rel=1e-6)
    double = solids.placement.scaled(2.0, figure)
    grown = bone_loads(rigging, double, wool * 8, solids.centroids * 2, [], [])[bone]
    assert grown.static_nmm == pytest.approx(16 * loads[bone].static_nmm, rel=1e-9)
    assert grown.design_nmm == pytest.approx(16 * loads[bone].design_nmm, rel=1e-9)


def two_legged(spread: float = 20.0) -> Figure:
    """A heavy ball on two points, each under a bone that slopes outwards from its heart."""
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    foot = Part(id="foot", name="Foot", parent="body", shape=ball(8), core="core-batt", pair=True,
                seat=Seat(along=0.1, around=90, out=0.9, sink=0))  # fmt: skip
    nodes = (
        Node(id="heart", part="body", along=0.5), Node(id="l", part="foot", side="left", along=0.0),
        Node(id="r", part="foot", side="right", along=0.0),
    )  # fmt: skip
    bones = (Bone(a="heart", b="l"), Bone(a="heart", b="r"))
    return figure_of(body, foot, nodes=nodes, bones=bones)


def test_two_legs_share_weight_and_bear_it_on_their_spread() -> None:
    figure = two_legged()
    solids = measure_solids(figure)
    placement = solids.placement
    rigging = rig_figure(figure, placement)
    assert rigging is not None
    wool = np.array([40.0 if copy.part.id == "body" else 0.0 for copy in placement.copies])
    feet = [
        Support((x, 0.0, placement.ground), "foot", side)
        for x, side in ((30.0, "left"), (-30.0, "right"))
    ]
    loads = bone_loads(rigging, placement, wool, solids.centroids, [], feet)
    for node in ("l", "r"):
        # Half the weight pushes up 30 mm out from the heart.
        assert loads[frozenset(("heart", node))].static_nmm == pytest.approx(
            20 * N_PER_GRAM * 30, rel=1e-9
        )
    # Off the middle by a sixth, the nearer foot bears two thirds.
    force, _ = reactions(
        np.array([s.point for s in feet]), np.array([1.0]), np.array([[10.0, 0, 50]])
    )
    assert force == pytest.approx([2 / 3, 1 / 3])
    force, at = reactions(
        np.array([s.point for s in feet]), np.array([1.0]), np.array([[40.0, 7, 50]])
    )
    assert force == pytest.approx([1, 0]) and at[0][:2] == pytest.approx([40, 7])


def test_unscaled_weights_change_moments(
    bench: Bench,
) -> None:
    figure = arm_on_post()
    weight = Fitting(
        id="weight", name="Weight", kind="prop", part="arm", seat=Seat(along=1), size=5, mass=50.0,
        follows="hold", pieces=(Drawn(shape=ball(5)),),
    )  # fmt: skip
    loaded = figure.replaced(fittings=(weight,))
    plain, held = (plan_with(f, 100.0, bench) for f in (figure, loaded))
    for plan in (plain, held):
        for bone in plan.bones:
            assert bone.design_nmm == pytest.approx(
                bone.was_nmm * plan.scale**4 * (1 + bone.beyond_s4_pct / 100), rel=1e-9
            )
    arm = next(b for b in held.bones if b.b == "hand")
    # 50 g that stay 50 g, on twice the lever, instead of 400 g: near an eighth of s⁴ is left of it.
    assert -90 < arm.beyond_s4_pct < -70


def test_strands_gauge_metal_and_chenille_can_be_chosen(bench: Bench) -> None:
    figure = arm_on_post()
    twice = figure.replaced(bones=tuple(bone.replaced(strands=2) for bone in figure.bones))
    (wire,) = plan_with(twice, 50.0, bench, "continuous").wires
    assert wire.strands == 2 and all(s.strands == 2 for s in wire.stretches if s.kind == "run")
    kept = plan_with(twice, 50.0, bench)
    assert [n.code for n in kept.notices if n.code.startswith("strands:")]
    chosen = plan_with(figure, 50.0, bench, answers={"gauge:arm": "1.5"})
    assert chosen.wires[0].diameter_mm == 1.5
    brass = make_plan(figure, Brief(height=50, schools={"wire-stock": "half-hard brass"}), bench)
    assert said(brass.wires[0].stock) == "half-hard brass"
    # Weaker by a fifth: to bear what the steel does it is stouter by the cube root of that.
    assert brass.wires[0].needed_mm == pytest.approx((250 / 200) ** (1 / 3), rel=1e-3)
    stems = make_plan(figure, Brief(height=400, schools={"wire-stock": "chenille"}), bench)
    (long,) = stems.wires
    assert said(long.stock) == "Chenille stem" and len(long.pieces) == math.ceil(
        (long.cut_mm - 1) / 300
    )
    assert sum(a.mm for a in long.allowances if a.why == Fact("wire.splice")) == SPLICE_MM * (
        len(long.pieces) - 1
    )


@pytest.mark.parametrize("answer", ["no-wire", "stouter-limb", "slim-and-stouter", "glue-wound"])
def test_small_herons_thin_leg_has_four_answers_that_hold_together(
    bench: Bench, answer: str
) -> None:
    heron = load_demo(HERON)
    asked = make_plan(heron.figure, heron.brief, bench)
    question = next(n for n in asked.open_questions if n.code == "thin-limb:leg")
    assert answer in {option.id for option in question.options} and len(question.options) >= 3
    plan = make_plan(heron.figure, heron.brief.answered("thin-limb:leg", answer), bench)
    settled = next(n for n in plan.notices if n.code == "thin-limb:leg")
    assert settled.answer == answer and not settled.is_open
    assert {o.id for o in settled.options} == {o.id for o in question.options}
    leg, wires = plan.part("leg"), [w for w in plan.wires if w in plan.wires_in("leg")]
    if answer == "no-wire":
        assert not wires and leg.made != "on wire"
    else:
        (wire,) = wires
        hides = wire.diameter_mm + (1 if answer == "glue-wound" else 5)
        assert leg.to_mm["thickness"] >= hides - 1e-3 and leg.made == "on wire"
        assert (wire.diameter_mm == 0.4) is (answer == "slim-and-stouter")
    assert plan.to_height_mm == pytest.approx(120.0, abs=1e-3)
    wound = next(step for step in plan.steps if step.part == "leg" and step.key.startswith("core:"))
    assert ("glue" in said(wound.text)) is (answer == "glue-wound")


@pytest.mark.parametrize("height", [60.0, 120.0, *([95.0, 200.0] if THOROUGH else [])])
def test_every_offer_for_thin_limb_works(height: float, bench: Bench) -> None:
    heron = load_demo(HERON)
    asked = make_plan(heron.figure, heron.brief.at_height(height), bench)
    questions = [n for n in asked.open_questions if n.code.startswith("thin-limb:")]
    assert questions
    for question in questions:
        for option in question.options:
            brief = heron.brief.at_height(height).answered(question.code, option.id)
            plan = make_plan(heron.figure, brief, bench)
            where = (question.code, option.id)
            (settled,) = (n for n in plan.notices if n.code == question.code)
            assert settled.answer == option.id and "Even then" not in said(settled.text), where
            part = plan.part(str(question.part))
            wires = plan.wires_in(part.id)
            if option.id == "no-wire":
                assert not wires, where
                continue
            shape = plan.resized.figure.by_id[part.id].shape
            cores = {w.id: plan.gauges[w.id].cores for w in wires}
            thickest = max(bundle_mm(w.diameter_mm, w.strands * cores[w.id]) for w in wires)
            hides = 1.0 if option.id == "glue-wound" else 5.0
            assert shape.thinnest_mm >= thickest + hides - 1e-3, where
            assert plan.to_height_mm == pytest.approx(height, abs=1e-3)


def test_drooping_limbs_are_never_left_bare(bench: Bench) -> None:
    heron = load_demo(HERON)

    def bare(part: str, height: float) -> str:
        plan = make_plan(heron.figure, heron.brief.at_height(height), bench)
        question = next(n for n in plan.open_questions if n.code == f"thin-limb:{part}")
        return said(next(o.effect for o in question.options if o.id == "no-wire"))

    assert "stands on it" in bare("leg", 120.0)
    # The neck carries no more than the head; it is 26 mm long at 60 mm of height, and 53 mm at 120.
    assert "flops" in bare("neck", 120.0) and "53 mm" in bare("neck", 120.0)
    assert "flops" not in bare("neck", 60.0)


def test_where_no_stock_is_stout_enough_second_strand_bears_half(
    bench: Bench, badger: Document
) -> None:
    large = badger.brief.at_height(600.0)
    alone = make_plan(badger.figure, large, bench)
    question = next(n for n in alone.open_questions if n.code == "stock:spine")
    assert question.options[0].id == "second-strand"
    both = make_plan(badger.figure, large.answered("stock:spine", "second-strand"), bench)
    spines = [w for w in both.wires if w.id.startswith("spine")]
    was = next(w for w in alone.wires if w.id == "spine")
    assert len(spines) == 2 and all(w.holds == 1 and w.strands == 2 for w in spines)
    for wire in spines:
        assert wire.needed_mm == pytest.approx(was.needed_mm / 2 ** (1 / 3), rel=0.01)
        assert wire.path_mm == pytest.approx(was.path_mm, rel=1e-6)
        assert wire.takeup_mm == pytest.approx(0.06 * wire.path_mm, rel=1e-6)
    assert next(n for n in both.notices if n.code == "stock:spine").answer == "second-strand"
    # Legs need more than two of the stoutest: there it is no way out.
    legs = next(n for n in alone.open_questions if n.code == "stock:legs")
    assert "second-strand" not in {option.id for option in legs.options}


def test_peg_is_cut_and_wire_led_through_bears_as_much(bench: Bench, badger: Document) -> None:
    for answer in ("peg", "wire"):
        plan = make_plan(badger.figure, badger.brief.answered("join:head", answer), bench)
        join = next(j for j in plan.joins if j.part == "head")
        assert join.kind == answer and join.holds and join.was_kpa < join.stress_kpa
        assert not any(n.code == "join:head" and n.is_open for n in plan.notices)
    pegged = make_plan(badger.figure, badger.brief.answered("join:head", "peg"), bench)
    peg = next(w for w in pegged.wires if w.id == "peg-head")
    assert peg.cut_mm == pytest.approx(30.0) and peg.path_mm == 0
    keys = [step.key for step in pegged.steps]
    assert keys.index("cut:peg-head") < keys.index("join:head") and keys.index(
        "peg:head"
    ) < keys.index("join:head")
    led = make_plan(badger.figure, badger.brief.answered("join:head", "wire"), bench)
    assert any(run.b == "head-heart" for w in led.wires for run in w.stretches)
    assert led.part("head").made == "on wire"


def test_splices_keep_off_bends_and_pieces_are_fewest() -> None:
    rng = random.Random(2)
    for _ in range(200):
        marks = sorted(rng.uniform(0, 1500) for _ in range(rng.randrange(1, 12)))
        free = list(itertools.pairwise([0.0, *marks, 1500.0]))
        pieces, splices = pieces_of(1500.0, free, 400.0)
        assert len(splices) == len(pieces) - 1 and all(p.mm <= 400 + 1e-9 for p in pieces)
        for before, after in itertools.pairwise(pieces):
            assert before.end_mm - after.start_mm == pytest.approx(SPLICE_MM)
            if before.clear:
                assert not any(after.start_mm < mark < before.end_mm for mark in marks)
        assert len(pieces) >= math.ceil((1500 - SPLICE_MM) / (400 - SPLICE_MM) - 1e-9)
        if all(b - a > 420 for a, b in free):
            assert len(pieces) == math.ceil((1500 - SPLICE_MM) / (400 - SPLICE_MM))


def test_few_pieces_tried_every_way_agree_with_solver() -> None:
    rng = random.Random(6)
    for _ in range(40):
        mm = sorted(
            {float(rng.randrange(40, 290)) for _ in range(rng.randrange(2, 6))}, reverse=True
        )
        problem = (
            tuple(mm), tuple(1 for _ in mm),
            ((300.0, rng.randrange(0, 4), 300.0), (rng.uniform(60, 250), 1, 90.0)),
            rng.choice([0.0, 500.0]), rng.choice([0.0, 300.0]),
        )  # fmt: skip
        costs = []
        for patterns, coil, new in (search_all_cuts(*problem), solve_cutting(*problem)):
            price = [*[b[2] for b in problem[2]], problem[4] * 1000]
            cost = sum(price[i] for i, _ in patterns) + sum(
                a * n for a, n in zip(mm, coil, strict=True)
            )
            costs.append(cost + 1000 * sum(a * n for a, n in zip(mm, new, strict=True)))
        assert costs[0] == pytest.approx(costs[1], rel=1e-6)


def test_fewest_stems_are_opened_and_offcuts_used_first() -> None:
    stem = WireStock(
        id="stem",
        name="Stem",
        metal="soft steel",
        diameter=0.5,
        cores=2,
        form="stem",
        length=300,
        count=4,
    )
    end = WireStock(
        id="end", name="End", metal="soft steel", diameter=0.5, cores=2, form="offcut", length=150
    )
    cuts = [140, 200, 200, 200, 100, 100, 100, 90, 90, 90]
    pieces = [StockPiece("soft steel", 0.5, 2, float(mm), f"w{i}") for i, mm in enumerate(cuts)]
    plan = cutting_plan(pieces, (stem, end))
    assert sorted(mm for cut in plan for mm in cut.cuts) == sorted(cuts)
    assert all(sum(cut.cuts) + cut.waste_mm == pytest.approx(cut.length_mm) for cut in plan)
    # 1,310 mm: 140 in the end, three of 200 + 100, three of 90 in a fourth stem. None to buy.
    assert sorted(cut.form for cut in plan) == ["offcut", *["stem"] * 4] and not any(
        c.to_buy for c in plan
    )
    more = cutting_plan(pieces * 2, (stem, end))
    assert sum(cut.to_buy for cut in more) == 5 and {c.length_mm for c in more if c.to_buy} == {300}


def test_drawn_wires_that_are_bound_to_nothing_are_told(bench: Bench, badger: Document) -> None:
    figure = badger.figure
    loose = figure.replaced(wires=tuple(wire.replaced(binds=()) for wire in figure.wires))
    told = {n.code for n in plan_with(loose, 220.0, bench).notices if n.code.startswith("loose:")}
    assert told == {"loose:legs", "loose:arms"}
    for school in SCHOOLS:
        notices = plan_with(figure, 220.0, bench, school).notices
        assert not [n for n in notices if n.code.startswith(("loose:", "strands:"))]


def test_stems_that_have_run_out_are_bought_as_stems() -> None:
    kind = {"metal": "soft steel", "diameter": 0.5, "cores": 2}
    none = WireStock(id="stem", name="Stem", form="stem", length=300, count=0, **kind)
    pieces = [StockPiece("soft steel", 0.5, 2, 140.0, f"w{i}") for i in range(3)]
    plan = cutting_plan(pieces, (none,))
    assert [(c.form, c.length_mm, c.to_buy) for c in plan] == [("stem", 300, True)] * 2


def test_one_strand_less_is_offered_only_where_routes_can_follow(bench: Bench) -> None:
    figure = arm_on_post(length=60.0, diameter=9.0)
    twice = figure.replaced(bones=tuple(bone.replaced(strands=2) for bone in figure.bones))
    for school, offered in (("drawn", False), ("stems", True)):
        plan = plan_with(twice, 30.0, bench, school)
        question = next(n for n in plan.notices if n.code == "thin-limb:arm")
        assert ("fewer-strands" in {o.id for o in question.options}) is offered
    answered = plan_with(twice, 30.0, bench, "stems", answers={"thin-limb:arm": "fewer-strands"})
    # It is done, and what is still wrong is said.
    assert all(b.strands == 1 for b in answered.bones if b.part == "arm")
    told = next(n for n in answered.notices if n.code == "thin-limb:arm")
    still = answered.part("arm").to_mm["thickness"] < answered.wires[0].diameter_mm + 5
    assert ("Even then" in said(told.text)) is still


def test_wire_by_metre_runs_out_in_metres(bench: Bench) -> None:
    coil = WireStock(id="c", name="Coil", metal="soft copper", diameter=1, length=1000)
    pieces = [StockPiece("soft copper", 1.0, 1, 300.0, "w") for _ in range(5)]
    have, buy = cutting_plan(pieces, (coil,))
    assert (have.length_mm, have.to_buy, buy.length_mm, buy.to_buy) == (900, False, 600, True)
    plan = make_plan(load_demo().figure, Brief(height=220, answers={"gauge:legs": "2.5"}), bench)
    (legs,) = (w for w in plan.wires if w.id == "legs")
    assert legs.diameter_mm == 2.5
    assert any(
        n.code.startswith("buy-wire:") and f"{legs.cut_mm:.0f} mm" in said(n.text)
        for n in plan.notices
    )
