"""Puts tasks in order: no hard rule broken, preferences kept where possible, few changes.

A list scheduler takes, among the tasks that may come next, the one with the lowest cost in changes of needle,
changes of colour on the pad (light before dark) and unfinished pieces of work. From its result, and from an
order that :mod:`beam` builds, :mod:`improving` looks for a cheaper one.
"""

from __future__ import annotations

import math
from bisect import insort
from collections.abc import Callable, Iterable, Mapping
from typing import Any

import numpy as np

from bambola.core.bench import Weights
from bambola.core.facts import RefusedError, fact
from bambola.core.frozen import frozen
from bambola.core.memo import current_memory
from bambola.core.order.beam import beam_search
from bambola.core.order.book import Book
from bambola.core.order.improving import Changeover, Problem, improve_order
from bambola.core.order.keys import TaskKey
from bambola.core.order.rules import RULES
from bambola.core.order.tasks import tasks_for
from bambola.core.order.work import Task, Work, curing_tasks


class OrderConflictError(RefusedError):
    """Raised for a design whose rules contradict each other; the message names the parts."""


@frozen
class Edge:
    """``before`` must come before ``after``, by ``rule``."""

    before: TaskKey
    after: TaskKey
    rule: str


@frozen
class Sequence:
    """Tasks in order, and every rule that was used. ``held`` maps each task to the rules that hold it back;
    ``after`` to the numbers of its direct predecessors."""

    tasks: tuple[Task, ...]
    edges: tuple[Edge, ...]
    shut: tuple[Shut, ...]
    held: tuple[tuple[str, ...], ...]
    after: tuple[tuple[int, ...], ...]


Lightness = tuple[tuple[str, float], ...]
"""Lightness (0..1) of each wool, by id."""
_REMEMBER = 32
"""So many orders are known again. Judged: those of the steps that a maker goes back and forth between."""
_MOST_BEAMED = 80
"""Up to so many tasks an order built from its beginning is a start too; beyond, it takes too long."""


def sequence(
    work: Work,
    lightness: Lightness = (),
    weights: Weights = Weights(),  # noqa: B008
    usual: Work | None = None,
) -> Sequence:
    """Return the order of ``work``. ``lightness`` by wool decides light before dark, ``weights`` are the
    costs of changes.

    ``usual`` is the same figure made by the usual schools: if given, its order is kept except where ``work``
    demands otherwise, so that a switch moves only what it is about. Raises :class:`OrderConflictError` if
    hard rules form a cycle.
    """
    known = current_memory().find(_Known)
    asked = (work, lightness, weights, usual)
    if (found := known.find(asked)) is not None:
        return found
    tasks = tasks_for(work)
    edges = edges_of(work, tasks)
    if usual is None or usual == work:
        ordered = cheapest_order(work, tasks, edges, dict(lightness), weights)
    else:
        base = sequence(usual, lightness, weights)
        ordered = _arrange_tasks(work, tasks, edges, {}, _MINDS_NOTHING, _places_like(base, tasks))
    ordered = sockets_beside_eyes(ordered)
    found = explain_order(ordered, edges, shut_spans(work, ordered))
    known.add(asked, found)
    return found


def unordered_tasks(work: Work) -> Sequence:
    """Return the tasks of ``work`` unordered, for callers that need only tasks and durations."""
    tasks = tuple(tasks_for(work))
    return Sequence(tasks, (), (), ((),) * len(tasks), ((),) * len(tasks))


def sockets_beside_eyes(tasks: tuple[Task, ...]) -> tuple[Task, ...]:
    """Return the order with every socket right before its eye goes in, since felt closes within minutes. No
    other task depends on a socket, so moving it is always possible."""
    sockets = {task.key.about: task for task in tasks if task.sort == "socket"}
    found: list[Task] = []
    for task in tasks:
        if task.sort == "fit" and task.key.about in sockets:
            found.append(sockets[task.key.about])
        if task.sort != "socket":
            found.append(task)
    return tuple(found)


