"""A piece of felt as it lies on the pad."""

from __future__ import annotations

from bambola.core.figure import Firmness
from bambola.core.frozen import frozen
from bambola.core.piece.sizes import Section


@frozen
class PieceState:
    """A piece, one of ``count``, as it is just then; see craft.md, 10. Lengths mm, volume cm³ of its wool
    alone, weight g without its loose end, seam wool and fur.

    ``size_mm`` (length, width, thickness) is without its loose end, ``across_mm`` its width at base, middle
    and tip, ``section`` how it is across. ``firmness`` is missing while it is felted to none.
    ``wires_out_mm`` tells how far bare wires stick out, ``holes`` what the open ones are for, ``carries``
    what sits on it.
    """

    part: str
    count: int
    size_mm: dict[str, float]
    across_mm: tuple[float, float, float]
    section: Section
    volume_cm3: float
    wool_g: float
    firmness: Firmness | None
    loose_end_mm: float = 0.0
    wires_out_mm: tuple[float, ...] = ()
    layers: tuple[str, ...] = ()
    holes: tuple[str, ...] = ()
    carries: tuple[str, ...] = ()
