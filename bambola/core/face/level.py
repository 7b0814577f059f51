"""Whether two sides of a face are level, by two readings of a tape."""

from __future__ import annotations

from bambola.core.facts import Exact, Fact, fact

LEVEL_MM, LEVEL_SHARE = 0.5, 0.03
"""Left and right are alike within these. Judged. See craft.md, 9."""


def level_of_marks(left: float, right: float) -> Fact:
    """Return what two readings (mm) of the same mark on both sides, from the crown or the midline, mean."""
    off = abs(left - right)
    if off <= max(LEVEL_MM, LEVEL_SHARE * max(left, right)):
        return Fact("level.yes")
    kind = "level.left" if left > right else "level.right"
    return fact(kind, off=Exact(off), half=Exact(off / 2))
