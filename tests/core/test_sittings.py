"""The work laid into free times: nothing outside them, no join left half done, glue left to cure."""

from __future__ import annotations

import dataclasses
import re
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import icalendar
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import FreeTime
from bambola.core.export.ics import calendar_ics
from bambola.core.figure import Brief, Document
from bambola.core.methods import sheet_for
from bambola.core.order import Step
from bambola.core.order.sittings import WHOLE, Calendar, SittingError, calendar
from bambola.core.order.steps import duration_fact
from bambola.core.plan import make_plan
from bambola.core.words import ENGLISH
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench
from tests.effort import examples
from tests.said import refused, said

FIRST = date(2026, 3, 2)  # a Monday
frees = st.lists(
    st.builds(
        FreeTime, weekday=st.integers(0, 6),
        start=st.builds(lambda h, m: f"{h:02d}:{m}", st.integers(6, 21), st.sampled_from(["00", "30"])),
        minutes=st.integers(45, 240),
    ), min_size=1, max_size=6,
)  # fmt: skip


def check(
    found: Calendar,
    steps: tuple[Step, ...],
    free: list[FreeTime],
    cure_min: float = 480.0,
    figures: int = 1,
) -> None:
    by_n = {s.n: s for s in steps}
    spent: dict[int, float] = {}
    ended: dict[int, datetime] = {}
    for sitting in found.sittings:
        assert any(
            f.weekday == sitting.start.weekday() and f.start == f"{sitting.start:%H:%M}"
            and sitting.end == sitting.start + timedelta(minutes=f.minutes) for f in free
        )  # fmt: skip
        now = sitting.start
        for piece in sitting.pieces:
            assert piece.start >= now - timedelta(seconds=1)
            now = piece.start + timedelta(minutes=piece.minutes)
            assert now <= sitting.end + timedelta(seconds=1)
            step = by_n[piece.n]
            if (
                piece.more and step.kind in WHOLE
            ):  # of several figures' joins some are left, each whole
                joined = piece.minutes / step.minutes
                assert figures > 1 and joined == pytest.approx(round(joined), abs=1e-6)
            for before in step.after:
                if by_n[before].kind == "wait":
                    glued = [n for n in by_n[before].after if by_n[n].kind == "fit"]
                    for n in glued:
                        assert piece.start >= ended[n] + timedelta(minutes=cure_min) - timedelta(
                            seconds=1
                        )
                else:
                    assert before in ended and ended[before] <= piece.start + timedelta(seconds=1)
            spent[piece.n] = spent.get(piece.n, 0.0) + piece.minutes
            if not piece.more:
                ended[piece.n] = now
    for step in steps:
        if step.kind != "wait":
            assert spent[step.n] == pytest.approx(step.minutes_of(figures), abs=1e-6)
    assert found.earliest <= found.finish.date() <= found.latest


@examples(25)
@given(frees, st.sampled_from([1, 3]))
def test_every_step_is_done_in_free_times(free: list[FreeTime], figures: int) -> None:
    document = load_demo()
    plan = make_plan(document.figure, document.brief, default_bench())
    found = calendar(plan.steps, free, FIRST, 480.0, runs=(figures,))
    check(found, plan.steps, free, figures=figures)


@pytest.mark.parametrize(("path", "height"), [(BADGER, 220.0), (TOAD, 140.0), (HERON, 120.0)])
def test_three_at_once_take_sum_of_step_minutes(path: Path, height: float) -> None:
    """She lays tools and wool ready once, as the bench has it for that kind of work, and then does the same
    for one figure after the other."""
    document, bench = load_demo(path), default_bench()
    one, three = (make_plan(document.figure, Brief(height=height, count=n), bench) for n in (1, 3))
    at_the_pad, pace = 0.0, bench.pace
    for step in one.steps:
        copies = one.part(step.part).count if step.part else 1
        ready = {
            "join": 0.25 * pace.join, "blend": 0.25 * pace.setup, "cut wire": 0.0, "finish": 0.0,
            "bend and bind": 0.0, "wait": 0.0, "dress": 0.0,
        }.get(step.kind, pace.setup) * copies  # fmt: skip
        at_the_pad += min(ready, step.minutes)
        for _ in range(3):
            at_the_pad += step.minutes - min(ready, step.minutes)
    assert three.minutes == pytest.approx(at_the_pad, rel=0.1)
    assert 2 * one.minutes < three.minutes < 3 * one.minutes
    assert all(step.minutes_of(1) == pytest.approx(step.minutes) for step in one.steps)


