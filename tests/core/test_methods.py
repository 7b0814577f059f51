"""How steps are done: every step has its card, whose numbers are worked out and can be set by a hand."""

from __future__ import annotations

import itertools
import math
import re
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.cli import main
from bambola.core.bench import Bench
from bambola.core.figure import Ball, Brief, Datum, Figure, Part, Place, PoseBend, Seat, Shape, Tilt
from bambola.core.figure.additions import with_core
from bambola.core.figure.places import Band
from bambola.core.methods import Card, SlotError, StepInPlan, card_for, method_for, sheet_for, slots
from bambola.core.methods.in_hand import shape_in_hand
from bambola.core.methods.slots import ball_mm, by_hand, paper_mm
from bambola.core.order import count_changes
from bambola.core.piece import round_sizes
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.making.jobs import lightness
from bambola.core.quantities import Units
from bambola.core.solids import place
from bambola.core.words import ENGLISH, Words, error_words
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans, default_bench
from tests.core.test_twelve_figures import FIGURES as TWELVE
from tests.effort import THOROUGH
from tests.said import said

HEIGHTS = (0.5, 1.0, 2.0) if THOROUGH else (0.6, 2.0)
DEMOS = {path.stem.partition(".")[0]: load_demo(path) for path in (BADGER, HERON, TOAD)}
FIGURES = {name: (d.figure, d.brief) for name, d in DEMOS.items()} | {
    plan.figure.id: (plan.figure, Brief()) for plan in body_plans()
}
_badger = DEMOS["lamplighter-badger"]
FIGURES["badger, round a cork"] = (with_core(_badger.figure, "head", 30.0, "Cork"), _badger.brief)
FIGURES |= {
    f"badger, {way} {school}": (_badger.figure, _badger.brief.schooled(way, school))
    for way, school in (
        ("eyes", "sewn"),
        ("eyes", "felted"),
        ("eyes", "clay"),
        ("fur", "middle"),
        ("fur", "locks"),
        ("skin", "glue-soap"),
        ("seat", "bump"),
    )
}
_doll = next(plan.figure for plan in body_plans() if plan.figure.id == "two-legged-doll")
_fold = PoseBend(part="leg", joint=1, tilt=Tilt(nod=80))
_toes = _badger.figure.by_id["paw"].replaced(furrows=3)
FIGURES["badger with toes"] = (
    _badger.figure.replaced(
        parts=tuple(_toes if p.id == "paw" else p for p in _badger.figure.parts)
    ),
    _badger.brief,
)
FIGURES["doll that sits"] = (_doll.replaced(stance="sitting", pose=(_fold,)), Brief())
_heron, _whale = DEMOS["marsh-heron"], FIGURES["whale"][0]
FIGURES["heron, legs wound with glue"] = (
    _heron.figure, _heron.brief.answered("thin-limb:leg", "glue-wound"),
)  # fmt: skip
FIGURES["whale, ears pair first"] = (_whale, Brief().schooled("ears", "pair first"))
_glued = tuple(
    f.replaced(glued=True, fixed=None) if f.kind == "prop" else f for f in _badger.figure.fittings
)
FIGURES["badger, its lantern glued"] = (_badger.figure.replaced(fittings=_glued), _badger.brief)
_toad = DEMOS["garden-toad"]
_swirl = Place(id="swirl", wool="charcoal", where=Band(begin=0.4, end=0.5))
FIGURES["toad with a swirl"] = (
    _toad.figure.replaced(
        parts=tuple(
            p.replaced(places=(*p.places, _swirl)) if p.id == "body" else p
            for p in _toad.figure.parts
        )
    ),
    _toad.brief,
)
FIGURES["one ball, mass one mass"] = (TWELVE["one ball"], Brief().schooled("mass", "one mass"))
FIGURES["stems under a band"] = (
    TWELVE["a limb on a stem"], Brief().schooled("stems", "under a band"),
)  # fmt: skip
FIGURES["whale that hangs"] = (_whale.replaced(stance="hanging"), Brief())
EACH = [
    (name, share)
    for n, name in enumerate(FIGURES)
    for share in (HEIGHTS if THOROUGH else (HEIGHTS[n % 2],))
]
"""Every figure, large and small in turn, or at all sizes."""


