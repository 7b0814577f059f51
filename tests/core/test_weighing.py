"""The weigh-out list, what a coat covers, how pairs are come by, and the figure after each step."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench
from bambola.core.bench.wools import volume_of
from bambola.core.figure import Brief, Document, Figure, Part, Seat
from bambola.core.order import OrderConflictError
from bambola.core.piece.standing import course_of, standing_after
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.weighing import (
    covered_skin,
    laid_fact,
    pair_advice,
    portion_named,
    split_wishes,
    weighings,
)
from bambola.core.solids.meshes import mesh_of
from bambola.demo import HERON, load_demo
from bambola.shipped import default_bench
from tests.effort import examples
from tests.figures import ball, figure_of, figures, one_ball
from tests.said import said


def test_list_runs_colour_by_colour_with_name_for_every_copy(
    bench: Bench, badger: Document
) -> None:
    plan = make_plan(badger.figure, Brief(height=220, count=2), bench)
    every = weighings(plan)
    colours = [w.portion.wool for w in every]
    runs = [c for i, c in enumerate(colours) if i == 0 or colours[i - 1] != c]
    assert len(runs) == len(set(runs))
    titles = {said(w.title) for w in every if w.part == "leg"}
    assert titles == {"Leg, first", "Leg, second"}
    assert {said(w.title) for w in every if w.part == "body"} == {"Body"}
    for w in every:
        assert w.least_g == w.portion.take_g
        assert (w.twin is None) == (w.copy == 0)


def test_split_name_leads_back_to_its_portion(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief, bench)
    for wool in {p.wool for part in plan.parts for p in part.portions}:
        for wish in split_wishes(plan, wool, bench):
            part, portion = portion_named(plan, wish.id)
            assert portion.wool == wool and wish.count == part.count
            lost = bench.wool_by_id[wool].lost_share(portion.role)
            assert wish.grams == pytest.approx(portion.grams / (1 - lost))
    with pytest.raises(KeyError):
        portion_named(plan, "horn/core")


def test_what_coat_covers_is_its_exposed_skin(bench: Bench, badger: Document) -> None:
    own = bench.with_wool(bench.wool_by_id["woad"].replaced(cover=1.7))
    for used in (bench, own):
        plan = make_plan(badger.figure, badger.brief, used)
        for w in weighings(plan):
            found = covered_skin(plan, used, w.part, w.portion)
            if w.portion.role == "coat":
                part = plan.resized.figure.by_id[w.part]
                patches = sum(
                    p.grams / (0.016 * used.wool_by_id[p.wool].cover)
                    for p in plan.part(w.part).portions if p.role == "inset"
                )  # fmt: skip
                assert found is not None and part.coat is not None
                exposed = plan.part(w.part).exposed_cm2
                # Patches reach a little under the coat, so together they cover more than the skin.
                assert exposed - patches - 1e-6 <= found[0] <= exposed + 1e-6
                if not part.patches:
                    assert found[0] == pytest.approx(exposed, rel=1e-6)
            elif w.portion.role == "core":
                assert found is None


def test_pairs_are_come_by_as_fits_part(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief, bench)
    advice = {p.id: said(pair_advice(p, p.portions[0])) for p in plan.parts if p.portions}
    assert "one long roll" in advice["leg"] and "one long roll" in advice["arm"]
    assert "split it down" in advice["ear"] and "Weigh both" in advice["paw"]
    assert advice["body"] == "" and advice["head"] == ""
    leg = plan.part("leg")
    assert "two equal heaps" in said(
        pair_advice(leg, next(p for p in leg.portions if p.role == "coat"))
    )


@pytest.mark.parametrize("size", [(40.0, 40.0, 40.0), (60.0, 30.0, 30.0), (25.0, 40.0, 40.0)])
def test_volume_of_swatch_is_that_of_its_solid(size: tuple[float, float, float]) -> None:
    along, across, through = size
    solid = ball(1.0).resized({"height": along, "width": across, "depth": through})
    assert volume_of("ball", size) == pytest.approx(mesh_of(solid).volume / 1000, rel=2e-3)
    if along >= across:
        from bambola.core.figure import Sausage

        sausage = Sausage(length=along, diameter=across)
        assert volume_of("sausage", size) == pytest.approx(mesh_of(sausage).volume / 1000, rel=2e-3)
    assert volume_of("sheet", size) == pytest.approx(along * across * through / 1000)
    assert volume_of("cone", size) == pytest.approx(volume_of("sheet", size) * 0.2618, rel=1e-3)


def test_hidden_part_counts_with_its_surroundings() -> None:
    within = Part(
        id="within", name="Within", parent="body", shape=ball(6), core="core-batt",
        seat=Seat(along=0.5, out=0),
    )  # fmt: skip
    plan = make_plan(figure_of(*one_ball(30).parts, within), Brief(), default_bench())
    assert not [step for step in plan.steps if step.part == "within"]
    course = course_of(plan, default_bench())
    assert standing_after(course, 0).states["within"] == "to come"
    assert standing_after(course, len(plan.steps)).states["within"] == "joined"


@examples(25)
@given(figures(), st.floats(0.0, 1.0))
def test_figure_grows_step_by_step_and_ends_whole(figure: Figure, share: float) -> None:
    try:
        plan = make_plan(figure, Brief(), default_bench())
    except OrderConflictError:
        return
    rank = {"to come": 0, "made": 1, "joined": 2}
    n = round(share * len(plan.steps))
    course = course_of(plan, default_bench())
    before, after = standing_after(course, max(0, n - 1)), standing_after(course, n)
    for part in before.states:
        assert rank[before.states[part]] <= rank[after.states[part]]
    for part, state in after.states.items():
        parent = figure.by_id[part].parent
        if state == "joined" and parent is not None:
            assert after.states[parent] == "joined"
    for placement, state in ((after.joined, "joined"), (after.made, "made")):
        shown = {c.part.id for c in placement.copies} if placement else set()
        assert shown == {p for p, s in after.states.items() if s == state}
    done = {s.key for s in plan.steps[:n]}
    for copy in (
        *(after.joined.copies if after.joined else ()),
        *(after.made.copies if after.made else ()),
    ):
        drawn = figure.by_id[copy.part.id]
        coat = f"coat:{copy.part.id}"  # what is of one wool has none, and its colour from the first
        coated = coat in done or coat not in {s.key for s in plan.steps}
        assert (copy.part.coat is not None) == (drawn.coat is not None and coated)
        rows = [s.key for s in plan.steps if s.key.startswith(f"fur:{copy.part.id}:")]
        furred = done >= set(rows)  # a drawn detail has none, and is furred with it
        assert bool(copy.part.furs) == (bool(drawn.furs) and furred)
    end = standing_after(course, len(plan.steps))
    # What is left out of the steps is there with what it lies in.
    assert set(end.states.values()) == {"joined"} and end.made is None


def assert_all_is_laid(plan: Plan) -> None:
    """Every heap of every copy is laid by some step, all of it and no more."""
    laid: dict[tuple[str, str, str], float] = {}
    for step in plan.steps:
        job = plan.job_of(step)
        for portion, share in plan.laid_by(step):
            assert job is not None and step.part is not None
            key = (step.part, portion.role, portion.detail)
            laid[key] = laid.get(key, 0.0) + share * job.count
    wanted = {
        (p.id, q.role, q.detail): float(p.count)
        for p in plan.parts for q in p.heaps if q.take_g > 0
    }  # fmt: skip
    assert sorted(laid) == sorted(wanted)
    assert laid == pytest.approx(wanted)


@pytest.mark.parametrize("schools", [{}, {"limbs": "one at a time"}, {"neck": "peg"}])
def test_rounds_rows_and_limbs_share_their_portions(
    bench: Bench, badger: Document, schools: dict[str, str]
) -> None:
    heron = load_demo(HERON)
    for document, height in ((badger, 60.0), (badger, 320.0), (heron, 120.0)):
        brief = document.brief.at_height(height).replaced(schools=schools)
        assert_all_is_laid(make_plan(document.figure, brief, bench))


@examples(40)
@given(figures())
def test_every_portion_of_random_figure_is_laid(figure: Figure) -> None:
    try:
        plan = make_plan(figure, Brief(), default_bench())
    except OrderConflictError:
        return
    assert_all_is_laid(plan)


def test_step_tells_its_share_of_portion(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief.at_height(360.0), bench)
    told = {s.key: said(laid_fact(plan, s, bench)) for s in plan.steps}
    body = plan.part("body").portions[0].take_g
    assert told["core:body:1"].endswith(f" g of core batt (of {body:.0f} g)")
    job = next(job for job in plan.work.parts if job.id == "body")
    assert float(told["core:body:1"].split()[0]) == pytest.approx(body / job.rounds, rel=0.01)
    assert told["coat:arm"].startswith("2 × ") and "(of" not in told["coat:arm"]
    assert "(of" in told["fur:tail:3"] and told["join:cape"] == told["fit:eye"] == ""
