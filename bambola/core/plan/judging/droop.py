"""Finds parts so slender that they droop without wire."""

from __future__ import annotations

from bambola.core.figure import Part, Rope
from bambola.core.figure.shapes import ChainShape
from bambola.core.resize.laws import HELD_MM

DROOP = 5.0
"""An unwired part longer than this many thicknesses droops. See craft.md, 2."""


def slenderness(part: Part) -> float:
    """Return the length of the free part as a multiple of its thickness; 0 for sheets, rings, strands of wool
    lying on their bearer, and the part everything sits on."""
    shape, thick = part.shape, part.shape.smallest_mm
    ring = isinstance(shape, Rope) and shape.closed
    if part.parent is None or shape.flat or ring or thick < HELD_MM:
        return 0.0
    # Round ends do not hang free: they are what it is joined by and what it ends in.
    ends = thick if isinstance(shape, ChainShape) else 0.0
    return float((shape.measures().get("length", 0.0) - ends) / thick)