def plan_of(name: str, share: float) -> Plan:
    figure, brief = FIGURES[name]
    return make_plan(figure, brief.at_height(place(figure).height * share), default_bench())


def texts(card: Card, words: Words) -> list[str]:
    every = [*card.how, card.start, card.amount, card.until, card.scale]
    every += [run.told for run in card.needles] + [stop.told for stop in card.stop]
    for check in card.checks:
        every += [check.text, check.passed, check.failed]
    return [words.say(one) for one in every]


@pytest.mark.parametrize(("name", "share"), EACH)
def test_every_step_says_how_until_when_and_what_is_right(name: str, share: float) -> None:
    plan, bench = plan_of(name, share), default_bench()
    for step in plan.steps:
        card = card_for(plan, step, bench)
        where = f"{step.n} {step.key}"
        assert len(card.how) >= 2 and said(card.until) and card.checks, where
        for unit in (Units(), Units("in", "oz")):
            for text in texts(card, Words(unit)):
                assert "{" not in text and "None" not in text and "nan" not in text, where
                assert not any(
                    f" {nought} " in f" {text} " for nought in ("0 mm", "0 g", "0 in")
                ), (
                    where,
                    text,
                )
        for stop in card.stop:
            assert stop.low < stop.high and (stop.unit != "mm" or stop.high >= 0.5), where
        for run in card.needles:
            assert run.gauge in (36, 38, 40) and 0.3 <= run.depth_mm <= 25.0, (where, run)
            assert 10 <= run.angle_deg <= 90 and 1 <= run.count <= 8, where
        alone = step.key.sort in ("core", "coat", "inset")
        job = plan.job_of(step) if alone else None
        if job is not None and job.made in ("apart", "on wire"):
            thick = sheet_for(plan, step, bench).at.thick
            for run in card.needles:  # only a flat piece lies on the pad, and not in the hand
                through = run.depth_mm * math.sin(math.radians(run.angle_deg)) - thick
                assert through <= (1.0 if job.flat else 0.0) + 1e-9, (where, run)
        fine = [run.gauge for run in card.needles]
        assert fine == sorted(fine), where  # from coarse to fine


def test_cards_mention_ears_and_needle_change_only_if_present() -> None:
    bench = default_bench()
    for name, ears in (
        ("lamplighter-badger", True),
        ("marsh-heron", False),
        ("garden-toad", False),
    ):
        plan = plan_of(name, 1.0)
        told = {step.key: texts(card_for(plan, step, bench), ENGLISH) for step in plan.steps}
        assert any(re.search(r"\bears?\b", " ".join(each)) for each in told.values()) == ears, name
        for step in plan.steps:
            gauges = {run.gauge for run in card_for(plan, step, bench).needles}
            changed = any("From the change of needle" in text for text in told[step.key])
            assert not changed or len(gauges) > 1, (name, step.key)


def test_steps_name_only_needles_and_holder_that_there_are() -> None:
    usual = default_bench()
    assert [usual.needle(g) for g in (20, 36, 37, 39, 42)] == [36, 36, 38, 40, 40]
    bench = usual.replaced(needles=(38,), holder=1)
    figure, brief = FIGURES["lamplighter-badger"]
    plan = make_plan(figure, brief.at_height(220.0), bench)
    assert {step.needle for step in plan.steps} <= {38, None}
    assert count_changes(plan.order.tasks, lightness(bench)).needle <= 1
    assert not any("36" in said(c.cause) for c in plan.changes if c.what == "needle")
    for step in plan.steps:
        runs = card_for(plan, step, bench).needles
        assert all(run.gauge == 38 and run.count == 1 for run in runs), step.key
        assert all("38" in said(run.told) and "holder" not in said(run.told) for run in runs)
        work = [(run.gauge, run.count, run.depth_mm, run.angle_deg) for run in runs]
        assert all(a != b for a, b in pairwise(work)), step.key  # no change that changes nothing