def test_trial_is_made_to_its_end_before_others_are_begun(badger: Document) -> None:
    bench, brief = default_bench(), badger.brief.replaced(count=4)
    assert brief.runs == (4,) and brief.replaced(count=1, trial=True).runs == (1,)
    trial = make_plan(badger.figure, brief.replaced(trial=True), bench)
    alone, three = (make_plan(badger.figure, brief.replaced(count=n), bench) for n in (1, 3))
    assert trial.runs == (1, 3) and trial.minutes == pytest.approx(alone.minutes + three.minutes)
    assert [t.taken_g for t in trial.wools] == [
        t.taken_g for t in make_plan(badger.figure, brief, bench).wools
    ]  # the wool of all is bought at once
    found = calendar(trial.steps, bench.free, FIRST, 480.0, runs=trial.runs)
    first = calendar(trial.steps, bench.free, FIRST, 480.0)
    begun = first.finish.date() + timedelta(days=1)
    rest = calendar(trial.steps, bench.free, begun, 480.0, runs=(3,))
    assert found.sittings == first.sittings + rest.sittings and found.finish == rest.finish
    assert found.earliest <= found.finish.date() <= found.latest
    words = ENGLISH.say(duration_fact(trial.steps[:3], trial.runs))
    assert "for the trial" in words and "for the other 3" in words
    assert brief.replaced(trial=True).for_run(1).runs == (1,)
    assert brief.replaced(trial=True).for_run(2).count == 3 == brief.for_run(5).count - 1


def test_card_tells_what_all_figures_take(badger: Document) -> None:
    """Of the steps that lay wool: for each, and in grams for all, as a scale shows it."""
    bench = default_bench()
    plan = make_plan(badger.figure, badger.brief.replaced(count=3), bench)
    alone = make_plan(badger.figure, badger.brief, bench)
    told = 0
    for step in plan.steps:
        laid = plan.laid_by(step)
        same = next((s for s in alone.steps if s.key == step.key), None)
        if step.key.sort not in ("core", "coat") or len(laid) != 1 or same is None:
            continue
        now = ENGLISH.say(sheet_for(plan, step, bench).card.amount)
        one = ENGLISH.say(sheet_for(alone, same, bench).card.amount)
        assert now.startswith(one)
        (portion, share), copies = laid[0], plan.job_of(step)
        every = portion.take_g * share * (copies.count if copies else 1) * 3
        grams = re.search(r"for all 3 figures ([\d.]+) g", now)
        assert (grams is None) == (every < 3 * bench.scale_g), (step.key, now, every)
        if grams:
            assert float(grams[1]) == pytest.approx(every, abs=max(0.26, 0.05 * every))
            told += 1
    assert told > 10


def test_calendar_opens_elsewhere_and_lies_in_free_times(badger: Document) -> None:
    bench = default_bench()
    plan = make_plan(badger.figure, badger.brief, bench)
    found = calendar(plan.steps, bench.free, FIRST, 480.0)
    data = calendar_ics(plan.figure, plan.steps, found, datetime(2026, 3, 1, tzinfo=UTC))
    # Nothing idles but what is left where the next join is longer: only the last sitting is not filled.
    idle = [sitting.idle_min for sitting in found.sittings[:-1]]
    assert min(idle) > -1e-6 and sum(idle) < 0.05 * sum(step.minutes for step in plan.steps)
    events = list(icalendar.Calendar.from_ical(data).walk("VEVENT"))
    assert len(events) == len(found.sittings) > 3
    told = "".join(str(event["description"]) for event in events)
    assert all(said(step.text) in told for step in plan.steps if step.kind != "wait")
    for event in events:
        assert isinstance(event, icalendar.Event)
        start, end = event.start, event.end
        assert any(
            f.weekday == start.weekday() and f"{start:%H:%M}" == f.start
            and end - start == timedelta(minutes=f.minutes) for f in bench.free
        )  # fmt: skip
    uids = {str(event["uid"]) for event in events}
    assert len(uids) == len(events)
    stamp = datetime(2026, 3, 1, tzinfo=UTC)
    for making, same in (("", True), ("lamplighter-badger#2", False)):  # replaces its own alone
        data = calendar_ics(plan.figure, plan.steps, found, stamp, making=making)
        again = {str(e["uid"]) for e in icalendar.Calendar.from_ical(data).walk("VEVENT")}
        assert again == uids if same else not again & uids


def test_what_cannot_be_laid_is_refused_in_words(badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief, default_bench())
    with refused(SittingError, "no free times"):
        calendar(plan.steps, (), FIRST, 480.0)
    joins = [s for s in plan.steps if s.kind in WHOLE]
    slow = tuple(dataclasses.replace(s, minutes=50.0) if s is joins[0] else s for s in plan.steps)
    with refused(SittingError, "not left half done"):
        calendar(slow, (FreeTime(weekday=0, start="08:00", minutes=45),), FIRST, 480.0)
