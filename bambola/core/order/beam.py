"""An order built from its beginning: of all beginnings of one length only the most promising are kept.

Beam search with a lower bound (R. Bisiani, "Search, beam", Encyclopedia of Artificial Intelligence, 1987): a
beginning is judged by the changes it has cost and by those that must still come, one for every needle, colour
and piece that is yet to be taken up. Of two that hold the same steps and end alike the cheaper one is kept.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bambola.core.order.improving import Floats, Ints, Problem

WIDTH = 100
"""So many beginnings are kept. On the demo figures three times as many lead, improved, to nothing cheaper."""

Bools = NDArray[np.bool_]


def beamed(problem: Problem, width: int = WIDTH) -> tuple[int, ...]:
    """Return the steps in a cheap order that breaks no rule, or none where every beginning that was kept runs
    into a stretch that is shut."""
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
    """The beginnings that are kept, a row each.

    ``placed`` (rows, steps) are the steps a beginning holds, ``waiting`` (rows, steps) how many each step
    still waits for, ``last`` (rows, kinds) what was in hand last, ``left`` (rows, values) how many steps
    still ask for each needle, colour ..., and ``open`` (rows, stretches) whether a stretch is shut just now.
    """

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
            self.least[start + 1 : end] = _least(kind.cost[1:, 1:])
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
        """Add a step to every beginning in every way that may be, and keep the best: which beginning each
        comes from and by which step."""
        ready = (self.waiting == 0) & ~self.placed
        if len(self.starts):
            ready &= (self.open.astype(np.int16) @ self.kept_out) == 0
        row, step = np.nonzero(ready)
        asked, had = self.asks[step], self.last[row]
        spent = self.spent[row] + self.price[had, asked].sum(axis=1)
        now = np.where(asked > self.first, asked, had)
        bound = spent + self._still(row, asked, now)
        held = self.held[row] ^ self.marks[step]
        ends = self.marks[len(self.asks) + now].sum(axis=1) if now.size else 0
        best = _best(bound, spent, held + ends, width)
        row, step = row[best], step[best]
        self._take(row, step, now[best], spent[best], held[best])
        return row, step

    def _still(self, row: Ints, asked: Ints, now: Ints) -> Floats:
        """Return what must still be paid: the least change to every value that is asked for and not in
        hand."""
        open_ = (self.left > 0) @ self.least
        given_up = self.least[asked] * (self.left[row[:, None], asked] == 1)
        in_hand = self.left[row[:, None], now] - (asked == now) > 0
        found: Floats = open_[row] - given_up.sum(axis=1) - (self.least[now] * in_hand).sum(axis=1)
        return found

    def _take(self, row: Ints, step: Ints, now: Ints, spent: Floats, held: Ints) -> None:
        rows = np.arange(len(row))
        self.spent, self.held, self.last = spent, held, now
        self.waiting = self.waiting[row] - self.follows[step]
        self.placed = self.placed[row]
        self.placed[rows, step] = True
        self.left = self.left[row]
        self.left[rows[:, None], self.asks[step]] -= 1
        opened = self.open[row] | (step[:, None] == self.starts)
        self.open = opened & (step[:, None] != self.ends)


def _least(costs: Floats) -> float:
    changes = costs[~np.eye(len(costs), dtype=np.bool_)]
    return float(changes.min()) if len(changes) else 0.0


def _best(bound: Floats, spent: Floats, alike: Ints, width: int) -> Sequence[int] | Ints:
    """Return the ``width`` most promising, only the cheapest of those that are ``alike``."""
    order = np.lexsort((spent, bound))[: 4 * width]
    _, first = np.unique(alike[order], return_index=True)
    return order[np.sort(first)[:width]]
