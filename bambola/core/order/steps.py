"""Steps as the maker reads them: numbered, with their reasons, time and needle."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace

from bambola.core.bench import Pace
from bambola.core.facts import NOTHING, Fact, Value, fact
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.order.keys import FINISH, SECOND, TaskKey
from bambola.core.order.rules import RULES
from bambola.core.order.sequence import Sequence
from bambola.core.order.tasks import left_soft
from bambola.core.order.work import PartJob, Task, Work


@frozen
class StepReason:
    """A rule that holds a step back, and its sentence."""

    rule: str
    text: Fact


WHY = {rule.id: StepReason(rule.id, Fact(f"rule.{rule.id}")) for rule in RULES}


@remembered(1024)
def _reasons_for(rules: tuple[str, ...]) -> tuple[StepReason, ...]:
    """Return the rules with these ids; few combinations recur in every plan."""
    return tuple(WHY[rule] for rule in rules)


@frozen
class Step:
    """One numbered step. ``after`` are the numbers of the steps it must follow. ``minutes`` is for one
    figure, ``set_up`` of them before the first piece, so that several figures need them once. ``sort`` is its
    sort of work with firmness and size, such as ``core:firm:large``: hours are learned by it."""

    n: int
    kind: str
    part: str | None
    text: Fact
    after: tuple[int, ...]
    why: tuple[StepReason, ...]
    needle: int | None
    wool: str | None
    minutes: float
    checks: tuple[Fact, ...]
    cautions: tuple[Fact, ...]
    key: TaskKey
    sort: str
    set_up: float = 0.0

    def minutes_of(self, figures: int) -> float:
        """Return the minutes for so many figures, done one after the other."""
        return self.set_up + figures * (self.minutes - self.set_up)


def duration_fact(steps: Iterable[Step], runs: Iterable[int]) -> Fact:
    """Return the duration of steps as a fact: for so many figures at once, or for a trial and then so many
    others."""
    found = tuple(steps)
    if found[0].kind == "wait":
        return Fact("lasts.overnight")
    minutes = [(n, round(sum(step.minutes_of(n) for step in found))) for n in runs]
    (figures, first), *others = minutes
    for n, rest in others:
        return fact("lasts.trial", minutes=first, rest=rest, n=n)
    if figures == 1:
        return fact("lasts", minutes=first)
    return fact("lasts.all", minutes=first, n=figures)


def waiting_for(order: Sequence, n: int) -> tuple[tuple[int, tuple[StepReason, ...]], ...]:
    """Return the steps that wait directly for step ``n``, each with its number and rules. Those that also
    wait for another of them are left out."""
    key = order.tasks[n - 1].key
    found = []
    for number, (task, after) in enumerate(zip(order.tasks, order.after, strict=True), 1):
        if n in after:
            rules = (
                edge.rule for edge in order.edges if (edge.before, edge.after) == (key, task.key)
            )
            cured = ("glue-cures",) if order.tasks[n - 1].kind == "wait" else ()
            found.append((number, tuple(WHY[rule] for rule in dict.fromkeys((*rules, *cured)))))
    return tuple(found)


@frozen
class Change:
    """A difference in making from the figure as made; ``cause`` gives the numbers behind it."""

    part: str | None
    what: str
    was: str
    now: str
    text: Fact
    cause: Fact = NOTHING


def base_part(part: str | None) -> str | None:
    """Return the part of a job's id: the second of a pair made one at a time has its own id."""
    return part.removesuffix(SECOND) if part else None


