"""Counts back from a date: when a figure must be begun, and what could be left out if it is too late."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace
from datetime import date, timedelta

from bambola.core.bench import Bench
from bambola.core.facts import Fact, fact
from bambola.core.frozen import frozen
from bambola.core.order import Step
from bambola.core.order.sittings import LONGEST_DAYS, SittingError, finish_of
from bambola.core.plan.making.values import Plan

DRY_DAYS, MEND_DAYS = 1, 1
"""Days to dry and to mend before the date. See craft.md, 5."""
RESERVE = 0.2
"""So much longer than planned the work is taken to last. Judged. See craft.md, 5."""
DELIVERY_DAYS = 10
"""What is ordered is there after so many days at most. See craft.md, 5."""


@frozen
class Omission:
    """Something that could be left out: its name and the minutes it takes for all figures, and whether
    leaving it out, with all before it, is enough."""

    what: Fact
    minutes: float
    is_enough: bool


@frozen
class InTime:
    """A figure counted back from the day it is ``due``: the last day to begin the rest (None: there is none),
    and the day by which missing things must be ordered. If that is before ``today``, what could be left out,
    the longest first."""

    due: date
    today: date
    begin: date | None
    order_by: date | None
    spare: tuple[Omission, ...]

    @property
    def is_late(self) -> bool:
        """Whether it can no longer be ready."""
        return self.begin is None or self.begin < self.today


def in_time(plan: Plan, bench: Bench, due: date, today: date, done: int = 0) -> InTime:
    """Return when the rest of ``plan``, without its first ``done`` steps, must be begun to be ready on a day:
    a day to dry, a day before that to mend, with a reserve. Raises :class:`SittingError` if there are no free
    times."""
    steps, last = plan.steps[done:], due - timedelta(days=DRY_DAYS + MEND_DAYS)
    numbers = {step.n for step in steps}
    steps = tuple(replace(s, after=tuple(n for n in s.after if n in numbers)) for s in steps)

    def begun_by(rest: Sequence[Step]) -> date | None:
        return _last_begin(rest, bench, last, plan.runs)

    begin = begun_by(steps)
    needs = any(w.buy_g > 0 for w in plan.wools) or any(f.buy for f in plan.fittings)
    order_by = begin - timedelta(days=DELIVERY_DAYS) if begin and needs else None
    spare: list[Omission] = []
    if begin is None or begin < today:
        gone: set[str] = set()
        for what, keys in sorted(
            _spare_steps(plan, steps), key=lambda s: -_minutes_of(steps, s[1], plan.runs)
        ):
            gone |= keys
            then = begun_by(_steps_without(steps, gone))
            enough = then is not None and then >= today
            spare.append(Omission(what, _minutes_of(steps, keys, plan.runs), enough))
            if enough:
                break
    return InTime(due, today, begin, order_by, tuple(spare))


def _last_begin(
    steps: Sequence[Step], bench: Bench, last: date, runs: Sequence[int]
) -> date | None:
    """Return the last day on which ``steps`` can be begun to be done by the evening of ``last``."""

    def is_done(first: date) -> bool:
        try:
            return finish_of(steps, bench, first, 1 + RESERVE, runs) <= last
        except SittingError as error:
            if "no-free-times" in str(error) or "too-long" in str(error):
                raise
            return False

    if not steps:
        return last
    days = 1
    while not is_done(last - timedelta(days=days)):
        days *= 2
        if days > LONGEST_DAYS:
            return None
    early, late = days, days // 2  # done from so many days before; not from so many
    while early - late > 1:
        middle = (early + late) // 2
        early, late = (middle, late) if is_done(last - timedelta(days=middle)) else (early, middle)
    return last - timedelta(days=early)


def _spare_steps(plan: Plan, steps: Sequence[Step]) -> Iterator[tuple[Fact, frozenset[str]]]:
    """Yield what a figure can do without, with its steps: clothes, fur, and what is laid on its face or
    skin."""
    worn = {part.id for part in plan.resized.figure.parts if part.garment}
    for part in plan.parts:
        own = [step for step in steps if step.part == part.id]
        if part.id in worn:
            yield fact("spare.garment", part=part.name), frozenset(s.key for s in own)
            continue
        for sort, told in (("fur", "spare.fur"), ("inset", "spare.inset")):
            keys = frozenset(step.key for step in own if step.key.sort == sort)
            if keys:
                yield fact(told, part=part.name), keys


def _minutes_of(steps: Sequence[Step], keys: Collection[str], runs: Sequence[int]) -> float:
    return sum(step.minutes_of(run) for run in runs for step in steps if step.key in keys)


def _steps_without(steps: Sequence[Step], keys: Collection[str]) -> tuple[Step, ...]:
    """Return the steps without some of them; steps that waited for those no longer wait."""
    kept = [step for step in steps if step.key not in keys]
    numbers = {step.n for step in kept}
    return tuple(replace(s, after=tuple(n for n in s.after if n in numbers)) for s in kept)
