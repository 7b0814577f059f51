"""Putting tasks in order: no hard rule broken, preferences kept where they can be, few changes.

A list scheduler takes, among the tasks that may come next, the one that costs least in changes of
needle, changes of colour on the pad (light before dark) and leaving a piece of work unfinished. From
what it finds, and from an order that :mod:`beam` builds, :mod:`improving` looks for a cheaper one.
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
from bambola.core.memo import memory
from bambola.core.order.beam import beamed
from bambola.core.order.book import Book
from bambola.core.order.improving import Changeover, Problem, improved
from bambola.core.order.keys import TaskKey
from bambola.core.order.rules import RULES
from bambola.core.order.tasks import tasks_for
from bambola.core.order.work import Task, Work, cures


class OrderConflictError(RefusedError):
    """A design whose rules contradict each other; what is told names the parts."""


@frozen
class Edge:
    """``before`` must come before ``after``, by ``rule``."""

    before: TaskKey
    after: TaskKey
    rule: str


@frozen
class Sequence:
    """Tasks in order, and every rule that was used.

    ``held`` gives for each task the rules that hold it back; ``after`` the numbers of the tasks it
    follows, only those that no other of them follows in its turn.
    """

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
    """Return the order of ``work``. ``lightness`` by wool decides light before dark, ``weights`` what is
    minded.

    Where ``usual`` is given, the same figure made by the schools that are usual, its order is kept but
    for what ``work`` must have otherwise: a switch moves what it is about and nothing else. Raises
    :class:`OrderConflictError` when hard rules go round in a circle.
    """
    known = memory().kept(_Known)
    asked = (work, lightness, weights, usual)
    if (found := known.of(asked)) is not None:
        return found
    tasks = tasks_for(work)
    edges = edges_of(work, tasks)
    if usual is None or usual == work:
        ordered = arranged(work, tasks, edges, dict(lightness), weights)
    else:
        base = sequence(usual, lightness, weights)
        ordered = _arrange(work, tasks, edges, {}, _MINDS_NOTHING, _places_like(base, tasks))
    ordered = sockets_beside_eyes(ordered)
    found = explained(ordered, edges, shut_spans(work, ordered))
    known.keep(asked, found)
    return found


def unordered(work: Work) -> Sequence:
    """Return the tasks of ``work`` as they come, held back by nothing: for who asks what is to be done and
    how long it takes, and not when."""
    tasks = tuple(tasks_for(work))
    return Sequence(tasks, (), (), ((),) * len(tasks), ((),) * len(tasks))


def sockets_beside_eyes(tasks: tuple[Task, ...]) -> tuple[Task, ...]:
    """Return the same order with every socket opened right before its eye goes in: felt closes within
    minutes. Nothing else waits for a socket, so that it may always wait itself."""
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
    """The orders found last. Telling two works apart is far quicker than hashing one."""

    def __init__(self) -> None:
        self._found: list[tuple[_Asked, Sequence]] = []

    def of(self, asked: _Asked) -> Sequence | None:
        """Return the order of what is ``asked``, if it is among them."""
        # Plans are made on more than one thread.
        return next((found for was, found in tuple(self._found) if was == asked), None)

    def keep(self, asked: _Asked, found: Sequence) -> None:
        """Remember it, and let the oldest go."""
        self._found = [(asked, found), *self._found[: _REMEMBER - 1]]


_MINDS_NOTHING = Weights(needle=0, colour=0, dark_to_light=0, leaving=0, glue=0)


def _places_like(base: Sequence, tasks: Iterable[Task]) -> dict[TaskKey, float]:
    """Return where each task stands in ``base``; one that is not there, where the task before it stands."""
    at = {task.key: float(i) for i, task in enumerate(base.tasks)}
    found, last = {}, 0.0
    for task in tasks:
        last = at.get(task.key, at.get(task.key.of_first, last) + 0.5)
        found[task.key] = last
    return found


def arranged(
    work: Work,
    tasks: tuple[Task, ...],
    edges: Iterable[Edge],
    lightness: Mapping[str, float],
    weights: Weights,
) -> tuple[Task, ...]:
    """Return the tasks in the cheapest order that was found."""
    edges = tuple(edges)
    first = _arrange(work, tasks, edges, lightness, weights)
    problem = problem_of(work, first, edges, lightness, weights)
    starts = [tuple(range(len(first)))]
    if len(tasks) <= _MOST_BEAMED and (other := beamed(problem)):
        starts.append(other)
    best = improved(problem, starts)
    return tuple(first[i] for i in best)


def problem_of(
    work: Work,
    tasks: tuple[Task, ...],
    edges: Iterable[Edge],
    lightness: Mapping[str, float],
    weights: Weights,
) -> Problem:
    """Return what changes between tasks cost, and what may not be broken, in numbers of ``tasks``."""
    at = {task.key: i for i, task in enumerate(tasks)}
    spans = shut_spans(work, tasks)
    return Problem(
        len(tasks),
        tuple({(at[edge.before], at[edge.after]) for edge in edges}),
        (
            _kind([task.needle for task in tasks], lambda a, b: weights.needle),
            _kind(
                [task.wool for task in tasks], lambda a, b: colour_change(a, b, lightness, weights)
            ),
            _kind([task.piece for task in tasks], lambda a, b: weights.leaving),
            _kind(
                [task.kind == "wait" or "work" for task in tasks],
                lambda a, b: weights.glue if b is True else 0.0,
            ),
        ),
        tuple((at[s.start], at[s.end], frozenset(at[k] for k in s.kept_out)) for s in spans),
    )


def _kind(values: list[Any], cost: Callable[[Any, Any], float]) -> Changeover:
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
    """Return what it costs to go from one wool to another on the pad; from dark to light a little more."""
    lighter = lightness.get(now, 0.5) > lightness.get(was, 0.5)
    return weights.colour + (weights.dark_to_light if lighter else 0.0)


@frozen
class Shut:
    """Between the keys ``start`` (glued) and ``end`` (cured), none of ``kept_out`` may come."""

    start: TaskKey
    end: TaskKey
    kept_out: frozenset[TaskKey]


def shut_spans(work: Work, tasks: Iterable[Task]) -> tuple[Shut, ...]:
    """For everything glued, the tasks that handle its region and must not while the glue cures."""
    tasks = tuple(tasks)
    fixed_to = _fixed_to(work, tasks)
    found = []
    for glued, (cured, part) in cures(work).items():
        handled = (
            t.key
            for t in tasks
            if t.key not in (glued, cured) and part in (t.part, fixed_to.get(t.key))
        )
        found.append(Shut(glued, cured, frozenset(handled)))
    return tuple(found)


def explained(
    ordered: tuple[Task, ...], edges: tuple[Edge, ...], shut: tuple[Shut, ...]
) -> Sequence:
    """``ordered`` with every rule that holds it; all ``edges`` are kept by it."""
    number = {task.key: n for n, task in enumerate(ordered, 1)}
    held: dict[TaskKey, dict[str, None]] = {key: {} for key in number}
    before: dict[TaskKey, set[int]] = {key: set() for key in number}
    for edge in (*edges, *_cured(ordered, edges, shut)):
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
    """For each task that fixes its part to another, that other part."""
    jobs = {part.id: part for part in work.parts}
    fixing = ("join", "pre-join", "blend", "dress", "detail")
    return {
        task.key: jobs[task.part].parent
        for task in tasks
        if task.part
        and (task.kind in fixing or (task.kind == "shape" and jobs[task.part].made == "in place"))
    }


def _cured(
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
    """Return what every rule holds before what; a preference that a hard rule contradicts gives way."""
    book = Book(work, tasks)
    after: dict[TaskKey, set[TaskKey]] = {task.key: set() for task in tasks}
    kept: list[Edge] = []
    for rule in RULES:
        for before, then in dict.fromkeys(rule.pairs(book)):
            if before not in after or then not in after:
                continue
            if not rule.hard and _reaches(after, then, before):
                continue
            after[before].add(then)
            kept.append(Edge(before, then, rule.id))
    _refuse_circles(after, book)
    return tuple(kept)


def _reaches(after: Mapping[TaskKey, set[TaskKey]], start: TaskKey, goal: TaskKey) -> bool:
    seen, todo = {start}, [start]
    while todo:
        at = todo.pop()
        if at == goal:
            return True
        fresh = after[at] - seen
        seen |= fresh
        todo += fresh
    return False


def _waiting(after: Mapping[TaskKey, set[TaskKey]]) -> dict[TaskKey, int]:
    """Return how many tasks each still waits for."""
    waiting = dict.fromkeys(after, 0)
    for thens in after.values():
        for then in thens:
            waiting[then] += 1
    return waiting


def _refuse_circles(after: Mapping[TaskKey, set[TaskKey]], book: Book) -> None:
    waiting = _waiting(after)
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
    return any(_reaches(after, then, key) for then in after[key])


class _Maker:
    """What the maker has in hand while an order is laid down, and what may not be touched yet."""

    def __init__(
        self, work: Work, tasks: tuple[Task, ...], lightness: Mapping[str, float], weights: Weights
    ) -> None:
        self.lightness, self.weights = lightness, weights
        self.needle: int | None = None
        self.wool: str | None = None
        self.piece: str | None = None
        self._fixed_to = _fixed_to(work, tasks)
        self._cures_by = {glued: cured for glued, (cured, _) in cures(work).items()}
        self._curing: dict[str, TaskKey] = {}
        """The parts whose glue sets, and what ends the wait."""

    def may(self, task: Task) -> bool:
        """Return whether ``task`` can be done while glue sets."""
        if task.key in self._curing.values():
            return True
        return task.part not in self._curing and self._fixed_to.get(task.key) not in self._curing

    def cost(self, task: Task) -> float:
        """Return what turning to ``task`` costs."""
        cost = 0.0
        if task.needle and self.needle and task.needle != self.needle:
            cost += self.weights.needle
        if task.wool and self.wool and task.wool != self.wool:
            cost += colour_change(self.wool, task.wool, self.lightness, self.weights)
        if task.piece and self.piece and task.piece != self.piece:
            cost += self.weights.leaving
        return cost

    def do(self, task: Task) -> None:
        """Take it in hand."""
        self.needle = task.needle or self.needle
        self.wool = task.wool or self.wool
        self.piece = task.piece or self.piece
        if task.part and task.key in self._cures_by:
            self._curing[task.part] = self._cures_by[task.key]
        elif task.part and task.kind == "wait":
            self._curing.pop(task.part, None)


def _arrange(
    work: Work,
    tasks: tuple[Task, ...],
    edges: Iterable[Edge],
    lightness: Mapping[str, float],
    weights: Weights,
    place: Mapping[TaskKey, float] | None = None,
) -> tuple[Task, ...]:
    """One task after the other, each the cheapest of those that can be done; else that of least ``place``."""
    by_key = {task.key: task for task in tasks}
    at = place or {task.key: float(i) for i, task in enumerate(tasks)}
    after: dict[TaskKey, set[TaskKey]] = {key: set() for key in by_key}
    for edge in edges:
        after[edge.before].add(edge.after)
    waiting = _waiting(after)
    ready = sorted((at[key], key) for key, count in waiting.items() if not count)
    maker = _Maker(work, tasks, lightness, weights)
    order: list[Task] = []
    while ready:
        n = _cheapest(ready, by_key, maker)
        best = by_key[ready.pop(n)[1]]
        order.append(best)
        maker.do(best)
        for then in after[best.key]:
            waiting[then] -= 1
            if not waiting[then]:
                insort(ready, (at[then], then))
    return tuple(order)


def _cheapest(
    ready: list[tuple[float, TaskKey]], by_key: Mapping[TaskKey, Task], maker: _Maker
) -> int:
    """Return which of ``ready``, in rising places, costs least: a turn, and a twentieth for each place it
    lies ahead. What lies so far ahead that its place alone costs more is not asked."""
    found, least = 0, math.inf
    for n, (place, key) in enumerate(ready):
        if place * 0.05 >= least:
            break
        if maker.may(by_key[key]) and (cost := place * 0.05 + maker.cost(by_key[key])) < least:
            found, least = n, cost
    return found
