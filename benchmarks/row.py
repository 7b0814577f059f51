"""What a benchmark measured, beside its limit."""

from __future__ import annotations

import os
from dataclasses import dataclass, replace

from benchmarks.limits import LIMITS

TIMES = ("ms", "s")
SMALLEST = bool(os.environ.get("SMALLEST"))
"""Whether to run every row once on its smallest case, to see that it runs to its end."""


def runs(usual: int) -> int:
    """Return how often to repeat a measurement: ``usual`` times, once on the smallest case."""
    return 1 if SMALLEST else usual


@dataclass(frozen=True)
class Row:
    """One measured number, and the budget in :data:`LIMITS` that it is held against, if any."""

    what: str
    value: float
    budget: str | None
    unit: str

    @property
    def limit(self) -> float | None:
        """The most that is allowed."""
        return LIMITS[self.budget] if self.budget else None

    def calm(self, slow: float) -> Row:
        """Return the row as on a calm machine, where this one was so many times as ``slow``."""
        return replace(self, value=self.value / slow) if self.unit in TIMES else self

    @property
    def kept(self) -> bool:
        """Whether the budget is kept."""
        return self.limit is None or self.value <= self.limit
