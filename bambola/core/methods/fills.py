"""The colours of the things in a step's picture."""

from __future__ import annotations

from bambola.core.figure import Part
from bambola.core.methods.at import At

_ON_ITSELF = frozenset({"inset", "face", "fur"})
"""What is laid on the part itself, and not where that is joined."""
CORE, WOOL = "#EDE4D2", "#DDD2BF"
"""Undyed wool, as a core is, and as a part of no wool is shown."""


def fills_of(at: At, paper: str) -> dict[str, str]:
    """Return the fill of each kind of outline: the wool in hand, and the coat of the bearer."""
    figure = at.plan.resized.figure
    part = figure.by_id.get(at.row.id) if at.step.part else None
    parent = figure.by_id.get(part.parent) if part and part.parent else part
    under = part if at.sort in _ON_ITSELF else parent

    def coat(of: Part | None) -> str:
        return at.bench.colours[of.coat.wool if of.coat else of.core] if of else WOOL

    return {
        "wool": at.wool.colour if at.wool else coat(part),
        "core": CORE,
        "under": coat(under),
        "paper": paper,
        "none": "none",
    }
