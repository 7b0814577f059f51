"""A wire longer than its stock: where it is spliced, away from bends, loops and bindings."""

from __future__ import annotations

import math
from collections.abc import Sequence

from bambola.core.frozen import frozen

SPLICE_MM = 30.0
"""Two pieces are bound side by side over this length. See craft.md, 3."""
CLEAR_MM = 5.0
"""A splice keeps this far from a bend or joint, so that the pliers can bend beside it. Judged.
See craft.md, 3."""


@frozen
class CutPiece:
    """One piece from stock: from where to where along the straight wire, mm.

    ``clear`` is whether the splice at its end keeps away from bends and joints.
    """

    start_mm: float
    end_mm: float
    clear: bool = True

    @property
    def mm(self) -> float:
        """Its length."""
        return self.end_mm - self.start_mm


def pieces_of(
    straight: float, free: Sequence[tuple[float, float]], longest: float
) -> tuple[tuple[CutPiece, ...], list[float]]:
    """Cut a wire ``straight`` mm long into pieces of at most ``longest`` mm; (pieces, splices in mm).

    ``free`` are the stretches (from, to) in which a splice may lie. Every piece reaches as far as it
    can, which makes them the fewest; where no clear place can be reached the splice lies across a
    bend and is said not to be clear. Stock too short to be spliced at all is taken as it is.
    """
    if straight <= longest + 1e-9 or longest <= 2 * SPLICE_MM:
        return (CutPiece(0.0, straight),), []
    pieces: list[CutPiece] = []
    start = 0.0
    while straight - start > longest + 1e-9:
        end = _furthest(free, start + 2 * SPLICE_MM, start + longest)
        clear = not math.isnan(end)
        if not clear:
            end = start + longest
        pieces.append(CutPiece(start, end, clear))
        start = end - SPLICE_MM
    pieces.append(CutPiece(start, straight))
    return tuple(pieces), [SPLICE_MM] * (len(pieces) - 1)


def _furthest(free: Sequence[tuple[float, float]], low: float, high: float) -> float:
    """Return the furthest end of a splice in (low, high] that lies in a free stretch; nan if none does."""
    best = math.nan
    for a, b in free:
        end = min(high, b - CLEAR_MM)
        if end >= a + CLEAR_MM + SPLICE_MM and end > low and not end < best:
            best = end
    return best