_Asked = tuple[Work, Lightness, Weights, Work | None]


class _Known:
    """A cache of the latest orders. Comparing two works is far quicker than hashing one."""

    def __init__(self) -> None:
        self._found: list[tuple[_Asked, Sequence]] = []

    def find(self, asked: _Asked) -> Sequence | None:
        """Return the cached order of ``asked``, if there is one."""
        # Plans are made on more than one thread.
        return next((found for was, found in tuple(self._found) if was == asked), None)

    def add(self, asked: _Asked, found: Sequence) -> None:
        """Cache an order and drop the oldest."""
        self._found = [(asked, found), *self._found[: _REMEMBER - 1]]


_MINDS_NOTHING = Weights(needle=0, colour=0, dark_to_light=0, leaving=0, glue=0)


def _places_like(base: Sequence, tasks: Iterable[Task]) -> dict[TaskKey, float]:
    """Return the position of each task in ``base``; a task missing there gets that of the task before it."""
    at = {task.key: float(i) for i, task in enumerate(base.tasks)}
    found, last = {}, 0.0
    for task in tasks:
        last = at.get(task.key, at.get(task.key.of_first, last) + 0.5)
        found[task.key] = last
    return found


def cheapest_order(
    work: Work,
    tasks: tuple[Task, ...],
    edges: Iterable[Edge],
    lightness: Mapping[str, float],
    weights: Weights,
) -> tuple[Task, ...]:
    """Return the tasks in the cheapest order found."""
    edges = tuple(edges)
    first = _arrange_tasks(work, tasks, edges, lightness, weights)
    problem = problem_of(work, first, edges, lightness, weights)
    starts = [tuple(range(len(first)))]
    if len(tasks) <= _MOST_BEAMED and (other := beam_search(problem)):
        starts.append(other)
    best = improve_order(problem, starts)
    return tuple(first[i] for i in best)


def problem_of(
    work: Work,
    tasks: tuple[Task, ...],
    edges: Iterable[Edge],
    lightness: Mapping[str, float],
    weights: Weights,
) -> Problem:
    """Return the costs of changes and the constraints, as numbers of ``tasks``."""
    at = {task.key: i for i, task in enumerate(tasks)}
    spans = shut_spans(work, tasks)
    return Problem(
        len(tasks),
        tuple({(at[edge.before], at[edge.after]) for edge in edges}),
        (
            _make_changeover([task.needle for task in tasks], lambda a, b: weights.needle),
            _make_changeover(
                [task.wool for task in tasks], lambda a, b: colour_change(a, b, lightness, weights)
            ),
            _make_changeover([task.piece for task in tasks], lambda a, b: weights.leaving),
            _make_changeover(
                [task.kind == "wait" or "work" for task in tasks],
                lambda a, b: weights.glue if b is True else 0.0,
            ),
        ),
        tuple((at[s.start], at[s.end], frozenset(at[k] for k in s.kept_out)) for s in spans),
    )


def _make_changeover(values: list[Any], cost: Callable[[Any, Any], float]) -> Changeover:
    known = {
        value: i for i, value in enumerate(dict.fromkeys(v for v in values if v is not None), 1)
    }
    table = np.zeros((len(known) + 1, len(known) + 1))
    for a, i in known.items():
        for b, j in known.items():
            if i != j:
                table[i, j] = cost(a, b)
    return Changeover(np.array([known.get(value, 0) for value in values]), table)


def colour_change(was: str, now: str, lightness: Mapping[str, float], weights: Weights) -> float:
    """Return the cost of going from one wool to another on the pad; dark to light costs a little more."""
    lighter = lightness.get(now, 0.5) > lightness.get(was, 0.5)
    return weights.colour + (weights.dark_to_light if lighter else 0.0)


@frozen
class Shut:
    """Between the keys ``start`` (glued) and ``end`` (cured), none of ``kept_out`` may come."""

    start: TaskKey
    end: TaskKey
    kept_out: frozenset[TaskKey]


