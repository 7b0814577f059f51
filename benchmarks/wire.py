"""Rows of wire: routes over a large skeleton, and a cutting plan from stems."""

from __future__ import annotations

import random
import statistics
import time

from bambola.core.armature import StockPiece, cutting_plan, routes_for
from bambola.core.armature.skeleton import Skeleton
from bambola.core.bench import WireStock
from bambola.core.memo import current_memory
from benchmarks.row import Row, runs


def routes() -> list[Row]:
    """Return the slowest of the four schools on skeletons of thirty bones: the median of five calls each."""
    rng, worst = random.Random(1), 0.0
    for _ in range(runs(20)):
        bones = tuple((f"n{rng.randrange(i)}", f"n{i}") for i in range(1, 31))
        skeleton = Skeleton(
            bones, {frozenset(b): rng.choice([1, 1, 2]) for b in bones},
            {frozenset(b): rng.uniform(5, 50) for b in bones},
        )  # fmt: skip
        for school in ("continuous", "hoops", "crosspiece", "stems"):
            found = []
            for _ in range(runs(5)):
                current_memory().forget()
                began = time.perf_counter()
                routes_for(skeleton, school)
                found.append((time.perf_counter() - began) * 1000)
            worst = max(worst, statistics.median(found))
    return [Row("routes over 30 bones, slowest school", worst, "routes", "ms")]


def cutting() -> list[Row]:
    """Forty cuts of as many lengths from stems of 300 mm, two offcuts first; the median of seven."""
    rng, found = random.Random(3), []
    kind = {"metal": "soft steel", "diameter": 0.5, "cores": 2}
    stock = (
        WireStock(id="stem", name="Stem", form="stem", length=300, count=60, **kind),
        WireStock(id="end", name="End", form="offcut", length=180, count=2, **kind),
    )
    cutting_plan([StockPiece("soft steel", 0.5, 2, 100.0 + i, "first") for i in range(9)], stock)
    for _ in range(runs(7)):
        pieces = [
            StockPiece("soft steel", 0.5, 2, rng.uniform(80, 280), f"w{i}") for i in range(40)
        ]
        began = time.perf_counter()
        cutting_plan(pieces, stock)
        found.append((time.perf_counter() - began) * 1000)
    return [Row("cutting plan of 40 cuts, proved", statistics.median(found), "cutting", "ms")]
