"""The sequencer against a long search, on the demo figures and forty parts."""

from __future__ import annotations

import math
import random
import time
from collections.abc import Sequence

from bambola.core.figure import Brief, Figure
from bambola.core.order.improving import Problem
from bambola.core.order.sequence import cheapest_order, edges_of, problem_of
from bambola.core.order.tasks import tasks_for
from bambola.core.plan import make_plan
from bambola.core.plan.making.jobs import lightness
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench
from benchmarks.figures import forty_parts
from benchmarks.row import SMALLEST, Row

SECONDS = 0.2 if SMALLEST else 10.0
"""How long the reference searches for each figure."""


def against_reference() -> list[Row]:
    """Cost of changes over the best known, and the time it took; one row a figure."""
    named = [(path.stem.split(".")[0], load_demo(path).figure) for path in (BADGER, HERON, TOAD)]
    rows = []
    for name, figure in named[-1:] if SMALLEST else (*named, ("forty parts", forty_parts())):
        problem, took = _ours(figure)
        ours = problem.cost(range(problem.n))
        best = min(ours, _annealed(problem, SECONDS))
        gap = (ours / best - 1) * 100 if best else 0.0
        told = f"order of {name}, {problem.n} steps in {took:.0f} ms, over the best known"
        rows.append(Row(told, gap, "order: over the best known", "%"))
    return rows


def _ours(figure: Figure) -> tuple[Problem, float]:
    """Return the problem in the order that the sequencer finds, and the time that took, ms."""
    bench = default_bench()
    work = make_plan(figure, Brief(), bench).work
    light = dict(lightness(bench))
    began = time.perf_counter()
    tasks = tasks_for(work)
    edges = edges_of(work, tasks)
    order = cheapest_order(work, tasks, edges, light, bench.weights)
    took = (time.perf_counter() - began) * 1000
    return problem_of(work, order, edges, light, bench.weights), took


def _annealed(problem: Problem, seconds: float) -> float:
    """Return the cheapest order that simulated annealing finds, from ours on: an independent, plain
    search."""
    n, chance = problem.n, random.Random(3)
    before: list[set[int]] = [set() for _ in range(n)]
    after: list[set[int]] = [set() for _ in range(n)]
    for a, b in problem.before:
        before[b].add(a)
        after[a].add(b)
    now = list(range(n))
    cost = best = _cost(problem, now)
    began = time.perf_counter()
    while (gone := (time.perf_counter() - began) / seconds) < 1:
        long = chance.choice((1, 1, 1, 2, 3, 4, 6, 8))
        i = chance.randrange(n - long + 1)
        run, rest = now[i : i + long], now[:i] + now[i + long :]
        first = last = i
        while first > 0 and not any(rest[first - 1] in before[k] for k in run):
            first -= 1
        while last < len(rest) and not any(rest[last] in after[k] for k in run):
            last += 1
        j = chance.randint(first, last)
        new = rest[:j] + run + rest[j:]
        spent = _cost(problem, new)
        heat = 3.0 * (1 - gone) + 0.01
        if (
            spent <= cost or chance.random() < math.exp((cost - spent) / heat)
        ) and problem.keeps_shut(new):
            now, cost = new, spent
            best = min(best, cost)
    return best


def _cost(problem: Problem, order: Sequence[int]) -> float:
    total = 0.0
    for kind in problem.kinds:
        numbers, table = kind.of.tolist(), kind.cost
        had = 0
        for step in order:
            own = numbers[step]
            if own:
                if had:
                    total += table[had, own]
                had = own
    return total
