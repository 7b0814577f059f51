"""How slow the machine is just now, by a fixed sum, so that a slow minute fails no limit."""

from __future__ import annotations

import math
import statistics
import time

import numpy as np

REFERENCE_MS = 10.0
"""What the fixed sum takes on the machine for which the limits are set, when nothing else runs there."""


def slowness() -> float:
    """Return how many times longer the fixed sum takes now."""
    return statistics.median(fixed_sum_ms() for _ in range(7)) / REFERENCE_MS


def fixed_sum_ms() -> float:
    """Return how long the sum takes, ms. It is the like of what a plan does: attributes and words looked up,
    small sums, a few short arrays."""
    began = time.perf_counter()
    rows = [{"name": f"part {i}", "mm": 10.0 + i} for i in range(400)]
    total = 0.0
    for _ in range(90):
        for row in rows:
            total += math.sqrt(float(row["mm"]) * 1.1) + len(str(row["name"]).upper())
        total += float(np.cumsum(np.arange(400.0)).mean())
    assert total > 0
    return (time.perf_counter() - began) * 1000
