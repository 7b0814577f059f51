"""What a benchmark measured, beside its limit."""

from __future__ import annotations

from dataclasses import dataclass, replace

TIMES = ("ms", "s")


@dataclass(frozen=True)
class Row:
    """One measured number beside its limit; no limit where it is only good to know."""

    what: str
    value: float
    limit: float | None
    unit: str

    def calm(self, slow: float) -> Row:
        """Return the row as on a calm machine, where this one was so many times as ``slow``."""
        return replace(self, value=self.value / slow) if self.unit in TIMES else self

    @property
    def kept(self) -> bool:
        """Whether the budget is kept."""
        return self.limit is None or self.value <= self.limit