def minutes_for(
    task: Task,
    jobs: Mapping[str, PartJob],
    grams: Mapping[TaskKey, float],
    pace: Pace,
    firmness: str,
    line_mm: float,
) -> tuple[float, float, str]:
    """Return the working minutes of ``task``, how many of them are for setting up, and its sort of work with
    firmness and size.

    ``grams`` is keyed ``core:part``, ``coat:part`` and so on; ``line_mm`` is the length of the line along
    which the part is joined. A few minutes to set up, then minutes per gram to the power 0.8, longer when
    firm; pairs twice. Joining, blending and the foot of a part built in place go by the length of the line.
    Smoothing at the end depends on all the rest: :func:`smoothing_minutes`.
    """
    if task.kind == "wait":
        return 0.0, 0.0, task.sort
    sort = task.sort
    if sort == "mix":
        return MIXING * pace.setup * pace.of_sort(sort), 0.0, sort
    if task.kind in ("cut wire", "bend and bind"):
        return pace.wire * pace.of_sort(sort), 0.0, sort
    job = jobs.get(task.part or "")
    copies = job.count if job else 1
    mass = grams.get(task.weighed_by.of_first, 0.0)
    if sort == "core" and job:
        mass /= job.rounds
    if sort == "fur" and job:
        mass /= max(1, job.fur_at(task.key).rows)
    factor = pace.firmness[firmness] if sort == "core" else 1.0  # type: ignore[index]
    start = pace.join if sort in ("join", "pair") else pace.setup
    set_up = pace.setup
    if sort == "fur":
        bundles, slower = max(1.0, mass / BUNDLE_G), pace.of_sort(sort)
        first = pace.setup if task.key.nth == 1 else 0.0
        whole = copies * (first + pace.setup / PER_SETUP * bundles)
        return whole * slower, copies * first * slower, sort
    round_ = (1 - SETTING_UP) * line_mm / JOIN_MM
    narrow: str = sort
    if sort == "core":
        narrow = f"core:{firmness}:{_size_of(mass, SIZES_G)}"
    elif mass > 0:
        narrow = f"{sort}:{_size_of(mass, SIZES_G)}"
    elif sort in ("join", "pair", "blend"):
        narrow = f"{sort}:{_size_of(line_mm, SIZES_MM)}"
    if sort in ("join", "pair", "blend") and (task.kind != "dress" or (job and job.fixed)):
        set_up = SETTING_UP * start
        start *= SETTING_UP + round_
    elif sort == "core" and job and job.made == "in place":
        start += pace.join * round_  # its foot is felted down all round, as a join is
    whole = float(copies * (start + pace.per_gram * mass**0.8 * factor))
    slower = pace.of_sort(narrow)
    return whole * slower, min(whole, copies * set_up) * slower, narrow


BUNDLE_G, PER_SETUP = 0.5, 2.0
"""Fleece and locks are pressed on in bundles of so many grams, two of them while a piece is set up: in 45
seconds each, so that an animal of 80 mm takes twenty minutes for its thirty. Judged. See craft.md, 5."""


SIZES_G, SIZES_MM = (1.0, 5.0), (40.0, 100.0)
"""Work is small, middling or large by the wool (g) that one piece takes, a join by its line (mm). Judged.
See craft.md, 5."""


def _size_of(amount: float, bounds: tuple[float, float]) -> str:
    return "small" if amount < bounds[0] else "middling" if amount < bounds[1] else "large"


JOIN_MM, SETTING_UP = 100.0, 0.25
"""A join of this length takes the minutes that the bench says, so much of them to set up. Judged.
See craft.md, 5."""
MIXING = 3.0
"""A wool is mixed in so many times what a piece takes to be set up: weighed, and thirty times pulled apart in
six seconds each. Judged. See craft.md, 5."""
SMOOTHING_SHARE = 0.1
"""Smoothing takes no more than this share of all the rest of the making. Judged. See craft.md, 5."""


def smoothing_minutes(rest: float, skin_cm2: float, pace: Pace) -> float:
    """Return the minutes to smooth ``skin_cm2`` of skin, where everything else takes ``rest`` minutes."""
    return min(pace.smooth * skin_cm2, SMOOTHING_SHARE * rest) * pace.of_sort(FINISH.sort)


