"""Free times in a week, and what an order costs: counted by hand and by the sequencer alike."""

from __future__ import annotations

import itertools
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench, FreeTime, Weights
from bambola.core.facts import NOTHING
from bambola.core.figure import Document
from bambola.core.order import count_changes
from bambola.core.order.sequence import edges_of, problem_of
from bambola.core.order.sittings import (
    DAY_MIN,
    SNAP_MIN,
    begin_minute,
    end_minute,
    merge_slots,
    move_slot,
    nearest_free_time,
)
from bambola.core.order.work import Task
from bambola.core.plan import make_plan
from bambola.core.plan.making.jobs import lightness

MINUTES = st.floats(-100, DAY_MIN + 100)
SLOTS = st.builds(nearest_free_time, st.integers(0, 6), MINUTES, MINUTES)


@given(st.integers(0, 6), MINUTES, MINUTES)
def test_stretch_lies_within_its_day_on_quarter(day: int, a: float, b: float) -> None:
    slot = nearest_free_time(day, a, b)
    assert slot == nearest_free_time(day, b, a)
    assert 0 <= begin_minute(slot) < end_minute(slot) <= DAY_MIN and slot.weekday == day
    assert begin_minute(slot) % SNAP_MIN == end_minute(slot) % SNAP_MIN == 0
    low, high = min(a, b), max(a, b)
    if low >= 0 and high <= DAY_MIN and 30 <= high - low <= 900:
        assert (
            abs(begin_minute(slot) - low) <= SNAP_MIN / 2
            and abs(end_minute(slot) - high) <= SNAP_MIN / 2
        )


@given(SLOTS, st.integers(0, 6), MINUTES)
def test_what_is_moved_keeps_its_length(slot: FreeTime, day: int, at: float) -> None:
    new = move_slot(slot, day, at)
    assert new.minutes == slot.minutes and new.weekday == day and end_minute(new) <= DAY_MIN


@given(st.lists(SLOTS, max_size=8))
def test_united_times_never_overlap_and_cover_same(slots: list[FreeTime]) -> None:
    found = merge_slots(slots)
    for a, b in itertools.pairwise(found):
        assert (a.weekday, end_minute(a)) <= (b.weekday, begin_minute(b)) or a.weekday < b.weekday
    assert merge_slots(found) == found
    free = {(s.weekday, m) for s in slots for m in range(begin_minute(s), end_minute(s), SNAP_MIN)}
    kept = {(s.weekday, m) for s in found for m in range(begin_minute(s), end_minute(s), SNAP_MIN)}
    assert kept <= free
    if all(s.minutes < 960 for s in found):  # the longest there may be cuts off what is over
        assert kept == free


def test_changes_are_counted_as_maker_meets_them() -> None:
    light = (("cream", 0.9), ("black", 0.1))
    order = [
        Task("core:a", "shape", "a", NOTHING, 36, "cream"),
        Task("coat:a", "coat", "a", NOTHING, 40, "black"),
        Task("fit:x", "fit", "a", ""),
        Task("wait:x", "wait", "a", ""),
        Task("coat:b", "coat", "b", NOTHING, 40, "cream"),
        Task("join:b", "join", "b", NOTHING, 36),
        Task("wait:y", "wait", "b", ""),
        Task("wait:z", "wait", "b", ""),
    ]
    found = count_changes(order, light)
    assert (found.needle, found.colour, found.dark_to_light) == (2, 2, 1)
    assert (found.leaving, found.glue) == (1, 2)
    weights = Weights(needle=1, colour=10, dark_to_light=100, leaving=50, glue=5)
    assert found.cost(weights) == 2 + 20 + 100 + 50 + 10


@pytest.mark.parametrize("seed", range(12))
def test_count_is_what_sequencer_weighs(bench: Bench, badger: Document, seed: int) -> None:
    plan, light = make_plan(badger.figure, badger.brief, bench), lightness(bench)
    chance = random.Random(seed)
    weights = Weights(**{name: chance.randint(0, 6) for name in Weights.model_fields})
    tasks = plan.order.tasks
    problem = problem_of(plan.work, tasks, edges_of(plan.work, tasks), dict(light), weights)
    shuffled = chance.sample(range(len(tasks)), len(tasks))
    assert problem.cost(shuffled) == pytest.approx(
        count_changes([tasks[i] for i in shuffled], light).cost(weights)
    )


def test_times_by_hand() -> None:
    assert nearest_free_time(2, -50.0, 40.0) == FreeTime(weekday=2, start="00:00", minutes=45)
    early, late = nearest_free_time(0, 600.0, 660.0), nearest_free_time(0, 630.0, 720.0)
    assert merge_slots([late, early]) == (FreeTime(weekday=0, start="10:00", minutes=120),)
    within = nearest_free_time(0, 610.0, 640.0)
    assert merge_slots([early, within]) == (early,)