def two_balls(r: float, q: float, apart: float) -> Figure:
    """A ball of radius ``q`` set upright into one of ``r``, their middles ``apart``."""
    return Figure(
        id="two",
        name="Two",
        datum=Datum(),
        parts=(
            Part(
                id="a", name="A", shape=Ball(width=2 * r, depth=2 * r, height=2 * r), core="cream"
            ),
            Part(
                id="b",
                name="B",
                shape=Ball(width=2 * q, depth=2 * q, height=2 * q),
                core="cream",
                parent="a",
                seat=Seat(along=1.0, out=1.0, sink=r + q - apart),
            ),
        ),
    )


@pytest.mark.parametrize(("r", "q", "apart"), [(20, 15, 28), (30, 10, 36), (25, 25, 44)])
def test_caps_of_two_balls_are_those_of_their_lens(r: float, q: float, apart: float) -> None:
    copies = place(two_balls(r, q, apart)).copies
    child, parent = slots.overlap_at_join(copies[1], copies[0])
    # The circle in which two balls meet, and what of each lies beyond it: r − √(r² − a²).
    x = (apart**2 + r**2 - q**2) / (2 * apart)
    a = math.sqrt(r**2 - x**2)
    assert child == pytest.approx(q - math.sqrt(q**2 - a**2), rel=0.01)
    assert parent == pytest.approx(r - math.sqrt(r**2 - a**2), rel=0.01)
    assert slots.seat_width(2 * math.pi * a) == pytest.approx(2 * a)


@given(st.floats(20.0, 200.0), st.integers(2, 6), st.sampled_from([2, 3]))
def test_rounds_lay_equal_wool_and_end_at_finished_size(
    across: float, rounds: int, grows: int
) -> None:
    sizes = round_sizes((2 * across, across, 0.8 * across), rounds, grows)
    assert sizes[-1] == pytest.approx((2 * across, across, 0.8 * across))
    volumes = [0.0, *(math.prod(size) for size in sizes)]
    laid = [after - before for before, after in itertools.pairwise(volumes)]
    assert laid == pytest.approx([volumes[-1] / rounds] * rounds)
    assert (sizes[0][0] == 2 * across) is (grows == 2)


@given(st.floats(0.001, 20.0))
def test_ball_pinch_and_square_of_paper_weigh_as_much(grams: float) -> None:
    radius_cm = ball_mm(grams, 0.035) / 20
    assert 4 / 3 * math.pi * radius_cm**3 * 0.035 == pytest.approx(grams)
    assert (paper_mm(grams) / 1000) ** 2 * 80 == pytest.approx(grams)


def test_amounts_are_told_as_hand_and_scale_can_take_them(bench: Bench) -> None:
    batt = bench.wool_by_id["core-batt"]
    told = [
        said(by_hand(grams, batt, 0.1)) for grams in (12.34, 2.345, 0.61, 0.25, 0.1, 0.02, 0.004)
    ]
    assert told[0].startswith("12.5 g, a loose ball") and told[1].startswith("2.3 g, a loose ball")
    assert told[2].startswith("0.6 g") and told[3].startswith("a loose ball")
    assert told[4] == (
        "a pinch that rolls to a ball of 14 mm; a square of writing paper of 35 mm weighs as much"
    )
    assert told[5] == "a pinch that rolls to a ball of 8 mm"
    assert "hairs" in told[6]
    # A finer scale leads with grams where a coarse one cannot.
    assert said(by_hand(0.1, batt, 0.01)).startswith("0.1 g")
    # A metre of this top weighs 40 g: a quarter of it has 10 g to the metre, half a gram in 50 mm.
    weighed = bench.wool_by_id["cream"].replaced(form="top", metre_g=40.0)
    assert said(by_hand(0.5, weighed, 0.1)) == "0.5 g, or 50 mm of a top split in four"


