"""Putting tasks in order: no hard rule broken, preferences kept where they can be, few changes.

A list scheduler: among the tasks that may come next it takes the one that costs least in changes
of needle, changes of colour on the pad (light before dark) and leaving a piece of work unfinished.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from bambola.core.order.rules import RULES, Book
from bambola.core.order.tasks import Task, Work, tasks_for

NEEDLE_CHANGE, COLOUR_CHANGE, DARK_TO_LIGHT, LEAVE_WORK = 2.0, 2.0, 1.0, 3.0
"""Relative costs that break ties between tasks; the hard rules never depend on them."""


class OrderConflictError(ValueError):
    """A design whose rules contradict each other; the message names the parts."""


@dataclass(frozen=True, slots=True)
class Edge:
    """``before`` must come before ``after``, by ``rule``."""

    before: str
    after: str
    rule: str


@dataclass(frozen=True, slots=True)
class Sequence:
    """Tasks in order, and every rule that was used.

    ``held`` gives for each task the rules that hold it back; ``after`` the numbers of the tasks it
    follows, only those that no other of them follows in its turn.
    """

    tasks: tuple[Task, ...]
    edges: tuple[Edge, ...]
    held: tuple[tuple[str, ...], ...]
    after: tuple[tuple[int, ...], ...]


_recent: list[tuple[Work, tuple[tuple[str, float], ...], Sequence]] = []
_REMEMBER = 8


def sequence(work: Work, lightness: tuple[tuple[str, float], ...] = ()) -> Sequence:
    """The order of ``work``. ``lightness`` (0..1) by wool decides light before dark.

    Raises :class:`OrderConflictError` when hard rules go round in a circle.
    """
    # Telling two works apart is far quicker than hashing one, and only the last few ever recur.
    for known in _recent:
        if known[0] == work and known[1] == lightness:
            return known[2]
    tasks = tasks_for(work)
    edges = _edges(work, tasks)
    ordered = _arrange(work, tasks, edges, dict(lightness))
    found = _explained(ordered, edges + tuple(_cured(work, ordered, edges)))
    _recent.insert(0, (work, lightness, found))
    del _recent[_REMEMBER:]
    return found


def _explained(ordered: tuple[Task, ...], edges: tuple[Edge, ...]) -> Sequence:
    number = {task.key: n for n, task in enumerate(ordered, 1)}
    held: dict[str, dict[str, None]] = {key: {} for key in number}
    before: dict[str, set[int]] = {key: set() for key in number}
    for edge in edges:
        held[edge.after][edge.rule] = None
        before[edge.after].add(number[edge.before])
    reached: dict[int, int] = {}
    after: list[tuple[int, ...]] = []
    for task in ordered:
        mask, kept = 0, []
        for earlier in sorted(before[task.key], reverse=True):
            if not mask >> earlier & 1:
                kept.append(earlier)
                mask |= 1 << earlier | reached[earlier]
        reached[number[task.key]] = mask
        after.append(tuple(reversed(kept)))
    return Sequence(ordered, edges, tuple(tuple(held[t.key]) for t in ordered), tuple(after))


def _fixed_to(work: Work, tasks: Iterable[Task]) -> dict[str, str | None]:
    """For each task that fixes its part to another, that other part."""
    jobs = {part.id: part for part in work.parts}
    fixing = ("join", "pre-join", "blend", "dress", "detail")
    return {
        task.key: jobs[task.part].parent
        for task in tasks
        if task.part
        and (task.kind in fixing or (task.kind == "shape" and jobs[task.part].made == "in place"))
    }


def _cured(work: Work, ordered: tuple[Task, ...], edges: tuple[Edge, ...]) -> Iterable[Edge]:
    """Every later task held back by the glue on what it handles, so that each can say so."""
    fixed_to = _fixed_to(work, ordered)
    known = {(edge.before, edge.after) for edge in edges}
    for i, task in enumerate(ordered):
        if task.kind == "wait" and task.part:
            for later in ordered[i + 1 :]:
                handled = task.part in (later.part, fixed_to.get(later.key))
                if handled and (task.key, later.key) not in known:
                    yield Edge(task.key, later.key, "glue-cures")


def _edges(work: Work, tasks: tuple[Task, ...]) -> tuple[Edge, ...]:
    book = Book(work, tasks)
    after: dict[str, set[str]] = {task.key: set() for task in tasks}
    kept: list[Edge] = []
    for rule in RULES:
        for before, then in dict.fromkeys(rule.pairs(book)):
            if before not in after or then not in after:
                continue
            # A preference that a hard rule contradicts gives way.
            if not rule.hard and _reaches(after, then, before):
                continue
            after[before].add(then)
            kept.append(Edge(before, then, rule.id))
    _refuse_circles(after, book)
    return tuple(kept)


def _reaches(after: Mapping[str, set[str]], start: str, goal: str) -> bool:
    seen, todo = {start}, [start]
    while todo:
        at = todo.pop()
        if at == goal:
            return True
        fresh = after[at] - seen
        seen |= fresh
        todo += fresh
    return False


def _waiting(after: Mapping[str, set[str]]) -> dict[str, int]:
    """How many tasks each still waits for."""
    waiting = dict.fromkeys(after, 0)
    for thens in after.values():
        for then in thens:
            waiting[then] += 1
    return waiting


def _refuse_circles(after: Mapping[str, set[str]], book: Book) -> None:
    waiting = _waiting(after)
    ready = [key for key, count in waiting.items() if not count]
    while ready:
        for then in after[ready.pop()]:
            waiting[then] -= 1
            if not waiting[then]:
                ready.append(then)
    stuck = {book.tasks[k].part for k, n in waiting.items() if n and _reaches_itself(after, k)}
    if stuck:
        names = sorted(book.parts[p].name.lower() for p in stuck if p)
        raise OrderConflictError(
            f"These parts each have to come before the other and cannot be made: {', '.join(names)}. "
            f"Change which of them lies over which."
        )


def _reaches_itself(after: Mapping[str, set[str]], key: str) -> bool:
    return any(_reaches(after, then, key) for then in after[key])


def _arrange(
    work: Work, tasks: tuple[Task, ...], edges: Iterable[Edge], lightness: Mapping[str, float]
) -> tuple[Task, ...]:
    by_key = {task.key: task for task in tasks}
    place = {task.key: i for i, task in enumerate(tasks)}
    after: dict[str, set[str]] = {key: set() for key in by_key}
    for edge in edges:
        after[edge.before].add(edge.after)
    waiting = _waiting(after)
    ready = {key for key, count in waiting.items() if not count}
    order: list[Task] = []
    fixed_to = _fixed_to(work, tasks)
    curing: dict[str, str] = {}
    glued = {f"fit:{f.id}": f"wait:{f.id}" for f in work.fittings if f.glued}
    needle, wool, part = None, None, None
    while ready:
        open_now = [
            k
            for k in ready
            if k in curing.values() or not curing.keys() & {by_key[k].part, fixed_to.get(k)}
        ]
        best = min(
            open_now,
            key=lambda k: (
                _cost(by_key[k], needle, wool, part, lightness) + place[k] * 0.05,
                place[k],
            ),
        )
        ready.remove(best)
        task = by_key[best]
        order.append(task)
        needle, wool, part = task.needle or needle, task.wool or wool, task.part or part
        if best in glued and task.part:
            curing[task.part] = glued[best]
        elif task.kind == "wait" and task.part:
            curing.pop(task.part, None)
        for then in after[best]:
            waiting[then] -= 1
            if not waiting[then]:
                ready.add(then)
    return tuple(order)


def _cost(
    task: Task,
    needle: int | None,
    wool: str | None,
    part: str | None,
    lightness: Mapping[str, float],
) -> float:
    cost = 0.0
    if task.needle and needle and task.needle != needle:
        cost += NEEDLE_CHANGE
    if task.wool and wool and task.wool != wool:
        cost += COLOUR_CHANGE
        if lightness.get(task.wool, 0.5) > lightness.get(wool, 0.5):
            cost += DARK_TO_LIGHT
    if part and task.part != part:
        cost += LEAVE_WORK
    return cost
