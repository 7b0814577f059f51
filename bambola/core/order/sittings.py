"""Lays the making into the maker's free times: no sitting ends inside a join, and glue cures in between.

Steps are taken in their order. If the next one does not fit the rest of a sitting, or waits for glue, a later
one that may already come fills it. A step longer than any sitting is divided, but never a join.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import date, datetime, timedelta
from typing import TypeAlias

from bambola.core.bench import Bench, FreeTime
from bambola.core.facts import RefusedError, fact
from bambola.core.frozen import frozen
from bambola.core.order.steps import Step

WHOLE = ("join", "pre-join", "blend", "dress", "fit")
"""Kinds of step that are not interrupted."""
PACE_SPREAD = 0.25
"""One standard deviation, in log, of how long the whole takes. Judged. See craft.md, 5."""
EARLY_Z, LATE_Z = -1.2816, 1.2816
"""The 10th and 90th percentile. See craft.md, 5."""
LONGEST_DAYS = 3650
Figures: TypeAlias = int | Mapping[int, int]
"""How many figures are made at once: at every step, or by the number of the step."""
SMALLEST_MIN = 1.0


class SittingError(RefusedError):
    """Raised if the work cannot be laid into the free times; the message is one sentence."""


@frozen
class StepShare:
    """``minutes`` of step ``n`` starting at ``start``; ``more`` if the rest follows in a later sitting."""

    n: int
    start: datetime
    minutes: float
    more: bool


@frozen
class PlannedSitting:
    """One sitting at the table and its steps. ``end`` is the end of the free time."""

    start: datetime
    end: datetime
    pieces: tuple[StepShare, ...]

    @property
    def idle_min(self) -> float:
        """Minutes in which nothing could be done."""
        return (self.end - self.start).total_seconds() / 60 - sum(p.minutes for p in self.pieces)


@frozen
class Calendar:
    """All sittings, and the days (10th and 90th percentile) by which the work will be finished."""

    sittings: tuple[PlannedSitting, ...]
    finish: datetime
    earliest: date
    latest: date


def free_slots(free: Sequence[FreeTime], first: date) -> Iterator[tuple[datetime, datetime]]:
    """Yield the maker's free times from ``first`` on, for ten years."""
    by_day: dict[int, list[FreeTime]] = {}
    for slot in free:
        by_day.setdefault(slot.weekday, []).append(slot)
    for days in range(LONGEST_DAYS):
        day = first + timedelta(days=days)
        end = datetime.min
        for slot in sorted(by_day.get(day.weekday(), ()), key=lambda s: s.start):
            hour, minute = map(int, slot.start.split(":"))
            start = datetime(day.year, day.month, day.day, hour, minute)
            if start >= end:  # what overlaps an earlier one is that one
                end = start + timedelta(minutes=slot.minutes)
                yield start, end


def calendar(
    steps: Sequence[Step],
    free: Sequence[FreeTime],
    first: date,
    cure_min: float,
    done: int = 0,
    runs: Sequence[Figures] = (1,),
) -> Calendar:
    """Return the calendar of ``steps`` without the first ``done``, each for so many figures at once, in the
    free times from ``first`` on; glue cures in ``cure_min`` minutes.

    Each of several ``runs``, such as a trial and then the others, begins on the day after the run before it.
    Raises :class:`SittingError`.
    """
    longest = _longest_free_time(steps[done:], free)
    cure = timedelta(minutes=cure_min)
    likely = _run_by_run(steps, free, first, cure, 1.0, math.inf, done, runs)
    early, late = (
        _run_by_run(steps, free, first, cure, math.exp(z * PACE_SPREAD), longest, done, runs)
        for z in (EARLY_Z, LATE_Z)
    )
    return Calendar(
        likely, _end_of_last(likely), _end_of_last(early).date(), _end_of_last(late).date()
    )


def finish_of(
    steps: Sequence[Step], bench: Bench, first: date, pace: float, runs: Sequence[Figures]
) -> date:
    """Return the day on which ``steps`` are done for so many figures, run after run, from ``first`` on, at
    ``pace`` times the planned minutes. Raises :class:`SittingError`."""
    longest = _longest_free_time(steps, bench.free)
    cure = timedelta(minutes=bench.cure_min)
    return _end_of_last(_run_by_run(steps, bench.free, first, cure, pace, longest, 0, runs)).date()


def _longest_free_time(steps: Sequence[Step], free: Sequence[FreeTime]) -> float:
    """Return the longest free time, minutes. Raises :class:`SittingError` if there is none, or if a step that
    cannot be interrupted is longer."""
    if not free:
        raise SittingError(fact("refused.no-free-times"))
    longest = max(slot.minutes for slot in free)
    whole = next((s for s in steps if s.kind in WHOLE and s.minutes > longest), None)
    if whole is not None:
        minutes = round(whole.minutes)
        raise SittingError(
            fact("refused.too-long", step=whole.text, minutes=minutes, longest=longest)
        )
    return longest


def _end_of_last(sittings: Sequence[PlannedSitting]) -> datetime:
    last = sittings[-1].pieces[-1]
    return last.start + timedelta(minutes=last.minutes)


def _run_by_run(
    steps: Sequence[Step],
    free: Sequence[FreeTime],
    first: date,
    cure: timedelta,
    pace: float,
    longest: float,
    done: int,
    runs: Sequence[Figures],
) -> tuple[PlannedSitting, ...]:
    """Return all runs, one after the other; only of the first of them steps are ``done``."""
    found: tuple[PlannedSitting, ...] = ()
    for figures in runs:
        found += _paced_steps(steps, free, first, cure, pace, longest, done, figures)
        first, done = _end_of_last(found).date() + timedelta(days=1), 0
    return found


