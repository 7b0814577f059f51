"""What a plan judges of joins, bones, hard cores, balance and faces, against its own numbers by hand."""

from __future__ import annotations

import itertools
from pathlib import Path

import pytest

from bambola.core.armature.gauge import capacity_nmm
from bambola.core.bench import Bench
from bambola.core.facts import NOTHING, Fact, Holds
from bambola.core.figure import Brief, Datum, Fitting, Part, Piece, Seat
from bambola.core.methods import sheet_for
from bambola.core.plan import make_plan
from bambola.core.plan.counter.weighing import weighings
from bambola.core.plan.reading.faces import face_advice
from bambola.demo import BADGER, HERON, TOAD, load_demo
from tests.effort import some
from tests.figures import arm_on_post, ball, figure_of, one_ball
from tests.said import said

KPA = {"fringe": 4.0, "patch": 10.0, "scarf": 10.0, "peg": 40.0, "wire": 40.0}


def held(fact: Fact) -> list[float]:
    """Every “times over” in a fact, however deep."""
    found = []
    for _, slot in fact.slots:
        if isinstance(slot, Holds):
            found.append(slot.value)
        for one in slot if isinstance(slot, tuple) else (slot,):
            if isinstance(one, Fact):
                found += held(one)
    return found


@pytest.mark.parametrize("height", [64.0, 72.0, 200.0, 320.0, 500.0])
def test_weak_join_says_how_often_it_holds_and_what_would(height: float, bench: Bench) -> None:
    body, head = one_ball(40).parts[0], Part(
        id="head", name="Head", parent="body", core="core-batt", shape=ball(30), seat=Seat(sink=0.3)
    )  # fmt: skip
    plan = make_plan(figure_of(body, head), Brief(height=height), bench)
    (join,) = plan.joins
    (notice,) = (n for n in plan.notices if n.code == "join:head")
    assert join.stress_kpa > KPA["fringe"]  # they hardly touch
    stronger = {str(option.id): option for option in notice.options if option.id != "leave"}
    assert ("peg" in stronger) == (join.stress_kpa <= KPA["peg"])
    for kind, option in stronger.items():
        assert KPA[kind] >= join.stress_kpa
        assert all(h == pytest.approx(KPA[kind] / join.stress_kpa) for h in held(option.effect))
    # Of what it is now, and of what it was.
    told = held(notice.text)
    assert told[0] == pytest.approx(KPA["fringe"] / join.stress_kpa)
    grown = join.stress_kpa > 1.05 * join.was_kpa
    assert len(told) == 1 + grown
    if grown:
        assert told[1] == pytest.approx(KPA["fringe"] / join.was_kpa)


@pytest.mark.parametrize("path", [BADGER, HERON], ids=lambda path: path.stem)
@pytest.mark.parametrize("share", [0.7, 1.0, 2.0])
def test_bone_bears_what_its_wires_do(path: Path, share: float, bench: Bench) -> None:
    document = load_demo(path)
    made = make_plan(document.figure, document.brief.as_made(), bench)
    plan = make_plan(document.figure, document.brief.at_height(made.from_height_mm * share), bench)
    bears: dict[frozenset[str], float] = {}
    for wire in plan.resized.figure.wires:
        gauge = plan.gauges[wire.id]
        for leg in itertools.pairwise(wire.route):
            each = capacity_nmm(gauge.metal, gauge.diameter, gauge.cores)
            bears[frozenset(leg)] = bears.get(frozenset(leg), 0.0) + each
    was = {frozenset((b.a, b.b)): b.design_nmm for b in made.bones}
    assert len(plan.bones) > 4
    for bone in plan.bones:
        pair = frozenset((bone.a, bone.b))
        assert bone.bears_nmm == pytest.approx(bears.get(pair, 0.0))
        if was[pair] > 1e-9:
            grown = bone.design_nmm / was[pair] / plan.scale**4
            assert bone.beyond_s4_pct == pytest.approx((grown - 1) * 100, abs=1e-3)


def test_what_was_stays_what_it_was_whatever_is_answered(bench: Bench) -> None:
    """As made the badger's head held 1.4 times over; once a peg was chosen, it was told to have held 14."""
    demo = load_demo(BADGER)
    for answer in (None, "scarf", "peg"):
        brief = demo.brief.at_height(320.0).answered("join:head", answer)
        notices = make_plan(demo.figure, brief, bench).notices
        told = next(said(n.text) for n in notices if n.code == "join:head")
        assert "The original join held 1.4 times over" in told, answer


def test_bone_without_wire_bears_nothing(bench: Bench) -> None:
    figure = arm_on_post()
    only = figure.wires[0].replaced(route=("heart", "shoulder"))
    plan = make_plan(figure.replaced(wires=(only,)), Brief(), bench)
    free = next(b for b in plan.bones if {b.a, b.b} == {"shoulder", "hand"})
    assert free.bears_nmm == 0.0 and free.strands == 0