def shut_spans(work: Work, tasks: Iterable[Task]) -> tuple[Shut, ...]:
    """Return for everything glued the tasks that handle its region and must wait while the glue cures."""
    tasks = tuple(tasks)
    fixed_to = _fixed_to(work, tasks)
    found = []
    for glued, (cured, part) in curing_tasks(work).items():
        handled = (
            t.key
            for t in tasks
            if t.key not in (glued, cured) and part in (t.part, fixed_to.get(t.key))
        )
        found.append(Shut(glued, cured, frozenset(handled)))
    return tuple(found)


def explain_order(
    ordered: tuple[Task, ...], edges: tuple[Edge, ...], shut: tuple[Shut, ...]
) -> Sequence:
    """Return the sequence of ``ordered`` with every rule that holds each task; all ``edges`` are kept."""
    number = {task.key: n for n, task in enumerate(ordered, 1)}
    held: dict[TaskKey, dict[str, None]] = {key: {} for key in number}
    before: dict[TaskKey, set[int]] = {key: set() for key in number}
    for edge in (*edges, *_held_by_glue(ordered, edges, shut)):
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
    return Sequence(ordered, edges, shut, tuple(tuple(held[t.key]) for t in ordered), tuple(after))


def _fixed_to(work: Work, tasks: Iterable[Task]) -> dict[TaskKey, str | None]:
    """Return for each task that fixes its part to another, that other part."""
    jobs = {part.id: part for part in work.parts}
    fixing = ("join", "pre-join", "blend", "dress", "detail")
    return {
        task.key: jobs[task.part].parent
        for task in tasks
        if task.part
        and (task.kind in fixing or (task.kind == "shape" and jobs[task.part].made == "in place"))
    }


def _held_by_glue(
    ordered: tuple[Task, ...], edges: tuple[Edge, ...], shut: tuple[Shut, ...]
) -> Iterable[Edge]:
    """Yield every later task held back by the glue on what it handles, so that each can say so."""
    known = {(edge.before, edge.after) for edge in edges}
    at = {task.key: i for i, task in enumerate(ordered)}
    for span in shut:
        for key in span.kept_out:
            if at[key] > at[span.end] and (span.end, key) not in known:
                yield Edge(span.end, key, "glue-cures")


def edges_of(work: Work, tasks: tuple[Task, ...]) -> tuple[Edge, ...]:
    """Return the edges of all rules; a preference that contradicts a hard rule gives way."""
    book = Book(work, tasks)
    after: dict[TaskKey, set[TaskKey]] = {task.key: set() for task in tasks}
    kept: list[Edge] = []
    for rule in RULES:
        for before, then in dict.fromkeys(rule.pairs(book)):
            if before not in after or then not in after:
                continue
            if not rule.hard and _can_reach(after, then, before):
                continue
            after[before].add(then)
            kept.append(Edge(before, then, rule.id))
    _refuse_circles(after, book)
    return tuple(kept)


def _can_reach(after: Mapping[TaskKey, set[TaskKey]], start: TaskKey, goal: TaskKey) -> bool:
    seen, todo = {start}, [start]
    while todo:
        at = todo.pop()
        if at == goal:
            return True
        fresh = after[at] - seen
        seen |= fresh
        todo += fresh
    return False


def _count_predecessors(after: Mapping[TaskKey, set[TaskKey]]) -> dict[TaskKey, int]:
    """Return how many predecessors each task still waits for."""
    waiting = dict.fromkeys(after, 0)
    for thens in after.values():
        for then in thens:
            waiting[then] += 1
    return waiting


def _refuse_circles(after: Mapping[TaskKey, set[TaskKey]], book: Book) -> None:
    waiting = _count_predecessors(after)
    ready = [key for key, count in waiting.items() if not count]
    while ready:
        for then in after[ready.pop()]:
            waiting[then] -= 1
            if not waiting[then]:
                ready.append(then)
    stuck = {book.tasks[k].part for k, n in waiting.items() if n and _reaches_itself(after, k)}
    if stuck:
        names = tuple(book.parts[p].fact for p in sorted(filter(None, stuck)))
        raise OrderConflictError(fact("refused.circle", parts=names))