def test_numbers_follow_size_where_they_should() -> None:
    bench = default_bench()
    cards = {}
    for height in (140.0, 320.0):
        document = load_demo(BADGER)
        plan = make_plan(document.figure, document.brief.at_height(height), bench)
        step = next(s for s in plan.steps if s.key == "join:snout")
        cards[height] = card_for(plan, step, bench)
    small, large = cards[140.0], cards[320.0]
    assert large.stop[0].low > 2 * small.stop[0].low
    assert small.method == large.method == "join"
    # What a fringe is driven in does not grow without end.
    assert large.needles[0].depth_mm <= 12.0


def test_ways_are_taken_by_what_part_is() -> None:
    plan, bench = plan_of("lamplighter-badger", 2.0), default_bench()
    ways = {step.key: method_for(StepInPlan(plan, step, bench)).id for step in plan.steps}
    assert ways["core:body:1"] == "rounds" and ways["core:ear:1"] == "flat"
    assert ways["coat:head"] == "coat" and ways["fur:tail:1"] == "fur"
    for school in ("sewn", "felted"):
        other = plan_of(f"badger, eyes {school}", 2.0)
        (fit,) = (step for step in other.steps if step.key == "fit:eye")
        assert method_for(StepInPlan(other, fit, bench)).id == f"{school}-eye"
    assert {"cut-wire", "bend-wire", "socket", "eye", "cure", "final", "finish"} <= set(
        ways.values()
    )


def test_slot_without_number_is_told_in_one_sentence(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    bench = default_bench()
    plan = make_plan(_badger.figure, _badger.brief, bench)
    step = next(s for s in plan.steps if s.key == "coat:head")
    for lost in (math.nan, math.inf):
        monkeypatch.setattr(slots, "veil_count", lambda _, lost=lost: lost)
        with pytest.raises(SlotError) as caught:
            card_for(plan, step, bench)
        assert error_words(caught.value, Words()).startswith(
            f"Step {step.n}, coat the head: this card is missing a number"
        )
    assert main(["step", str(BADGER), str(step.n)]) == 2
    assert "this card is missing a number" in capsys.readouterr().err


@pytest.mark.parametrize("demo", [BADGER, HERON, TOAD])
@pytest.mark.parametrize("times", [0.7, 1.0, 2.2])
def test_piece_grows_by_rounds_up_to_its_part(demo: Path, times: float, bench: Bench) -> None:
    document = load_demo(demo)
    height = place(document.figure).height * times
    plan = make_plan(document.figure, document.brief.at_height(height), bench)
    before: dict[str, Shape] = {}
    for step in plan.steps:
        made = shape_in_hand(plan, step, bench)
        if step.part is None:
            assert made is None
            continue
        assert made is not None
        whole = plan.resized.figure.by_id[step.part].shape
        if step.key.sort != "core":
            assert made == whole
            continue
        for name, mm in made.measures().items():
            assert 0 < mm <= whole.measures()[name] * 1.05 + 1.0, (step.key, name)
        smaller = before.get(step.part)
        if smaller is not None and step.key.nth > 1:
            assert made.smallest_mm > smaller.smallest_mm, step.key
        before[step.part] = made
    assert before


def test_cards_name_only_needles_that_maker_owns() -> None:
    """With a 36 alone they said to change to a 38."""
    bench = default_bench().replaced(needles=(36,))
    figure, brief = FIGURES["lamplighter-badger"]
    plan = make_plan(figure, brief.at_height(220.0), bench)
    for step in plan.steps:
        card = sheet_for(plan, step, bench).card
        words = " ".join(said(fact) for fact in (*card.how, *(run.told for run in card.needles)))
        assert not re.search(r"\b(38|40)( needle|:)|finer needle", words), (step.key, words)
