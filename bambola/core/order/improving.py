"""Improves an order by moving runs of steps: fewer changes of needle, colour and piece.

A run begins and ends where something changes. All moves of all runs are evaluated at once; the cheapest that
break no rule are made, until none is cheaper. Then a few runs are moved at random and all is tried again from
the best order found (iterated local search with a fixed seed: the same work gives the same order). Of two
orders of one cost the one nearer to the first order is kept, since that is the order a maker expects.
"""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, reduce
from itertools import pairwise
from operator import or_
from typing import Any

import numpy as np
from numpy.typing import NDArray

Ints = NDArray[np.int64]
Floats = NDArray[np.float64]
Numbers = NDArray[np.int16]
"""Small numbers and places: short ones are moved about quicker."""

EFFORT = 1500
"""No order is disturbed and tried again once so many runs are weighed."""
_ALIKE = 1e-9
"""Costs that differ by no more are the same."""
MOST = 2000
"""No sweep is begun once so many are weighed. These bound the time, whatever the machine."""

Move = tuple[float, int, int, int]
"""What it adds, the run from and to, and to before which place it goes."""


def longest_run(n: int) -> int:
    """Return how many stretches between changes a run may have: few if there are many steps, to limit the
    time."""
    return max(3, min(8, 480 // max(1, n)))


def settling_sweeps(n: int) -> int:
    """Return the most sweeps that bring an order nearer to the first one at the same cost: fewer if one takes
    long. Judged."""
    return max(2, min(12, 600 // max(1, n)))


@dataclass(frozen=True)
class Changeover:
    """One kind of change between steps: each step's value as a number (0: none), and the cost of each change,
    (numbers, numbers)."""

    of: Ints
    cost: Floats

    @cached_property
    def even_cost(self) -> float | None:
        """The cost of every change, if all cost the same."""
        costs = self.cost[1:, 1:][~np.eye(len(self.cost) - 1, dtype=bool)]
        return float(costs[0]) if len(costs) and (costs == costs[0]).all() else None

    def price(self, a: Numbers, b: Numbers) -> Floats:
        """Return the cost of the change from ``a`` to ``b``; 0 if either has no value."""
        if self.even_cost is None:
            at = a.astype(np.intp) * len(self.cost) + b
            looked_up: Floats = self.cost.ravel().take(at, mode="clip")
            return looked_up
        # Telling numbers apart is quicker than looking their price up.
        found: Floats = ((a != b) & (a > 0) & (b > 0)) * self.even_cost
        return found


@dataclass(frozen=True)
class Problem:
    """Steps 0..n-1 in a first, valid order. ``before`` are pairs (a, b) with a before b. ``shut`` are (from,
    to, steps): none of the steps may come between the two."""

    n: int
    before: tuple[tuple[int, int], ...]
    kinds: tuple[Changeover, ...]
    shut: tuple[tuple[int, int, frozenset[int]], ...]

    def cost(self, order: Sequence[int]) -> float:
        """Return the cost of the changes in ``order``."""
        total = 0.0
        for kind in self.kinds:
            had = kind.of[np.asarray(order)]
            had = had[had > 0]
            total += float(kind.cost[had[:-1], had[1:]].sum())
        return total

    def keeps_shut(self, order: Sequence[int]) -> bool:
        """Return whether no step stands in a stretch that is shut for it."""
        if not self.shut:
            return True
        at = [0] * self.n
        for place, step in enumerate(order):
            at[step] = place
        return not any(
            at[start] < at[step] < at[end] for start, end, steps in self.shut for step in steps
        )


def improve_order(
    problem: Problem, starts: Sequence[Sequence[int]], seed: int = 1
) -> tuple[int, ...]:
    """Return the steps in the cheapest order that any of ``starts`` leads to. None of them breaks a rule."""
    search = _Search(problem)
    found = [search.descend(list(start)) for start in starts]
    best = min(found, key=problem.cost)
    cheapest = problem.cost(best)
    chance = random.Random(seed)
    while problem.n > 2 and cheapest > 0 and search.weighed < EFFORT:
        order = best
        for _ in range(chance.choice((1, 2, 3))):
            order = search.perturbed(order, chance)
        order = search.descend(order)
        search.weighed += problem.n  # a kick is work too, even where nothing is weighed
        cost = problem.cost(order)
        if cost <= cheapest:
            best, cheapest = order, cost
    return tuple(search.settled(list(best)))


class _Search:
    """The local search: the rules as bit masks, and a count of the moves evaluated."""

    def __init__(self, problem: Problem) -> None:
        self.problem = problem
        self.weighed = 0
        self.longest = longest_run(problem.n)
        self.pred: list[list[int]] = [[] for _ in range(problem.n)]
        self.succ: list[list[int]] = [[] for _ in range(problem.n)]
        for a, b in problem.before:
            self.pred[b].append(a)
            self.succ[a].append(b)

    def descend(self, order: list[int]) -> list[int]:
        """Make the best moves until none is cheaper or the budget is spent."""
        cost = self.problem.cost(order)
        while self.weighed < MOST:
            moves = self._cheaper_moves(order)
            better, spent = self._apply_moves(order, moves, cost)
            if better is None:
                break
            order, cost = better, spent
        return order

    def settled(self, order: list[int]) -> list[int]:
        """Return an order of the same cost with fewer pairs of steps reversed against the first order."""
        for _ in range(settling_sweeps(self.problem.n)):
            i, k, j, delta = self._weigh_moves(order)
            turned = _reversed_pairs(np.asarray(order), i, k, j)
            free = np.flatnonzero((np.abs(delta) < _ALIKE) & (turned < 0))
            moves = _list_moves(turned, i, k, j, free)
            better, _ = self._apply_moves(order, moves, self.problem.cost(order) + 2 * _ALIKE)
            if better is None:
                break
            order = better
        return order

    def _bit_masks(self, order: list[int]) -> tuple[list[int], list[int]]:
        """Return for each place the places that must come before and after it, as bits."""
        at = [0] * len(order)
        for place, step in enumerate(order):
            at[step] = place
        before, after = [], []
        for step in order:
            low = high = 0
            for other in self.pred[step]:
                low |= 1 << at[other]
            for other in self.succ[step]:
                high |= 1 << at[other]
            before.append(low)
            after.append(high)
        return before, after

    def _cheaper_moves(self, order: list[int]) -> list[Move]:
        """Return the cheaper moves, the best first."""
        i, k, j, delta = self._weigh_moves(order)
        return _list_moves(delta, i, k, j, np.flatnonzero(delta < -_ALIKE))

    def _weigh_moves(self, order: list[int]) -> tuple[Ints, Ints, Ints, Floats]:
        """Return every allowed move with its change in cost: runs [from, to), the place they move before, and
        the cost."""
        n = len(order)
        rows = [_changeover_row(kind.of[np.asarray(order)], n) for kind in self.problem.kinds]
        cuts = self._change_places(rows, n)
        low_masks, high_masks = self._bit_masks(order)
        stretches = [(any_of(low_masks[a:b]), any_of(high_masks[a:b])) for a, b in pairwise(cuts)]
        runs: list[tuple[int, int, int, int]] = []
        for u, i in enumerate(cuts[:-1]):
            low = high = 0
            within = (1 << i) - 1
            for k, (before, after) in zip(
                cuts[u + 1 :], stretches[u : u + self.longest], strict=False
            ):
                low |= before
                high |= after
                first = (low & within).bit_length()
                beyond = high >> k
                last = k + (beyond & -beyond).bit_length() - 1 if beyond else n
                if first < i or last > k:
                    runs.append((i, k, first, last))
        starts, ends, firsts, lasts = np.array(runs, dtype=np.int64).reshape(-1, 4).T
        places = np.array(cuts)
        may = (places >= firsts[:, None]) & (places <= lasts[:, None])
        may &= (places < starts[:, None]) | (places > ends[:, None])
        self.weighed += len(runs)
        times = may.sum(axis=1)
        run, column = np.nonzero(may)
        goals = places[column]
        delta = np.zeros(len(run))
        for kind, row in zip(self.problem.kinds, rows, strict=True):
            if kind.cost.any():
                delta += _cost_change(kind, row, starts, ends, times, goals)
        return starts[run], ends[run], goals, delta

    def _change_places(self, rows: Sequence[_ChangeoverRow], n: int) -> list[int]:
        """Return the places where something changes, with both ends."""
        changes = np.zeros(n + 1, dtype=bool)
        changes[[0, n]] = True
        for row in rows:
            here = row.own
            changes[:n] |= (here > 0) & (row.before[:n] > 0) & (row.before[:n] != here)
        places: list[int] = np.flatnonzero(changes).tolist()
        return places

    def _apply_moves(
        self, order: list[int], moves: Sequence[Move], cost: float
    ) -> tuple[list[int] | None, float]:
        """Return the order after the best moves that do not interfere with one another; None if there is
        none."""
        problem = self.problem
        taken = 0  # the places that moves so far reach, as bits
        chosen: list[tuple[int, int, int]] = []
        for _, i, k, j in moves:
            reach = (1 << (max(k, j) + 4)) - (1 << min(i, j))
            if not taken & reach:
                taken |= reach
                chosen.append((i, k, j))
        together = order
        for i, k, j in chosen:  # they keep their spans, so their places stay true
            together = _move_run(together, i, k, j)
        if chosen and problem.keeps_shut(together):
            spent = problem.cost(together)
            if spent < cost - _ALIKE:
                return together, spent
        for _, i, k, j in moves[:40]:
            alone = _move_run(order, i, k, j)
            if problem.keeps_shut(alone):
                spent = problem.cost(alone)
                if spent < cost - _ALIKE:
                    return alone, spent
        return None, cost

    def perturbed(self, order: list[int], chance: random.Random) -> list[int]:
        """Return the order with a run moved at random to a place where it may be."""
        n = len(order)
        long = min(chance.choice((1, 2, 3, 4, 6)), n - 1)
        i = chance.randrange(n - long + 1)
        run, rest = order[i : i + long], order[:i] + order[i + long :]
        before = {a for step in run for a in self.pred[step]}
        after = {b for step in run for b in self.succ[step]}
        first = last = i
        while first > 0 and rest[first - 1] not in before:
            first -= 1
        while last < len(rest) and rest[last] not in after:
            last += 1
        j = chance.randint(first, last)
        new = rest[:j] + run + rest[j:]
        return new if self.problem.keeps_shut(new) else order


def _list_moves(worth: Floats | Ints, i: Ints, k: Ints, j: Ints, which: Ints) -> list[Move]:
    """Return the moves of ``which``, the least ``worth`` first."""
    which = which[np.argsort(worth[which], kind="stable")]
    columns = (worth[which].tolist(), i[which].tolist(), k[which].tolist(), j[which].tolist())
    return list(zip(*columns, strict=True))


def _reversed_pairs(order: Ints, i: Ints, k: Ints, j: Ints) -> Ints:
    """Return how many more pairs are reversed against the order 0..n-1 once runs [i, k) stand before
    ``j``."""
    sums = np.zeros((len(order) + 1, len(order) + 1), dtype=np.int64)
    sums[1:, 1:] = np.sign(order[None, :] - order[:, None]).cumsum(axis=0).cumsum(axis=1)

    def between(start: Ints, end: Ints) -> Ints:
        found: Ints = sums[k, end] - sums[i, end] - sums[k, start] + sums[i, start]
        return found

    return between(k, np.maximum(j, k)) - between(np.minimum(j, i), i)


def _move_run(order: list[int], i: int, k: int, j: int) -> list[int]:
    """Return the order with the run [i, k) moved before place j."""
    if j < i:
        return order[:j] + order[i:k] + order[j:i] + order[k:]
    return order[:i] + order[k:j] + order[i:k] + order[j:]


@dataclass(frozen=True)
class _ChangeoverRow:
    """One kind of change along an order: each step's value, and for every place 0..n the last value before it
    and the first from it on, with their places (-1 and n if there is none)."""

    own: Numbers
    before: Numbers
    before_at: Numbers
    next: Numbers
    next_at: Numbers


def _changeover_row(own: Ints, n: int) -> _ChangeoverRow:
    places = np.arange(n)
    last = np.maximum.accumulate(np.where(own > 0, places, -1))
    before_at = np.concatenate([[-1], last])
    first = np.minimum.accumulate(np.where(own > 0, places, n)[::-1])[::-1]
    next_at = np.concatenate([first, [n]])
    padded = np.concatenate([own, [0]])
    rows = (own, padded[before_at], before_at, padded[np.minimum(next_at, n)], next_at)
    return _ChangeoverRow(*(row.astype(np.int16) for row in rows))


def _cost_change(
    kind: Changeover, row: _ChangeoverRow, i: Ints, k: Ints, times: Ints, j: Ints
) -> Floats:
    """Return the change in cost of one kind for moves of the runs [i, k), counted ``times``, before places
    ``j``."""

    def each(values: NDArray[Any]) -> NDArray[Any]:
        return np.repeat(values, times)

    head = np.where(row.next_at[i] < k, row.next[i], 0).astype(np.int16)
    tail = np.where(row.before_at[k] >= i, row.before[k], 0).astype(np.int16)
    prior, behind = row.before[i], row.next[k]
    taken_out = kind.price(prior, behind) - kind.price(prior, head) - kind.price(tail, behind)
    left = j < each(i)
    # Between what is there and what the run leaves behind is chosen by reckoning: it is quicker than asking.
    own, left_behind = row.before.take(j, mode="clip"), each(prior)
    into = left_behind + (own - left_behind) * (
        left | (row.before_at.take(j, mode="clip") >= each(k))
    )
    own, left_behind = row.next.take(j, mode="clip"), each(behind)
    onto = left_behind + (own - left_behind) * (
        ~left | (row.next_at.take(j, mode="clip") < each(i))
    )
    first, last = each(head), each(tail)
    delta: Floats = each(taken_out)
    delta = delta + kind.price(into, first) + kind.price(last, onto) - kind.price(into, onto)
    delta *= first > 0
    return delta


def any_of(masks: Sequence[int]) -> int:
    """Return the union of ``masks``."""
    return reduce(or_, masks, 0)
