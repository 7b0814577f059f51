"""At which heights something turns, and which heights meet what is asked: against closed forms, a sweep and
plans."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench, Niche
from bambola.core.book.costing import cost_of
from bambola.core.facts import Fact
from bambola.core.figure import Brief, Figure, Fitting, Garment, Part, Piece, Seat, SizeRule
from bambola.core.heights.conditions import (
    Condition,
    EyesOf,
    FitsPlace,
    NoQuestions,
    ReadyBy,
    SizeOf,
    WireOnShelf,
    WoolOnShelf,
    cost_at_most,
    grams_at_most,
    hours_at_most,
)
from bambola.core.heights.search import STEP, Readings
from bambola.core.heights.values import (
    HeightBand,
    HeightReading,
    StateAtHeight,
    edges_passed,
    intersect_bands,
    turn_tolerance,
)
from bambola.core.heights.whole import Heights, read_at, sizes_of
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, draft_plan, make_plan
from bambola.core.plan.counter.in_time import in_time
from bambola.demo import BADGER, HERON, TOAD, load_demo, sample_shelf
from bambola.shipped import default_bench
from tests.figures import ball, one_ball

BENCH = sample_shelf(default_bench())


@pytest.fixture(scope="module")
def badger() -> Heights:
    heights = Heights(load_demo(BADGER).figure, Brief(height=220.0), BENCH)
    heights.turns()
    return heights


def with_eyes(figure: Figure, size: float) -> Figure:
    eye = Fitting(
        id="eye", name="Eyes", part="body", kind="eye", size=size, mass=0.1,
        pieces=(Piece(shape=ball(size)),),
        follows="ready-made", seat=Seat(along=0.6, around=20.0),
    )  # fmt: skip
    return figure.replaced(fittings=(eye,))


# Where something turns


def test_ball_turns_where_it_is_reckoned_by_hand() -> None:
    """A bare ball of 40 mm: a round to 75 mm, another every 50 mm more; eyes of 4 mm are 5 at 50, 6 at 60."""
    heights = Heights(with_eyes(one_ball(40.0), 4.0), Brief(), BENCH)
    turns = heights.turns()
    rounds = [t.height_mm for t in turns if t.kind == "core"]
    assert rounds == pytest.approx([75, 125, 175, 225], abs=turn_tolerance(240))
    fits = {t.text: t.height_mm for t in turns if t.kind == "eyes"}
    expected = [10 * size for size in BENCH.eye_sizes if 8 < 10 * size < 240]
    assert list(fits.values()) == pytest.approx(expected, abs=turn_tolerance(240))
    tolerated = next(f for f in heights.fits() if f.kind == "eyes" and f.from_mm > 50)
    # 12 % off either way: 6 mm does from 60/1.12 to 60/0.88.
    assert (tolerated.from_mm, tolerated.to_mm) == pytest.approx((60 / 1.12, 60 / 0.88), abs=0.4)


def test_packs_turn_where_one_more_is_bought() -> None:
    """Grown as the cube, the wool of a ball runs out and asks for packs at heights that follow from one."""
    bench = BENCH.with_wool(BENCH.wool_by_id["core-batt"].replaced(grams=20.0, pack_g=50.0))
    figure = one_ball(40.0)
    need = make_plan(figure, Brief(height=100.0), bench).wools[0].need_g
    turns = [t for t in Heights(figure, Brief(), bench).turns() if t.kind == "packs"]
    expected = [100 * ((20 + n * 50) / need) ** (1 / 3) for n in (0, 1, 2, 3, 4, 8, 16)]
    below = [mm for mm in expected if mm < 240]
    assert [t.height_mm for t in turns] == pytest.approx(below, abs=1.0)
    assert turns[0].text.kind == "turn.runs-out"


@given(st.lists(st.floats(31, 290), min_size=1, max_size=25, unique=True), st.booleans())
def test_every_edge_of_whatever_turns_is_found(edges: list[float], counts: bool) -> None:
    """Things that turn once each, and an amount that passes them all."""

    def read(height: float) -> HeightReading:
        signs = {
            ("made", str(i)): StateAtHeight(height >= at, Fact("x")) for i, at in enumerate(edges)
        }
        if counts:
            passed = tuple(sorted(at**3 for at in edges))
            n = edges_passed(height**3, passed)
            signs = {("packs", "wool"): StateAtHeight(n, Fact("x"), None, height**3, passed)}
        return HeightReading(height, signs, {})

    turns = list(Readings(read).sweep(30.0, 300.0))
    if counts:  # those too close to be told apart are one turn
        near = 2 * turn_tolerance(300)
        assert all(any(abs(t.height_mm - at) <= near for t in turns) for at in edges)
        assert all(any(abs(t.height_mm - at) <= near for at in edges) for t in turns)
    else:
        found = {int(t.about): t.height_mm for t in turns}
        assert [found[i] for i in range(len(edges))] == pytest.approx(
            edges, abs=turn_tolerance(300)
        )


def test_short_lived_turn_beside_another_is_found() -> None:
    """Between two heights that are read first, something that is so for two millimetres only; it begins
    where a wire goes up a gauge, as such things do."""
    spread = 100 * STEP**0.4

    def read(height: float) -> HeightReading:
        signs = {("wire", "legs"): StateAtHeight(height > spread, Fact("x"))}
        signs[("question", "legs")] = StateAtHeight(spread < height < spread + 2, Fact("x"))
        return HeightReading(height, signs, {})

    turns = Readings(read).sweep(100 / STEP, 100 * STEP**2)
    asked = [t.height_mm for t in turns if t.kind == "question"]
    assert asked == pytest.approx([spread, spread + 2], abs=turn_tolerance(100))


def test_sweep_in_millimetres_finds_nothing_else() -> None:
    figure, low, high = load_demo(TOAD).figure, 30.0, 110.0
    turns = list(Heights(figure, Brief(), BENCH).readings.sweep(low, high))
    readings = [read_at(figure, Brief(), BENCH, float(mm)) for mm in range(30, 111)]
    for before, here in itertools.pairwise(readings):
        assert before is not None and here is not None
        for sign in before.signs.keys() | here.signs.keys():
            states = [
                each.signs[sign].state if sign in each.signs else None for each in (before, here)
            ]
            turned = any(
                (t.kind, t.about) == sign
                and before.height - 0.3 <= t.height_mm <= here.height + 0.3
                for t in turns
            )
            assert turned or states[0] == states[1], (sign, before.height)


@pytest.mark.parametrize("path", [BADGER, HERON, TOAD])
def test_draft_is_plan_but_for_its_order(path: object) -> None:
    document = load_demo(path)  # type: ignore[arg-type]
    for brief in (document.brief, document.brief.at_height(90.0).schooled("neck", "scarf")):
        draft, plan = (make(document.figure, brief, BENCH) for make in (draft_plan, make_plan))
        assert draft.minutes == pytest.approx(plan.minutes)
        for name in (
            "parts",
            "wires",
            "wools",
            "notices",
            "fittings",
            "balance",
            "joins",
            "cutting",
        ):
            assert getattr(draft, name) == getattr(plan, name)
        assert {step.key for step in draft.steps} == {step.key for step in plan.steps}
        assert cost_of(draft, BENCH).total == cost_of(plan, BENCH).total


# What is asked


def packs(plan: Plan) -> bool:
    return all(total.packs == 0 for total in plan.wools)


ASKED: tuple[tuple[Condition, Callable[[Plan], bool]], ...] = (
    (WoolOnShelf(), packs),
    (WireOnShelf(), lambda plan: not any(cut.to_buy for cut in plan.cutting)),
    (hours_at_most(12.0), lambda plan: plan.minutes <= 720),
    (grams_at_most(90.0), lambda plan: plan.balance.mass_g <= 90.005),
    (cost_at_most(4.0, BENCH), lambda plan: float(cost_of(plan, BENCH).total) <= 4.0),
    (EyesOf(6.0, ("eye",)), lambda plan: abs(6.0 / plan.fittings[0].wanted_mm - 1) <= 0.12),
    (NoQuestions(), lambda plan: not plan.waiting),
    (
        SizeOf("head.width", 60.0, Fact("x")),
        lambda plan: abs(plan.part("head").to_mm["width"] - 60) <= 0.25,
    ),
    (
        FitsPlace(Niche(name="shelf", height=200.0)),
        lambda plan: plan.solids.placement.down_up[:, 1].max() - plan.solids.placement.ground <= 200,
    ),
)  # fmt: skip


@pytest.mark.parametrize(("condition", "holds"), ASKED, ids=lambda one: type(one).__name__)
def test_what_is_asked_holds_within_and_fails_millimetre_beyond(
    badger: Heights, condition: Condition, holds: Callable[[Plan], bool]
) -> None:
    bands = badger.met_at(condition).bands
    assert bands

    def so(height: float) -> bool:
        return holds(make_plan(badger.figure, badger.brief.at_height(height), BENCH))

    for band in bands:
        assert so(band.from_mm) and so(band.to_mm) and so((band.from_mm + band.to_mm) / 2)
        assert band.open_below or not so(band.from_mm - 1)
        assert band.open_above or not so(band.to_mm + 1)


def test_ready_by_holds_up_to_answered_height(badger: Heights) -> None:
    first, day = date(2026, 11, 2), date(2026, 12, 12)
    band = badger.met_at(ReadyBy(day, first)).bands[-1]

    def is_late(height: float) -> bool:
        plan = make_plan(badger.figure, badger.brief.at_height(height), BENCH)
        return in_time(plan, BENCH, day, first).is_late

    assert not is_late(band.to_mm) and is_late(band.to_mm + 1)


def test_several_conditions_are_met_together_or_told_why_not(badger: Heights) -> None:
    both = badger.answer((WoolOnShelf(), EyesOf(6.0, ("eye",))))
    wool, eyes = (met.bands[0] for met in both.each)
    assert both.together == (HeightBand(eyes.from_mm, min(wool.to_mm, eyes.to_mm)),)
    assert both.best == both.together[0].to_mm
    apart = badger.answer((EyesOf(3.0, ("eye",)), EyesOf(9.0, ("eye",))))
    assert apart.best is None and apart.why.kind == "asked.both"
    assert badger.answer((cost_at_most(0.0, BENCH),)).why.kind == "asked.never"


@given(st.lists(st.tuples(st.floats(1, 50), st.floats(0, 30)), max_size=4), st.floats(0, 90))
def test_common_heights_lie_in_both(spans: list[tuple[float, float]], height: float) -> None:
    some = [HeightBand(low, low + wide) for low, wide in spans]
    others = [HeightBand(20.0, 40.0), HeightBand(60.0, 61.0)]
    both = any(b.contains(height) for b in some) and any(b.contains(height) for b in others)
    assert both == any(band.contains(height) for band in intersect_bands(some, others))


def test_sensible_heights_end_where_something_is_asked(badger: Heights) -> None:
    sensible = badger.sensible(badger.made_mm, badger.turns())
    assert sensible is not None and sensible.below is not None and sensible.above is not None
    for height, waits in (
        (sensible.band.from_mm - 1, True),
        (sensible.band.from_mm, False),
        (sensible.band.to_mm, False),
        (sensible.band.to_mm + 1, True),
    ):
        plan = make_plan(badger.figure, badger.brief.at_height(height), BENCH)
        assert bool(plan.waiting) == waits, height


def test_sizes_beside_each_other_add_up(badger: Heights) -> None:
    plans = [draft_plan(badger.figure, Brief(height=mm), BENCH) for mm in (220.0, 100.0, 140.0)]
    sizes = sizes_of(plans, BENCH)
    assert [row.height_mm for row in sizes.rows] == pytest.approx([100, 140, 220])
    assert sum(total.grams for total in sizes.wools) == pytest.approx(
        sum(plan.wool_g for plan in plans)
    )
    # One heap for all of them: no fewer packs than each of them asks for by itself.
    together = {total.wool: total.packs for total in sizes.wools}
    assert all(together[total.wool] >= total.packs for plan in plans for total in plan.wools)
    by_itself = sum(total.packs for plan in plans for total in plan.wools)
    assert plans[0].wools and sum(t.packs for t in sizes.wools) <= by_itself + len(sizes.wools)
    assert not sizes.rows[0].differs and sizes.rows[2].differs
    assert any(math.isclose(row.scale, 1.0, abs_tol=1e-6) for row in sizes.rows)


def test_room_is_asked_for_ears_and_all() -> None:
    niche = Niche(name="dome", height=300.0, width=60.0)
    bench = BENCH.replaced(niches=(niche,))
    heights = Heights(one_ball(40.0), Brief(), bench)
    turns = [t for t in heights.turns() if t.kind == "niche"]
    assert [t.height_mm for t in turns] == pytest.approx([60.0], abs=0.3)
    fit = next(f for f in heights.fits() if f.kind == "niche")
    assert fit.to_mm == pytest.approx(60.0, abs=0.3) and fit.to_mm <= 60.0


def test_impossible_heights_are_turns_and_no_answers(bench: Bench) -> None:
    """A ring of 80 mm that stretches by a twentieth, over a ball 20 mm across that grows no slimmer: of a
    ring that shrinks with the height, 84 mm are no more than the 62.8 mm round it under 0.748 times as
    high."""
    ring = Part(
        id="ring", name="Ring", parent="body", core="cream", shape=ball(8.0),
        seat=Seat(along=0.5, out=0.0),
        garment=Garment(opening=80.0, stretch=0.05, passes="body", kind="pulled over"),
    )  # fmt: skip
    figure = one_ball(20.0).replaced(parts=(*one_ball(20.0).parts, ring))
    stout = tuple(SizeRule(measure=m, rule="floor", value=20.0) for m in ("width", "depth"))
    brief = Brief(rules={"body": stout})
    heights = Heights(figure, brief, bench)
    (turn,) = [t for t in heights.turns() if t.kind == "refused"]
    assert turn.below.kind == "refused.garment"
    least = 20 * math.pi / 84 * 20
    assert turn.height_mm == pytest.approx(least, abs=0.3)
    (band,) = heights.met_at(grams_at_most(1e6)).bands
    assert band.from_mm - turn_tolerance(15) <= least <= band.from_mm
    make_plan(figure, brief.at_height(band.from_mm), bench)
    with pytest.raises(OrderConflictError):
        make_plan(figure, brief.at_height(band.from_mm - 1), bench)


def test_figure_without_what_is_asked_for_is_not_stumbled_over(bench: Bench) -> None:
    heights = Heights(one_ball(40.0), Brief(), bench)
    heights.turns()
    assert not heights.eyes and not heights.met_at(EyesOf(6.0, ())).bands
    assert not heights.met_at(SizeOf("head.width", 10.0, Fact("x"))).bands
