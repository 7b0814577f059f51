"""What makers do differently to the figure itself, and what a way of working is said to change."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench
from bambola.core.facts import RefusedError
from bambola.core.figure import Ball, Brief, Coat, Document, Figure, Fitting, Part, Piece, Seat
from bambola.core.figure.additions import with_core
from bambola.core.methods import StepInPlan, card_for
from bambola.core.order import CHOICE_BY_ID, CHOICES, RULE_BY_ID, Choice, sequence
from bambola.core.order.sequence import edges_of
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.differing import compare_plans, moved_steps
from bambola.core.solids.patches import stripe_mm
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans, default_bench
from tests.effort import THOROUGH, some
from tests.figures import ball, figure_of
from tests.said import said


def core_and_knob(knob: float, **more: object) -> Figure:
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    part = Part(
        id="knob", name="Knob", shape=ball(knob), core="core-batt", parent="body",
        seat=Seat(along=1.0, sink=2.0), **more,  # type: ignore[arg-type]
    )  # fmt: skip
    return figure_of(body, part)


def planned(figure: Figure, bench: Bench, **schools: str) -> Plan:
    return make_plan(figure, Brief(schools=schools), bench)


def test_firmer_felt_takes_proportionally_more_wool(bench: Bench) -> None:
    figure = core_and_knob(30.0)
    wool = bench.wool_by_id["core-batt"]
    plain, firm, soft = (
        planned(figure, bench, firmness=way).part("knob").portions[0].grams
        for way in ("as drawn", "firm", "soft")
    )
    assert firm / plain == pytest.approx(wool.density("firm") / wool.density("medium"), rel=1e-6)
    assert soft / plain == pytest.approx(wool.density("soft") / wool.density("medium"), rel=1e-6)
    # What everything sits on stays as it is drawn where others are made softer.
    body = [planned(figure, bench, firmness=way).part("body").grams for way in ("as drawn", "soft")]
    assert body[0] == pytest.approx(body[1])


def test_white_felt_of_white_core_needs_no_coat(bench: Bench) -> None:
    pale, dark = Coat(wool="cream"), Coat(wool="charcoal")
    for coat, bare in ((pale, True), (dark, False)):
        figure = core_and_knob(30.0, coat=coat)
        plan = planned(figure, bench, white="core")
        roles = {portion.role for portion in plan.part("knob").portions}
        assert ("coat" not in roles) is bare
        assert ("white" in planned(figure, bench).choices) is bare
        # It is as large as before, and the wool of the core fills it whole.
        assert plan.part("knob").to_mm == planned(figure, bench).part("knob").to_mm


def test_of_one_mass_is_what_needle_reaches_through(bench: Bench) -> None:
    # Under 8 mm it is built in place anyway; from 25 mm on a needle does not reach its middle.
    for size, usual, one in ((7.0, "in place", "in place"), (24.0, "apart", "in place"),
                             (26.0, "apart", "apart")):  # fmt: skip
        figure = core_and_knob(size)
        assert planned(figure, bench).part("knob").made == usual
        plan = planned(figure, bench, mass="one mass")
        assert plan.part("knob").made == one
        assert ("mass" in plan.choices) is (usual != one)


@pytest.mark.parametrize(
    ("way", "steps"),
    [
        ("as drawn", ["socket:eye", "fit:eye", "wait:eye"]),
        ("sewn", ["socket:eye", "fit:eye"]),
        ("felted", ["fit:eye"]),
    ],
)
def test_eyes_are_fixed_as_maker_fixes_them(
    way: str, steps: list[str], bench: Bench, badger: Document
) -> None:
    plan = make_plan(badger.figure, badger.brief.schooled("eyes", way), bench)
    assert [step.key for step in plan.steps if step.key.endswith(":eye")] == steps
    eye = next(fitting for fitting in plan.fittings if fitting.id == "eye")
    if way == "felted":  # of just the size that is wanted
        assert eye.use_mm == pytest.approx(eye.wanted_mm) and eye.mass_g == 0
    else:
        assert eye.use_mm in bench.eye_sizes
    told = said(next(step.text for step in plan.steps if step.key == "fit:eye"))
    assert told == {"as drawn": "Glue in both eyes", "sewn": "Sew on both eyes",
                    "felted": "Felt both eyes of wool"}[way]  # fmt: skip


def test_only_what_figure_has_is_to_be_chosen(bench: Bench, badger: Document) -> None:
    toad, heron = load_demo(TOAD), load_demo(HERON)
    ways = {"mass", "firmness", "white", "eyes", "fur"}
    chosen = [make_plan(d.figure, d.brief, bench).choices & ways for d in (badger, heron, toad)]
    # The badger alone has fur and stands on wire, the heron alone wears cream over its white core; the eyes
    # of the toad are wool.
    assert chosen == [
        {"firmness", "eyes", "fur"}, {"firmness", "white", "eyes"}, {"mass", "firmness"},
    ]  # fmt: skip


def test_difference_counts_steps_parts_wool_and_minutes(bench: Bench, badger: Document) -> None:
    now = make_plan(badger.figure, badger.brief, bench)

    def changed(choice: str, school: str) -> tuple[Plan, object]:
        then = make_plan(badger.figure, badger.brief.schooled(choice, school), bench)
        return then, compare_plans(now, then, CHOICE_BY_ID[choice])

    then, sewn = changed("eyes", "sewn")
    assert (sewn.gone, sewn.otherwise) == (("wait:eye",), ("socket:eye", "fit:eye"))  # type: ignore[attr-defined]
    assert not sewn.moved and not sewn.new and sewn.grams == pytest.approx(0)  # type: ignore[attr-defined]
    then, firm = changed("firmness", "firm")
    assert firm.parts >= {"head", "body"} and not firm.steps  # type: ignore[attr-defined]
    grams = [sum(p.grams * p.count for p in plan.parts) for plan in (now, then)]
    assert firm.grams == pytest.approx(grams[1] - grams[0], rel=0.02)  # type: ignore[attr-defined]
    _, fur = changed("fur", "middle")
    assert {key.partition(":")[0] for key in fur.steps} == {"fur"} and fur.parts == {"tail"}  # type: ignore[attr-defined]
    # Nothing differs from itself.
    same = compare_plans(now, now)
    assert not same.steps and not same.parts and same.grams == same.minutes == 0


def test_fewest_steps_that_explain_order_have_moved(bench: Bench, badger: Document) -> None:
    steps = make_plan(badger.figure, badger.brief, bench).steps
    one = (*steps[:3], *steps[4:20], steps[3], *steps[20:])
    assert moved_steps(steps, one) == ((steps[3].key,), ())
    assert moved_steps(steps[:-1], steps) == ((), (steps[-1].key,))
    assert moved_steps(steps, steps[:-1]) == ((), ())


def test_sewn_eye_is_not_glued_whatever_older_design_says(bench: Bench) -> None:
    eye = Fitting(
        id="eye", name="Eyes", kind="eye", part="knob", seat=Seat(along=0.6, around=20), pair=True,
        size=4.0, mass=0.2, pieces=(Piece(shape=Ball(width=4, depth=4, height=4)),), glued=True,
    )  # fmt: skip
    figure = core_and_knob(30.0).replaced(fittings=(eye,))
    assert any(step.kind == "wait" for step in planned(figure, bench).steps)
    plan = planned(figure, bench, eyes="sewn")
    assert not any(step.kind == "wait" for step in plan.steps)
    assert math.isclose(plan.balance.mass_g, planned(figure, bench).balance.mass_g, rel_tol=1e-6)


def test_wire_under_little_wool_is_taped_before_any_goes_on(bench: Bench) -> None:
    heron = load_demo(HERON)

    def keys(height: float, **schools: str) -> list[str]:
        brief = heron.brief.at_height(height).model_copy(update={"schools": schools})
        return [step.key for step in make_plan(heron.figure, brief, bench).steps]

    small = keys(120.0)
    for part in ("leg", "neck"):
        at = small.index(f"tape:{part}")
        assert at > max(small.index("bend:legs"), small.index("bend:spine")) - 2
        assert at < small.index(f"core:{part}:1")
    assert small.index("tape:leg") > small.index("bend:legs")
    # At 300 mm its neck has 13 mm of wool over the wire, and twice as high its legs have enough as well.
    assert "tape:neck" not in keys(300.0) and not any("tape" in key for key in keys(600.0))
    assert not any("tape" in key for key in keys(120.0, tape="bare"))
    assert not any("tape" in key for key in keys(120.0, **{"wire-stock": "chenille"}))


def test_skin_of_glue_and_soap_comes_last_before_last_look(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief.schooled("skin", "glue-soap"), bench)
    assert [step.key for step in plan.steps[-3:]] == ["finish", "skin", "check:stand"]
    usual = make_plan(badger.figure, badger.brief, bench)
    assert [s.key for s in plan.steps if s.key != "skin"] == [s.key for s in usual.steps]


@given(st.floats(0.2, 40.0), st.floats(1.0, 30.0))
def test_width_of_stripe_follows_from_its_area_and_edge(wide: float, times: float) -> None:
    long = wide * times
    assert stripe_mm(wide * long, 2 * (wide + long)) == pytest.approx(wide, rel=1e-6)
    assert stripe_mm(math.pi * wide**2 / 4, math.pi * wide) == pytest.approx(wide)


def test_narrow_patches_become_lines_until_they_grow(bench: Bench) -> None:
    heron = load_demo(HERON)
    brow = {}
    for height in (60.0, 120.0, 300.0):
        plan = make_plan(heron.figure, heron.brief.at_height(height), bench)
        step = next(step for step in plan.steps if step.key == "inset:head:left-brow")
        brow[height] = (said(step.text), card_for(plan, step, bench).method)
        told = [said(change.text) for change in plan.changes if change.what == "patch"]
        assert bool(told) is (height == 60.0)
    # 3.8 mm wide at 220 mm: 1 mm at 60, and 2 at 120.
    assert brow[60.0] == ("Draw the left brow on the head with a thread", "lines")
    assert brow[120.0][1] == brow[300.0][1] == "inset"


def test_hard_core_takes_no_wool_and_stops_needle(bench: Bench) -> None:
    ball_ = figure_of(Part(id="ball", name="Ball", shape=ball(60), core="core-batt"))
    cored = with_core(ball_, "ball", 36.0, "Cork")
    bare, hard = planned(ball_, bench), planned(cored, bench)
    # (60³ - 36³) / 60³ = 0.784 of the wool.
    assert hard.part("ball").grams / bare.part("ball").grams == pytest.approx(0.784, rel=2e-3)
    assert hard.balance.mass_g - hard.part("ball").grams == pytest.approx(
        0.0005 * math.pi / 6 * 36**3, rel=1e-3
    )
    keys = [step.key for step in hard.steps]
    assert keys[0] == "hard:ball" and keys[1] == "core:ball:1" and "fit:core" not in keys
    for key in keys[:3]:
        step = next(step for step in hard.steps if step.key == key)
        if key != "hard:ball" and not key.startswith("core:"):
            continue
        deepest = max(run.depth_mm for run in card_for(hard, step, bench).needles)
        assert deepest <= 12.0  # so much wool lies over it
    assert any("stops the needle" in said(care) for care in hard.steps[0].cautions)
    core = next(step for step in hard.steps if step.key == "core:ball:1")
    assert said(card_for(hard, core, bench).how[0]).startswith("Wind the rest of the wool")
    # Wool and core together fill the loose ball: its volume is that of both.
    (portion,) = (p for p in hard.part("ball").portions if p.role == "core")
    alone = math.prod(portion.loose_mm.values())
    whole = math.prod(StepInPlan(hard, core, bench).loose)
    assert whole == pytest.approx(alone + 36**3, rel=1e-9)
    # Twice as small it is hardly covered if it keeps its size.
    held = cored.replaced(fittings=tuple(f.replaced(follows="hold") for f in cored.fittings))
    small = make_plan(held, Brief(height=40.0), bench)
    (thin,) = (notice for notice in small.notices if notice.code == "hard-core:core")
    assert "2 mm of wool" in said(thin.text)
    assert not any(n.code.startswith("hard-core") for n in hard.notices)
    with pytest.raises(RefusedError):
        with_core(ball_, "ball", 60.0, "Cork")
    assert with_core(cored, "ball", 0.0, "Cork") == ball_


WORKED = {path.stem: load_demo(path) for path in (BADGER, HERON, TOAD)} | (
    {plan.figure.id: Document(figure=plan.figure) for plan in body_plans()} if THOROUGH else {}
)


def usual_plan(name: str) -> Plan:
    return make_plan(WORKED[name].figure, WORKED[name].brief, default_bench())


@pytest.mark.parametrize("choice", CHOICES, ids=lambda choice: choice.id)
def test_whatever_way_is_chosen_figure_can_be_made(choice: Choice, bench: Bench) -> None:
    figures = [name for name in WORKED if choice.id in usual_plan(name).choices]
    for name in WORKED if THOROUGH else [*figures[:1], *(n for n in WORKED if n not in figures)]:
        document, usual = WORKED[name], usual_plan(name)
        schools = choice.schools if THOROUGH or name in figures else choice.schools[-1:]
        for school in schools:
            plan = make_plan(document.figure, document.brief.schooled(choice.id, school), bench)
            where = (name, school)
            keys = [step.key for step in plan.steps]
            if school == choice.default or choice.id not in usual.choices:
                assert keys == [step.key for step in usual.steps], where
            if choice.id not in usual.choices:
                continue  # nothing to choose here
            # All hard rules are kept, every step is numbered after what it waits for, and has its card.
            assert all(before < step.n for step in plan.steps for before in step.after), where
            for edge in edges_of(plan.work, sequence(plan.work).tasks):
                rule = RULE_BY_ID[edge.rule]
                if rule.hard:
                    assert keys.index(edge.before) < keys.index(edge.after), (*where, edge)
            assert all(card_for(plan, step, bench).how for step in some(plan.steps, 12)), where
            # It is as large, and no wool is lost or made: what is laid is what the parts are made of.
            assert plan.to_height_mm == pytest.approx(usual.to_height_mm, rel=1e-6), where
            laid = sum(part.grams * part.count for part in plan.parts)
            assert sum(wool.grams for wool in plan.wools) == pytest.approx(laid, rel=0.03), where


def test_glue_wound_limb_dries_first(bench: Bench) -> None:
    heron = load_demo(HERON)
    wound = make_plan(heron.figure, heron.brief.answered("thin-limb:leg", "glue-wound"), bench)
    keys = [step.key for step in wound.steps]
    wet, dry = keys.index("core:leg:1"), keys.index("dry:leg")
    assert wet < dry < keys.index("check:ground")
    # Nothing handles the legs meanwhile; all else may go on.
    assert not any(step.part == "leg" for step in wound.steps[wet + 1 : dry])
    card = card_for(wound, wound.steps[dry], bench)
    assert card.method == "cure" and said(card.how[1]).startswith("Leave the leg alone")
    plain = [step.key for step in make_plan(heron.figure, heron.brief, bench).steps]
    assert "dry:leg" not in plain


@pytest.mark.parametrize("way", ["mass", "firmness", "white", "eyes", "fur", "tape", "skin"])
def test_way_that_is_not_known_is_not_followed(way: str, bench: Bench) -> None:
    for name, document in WORKED.items():
        usual = usual_plan(name)
        plan = make_plan(document.figure, document.brief.schooled(way, "squashy"), bench)
        assert [s.key for s in plan.steps] == [s.key for s in usual.steps]
        assert [p.grams for p in plan.parts] == [p.grams for p in usual.parts]
        assert plan.fittings == usual.fittings


def test_glue_winding_only_where_offered(bench: Bench) -> None:
    heron = load_demo(HERON)  # at 220 mm its legs are 6 mm thick: they are felted
    brief = heron.brief.at_height(220.0)
    asked = make_plan(heron.figure, brief, bench)
    plan = make_plan(heron.figure, brief.answered("thin-limb:leg", "glue-wound"), bench)
    assert next(n for n in plan.notices if n.code == "thin-limb:leg").is_open
    assert [s.key for s in plan.steps] == [s.key for s in asked.steps]


@pytest.mark.parametrize(
    ("way", "height", "first"),
    [
        ("clay", 220.0, "Roll two balls 8 mm across"),
        ("pins", 60.0, "A pin for each eye, with a head 2 mm across"),
        ("pins", 220.0, "No pin has a head that large"),
    ],
)
def test_clay_eyes_and_pin_heads_are_cut_and_glued(
    way: str, height: float, first: str, bench: Bench
) -> None:
    badger = load_demo(BADGER)
    plan = make_plan(badger.figure, badger.brief.at_height(height).schooled("eyes", way), bench)
    steps = {step.key: step for step in plan.steps}
    assert "wait:eye" in steps and "socket:eye" in steps
    card = card_for(plan, steps["pattern:eye" if way == "clay" else "fit:eye"], bench)
    told = [said(line) for line in card.how]
    assert any(line.startswith(first) for line in told), told
    # What is glued is cut to what the head is deep at most.
    head = min(plan.part("head").to_mm.values())
    (eye,) = (row for row in plan.fittings if row.id == "eye")
    deep = min(0.8 * head, 2 * eye.use_mm)
    assert any(f"{round(2 * deep) / 2:g} mm" in line for line in told), (deep, told)
    if way == "clay":  # of just the size that is wanted
        assert eye.use_mm == pytest.approx(eye.wanted_mm)
        made = steps["pattern:eye"]
        assert any("packet" in said(care) for care in made.cautions) and made.n == 1


def test_shank_longer_than_head_lets_it_is_snipped(bench: Bench) -> None:
    head = core_and_knob(20.0).parts[0].replaced(shape=Ball(width=40, depth=12, height=40))
    eyes = Fitting(
        id="eye", name="Eyes", kind="eye", part="body", seat=Seat(along=0.6, around=30.0), pair=True,
        size=10.0, glued=True, pieces=(Piece(shape=ball(10), colour="#111111"),),
    )  # fmt: skip
    plan = make_plan(
        Figure(id="f", name="F", datum={}, parts=(head,), fittings=(eyes,)), Brief(), bench
    )
    step = next(step for step in plan.steps if step.key == "fit:eye")
    told = " ".join(said(line) for line in card_for(plan, step, bench).how)
    assert "Snip each shank to no more than 9.5 mm" in told  # four fifths of 12 mm