def _reaches_itself(after: Mapping[TaskKey, set[TaskKey]], key: TaskKey) -> bool:
    return any(_can_reach(after, then, key) for then in after[key])


class _Maker:
    """The state of the table while an order is built: what is in hand, and what may not be touched yet."""

    def __init__(
        self, work: Work, tasks: tuple[Task, ...], lightness: Mapping[str, float], weights: Weights
    ) -> None:
        self.lightness, self.weights = lightness, weights
        self.needle: int | None = None
        self.wool: str | None = None
        self.piece: str | None = None
        self._fixed_to = _fixed_to(work, tasks)
        self._cures_by = {glued: cured for glued, (cured, _) in curing_tasks(work).items()}
        self._curing: dict[str, TaskKey] = {}
        """The parts whose glue sets, and what ends the wait."""

    def is_allowed(self, task: Task) -> bool:
        """Return whether ``task`` can be done while glue sets."""
        if task.key in self._curing.values():
            return True
        return task.part not in self._curing and self._fixed_to.get(task.key) not in self._curing

    def cost(self, task: Task) -> float:
        """Return the cost of turning to ``task``."""
        cost = 0.0
        if task.needle and self.needle and task.needle != self.needle:
            cost += self.weights.needle
        if task.wool and self.wool and task.wool != self.wool:
            cost += colour_change(self.wool, task.wool, self.lightness, self.weights)
        if task.piece and self.piece and task.piece != self.piece:
            cost += self.weights.leaving
        return cost

    def do(self, task: Task) -> None:
        """Do ``task``: take its piece in hand."""
        self.needle = task.needle or self.needle
        self.wool = task.wool or self.wool
        self.piece = task.piece or self.piece
        if task.part and task.key in self._cures_by:
            self._curing[task.part] = self._cures_by[task.key]
        elif task.part and task.kind == "wait":
            self._curing.pop(task.part, None)


def _arrange_tasks(
    work: Work,
    tasks: tuple[Task, ...],
    edges: Iterable[Edge],
    lightness: Mapping[str, float],
    weights: Weights,
    place: Mapping[TaskKey, float] | None = None,
) -> tuple[Task, ...]:
    """Return an order built task by task, taking the cheapest possible one each time, else the one of lowest
    ``place``."""
    by_key = {task.key: task for task in tasks}
    at = place or {task.key: float(i) for i, task in enumerate(tasks)}
    after: dict[TaskKey, set[TaskKey]] = {key: set() for key in by_key}
    for edge in edges:
        after[edge.before].add(edge.after)
    waiting = _count_predecessors(after)
    ready = sorted((at[key], key) for key, count in waiting.items() if not count)
    maker = _Maker(work, tasks, lightness, weights)
    order: list[Task] = []
    while ready:
        n = _pick_cheapest(ready, by_key, maker)
        best = by_key[ready.pop(n)[1]]
        order.append(best)
        maker.do(best)
        for then in after[best.key]:
            waiting[then] -= 1
            if not waiting[then]:
                insort(ready, (at[then], then))
    return tuple(order)


def _pick_cheapest(
    ready: list[tuple[float, TaskKey]], by_key: Mapping[TaskKey, Task], maker: _Maker
) -> int:
    """Return the cheapest of ``ready``, which has rising places: the cost of turning to it plus a twentieth
    for each place it lies ahead. Tasks whose place alone costs more are skipped."""
    found, least = 0, math.inf
    for n, (place, key) in enumerate(ready):
        if place * 0.05 >= least:
            break
        if (
            maker.is_allowed(by_key[key])
            and (cost := place * 0.05 + maker.cost(by_key[key])) < least
        ):
            found, least = n, cost
    return found
