"""Steps as the maker reads them: numbered, with what holds them, time and needle."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from bambola.core.figure import Pace
from bambola.core.order.rules import RULES
from bambola.core.order.sequence import Sequence
from bambola.core.order.tasks import MADE_WORDS, PartJob, Task, Work


@dataclass(frozen=True, slots=True)
class Why:
    """A rule that holds a step, and its sentence."""

    rule: str
    text: str


WHY = {rule.id: Why(rule.id, rule.text) for rule in RULES}


@lru_cache(maxsize=1024)
def _reasons(rules: tuple[str, ...]) -> tuple[Why, ...]:
    """The rules of these ids; few combinations recur in every plan."""
    return tuple(WHY[rule] for rule in rules)


@dataclass(frozen=True, slots=True)
class Step:
    """One numbered step. ``after`` are the numbers of the steps it must follow."""

    n: int
    kind: str
    part: str | None
    text: str
    after: tuple[int, ...]
    why: tuple[Why, ...]
    needle: int | None
    wool: str | None
    minutes: float
    checks: tuple[str, ...]
    cautions: tuple[str, ...]
    key: str


@dataclass(frozen=True, slots=True)
class Change:
    """A difference in making from the figure as made."""

    part: str | None
    what: str
    was: str
    now: str
    text: str


def base_part(part: str | None) -> str | None:
    """The part a job's id stands for: the second of a pair made one at a time is still that part."""
    return part.removesuffix(".2") if part else None


def minutes_for(
    task: Task, jobs: Mapping[str, PartJob], grams: Mapping[str, float], pace: Pace, firmness: str
) -> float:
    """Working minutes of ``task``; ``grams`` is keyed ``core:part``, ``coat:part`` and so on.

    A few minutes to set up, then minutes per gram to the power 0.8, longer when firm; pairs twice.
    """
    if task.kind == "wait":
        return 0.0
    sort = task.sort
    job = jobs.get(task.part or "")
    copies = job.count if job else 1
    mass = grams.get(task.weighed_by.replace(".2", ""), 0.0)
    if sort == "core" and job:
        mass /= job.rounds
    if sort == "fur" and job:
        mass /= max(1, job.fur_rows)
    factor = pace.firmness[firmness] if sort == "core" else 1.0  # type: ignore[index]
    return float(copies * (pace.setup + pace.per_gram * mass**0.8 * factor))


def number_steps(
    order: Sequence, work: Work, grams: Mapping[str, float], pace: Pace, firmness: Mapping[str, str]
) -> tuple[Step, ...]:
    """The steps of ``order`` with numbers, reasons and minutes."""
    jobs = {part.id: part for part in work.parts}
    steps = []
    for n, (task, rules, after) in enumerate(
        zip(order.tasks, order.held, order.after, strict=True), 1
    ):
        firm = firmness.get(base_part(task.part) or "", "medium")
        steps.append(
            Step(n, task.kind, base_part(task.part), task.text, after, _reasons(rules),
                 task.needle, task.wool, minutes_for(task, jobs, grams, pace, firm), task.checks,
                 task.cautions, task.key)
        )  # fmt: skip
    return tuple(steps)


def _rounds(n: int) -> str:
    return "1 round" if n == 1 else f"{n} rounds"


def differences(old: Work, new: Work) -> tuple[Change, ...]:
    """What a new size changes in the making: ways of making, rounds, pegs, fur rows, clothes."""
    before = {part.id: part for part in old.parts}
    changes: list[Change] = []
    for part in new.parts:
        was = before.get(part.id)
        if was is None:
            continue
        name = part.name
        if was.made != part.made:
            now = MADE_WORDS[part.made]
            changes.append(Change(part.id, "made", was.made, part.made,
                                  f"{name}: {MADE_WORDS[was.made]} before, {now} now"))  # fmt: skip
        if was.rounds != part.rounds:
            changes.append(Change(part.id, "rounds", str(was.rounds), str(part.rounds),
                                  f"{name}: core in {_rounds(part.rounds)}, not {was.rounds}"))  # fmt: skip
        if was.join != part.join:
            changes.append(Change(part.id, "join", was.join, part.join,
                                  f"{name}: joined by {part.join} instead of {was.join}"))  # fmt: skip
        if was.fur_rows != part.fur_rows:
            changes.append(Change(part.id, "fur rows", str(was.fur_rows), str(part.fur_rows),
                                  f"{name}: {part.fur_rows} fur rows instead of {was.fur_rows}"))  # fmt: skip
        if was.must_precede != part.must_precede:
            side = "before" if part.must_precede else "after"
            changes.append(Change(part.id, "dress", str(was.must_precede), str(part.must_precede),
                                  f"{name}: goes on {side} what it passes over"))  # fmt: skip
        if was.needle != part.needle and was.made == part.made:
            changes.append(Change(part.id, "needle", str(was.needle), str(part.needle),
                                  f"{name}: needle {part.needle} instead of {was.needle}"))  # fmt: skip
    return tuple(changes)