def number_steps(
    order: Sequence,
    work: Work,
    grams: Mapping[TaskKey, float],
    pace: Pace,
    firmness: Mapping[str, str],
    skin_cm2: float,
    lines_mm: Mapping[str, float],
) -> tuple[Step, ...]:
    """Return the steps of ``order`` with numbers, reasons and minutes; ``skin_cm2`` is the skin to smooth at
    the end, ``lines_mm`` the lengths of the joins."""
    jobs = {part.id: part for part in work.parts}
    steps = []
    for n, (task, rules, after) in enumerate(
        zip(order.tasks, order.held, order.after, strict=True), 1
    ):
        part = base_part(task.part)
        firm, line = firmness.get(part or "", "medium"), lines_mm.get(part or "", 0.0)
        minutes, set_up, sort = minutes_for(task, jobs, grams, pace, firm, line)
        steps.append(
            Step(
                n,
                task.kind,
                part,
                task.text,
                after,
                _reasons_for(rules),
                task.needle,
                task.wool,
                minutes,
                task.checks,
                task.cautions,
                task.key,
                sort,
                set_up,
            )
        )
    rest = sum(step.minutes for step in steps if step.key != FINISH)
    return tuple(
        replace(step, minutes=smoothing_minutes(rest, skin_cm2, pace), set_up=0.0)
        if step.key == FINISH
        else step
        for step in steps
    )


def differences_in_making(old: Work, new: Work) -> tuple[Change, ...]:
    """Return what a new size changes in the making: ways, rounds, pegs, fur rows, clothes, needles."""
    before = {part.id: part for part in old.parts}
    return tuple(
        change
        for part in new.parts
        if part.id in before
        for change in _size_changes(before[part.id], part, old, new)
    )


def _size_changes(was: PartJob, now: PartJob, old: Work, new: Work) -> Iterator[Change]:
    name, id = now.name, base_part(now.id)

    def told(kind: str, **slots: Value) -> Fact:
        return fact(f"change.{kind}", part=name, **slots)

    if was.made != now.made:
        a, b = (made_fact(made) for made in (was.made, now.made))
        yield Change(id, "made", was.made, now.made, told("made", was=a, now=b))
    if was.count != now.count:
        text = told("row", n=now.count, was=was.count)
        yield Change(id, "row", str(was.count), str(now.count), text)
    if was.rounds != now.rounds:
        text = told("rounds", n=now.rounds, was=was.rounds)
        yield Change(id, "rounds", str(was.rounds), str(now.rounds), text)
    if was.coreless != now.coreless and was.made != "detail" != now.made:
        before, after = ("coat" if job.coreless else "core" for job in (was, now))
        text = told("loses-core" if now.coreless else "gains-core")
        yield Change(id, "core", before, after, text)
    for patch in now.insets:
        before, after = ("lines" if patch.id in job.lines else "patch" for job in (was, now))
        if before == after:
            continue
        text = told(f"becomes-{after}", inset=patch.name)
        yield Change(id, "patch", before, after, text)
    if was.join != now.join:
        kind = "gains-peg" if now.join == "peg" else "loses-peg" if was.join == "peg" else "join"
        a, b = Fact(f"join.{was.join}"), Fact(f"join.{now.join}")
        yield Change(id, "join", was.join, now.join, told(kind, was=a, now=b))
    if was.fur_rows != now.fur_rows:
        text = told("fur-rows", n=now.fur_rows, was=was.fur_rows)
        yield Change(id, "fur rows", str(was.fur_rows), str(now.fur_rows), text)
    if was.must_precede != now.must_precede and now.passes is not None:
        before, after = ("before" if job.must_precede else "after" for job in (was, now))
        over = next(job.name for job in new.parts if job.id == now.passes)
        yield Change(id, "dress", before, after, told(f"goes-on-{after}", over=over))
    if was.needle != now.needle and was.made == now.made and now.is_felted:
        text = told("needle", now=now.needle, was=was.needle)
        yield Change(id, "needle", str(was.needle), str(now.needle), text)
    if left_soft(old, was) != left_soft(new, now) and was.made == now.made:
        before, after = (
            "on the body" if left_soft(*pair) else "apart" for pair in ((old, was), (new, now))
        )
        text = told("firmed-on-body" if after == "on the body" else "firmed-apart")
        yield Change(id, "firmed", before, after, text)


def made_fact(made: str) -> Fact:
    """Return how a part is made."""
    return Fact(f"made.{made.replace(' ', '-')}")