@pytest.mark.parametrize(("hard", "over"), [(37.0, 1.5), (35.5, 2.25), (39.5, 0.25), (34.8, None)])
def test_wool_over_hard_core_is_half_of_what_is_left(
    hard: float, over: float | None, bench: Bench
) -> None:
    core = Fitting(
        id="cork", name="Cork", kind="core", part="body", seat=Seat(along=0.5), size=hard,
        follows="hold", pieces=(Piece(shape=ball(hard)),),
    )  # fmt: skip
    nose = core.replaced(id="nose", name="Nose", kind="nose", size=39.0)
    figure = one_ball(40.0).replaced(fittings=(core, nose))
    found = [n for n in make_plan(figure, Brief(), bench).notices if n.code.startswith("hard-core")]
    if over is None:
        assert not found
        return
    (notice,) = found
    assert notice.code == "hard-core:cork"
    assert dict(notice.text.slots)["over"].value == pytest.approx(over)  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("answer", "core_mm", "body_mm"),
    [
        (None, 23.0, 28.0), ("smaller-core", 23.0, 28.0), ("larger-part", 30.0, 35.0),
        ("no-core", None, 28.0),
    ],
)  # fmt: skip
def test_too_large_hard_core_asks_and_keeps_wool(
    answer: str | None, core_mm: float | None, body_mm: float, bench: Bench
) -> None:
    """A bauble of 30 mm stays what it is when its ball of 40 becomes one of 28: the step had no amount."""
    core = Fitting(
        id="bauble", name="Bauble", kind="core", part="body", seat=Seat(along=0.5), size=30.0,
        follows="hold", pieces=(Piece(shape=ball(30.0)),),
    )  # fmt: skip
    figure = figure_of(
        Part(id="body", name="Body", shape=ball(40.0), core="core-batt"),
        Part(id="post", name="Post", shape=ball(40.0), core="core-batt", parent="body"),
        fittings=(core,), datum=Datum(part="post"),
    )  # fmt: skip
    brief = Brief(height=56.0).answered("hard-core:bauble", answer)
    plan = make_plan(figure, brief, bench)
    (notice,) = [n for n in plan.notices if n.code == "hard-core:bauble"]
    assert (notice.level, notice.answer, len(notice.options)) == ("choose", answer, 3)
    assert [f.use_mm for f in plan.fittings] == ([core_mm] if core_mm else [])
    assert min(plan.part("body").to_mm.values()) == pytest.approx(body_mm)
    assert plan.solids.placement.height == pytest.approx(56.0)
    for step in plan.steps:
        if step.key.sort == "core":
            assert sum(p.take_g * share for p, share in plan.laid_by(step)) > 0.001, step.key
            assert sheet_for(plan, step, bench).card.amount is not NOTHING, step.key


@pytest.mark.parametrize("wished", [0.0, 8.0, 12.0, 25.0])
@pytest.mark.parametrize("path", [BADGER, HERON, TOAD], ids=lambda path: path.stem)
def test_remedies_are_sought_for_what_tips_sooner_than_it_should(
    path: Path, wished: float, bench: Bench
) -> None:
    document = load_demo(path)
    plan = make_plan(document.figure, document.brief.replaced(steady=wished), bench)
    balance = plan.balance
    told = [n for n in plan.notices if n.code == "standing"]
    falls_short = balance.tip_angle_deg < max(wished, 8.0)
    assert bool(told) == (falls_short or not balance.stands)
    assert falls_short or not balance.remedies
    for notice in told:
        nudge = balance.stands and balance.tip_angle_deg < 8.0
        assert (notice.level == "stop") == (not balance.stands)
        assert (notice.title.kind == "standing.nudge") == nudge


def test_face_says_less_when_small_and_wants_more_when_large() -> None:
    for scale in (0.3, 0.75):
        assert face_advice(scale) == Fact("face.smaller")
    for scale in (0.76, 1.0, 1.49):
        assert face_advice(scale) is None
    for scale in (1.5, 4.0):
        assert face_advice(scale) == Fact("face.bigger")


@pytest.mark.parametrize("path", some([BADGER, HERON], 1), ids=lambda path: path.stem)
def test_small_figure_is_offered_folded_wire(path: Path, bench: Bench) -> None:
    document = load_demo(path)
    small_one = document.figure.replaced(
        parts=tuple(p.replaced(shape=p.shape.scaled(0.3)) for p in document.figure.parts)
    )
    for figure in (document.figure, small_one):
        made = make_plan(figure, document.brief.as_made(), bench).from_height_mm
        for height in (119.0, 120.0, 200.0):
            plan = make_plan(figure, document.brief.at_height(height), bench)
            offered = any(n.code.startswith("folding") for n in plan.notices)
            assert offered == (height < 120.0 <= made), (made, height)


@pytest.mark.parametrize("path", [BADGER, HERON, TOAD], ids=lambda path: path.stem)
def test_weighings_go_by_colour_heaviest_first(path: Path, bench: Bench) -> None:
    document = load_demo(path)
    plan = make_plan(document.figure, document.brief, bench)
    grams: dict[str, float] = {}
    for part in plan.parts:
        for portion in part.portions:
            grams[portion.wool] = grams.get(portion.wool, 0.0) + portion.grams * part.count
    order = [wool for wool, _ in itertools.groupby(w.portion.wool for w in weighings(plan))]
    assert order == sorted(grams, key=lambda wool: -grams[wool])
