"""How reliable joins are: how many of each kind held, with a credible range."""

from __future__ import annotations

from collections.abc import Iterable

from bambola.core.bench import Making
from bambola.core.figure.model import Join
from bambola.core.frozen import frozen

PRIOR = 0.5
"""Of the share that hold nothing is known beforehand: so many held and so many not, as Jeffreys has it."""


@frozen
class Held:
    """``held`` of ``of`` joins of a kind held; ``low`` and ``high`` bound their true share with 90 %."""

    kind: Join
    held: int
    of: int
    low: float
    high: float


def joins_held(makings: Iterable[Making]) -> tuple[Held, ...]:
    """Return the statistics of each way of joining over all makings, the most frequent first."""
    from scipy.special import betaincinv

    told: dict[Join, list[bool]] = {}
    for making in makings:
        for join, it_held in making.held.items():
            told.setdefault(join.rpartition(":")[2], []).append(it_held)  # type: ignore[arg-type]
    found = []
    for kind, rows in sorted(told.items(), key=lambda row: -len(row[1])):
        held, of = sum(rows), len(rows)
        low, high = (betaincinv(held + PRIOR, of - held + PRIOR, share) for share in (0.05, 0.95))
        # Where all held, or none, a share of one or of nought is not ruled out.
        found.append(
            Held(kind, held, of, float(low) if held else 0.0, float(high) if held < of else 1.0)
        )
    return tuple(found)
