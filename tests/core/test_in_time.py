"""Back from a date: the last day to begin is one on which it is still ready, and the next is not."""

from __future__ import annotations

from datetime import date, timedelta

import pytest

from bambola.core.bench import FreeTime
from bambola.core.figure import Brief
from bambola.core.order.sittings import SittingError, calendar
from bambola.core.plan import make_plan
from bambola.core.plan.counter.in_time import in_time
from bambola.demo import BADGER, load_demo
from bambola.shipped import default_bench
from tests.said import refused

TODAY = date(2026, 3, 2)
BENCH = default_bench()
PLAN = make_plan(load_demo(BADGER).figure, Brief(height=220.0), BENCH)


@pytest.mark.parametrize("done", [0, 20, len(PLAN.steps) - 2])
def test_last_day_to_begin_is_exact(done: int) -> None:
    """Against the calendar itself, laid with every minute a fifth longer."""
    due = TODAY + timedelta(days=200)
    found = in_time(PLAN, BENCH, due, TODAY, done)
    assert found.begin is not None and not found.is_late and not found.spare
    slower = BENCH.pace.times(1.2)
    slow = make_plan(load_demo(BADGER).figure, Brief(height=220.0), BENCH.replaced(pace=slower))

    def ready(first: date) -> bool:
        laid = calendar(slow.steps, BENCH.free, first, BENCH.cure_min, done)
        return laid.finish.date() <= due - timedelta(days=2)

    assert ready(found.begin) and not ready(found.begin + timedelta(days=7))
    assert found.order_by == found.begin - timedelta(days=10)  # the eyes are to be bought


def test_longest_optional_work_is_left_out_first() -> None:
    due = TODAY + timedelta(days=400)
    begin = in_time(PLAN, BENCH, due, TODAY).begin
    assert begin is not None
    on_that_day = in_time(PLAN, BENCH, due, begin)
    assert not on_that_day.is_late
    late = in_time(PLAN, BENCH, due, begin + timedelta(days=2))
    assert late.is_late and late.spare
    minutes = [spare.minutes for spare in late.spare]
    assert minutes == sorted(minutes, reverse=True)
    assert [spare.is_enough for spare in late.spare] == [False] * (len(minutes) - 1) + [True]
    hopeless = in_time(PLAN, BENCH, TODAY + timedelta(days=3), TODAY)
    assert hopeless.is_late and not any(spare.is_enough for spare in hopeless.spare)
    # Three of it are begun earlier, and nothing is late that is done.
    three = make_plan(load_demo(BADGER).figure, Brief(height=220.0, count=3), BENCH)
    sooner = in_time(three, BENCH, due, TODAY).begin
    assert sooner is not None and sooner < begin
    assert not in_time(PLAN, BENCH, TODAY + timedelta(days=3), TODAY, len(PLAN.steps)).is_late


def test_without_free_times_or_with_too_little_it_is_told() -> None:
    with refused(SittingError, "no free times"):
        in_time(PLAN, BENCH.replaced(free=()), TODAY, TODAY)
    scarce = BENCH.replaced(free=(FreeTime(weekday=0, start="08:00", minutes=10),))
    with refused(SittingError, "not left half done"):
        in_time(PLAN, scarce, TODAY, TODAY)
