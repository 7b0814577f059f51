"""What came of a trial, counted."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field


@dataclass
class Tally:
    """Counts by what happened, and every fault with what repeats it."""

    name: str
    counts: Counter[str] = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)

    def fault(self, what: str) -> None:
        """Something that must not happen; it is printed at once."""
        self.faults.append(what)
        print(f"  FAULT {self.name}: {what}", flush=True)

    def words(self) -> str:
        """The counts in a line."""
        told = ", ".join(f"{n} {what}" for what, n in sorted(self.counts.items()))
        return f"{told or 'nothing'}; {len(self.faults)} faults"
