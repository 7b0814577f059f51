"""Parts so slender that they droop without wire."""

from __future__ import annotations

from bambola.core.figure import Part, Rope
from bambola.core.figure.shapes import ChainShape
from bambola.core.resize.laws import HELD_MM

DROOP = 5.0
"""An unwired part longer than this many thicknesses droops. See craft.md, 2."""


def slenderness(part: Part) -> float:
    """Return how many times as long as it is thick that of a part is which hangs free; 0 for a sheet, a ring,
    a thread of wool, which lies on what it is drawn on, and for what everything sits on."""
    shape, thick = part.shape, part.shape.smallest_mm
    ring = isinstance(shape, Rope) and shape.closed
    if part.parent is None or shape.flat or ring or thick < HELD_MM:
        return 0.0
    # Round ends do not hang free: they are what it is joined by and what it ends in.
    ends = thick if isinstance(shape, ChainShape) else 0.0
    return float((shape.measures().get("length", 0.0) - ends) / thick)
