"""Consecutive steps that are done alike share one card, with a table of the differences."""

from __future__ import annotations

import itertools
import math
from collections.abc import Hashable, Sequence
from dataclasses import replace

from bambola.core.bench import Bench
from bambola.core.facts import NOTHING, Fact, fact
from bambola.core.frozen import frozen
from bambola.core.methods import card_for, numbers_in
from bambola.core.methods.values import Card
from bambola.core.order import Step
from bambola.core.plan.counter.weighing import laid_fact
from bambola.core.plan.making.values import Plan

SAME = 0.05
"""Sizes that differ by no more are felted as the same: stops are no closer. See craft.md, 10."""


@frozen
class AlikeRow:
    """One of several steps on a shared card: what it is done to, the wool it takes (nothing if none), and the
    sizes to stop at (nothing if it has none of its own)."""

    step: Step
    called: Fact
    amount: Fact
    stop: tuple[Fact, ...]

    @property
    def cells(self) -> tuple[Fact, ...]:
        """The cells of its row, from left to right."""
        return tuple(cell for cell in (self.called, self.amount, *self.stop) if cell != NOTHING)


def alike_steps(plan: Plan, bench: Bench) -> tuple[tuple[Step, ...], ...]:
    """Return the steps of ``plan`` in order, grouped by shared card: rows of fur of one kind, and parts that
    differ only in name and slightly in size."""
    found: list[tuple[Step, ...]] = []
    for _, steps in itertools.groupby(plan.steps, lambda step: _sort_key(plan, step)):
        group = tuple(steps)
        if len(group) == 1 or group[0].key.sort == "fur":
            found.append(group)
            continue
        cards = [card_for(plan, step, bench) for step in group]
        begins = 0
        for i in range(1, len(group) + 1):
            if i == len(group) or not _is_told_alike(cards[begins], cards[i]):
                found.append(group[begins:i])
                begins = i
    return tuple(found)


def _is_told_alike(one: Card, other: Card) -> bool:
    """Return whether two cards read the same except for names, with sizes that no hand can tell apart."""
    if [told.kind for told in one.how] != [told.kind for told in other.how]:
        return False
    if [run.gauge for run in one.needles] != [run.gauge for run in other.needles]:
        return False
    pairs = zip(one.how, other.how, strict=True)
    return all(
        math.isclose(a, b, rel_tol=SAME)
        for first, second in pairs
        for (_, a), (_, b) in zip(numbers_in(first), numbers_in(second), strict=False)
    )


def _sort_key(plan: Plan, step: Step) -> Hashable:
    """Return the key that steps must share to be done alike."""
    key, job = step.key, plan.job_of(step)
    if job is None or step.part is None:
        return key
    if key.sort == "fur":
        part = plan.resized.figure.by_id[step.part]
        places = (place for place in part.furs if key.place == ("" if place.is_whole else place.id))
        fur = next(places).fur
        return key.sort, fur.replaced(wool="") if fur else None
    if key.sort in ("inset", "face"):
        return key
    return key.sort, key.detail, replace(job, id="", name="", plural=None)


def alike_title(steps: Sequence[Step]) -> Fact:
    """Return the title of the shared card of ``steps``: the first step, and how far it goes on."""
    first, last = steps[0], steps[-1]
    if first is last:
        return first.text
    if _is_one_place(steps):
        return fact("alike.rows", first=first.text, row=last.key.nth)
    return fact("alike.title", first=first.text, n=len(steps) - 1)


def alike_rows(plan: Plan, steps: Sequence[Step], bench: Bench) -> tuple[AlikeRow, ...]:
    """Return a row for each of ``steps`` on a shared card, without the sizes they all share; none if only a
    number differs."""
    if _is_one_place(steps):
        return ()
    stops = [tuple(stop.told for stop in card_for(plan, step, bench).stop) for step in steps]
    own = len(set(stops)) > 1
    return tuple(
        AlikeRow(step, _short_name(plan, step), laid_fact(plan, step, bench), stop if own else ())
        for step, stop in zip(steps, stops, strict=True)
    )


def alike_amount(plan: Plan, steps: Sequence[Step], bench: Bench) -> Fact:
    """Return the wool for ``steps`` on a shared card, for each of several rows; nothing if the table says
    it."""
    amount = laid_fact(plan, steps[0], bench)
    if len(steps) == 1 or amount == NOTHING:
        return amount
    return fact("alike.each", amount=amount) if _is_one_place(steps) else NOTHING


def _is_one_place(steps: Sequence[Step]) -> bool:
    """Return whether all are rows of fur on one place."""
    keys = {(step.key.about, step.key.place) for step in steps}
    return len(keys) == 1 and steps[0].key.sort == "fur"


def _short_name(plan: Plan, step: Step) -> Fact:
    """Return the short name, for a table, of what a step is done to."""
    job = plan.job_of(step)
    if job is None:
        return NOTHING
    if step.key.sort != "fur":
        return job.fact
    place = job.fur_at(step.key).name
    row = fact("alike.row", n=step.key.nth)
    where = fact("alike.at", row=row, part=job.fact, place=place)
    return where if place else fact("alike.on", row=row, part=job.fact)
