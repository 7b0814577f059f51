"""What came of a trial, counted."""

from __future__ import annotations

import time
from collections import Counter
from collections.abc import Callable
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

    def read(
        self, what: str, do: Callable[[], object], refusal: type[Exception], patience_s: float
    ) -> None:
        """Read something hostile: it is taken, or refused in a sentence, in time."""
        start = time.monotonic()
        try:
            do()
            self.counts["read"] += 1
        except refusal as error:
            self.counts["refused"] += 1
            if "\n" in str(error) or len(str(error)) > 500:
                self.fault(f"{what} is refused in no sentence: {error!s:.200}")
        except Exception as error:
            self.fault(f"{what}: {error!r}")
        if (spent := time.monotonic() - start) > patience_s + 5:
            self.fault(f"{what} took {spent:.0f} s")

    def words(self) -> str:
        """The counts in a line."""
        told = ", ".join(f"{n} {what}" for what, n in sorted(self.counts.items()))
        return f"{told or 'nothing'}; {len(self.faults)} faults"
