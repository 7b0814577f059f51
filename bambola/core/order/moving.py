"""The maker's own moves: where a step may go, what forbids another place, and what would allow it."""

from __future__ import annotations

from collections.abc import Iterable
from collections.abc import Sequence as Places

from bambola.core.figure import Move
from bambola.core.frozen import frozen
from bambola.core.order.keys import TaskKey
from bambola.core.order.rules import RULE_BY_ID
from bambola.core.order.sequence import Edge, Sequence, Shut, explain_order
from bambola.core.order.work import Task

OWN = "own-move"
"""The reason of a step that stands where the maker put it."""


@frozen
class Refusal:
    """Why a step may not go to a place. ``chain`` is the shortest chain of hard rules between the two steps
    that would change sides. ``along`` are the steps that would have to move with it: the smallest change that
    allows it (empty if nothing does)."""

    chain: tuple[Edge, ...]
    along: tuple[str, ...]


def move_key(keys: Places[TaskKey], key: TaskKey, to: int) -> list[TaskKey]:
    """Return the keys with ``key`` moved to place ``to`` (0 is the first)."""
    rest = [k for k in keys if k != key]
    return [*rest[:to], key, *rest[to:]]


def places_for(found: Sequence, key: TaskKey) -> tuple[int, ...]:
    """Return every place (0 is the first) that ``key`` may move to while all others keep their order."""
    keys = [task.key for task in found.tasks]
    at = keys.index(key)
    befores, afters = _held_by(found)
    low = max((keys.index(k) + 1 for k in _all_reachable(befores, key)), default=0)
    high = min((keys.index(k) - 1 for k in _all_reachable(afters, key)), default=len(keys) - 1)
    return tuple(
        to
        for to in range(low, high + 1)
        if to == at or _shut_by(found.shut, move_key(keys, key, to)) is None
    )


def why_not_move(found: Sequence, key: TaskKey, to: int) -> Refusal | None:
    """Return why ``key`` may not go to place ``to``; None if it may."""
    if to in places_for(found, key):
        return None
    keys = [task.key for task in found.tasks]
    at = keys.index(key)
    befores, afters = _held_by(found)
    passed = keys[to:at] if to < at else keys[at + 1 : to + 1]
    holding = befores if to < at else afters
    bound = _all_reachable(holding, key)
    in_way = [k for k in passed if k in bound]
    if in_way:
        # The nearest of those in the way is the first it would meet.
        other = in_way[-1] if to < at else in_way[0]
        first, last = (other, key) if to < at else (key, other)
        chain = _shortest_chain(found, first, last)
        along = tuple(in_way)
        group = [*in_way, key] if to < at else [key, *in_way]
        return Refusal(chain, along if _may_go(found, keys, group, to, at) else ())
    span = _shut_by(found.shut, move_key(keys, key, to))
    assert span is not None
    return Refusal((Edge(span.start, span.end, "glue-cures"),), ())


def _may_go(found: Sequence, keys: list[TaskKey], group: list[TaskKey], to: int, at: int) -> bool:
    """Return whether a whole group may move there in its own order."""
    rest = [k for k in keys if k not in group]
    place = to if to < at else to - len(group) + 1
    new = [*rest[:place], *group, *rest[place:]]
    where = {k: i for i, k in enumerate(new)}
    hard = (e for e in found.edges if RULE_BY_ID[e.rule].hard)
    return all(where[e.before] < where[e.after] for e in hard) and _shut_by(found.shut, new) is None


def broken_by(found: Sequence, key: TaskKey, to: int) -> tuple[Edge, ...]:
    """Return the preferences broken by ``key`` at place ``to``."""
    new = {k: i for i, k in enumerate(move_key([t.key for t in found.tasks], key, to))}
    return tuple(
        e for e in found.edges if not RULE_BY_ID[e.rule].hard and new[e.before] > new[e.after]
    )


def with_moves(found: Sequence, moves: Iterable[Move]) -> Sequence:
    """Return ``found`` with the maker's moves applied one after the other. A step that may not go quite there
    at this size goes as near as possible; one that is not made at this size is skipped."""
    for move in moves:
        step, after = TaskKey(move.step), None if move.after is None else TaskKey(move.after)
        keys = [task.key for task in found.tasks]
        if step not in keys or (after is not None and after not in keys):
            continue
        rest = [k for k in keys if k != step]
        wished = 0 if after is None else rest.index(after) + 1 if after in rest else None
        if wished is None:
            continue
        may = places_for(found, step)
        found = _sequence_with_move(found, step, min(may, key=lambda to: (abs(to - wished), to)))
    return found


def _sequence_with_move(found: Sequence, key: TaskKey, to: int) -> Sequence:
    gone = set(broken_by(found, key, to))
    by_key: dict[TaskKey, Task] = {task.key: task for task in found.tasks}
    order = tuple(by_key[k] for k in move_key([t.key for t in found.tasks], key, to))
    kept = [
        e
        for e in found.edges
        if e not in gone and not (e.rule == OWN and key in (e.before, e.after))
    ]
    if to > 0:
        kept.append(Edge(order[to - 1].key, key, OWN))
    return explain_order(order, tuple(kept), found.shut)


def _held_by(found: Sequence) -> tuple[dict[TaskKey, list[TaskKey]], dict[TaskKey, list[TaskKey]]]:
    """Return by hard rules the direct predecessors and the direct successors of each step."""
    befores: dict[TaskKey, list[TaskKey]] = {}
    afters: dict[TaskKey, list[TaskKey]] = {}
    for edge in found.edges:
        if RULE_BY_ID[edge.rule].hard:
            befores.setdefault(edge.after, []).append(edge.before)
            afters.setdefault(edge.before, []).append(edge.after)
    return befores, afters


def _all_reachable(held: dict[TaskKey, list[TaskKey]], key: TaskKey) -> set[TaskKey]:
    """Return everything reachable from ``key`` through ``held``."""
    seen: set[TaskKey] = set()
    todo = list(held.get(key, ()))
    while todo:
        at = todo.pop()
        if at not in seen:
            seen.add(at)
            todo += held.get(at, ())
    return seen


def _shortest_chain(found: Sequence, first: TaskKey, last: TaskKey) -> tuple[Edge, ...]:
    """Return the shortest chain of hard rules from one step to a later one."""
    links: dict[TaskKey, list[Edge]] = {}
    for edge in found.edges:
        if RULE_BY_ID[edge.rule].hard:
            links.setdefault(edge.before, []).append(edge)
    ways: list[tuple[Edge, ...]] = [()]
    ends, seen = [first], {first}
    while ends:
        at, way = ends.pop(0), ways.pop(0)
        for edge in links.get(at, ()):
            if edge.after == last:
                return (*way, edge)
            if edge.after not in seen:
                seen.add(edge.after)
                ends.append(edge.after)
                ways.append((*way, edge))
    return ()


def _shut_by(spans: Iterable[Shut], keys: Places[TaskKey]) -> Shut | None:
    """Return the curing glue that an order would disturb."""
    where = {k: i for i, k in enumerate(keys)}
    for span in spans:
        if any(where[span.start] < where[k] < where[span.end] for k in span.kept_out):
            return span
    return None
