"""What measures mean: the weighed original, the weightiest measures, and what does not go together."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench, with_wools_of
from bambola.core.facts import Fact, RefusedError
from bambola.core.figure import (
    Ball,
    Brief,
    Document,
    Figure,
    Framing,
    Landmark,
    Part,
    Sausage,
    Seat,
    Survey,
    Taken,
    load_document,
)
from bambola.core.figure.additions import (
    likely_eye,
    with_eyes,
    with_mark,
    with_wire,
    without_wire,
)
from bambola.core.figure.document import dump_document
from bambola.core.figure.graft import (
    check_figure,
    descendants,
    free_id,
    graft_part,
    reparent,
    with_part,
    with_place,
    without_part,
)
from bambola.core.figure.model import Node
from bambola.core.figure.survey import DOUBT
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.reading.checks import (
    FramedSilhouette,
    find_doubts,
    nearest_firmness,
    weigh_original,
)
from bambola.core.plan.reading.round import Effect, _size_slopes, doubt_of_total, measures_by_effect
from bambola.core.plan.reading.starting import start_from, start_from_pictures
from bambola.core.plan.reading.typed_height import with_typed_height
from bambola.core.resize import ResizeError
from bambola.core.sight.profile import by_hand
from bambola.core.sight.silhouette import Silhouette
from bambola.core.solids import place
from bambola.core.solids.edit import stretch_part
from bambola.demo import HERON, TOAD, load_demo
from bambola.shipped import body_plans
from tests.effort import THOROUGH, some
from tests.figures import ball, figure_of, figures, one_ball, patch
from tests.said import refused, said

PLANS = {plan.figure.id: plan for plan in body_plans()}


def as_made(figure: Figure, bench: Bench) -> Plan:
    return make_plan(figure, Brief(), bench)


def mass(figure: Figure, bench: Bench) -> float:
    plan = as_made(figure, bench)
    fittings = sum(row.count * row.mass_g for row in plan.fittings)
    return plan.wool_g + sum(w.grams for w in plan.wires) + fittings


# The original on the scale


@pytest.mark.parametrize("name", ["badger", "heron", "toad"])
def test_expected_weight_confirms_drawn_firmness(name: str, badger: Document, bench: Bench) -> None:
    figure = {
        "badger": badger.figure,
        "heron": load_demo(HERON).figure,
        "toad": load_demo(TOAD).figure,
    }[name]
    found = weigh_original(figure, mass(figure, bench), bench)
    assert found.expected_g == pytest.approx(found.weight_g, rel=1e-9)
    assert found.figure is not None and found.figure.packing == pytest.approx(1.0, abs=1e-6)
    assert found.believable


@pytest.mark.parametrize("heavier", [0.75, 1.3])
def test_offered_figure_weighs_what_original_weighs(
    heavier: float, badger: Document, bench: Bench
) -> None:
    grams = mass(badger.figure, bench) * heavier
    found = weigh_original(badger.figure, grams, bench)
    assert found.figure is not None
    assert mass(found.figure, bench) == pytest.approx(grams, rel=1e-6)
    assert found.firmness == ("soft" if heavier < 1 else "firm")


def test_ball_of_wool_against_closed_form(bench: Bench) -> None:
    figure = one_ball(50.0)
    volume = np.pi / 6 * 5.0**3
    found = weigh_original(figure, 0.16 * volume, bench)
    assert found.density == pytest.approx(0.16, rel=0.005) and found.firmness == "firm"
    assert found.figure is not None and found.figure.by_id["body"].firmness == "firm"
    assert found.figure.packing == pytest.approx(0.16 / 0.15, rel=0.005)
    assert found.as_fact == Fact("weight.firmness", (("firmness", Fact("firmness.firm")),))


@pytest.mark.parametrize(
    ("density", "says"), [(0.03, "looser than soft"), (0.5, "harder than hard")]
)
def test_weight_no_wool_can_have_is_called_wrong(density: float, says: str, bench: Bench) -> None:
    found = weigh_original(one_ball(50.0), density * np.pi / 6 * 5.0**3, bench)
    assert (
        not found.believable and says in said(found.as_fact) and "is wrong" in said(found.as_fact)
    )


def test_weight_below_what_wire_weighs_is_refused_in_words(badger: Document, bench: Bench) -> None:
    found = weigh_original(badger.figure, 0.5, bench)
    assert found.figure is None and "cannot have these measures" in said(found.as_fact)


@given(st.floats(0.05, 0.3))
def test_nearest_firmness_is_nearest_by_ratio(density: float) -> None:
    from bambola.core.bench.wools import PACKED_DENSITY

    best = nearest_firmness(density)
    ratio = max(density / PACKED_DENSITY[best], PACKED_DENSITY[best] / density)
    assert all(ratio <= max(density / d, d / density) + 1e-12 for d in PACKED_DENSITY.values())


def test_denser_figure_takes_more_wool(badger: Document, bench: Bench) -> None:
    denser = badger.figure.replaced(packing=1.25)
    light, heavy = as_made(badger.figure, bench), as_made(denser, bench)
    cape = [p.part("cape").grams for p in (light, heavy)]
    assert cape[1] / cape[0] == pytest.approx(1.25, rel=0.02)
    again = load_document(dump_document(denser, Brief()), "file")
    assert again.figure == denser


# The guided round


def test_weightiest_measures_come_first_and_their_effect_is_real(
    badger: Document, bench: Bench
) -> None:
    plan = as_made(badger.figure, bench)
    found = measures_by_effect(badger.figure, plan, Survey())
    assert found[0].part in ("head", "body") and all(e.is_missing for e in found)
    assert [e.grams for e in found] == sorted((e.grams for e in found), reverse=True)
    for effect in found[: 6 if THOROUGH else 3]:
        share = DOUBT["plan"]
        larger = stretch_part(badger.figure, effect.part, {effect.measure: effect.mm * (1 + share)})
        smaller = stretch_part(
            badger.figure, effect.part, {effect.measure: effect.mm * (1 - share)}
        )
        change = (as_made(larger, bench).wool_g - as_made(smaller, bench).wool_g) / 2
        assert effect.grams == pytest.approx(change, rel=0.45), (effect.part, effect.measure)


def test_measure_taken_moves_down_round_and_narrows_total(badger: Document, bench: Bench) -> None:
    plan = as_made(badger.figure, bench)
    before = measures_by_effect(badger.figure, plan, Survey())
    first = before[0]
    survey = Survey().with_readings(
        Taken(part=first.part, measure=first.measure, mm=first.mm, how="caliper")
    )
    after = measures_by_effect(badger.figure, plan, survey)
    assert after[0] != first and (after[0].part, after[0].measure) == (
        before[1].part,
        before[1].measure,
    )
    taken = next(e for e in after if (e.part, e.measure) == (first.part, first.measure))
    assert taken.grams == pytest.approx(first.grams * DOUBT["caliper"] / DOUBT["plan"])
    assert doubt_of_total(after) < doubt_of_total(before)


def test_doubt_of_total_adds_independent_measures() -> None:
    three, four = (Effect("head", "width", 40.0, "girth", grams) for grams in (3.0, 4.0))
    assert doubt_of_total((three, four)) == pytest.approx(5.0) and doubt_of_total(()) == 0.0


def test_weight_of_measure_is_its_wool_at_risk(bench: Bench) -> None:
    (plan_, survey) = as_made(one_ball(40.0), bench), Survey()
    grams = plan_.part("body").grams
    for effect in measures_by_effect(
        one_ball(40.0), plan_, survey
    ):  # a ball's volume goes with each of its three sides
        assert effect.grams == pytest.approx(grams * DOUBT["plan"], rel=2e-3)
    # Of two equal balls that share a lens as high as half a radius on each side a quarter is covered.
    second = Part(id="second", name="Second", parent="body", shape=ball(40.0), core="core-batt",
                  seat=Seat(along=1.0, out=0.0, sink=20.0))  # fmt: skip
    figure = figure_of(one_ball(40.0).parts[0], second)
    plan_ = as_made(figure, bench)
    rows = {(e.part, e.measure): e for e in measures_by_effect(figure, plan_, survey)}
    first = plan_.part("body")
    assert first.exposed_cm2 == pytest.approx(0.75 * 4 * np.pi * 2**2, rel=0.01)
    assert rows["body", "width"].grams == pytest.approx(
        first.grams * (1 + 0.75) / 2 * DOUBT["plan"], rel=0.01
    )


def test_slopes_of_shape_sum_up_to_its_dimensions() -> None:
    for shape in (
        ball(30.0),
        Ball(width=20.0, depth=30.0, height=50.0),
        Sausage(length=60.0, diameter=20.0),
    ):
        *_, slopes = _size_slopes(shape)
        assert sum(volume for volume, _ in slopes) == pytest.approx(3.0, abs=0.01)
        assert sum(area for _, area in slopes) == pytest.approx(2.0, abs=0.01)


def test_figure_from_pictures_begins_as_egg_with_core_and_coat(bench: Bench) -> None:
    (body,) = start_from_pictures(100.0, bench, "New", "Body").parts
    assert body.shape == Ball(width=60.0, depth=60.0, height=100.0)
    assert body.coat is not None
    forms = {wool.id: wool.form for wool in bench.wools}
    assert forms[body.core] == "core" and forms[str(body.coat.wool)] != "core"


def test_every_measure_of_every_part_is_in_round(bench: Bench) -> None:
    figure = load_demo(HERON).figure
    found = measures_by_effect(figure, as_made(figure, bench), Survey())
    assert {(e.part, e.measure) for e in found} == {
        (p.id, name) for p in figure.parts for name in p.shape.measure_names
    }


# Cross-checks


def doubts(figure: Figure, bench: Bench, survey: Survey = Survey()) -> dict[str, str]:  # noqa: B008
    return {
        d.code: said(d.text) for d in find_doubts(figure, as_made(figure, bench), survey, bench)
    }


@pytest.mark.parametrize("name", sorted(PLANS))
def test_body_plan_gives_no_cause_for_doubt(name: str, bench: Bench) -> None:
    assert not doubts(PLANS[name].figure, bench)


def test_demo_figures_give_no_cause_for_doubt(badger: Document, bench: Bench) -> None:
    for figure in (badger.figure, load_demo(HERON).figure, load_demo(TOAD).figure):
        assert not doubts(figure, bench)


def test_stacked_heights_are_held_against_total(bench: Bench) -> None:
    figure = load_demo(HERON).figure
    assert not doubts(figure, bench, Survey(height=305.0))
    said = doubts(figure, bench, Survey(height=330.0))["height"]
    assert "300 mm" in said and "330 mm" in said and "30 mm less" in said
    post = Part(
        id="post",
        name="Post",
        parent="body",
        shape=ball(60.0),
        core="core-batt",
        seat=Seat(along=1.0),
    )
    tall = figure_of(one_ball(20.0).parts[0], post)
    made = as_made(tall, bench)
    (doubt,) = (
        d for d in find_doubts(tall, made, Survey(height=200.0), bench) if d.code == "height"
    )
    assert doubt.part == "post"  # it is asked of what is tallest


@pytest.mark.parametrize(
    "name", [p.figure.name for p in body_plans() if p.figure.name != "Fish or whale"]
)
def test_typed_height_stays_when_sizes_are_corrected(name: str) -> None:
    figure = next(p.figure for p in body_plans() if p.figure.name == name)
    survey = Survey(height=place(figure).height)
    largest = sorted(figure.parts, key=lambda p: -max(p.shape.measures().values()))
    for part in largest[:5]:
        larger = {n: mm * 1.12 for n, mm in part.shape.measures().items()}
        figure = with_typed_height(figure, stretch_part(figure, part.id, larger), survey)
        assert figure.by_id[part.id].shape.measures() == pytest.approx(larger)
    assert place(figure).height == pytest.approx(survey.height, abs=0.1)


def test_height_that_was_not_met_before_is_left_alone() -> None:
    figure = load_demo(HERON).figure
    taller = stretch_part(figure, "leg", {"length": 130.0})
    assert with_typed_height(figure, taller, Survey(height=200.0)) == taller
    assert with_typed_height(figure, taller, Survey()) == taller


def test_landmarks_that_disagree_are_named(bench: Bench) -> None:
    figure = load_demo(HERON).figure
    survey = Survey(height=300.0).marked(Landmark(name="Chin", view="front", at=(0, 270)))
    assert not doubts(figure, bench, survey.marked(Landmark(name="Chin", view="side", at=(0, 275))))
    said = doubts(figure, bench, survey.marked(Landmark(name="Chin", view="side", at=(0, 281))))
    (text,) = said.values()
    assert text.startswith("Chin is 270 mm up in the front picture and 281 mm") and text.endswith(
        "?"
    )


def test_left_is_held_against_right(bench: Bench) -> None:
    figure = load_demo(TOAD).figure
    survey = Survey().traced(by_hand("thigh", "front", [(20, 20), (30, 5)], 9.0))
    even = survey.traced(by_hand("thigh", "front", [(-20, 20), (-30, 5)], 9.3))
    assert not doubts(figure, bench, even)
    odd = survey.traced(by_hand("thigh", "front", [(-20, 20), (-30, 5)], 10.5))
    assert "one is 9 mm thick, the other 10.5 mm" in doubts(figure, bench, odd)["pair:thigh"]


def test_part_that_hangs_in_air_is_found(bench: Bench) -> None:
    tail = Part(
        id="tail",
        name="Tail",
        parent="body",
        shape=ball(12),
        seat=Seat(along=0.5, sink=-30),
        core="core-batt",
    )
    figure = figure_of(one_ball(40).parts[0], tail)
    assert doubts(figure, bench)["apart:tail"].startswith("Tail does not touch body")


def test_limb_thinner_than_its_wire_is_found(bench: Bench) -> None:
    figure = load_demo(HERON).figure
    said = doubts(stretch_part(figure, "leg", {"thickness": 6.0}), bench)
    assert "wire:leg" in said and "thinner than its wire" in said["wire:leg"]


def test_eyes_larger_than_their_face_are_found(bench: Bench) -> None:
    figure = with_eyes(one_ball(12.0), "body", 0.6, 25.0, 8.0, "Eyes")
    assert "do not fit on body" in doubts(figure, bench)["eye:eye"]
    flat = Part(
        id="body", name="Body", shape=Ball(width=10.0, depth=40.0, height=40.0), core="core-batt"
    )
    assert "eye:eye" in doubts(with_eyes(figure_of(flat), "body", 0.6, 25.0, 8.0, "Eyes"), bench)


def test_weight_that_does_not_go_with_measures_is_found(badger: Document, bench: Bench) -> None:
    grams = mass(badger.figure, bench)
    assert not doubts(badger.figure, bench, Survey(weight=grams * 1.1))
    assert "would weigh" in doubts(badger.figure, bench, Survey(weight=grams * 1.4))["weight"]
    assert "is wrong" in doubts(badger.figure, bench, Survey(weight=grams * 4))["weight"]


def test_part_outside_silhouette_is_found(bench: Bench) -> None:
    figure = one_ball(40.0)
    # Separated at the picture's own size or at half; it may lie a millimetre and a half beside.
    for shift, half, outside in (
        (0, 1, False), (60, 1, True), (0, 2, False), (60, 2, True), (4, 2, False), (16, 2, True),
    ):  # fmt: skip
        y, x = np.mgrid[0 : 200 // half, 0 : 200 // half] * half
        felt = ((x - 100 - shift) ** 2 + (y - 100) ** 2 <= 80**2).astype(np.float32)
        framing = Framing(
            view="front", picture="a", width=200, height=200, ground=180, midline=100, mm_px=0.25
        )
        seen = {
            "front": FramedSilhouette(framing, Silhouette(felt, np.ones_like(felt), 1 / half, 1.0))
        }
        found = find_doubts(figure, as_made(figure, bench), Survey().framed(framing), bench, seen)  # type: ignore[arg-type]
        assert any(d.code == "outside:body:front" and d.view == "front" for d in found) == outside


# Body plans


@pytest.mark.parametrize(
    ("name", "factor"),
    [
        (name, factor)
        for n, name in enumerate(sorted(PLANS))
        for factor in ((0.5, 1.0, 2.0) if THOROUGH else ((0.5, 2.0)[n % 2],))
    ],
)
def test_every_body_plan_plans_without_stop(name: str, factor: float, bench: Bench) -> None:
    plan = PLANS[name]
    height = place(plan.figure).height * factor
    figure = start_from(plan, height, {}, bench)
    for asked in (Brief(), Brief(height=height)):
        made = make_plan(figure, asked, bench)
        assert not [n.code for n in made.notices if n.level == "stop"]
        assert made.to_height_mm == pytest.approx(height, rel=1e-6)


@pytest.mark.parametrize("name", sorted(PLANS))
def test_every_proportion_of_plan_changes_it_and_can_be_made(name: str, bench: Bench) -> None:
    plan = PLANS[name]
    height = place(plan.figure).height
    assert 3 <= len(plan.proportions) <= 6
    for i, proportion in some(tuple(enumerate(plan.proportions)), 3):
        ends = (proportion.low, proportion.high)
        for factor in ends if THOROUGH else ends[(i + 1) % 2 :][:1]:
            figure = start_from(plan, height, {proportion.id: factor}, bench)
            assert place(figure).height == pytest.approx(height, rel=1e-4)
            stretch = proportion.stretches[0]
            measure = stretch.measure if stretch.measure != "all" else figure.by_id[
                stretch.part].shape.measure_names[0]  # fmt: skip
            was = plan.figure.by_id[stretch.part].shape.measures()[measure] / height
            now = figure.by_id[stretch.part].shape.measures()[measure] / height
            assert (now > was) == (factor > 1), (proportion.id, factor)
            if THOROUGH or (factor > 1 and proportion is plan.proportions[0]):
                assert as_made(figure, bench).wool_g > 0


def test_plans_have_layers_bones_marks_and_datum() -> None:
    for plan in PLANS.values():
        assert any(part.coat for part in plan.figure.parts) and plan.figure.marks
        assert plan.figure.datum.part and plan.figure.fittings
    assert {name for name, plan in PLANS.items() if plan.figure.wires} == {
        "two-legged-doll", "four-legged-animal", "bird", "long-haired-animal", "dressed-doll", "cub",
        "upright-animal", "wading-bird",
    }  # fmt: skip


def test_plan_out_of_reach_is_refused_in_words(bench: Bench) -> None:
    with refused(ResizeError, "it can be made from"):
        start_from(PLANS["bird"], 5000.0, {}, bench)


def test_plan_is_made_of_wools_there_are(bench: Bench) -> None:
    few = bench.replaced(wools=bench.wools[:2])
    figure = with_wools_of(PLANS["bird"].figure, few)
    have = {few.wools[0].id, few.wools[1].id}
    for part in figure.parts:
        assert part.core in have and (part.coat is None or part.coat.wool in have)
        assert all(inset.wool in have for inset in part.patches)


# Grafts and additions


@given(figures())
def test_taking_part_away_leaves_sound_figure(figure: Figure) -> None:
    part = figure.parts[1].id
    gone = descendants(figure, part)
    new = without_part(figure, part)
    assert set(new.by_id) == set(figure.by_id) - gone
    assert check_figure(new) is new
    assert all(n.part not in gone for n in new.nodes) and all(
        f.part not in gone for f in new.fittings
    )


def test_part_that_carries_all_is_not_taken_away() -> None:
    with refused(RefusedError, "cannot be removed"):
        without_part(one_ball(), "body")


def test_wire_through_part_taken_away_is_shortened() -> None:
    figure = load_demo(HERON).figure
    new = without_part(figure, "head")
    spine = next(w for w in new.wires if w.id == "spine")
    assert "skull" not in spine.route and spine.route[0] == "rump" and spine.stub is None
    assert "bill" not in new.by_id and new.datum.part is None


def test_copied_clothes_need_something_to_pass_over(badger: Document, bench: Bench) -> None:
    heron = load_demo(HERON).figure
    dressed, collar = graft_part(heron, badger.figure, "collar", "body", 0.5)
    worn, drawn = dressed.by_id[collar].garment, badger.figure.by_id["collar"].garment
    assert worn is not None and drawn is not None
    assert worn.passes == "head" and worn.opening == pytest.approx(drawn.opening / 2)
    dressed, muffler = graft_part(heron, badger.figure, "muffler", "body", 0.5)
    bought = dressed.by_id[muffler].garment
    assert bought is not None and bought.bought and bought.opening == 210.0
    assert "join:muffler" in {s.key for s in make_plan(dressed, Brief(), bench).steps}
    # A whole badger on the heron's back: its clothes go over its own head, not over the heron's.
    riding, body = graft_part(heron, badger.figure, "body", "body")
    own = next(p for p in riding.parts if p.parent == body and p.garment)
    assert own.garment is not None and riding.by_id[own.garment.passes].parent == body
    # Where nothing is so called it is only a ring.
    bare, ring = graft_part(one_ball(), badger.figure, "collar", "body")
    assert bare.by_id[ring].garment is None


def test_part_is_copied_with_all_that_sits_on_it(badger: Document, bench: Bench) -> None:
    heron = load_demo(HERON).figure
    new, part = graft_part(heron, badger.figure, "head", "body")
    assert part == "head-2" and new.by_id[part].parent == "body"
    assert new.by_id["snout"].parent == part and new.by_id["nose"].parent == "snout"
    assert {f.part for f in new.fittings if f.name == "Eyes"} == {"head", part}
    assert new.by_id[part].shape == badger.figure.by_id["head"].shape
    assert not [n for n in as_made(new, bench).notices if n.code.startswith("apart")]
    half, part = graft_part(heron, badger.figure, "ear", "head", 0.5)
    ear = badger.figure.by_id["ear"].shape.measures()
    assert half.by_id[part].shape.measures() == pytest.approx({n: mm / 2 for n, mm in ear.items()})


def test_ids_stay_their_own_and_parents_stay_sound() -> None:
    assert free_id("Left Ear!", frozenset()) == "left-ear"
    assert free_id("Ear", frozenset(["ear", "ear-2"])) == "ear-3"
    assert free_id("耳", frozenset()) == "part"
    figure = load_demo(HERON).figure
    with refused(RefusedError, "which sits on it"):
        reparent(figure, "neck", "bill", Seat())
    with refused(RefusedError, "parent"):
        with_part(figure, figure.by_id["bill"].replaced(parent="nobody"))


def test_wires_eyes_marks_and_patches_are_added(bench: Bench) -> None:
    figure = load_demo(TOAD).figure
    route = [Node(id="a", part="body", along=0.2), Node(id="b", part="body", along=0.8)]
    wired = with_wire(figure, [*route, Node(id="c", part="head", along=0.5)], "Wire")
    assert wired.wires[0].route == ("a", "b", "c") and wired.wired == {"body", "head"}
    assert make_plan(wired, Brief(), bench).wires[0].cut_mm > 0
    again = with_wire(wired, [route[1], Node(id="d", part="head", along=0.9)], "Wire")
    assert again.wires[1].binds == ("b",)
    assert not without_wire(again, "head").wires
    eyed = with_eyes(figure, "head", 0.6, 30.0, 4.0, "Eyes")
    assert with_eyes(eyed, "head", 0.5, 20.0, 9.0, "Eyes").fittings[0].size == 4.0
    assert likely_eye(ball(40)) == pytest.approx(4.0)
    marked = with_mark(with_mark(figure, "Nose", "head", 0.4, 0.0), "Nose", "head", 0.5, 0.0)
    assert [m.along for m in marked.marks if m.name == "Nose"] == [0.5]
    spot = patch("patch", "cream", outline=((-0.5, -0.5), (0.5, -0.5), (0, 0.5)))
    two, _ = with_place(with_place(figure, "head", spot)[0], "head", spot)
    assert [i.id for i in two.by_id["head"].patches][-2:] == ["patch", "patch-2"]


def test_survey_is_kept_in_file(bench: Bench) -> None:
    figure = load_demo(HERON).figure
    survey = Survey(height=300.0, weight=61.0).traced(
        by_hand("neck", "side", [(0, 180), (-9, 260)], 14.0)
    )
    survey = survey.framed(
        Framing(view="side", picture="heron.jpg", width=900, height=1200, ground=1100, midline=400)
    )
    found = load_document(dump_document(figure, Brief(), survey), "file")
    assert found.survey == survey and found.figure == figure


def test_heron_raises_its_questions_at_120_mm(bench: Bench) -> None:
    document = load_demo(HERON)
    plan = make_plan(document.figure, document.brief, bench)
    codes = {n.code for n in plan.notices}
    assert plan.to_height_mm == pytest.approx(120.0) and plan.from_height_mm == pytest.approx(300.0)
    assert {"thin-limb:leg", "standing"} <= codes
    leg = next(n for n in plan.notices if n.code == "thin-limb:leg")
    assert len(leg.options) >= 2
    made = {p.id: p.made for p in plan.parts}
    assert made["crest"] in ("in place", "detail") and made["bill"] == "in place"


def test_toad_grows_from_45_to_95_mm_without_wire(bench: Bench) -> None:
    document = load_demo(TOAD)
    plan = make_plan(document.figure, document.brief, bench)
    assert (plan.from_height_mm, plan.to_height_mm) == pytest.approx((45.0, 95.0))
    assert not plan.wires and not plan.fittings and plan.balance.stands
    assert not [n for n in plan.notices if n.level == "stop"]
