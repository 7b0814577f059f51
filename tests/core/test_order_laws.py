"""The laws of sittings, changes and the week against numbers worked out by hand."""

from __future__ import annotations

from datetime import date, datetime, timedelta

import pytest

from bambola.core.bench import FreeTime
from bambola.core.facts import NOTHING, fact
from bambola.core.order import Step
from bambola.core.order.sittings import SittingError, calendar, move_slot, nearest_free_time
from bambola.core.order.tally import count_changes
from bambola.core.order.work import Kind, Task
from tests.said import refused

MONDAY = date(2026, 3, 2)
EVENINGS = [
    FreeTime(weekday=0, start="19:00", minutes=60),
    FreeTime(weekday=1, start="19:00", minutes=60),
]
DAILY = [FreeTime(weekday=day, start="19:00", minutes=10) for day in range(7)]


def step(n: int, kind: str, minutes: float, after: tuple[int, ...] = ()) -> Step:
    return Step(
        n,
        kind,
        None,
        fact("named", name=f"{kind} {n}"),
        after,
        (),
        None,
        None,
        minutes,
        (),
        (),
        f"{kind}:{n}",
        kind,
    )


def laid(
    *steps: Step, free: list[FreeTime] = EVENINGS, cure_min: float = 480.0
) -> list[tuple[int, str, float, bool]]:
    """Number, time, minutes and whether more comes, of each piece in its order."""
    found = calendar(steps, free, MONDAY, cure_min)
    return [
        (p.n, f"{p.start:%a %H:%M}", pytest.approx(p.minutes), p.more)
        for s in found.sittings
        for p in s.pieces
    ]


def test_sittings_skip_what_does_not_fit() -> None:
    steps = (step(1, "core", 50), step(2, "join", 20, (1,)), step(3, "core", 15))
    # Ten minutes are left on Monday: too few for the join, enough to begin something.
    assert laid(*steps) == [
        (1, "Mon 19:00", 50, False), (3, "Mon 19:50", 10, True),
        (2, "Tue 19:00", 20, False), (3, "Tue 19:20", 5, False),
    ]  # fmt: skip


def test_short_rest_is_used_only_to_finish() -> None:
    late = step(1, "core", 50.5)
    assert laid(late, step(2, "core", 15))[1:] == [(2, "Tue 19:00", 15, False)]
    assert laid(late, step(2, "core", 9.25))[1:] == [(2, "Mon 19:50", 9.25, False)]
    # Under a minute is no time at all, though it would do.
    assert laid(step(1, "core", 59.5), step(2, "core", 0.4))[1:] == [(2, "Tue 19:00", 0.4, False)]


def test_glue_cures_for_eight_hours_wherever_one_sits() -> None:
    glued = (step(1, "fit", 30), step(2, "wait", 0, (1,)), step(3, "core", 20, (2,)))
    for hour, day in (
        ("03", "Wed"),
        ("04", "Tue"),
    ):  # glued at half past seven: cured at half past three
        free = [EVENINGS[0], FreeTime(weekday=1, start=f"{hour}:00", minutes=30),
                FreeTime(weekday=2, start="19:00", minutes=60)]  # fmt: skip
        assert laid(*glued, free=free)[-1][1][:3] == day
    # Another step is done meanwhile.
    assert laid(*glued, step(4, "core", 12))[1] == (4, "Mon 19:30", 12, False)


def test_glue_that_is_soon_hard_is_waited_for_at_table() -> None:
    glued = (step(1, "fit", 30), step(2, "wait", 0, (1,)), step(3, "core", 20, (2,)))
    assert laid(*glued, cure_min=2)[-1] == (3, "Mon 19:32", 20, False)
    # Half an hour would end the evening: it is done on the next. A short step fills the wait.
    assert laid(*glued, cure_min=30)[-1] == (3, "Tue 19:00", 20, False)
    assert laid(*glued, step(4, "core", 12), cure_min=5)[1:] == [
        (4, "Mon 19:30", 12, False), (3, "Mon 19:42", 18, True), (3, "Tue 19:00", 2, False)
    ]  # fmt: skip


def test_end_is_told_between_tenth_and_ninetieth_percentile() -> None:
    # A hundred minutes at ten a day; e^(0.25 × 1.2816) = 1.378 times as long or as short.
    found = calendar((step(1, "core", 100),), DAILY, MONDAY, 480.0)
    assert found.finish == datetime(2026, 3, 11, 19, 10)
    assert found.earliest == MONDAY + timedelta(days=7)  # 72.6 minutes
    assert found.latest == MONDAY + timedelta(days=13)  # 137.8 minutes
    # What is done in one go is never taken to last longer than the longest sitting.
    found = calendar((step(1, "join", 10), step(2, "core", 10)), DAILY, MONDAY, 480.0)
    assert found.latest == MONDAY + timedelta(days=2)  # 10 and 13.8 minutes
    with refused(SittingError, "11 minutes in one go"):
        calendar((step(1, "join", 11),), DAILY, MONDAY, 480.0)


def test_changes_are_counted_between_what_has_needle_wool_and_piece() -> None:
    light = (("dark", 0.2), ("pale", 0.9), ("grey", 0.5))

    def task(
        kind: Kind = "coat", needle: int | None = None, wool: str | None = None, part: str = ""
    ) -> Task:
        return Task(f"{kind}:{part}", kind, part, NOTHING, needle, wool)

    wait, coat = task("wait"), task(needle=38, wool="dark", part="a")
    assert (
        count_changes([wait, coat], light).glue == 0
    )  # one begins with it: nothing is kept from being done
    assert count_changes([coat, wait, wait, coat, wait], light).glue == 2
    found = count_changes(
        [coat, task(needle=40, wool="pale", part="b"), task(wool="dark"), task(needle=40)], light
    )
    assert (found.needle, found.colour, found.dark_to_light, found.leaving) == (1, 2, 1, 1)
    # A wool nobody knows is as light as grey.
    assert (
        count_changes([task(wool="grey"), task(wool="new"), task(wool="pale")], light).dark_to_light
        == 1
    )


def test_free_times_end_with_day() -> None:
    late = nearest_free_time(2, 1431, 3000)
    assert (late.start, late.minutes) == ("23:45", 15)
    assert move_slot(FreeTime(weekday=2, start="08:00", minutes=90), 4, 1400) == FreeTime(
        weekday=4, start="22:30", minutes=90
    )
