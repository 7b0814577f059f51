"""Builds an order from its beginning by beam search: of all beginnings of one length only the most promising
are kept.

R. Bisiani, "Search, beam", Encyclopedia of Artificial Intelligence, 1987. The bound of a beginning is what
its changes cost, plus the least cost still to come: one change for every needle, colour and piece not yet
taken up. Of two beginnings with the same steps and the same end the cheaper one is kept.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bambola.core.order.improving import Floats, Ints, Problem

WIDTH = 100
"""So many beginnings are kept. On the demo figures three times as many lead, improved, to nothing cheaper."""

Bools = NDArray[np.bool_]


def beam_search(problem: Problem, width: int = WIDTH) -> tuple[int, ...]:
    """Return the steps in a cheap order that breaks no rule; empty if every kept beginning runs into a shut
    stretch."""
    beam = _Beam(problem)
    chosen: list[tuple[Ints, Ints]] = []
    for _ in range(problem.n):
        row, step = beam.extended(width)
        if not len(row):
            return ()
        chosen.append((row, step))
    at = int(np.argmin(beam.spent))
    order = []
    for row, step in reversed(chosen):
        order.append(int(step[at]))
        at = int(row[at])
    return tuple(reversed(order))


class _Beam:
    """The kept beginnings, one a row. ``placed`` (rows, steps) marks the steps of a beginning, ``waiting``
    (rows, steps) counts the predecessors each step still waits for, ``last`` (rows, kinds) is what was in
    hand last, ``left`` (rows, values) counts the steps that still need each needle, colour and so on, and
    ``open`` (rows, stretches) marks the stretches that are shut at present."""

    def __init__(self, problem: Problem) -> None:
        kinds = [kind for kind in problem.kinds if kind.cost.any()]
        sizes = [len(kind.cost) for kind in kinds]
        n, values = problem.n, sum(sizes)
        self.first = np.cumsum([0, *sizes[:-1]]) if kinds else np.zeros(0, dtype=np.int64)
        # Every value of every kind has a number of its own; the first of a kind is "none".
        self.asks = (
            np.array([kind.of for kind in kinds], dtype=np.int64).T.reshape(n, len(kinds))
            + self.first
        )
        self.price = np.zeros((values, values))
        self.least = np.zeros(values)
        for start, kind in zip(self.first, kinds, strict=True):
            end = start + len(kind.cost)
            self.price[start:end, start:end] = kind.cost
            self.least[start + 1 : end] = _least_change(kind.cost[1:, 1:])
        self.follows = np.zeros((n, n), dtype=np.int16)
        for a, b in set(problem.before):
            self.follows[a, b] = 1
        self.starts = np.array([start for start, _, _ in problem.shut], dtype=np.int64)
        self.ends = np.array([end for _, end, _ in problem.shut], dtype=np.int64)
        self.kept_out = np.zeros((len(problem.shut), n), dtype=np.int16)
        for i, (_, _, steps) in enumerate(problem.shut):
            self.kept_out[i, list(steps)] = 1
        self.marks = np.random.default_rng(1).integers(1, 2**62, n + values, dtype=np.int64)
        self.spent: Floats = np.zeros(1)
        self.placed: Bools = np.zeros((1, n), dtype=np.bool_)
        self.waiting = self.follows.sum(axis=0, dtype=np.int16)[None]
        self.last = np.tile(self.first, (1, 1))
        self.left = np.zeros((1, values), dtype=np.int16)
        np.add.at(self.left[0], self.asks, 1)
        self.open: Bools = np.zeros((1, len(problem.shut)), dtype=np.bool_)
        self.held: Ints = np.zeros(1, dtype=np.int64)
        """Beginnings that hold the same steps have the same number here."""

    def extended(self, width: int) -> tuple[Ints, Ints]:
        """Extend every beginning by every possible step and keep the best; return for each the row it comes
        from and its new step."""
        ready = (self.waiting == 0) & ~self.placed
        if len(self.starts):
            ready &= (self.open.astype(np.int16) @ self.kept_out) == 0
        row, step = np.nonzero(ready)
        asked, had = self.asks[step], self.last[row]
        spent = self.spent[row] + self.price[had, asked].sum(axis=1)
        now = np.where(asked > self.first, asked, had)
        bound = spent + self._least_cost_left(row, asked, now)
        held = self.held[row] ^ self.marks[step]
        ends = self.marks[len(self.asks) + now].sum(axis=1) if now.size else 0
        best = _most_promising(bound, spent, held + ends, width)
        row, step = row[best], step[best]
        self._take_step(row, step, now[best], spent[best], held[best])
        return row, step

    def _least_cost_left(self, row: Ints, asked: Ints, now: Ints) -> Floats:
        """Return the least cost still to come: one change to every value that is needed and not in hand."""
        open_ = (self.left > 0) @ self.least
        given_up = self.least[asked] * (self.left[row[:, None], asked] == 1)
        in_hand = self.left[row[:, None], now] - (asked == now) > 0
        found: Floats = open_[row] - given_up.sum(axis=1) - (self.least[now] * in_hand).sum(axis=1)
        return found

    def _take_step(self, row: Ints, step: Ints, now: Ints, spent: Floats, held: Ints) -> None:
        rows = np.arange(len(row))
        self.spent, self.held, self.last = spent, held, now
        self.waiting = self.waiting[row] - self.follows[step]
        self.placed = self.placed[row]
        self.placed[rows, step] = True
        self.left = self.left[row]
        self.left[rows[:, None], self.asks[step]] -= 1
        opened = self.open[row] | (step[:, None] == self.starts)
        self.open = opened & (step[:, None] != self.ends)


def _least_change(costs: Floats) -> float:
    changes = costs[~np.eye(len(costs), dtype=np.bool_)]
    return float(changes.min()) if len(changes) else 0.0


def _most_promising(bound: Floats, spent: Floats, alike: Ints, width: int) -> Sequence[int] | Ints:
    """Return the ``width`` most promising rows, only the cheapest of those that are ``alike``."""
    order = np.lexsort((spent, bound))[: 4 * width]
    _, first = np.unique(alike[order], return_index=True)
    return order[np.sort(first)[:width]]