def _paced_steps(
    steps: Sequence[Step],
    free: Sequence[FreeTime],
    first: date,
    cure: timedelta,
    pace: float,
    longest: float,
    done: int,
    figures: Figures,
) -> tuple[PlannedSitting, ...]:
    """Return ``steps`` at ``pace`` times their minutes; a join never takes longer than ``longest``. Of
    several figures' joins some may fall into another sitting, but each is done whole."""
    at_once = {s.n: figures if isinstance(figures, int) else figures[s.n] for s in steps}
    whole = {s.n: min(s.minutes * pace, longest) for s in steps if s.kind in WHOLE}
    left = {s.n: s.minutes_of(at_once[s.n]) * pace for s in steps}
    left |= {n: minutes for n, minutes in whole.items() if at_once[n] == 1}
    done_at = {s.n: datetime.min for s in steps[:done]}
    waits = {s.n for s in steps if s.kind == "wait"}
    todo = list(steps[done:])
    sittings = []
    for start, end in free_slots(free, first):
        pieces: list[StepShare] = []
        now = start
        while todo:
            step = _next_step(todo, left, whole, done_at, waits, now, end)
            if step is None:
                # Glue that is soon hard is waited for at the table.
                soonest = min((at for at in done_at.values() if at > now), default=end)
                if soonest >= end:
                    break
                now = soonest
                continue
            room = (end - now).total_seconds() / 60
            spent = min(left[step.n], room)
            if spent < left[step.n] and step.n in whole:
                spent = whole[step.n] * math.floor(room / whole[step.n] + 1e-9)
            rest = left[step.n] - spent
            if step.n in waits:
                # It begins to cure as soon as it is glued; nobody sits beside it.
                done_at[step.n] = now + cure
            else:
                pieces.append(StepShare(step.n, now, spent, rest > 1e-9))
                now += timedelta(minutes=spent)
                left[step.n] = rest
            if step.n in waits or rest <= 1e-9:
                done_at.setdefault(step.n, now)
                todo.remove(step)
        if pieces:
            sittings.append(PlannedSitting(start, end, tuple(pieces)))
        if not todo:
            return tuple(sittings)
    raise SittingError(fact("refused.ten-years"))


def _next_step(
    todo: Iterable[Step],
    left: dict[int, float],
    whole: dict[int, float],
    done_at: dict[int, datetime],
    waits: set[int],
    now: datetime,
    end: datetime,
) -> Step | None:
    """Return the first step that may be done now and fits; a begun one goes first."""
    room = (end - now).total_seconds() / 60
    for step in todo:
        if any(n not in done_at or done_at[n] > now for n in step.after):
            continue
        if step.n in waits:
            return step
        if room < SMALLEST_MIN and left[step.n] > 1e-9:
            return None
        if left[step.n] <= room + 1e-9:
            return step
        if room >= whole.get(step.n, min(left[step.n], 10.0)):
            return step
    return None


DAY_MIN = 24 * 60
SNAP_MIN = 15
"""Free times begin and end on the quarter of an hour."""
LEAST_MIN, MOST_MIN = 15, 960
"""The shortest that can be pulled (one quarter), and the longest that a ``FreeTime`` may be."""


def begin_minute(slot: FreeTime) -> int:
    """Return its beginning in minutes after midnight."""
    hour, minute = slot.start.split(":")
    return int(hour) * 60 + int(minute)


def end_minute(slot: FreeTime) -> int:
    """Return its end in minutes after midnight."""
    return begin_minute(slot) + slot.minutes


def nearest_free_time(weekday: int, start: float, end: float) -> FreeTime:
    """Return the free time nearest to ``start`` and ``end`` (minutes after midnight): in whole quarters of an
    hour, within its day, neither too short nor too long."""
    a = _snap_to_grid(min(start, end))
    b = _snap_to_grid(max(start, end))
    a = min(a, DAY_MIN - LEAST_MIN)
    length = min(max(b - a, LEAST_MIN), MOST_MIN, DAY_MIN - a)
    return FreeTime(weekday=weekday, start=f"{a // 60:02d}:{a % 60:02d}", minutes=length)


def move_slot(slot: FreeTime, weekday: int, start: float) -> FreeTime:
    """Return ``slot`` on another day or at another time, of the same length and within the day."""
    at = max(0.0, min(start, DAY_MIN - slot.minutes))
    return nearest_free_time(weekday, at, at + slot.minutes)


def merge_slots(free: Iterable[FreeTime]) -> tuple[FreeTime, ...]:
    """Return the slots in order, with overlapping ones merged."""
    found: list[FreeTime] = []
    for slot in sorted(free, key=lambda s: (s.weekday, begin_minute(s))):
        last = found[-1] if found else None
        if last and last.weekday == slot.weekday and begin_minute(slot) < end_minute(last):
            longer = min(max(end_minute(last), end_minute(slot)) - begin_minute(last), MOST_MIN)
            found[-1] = last.replaced(minutes=longer)
        else:
            found.append(slot)
    return tuple(found)


def _snap_to_grid(minutes: float) -> int:
    return max(0, min(DAY_MIN, round(minutes / SNAP_MIN) * SNAP_MIN))
