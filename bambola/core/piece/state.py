"""A piece of felt as it lies on the pad."""

from __future__ import annotations

from bambola.core.figure import Firmness
from bambola.core.frozen import frozen
from bambola.core.piece.sizes import Section


@frozen
class PieceState:
    """A piece, one of ``count``, at one moment; see craft.md, 10. Lengths mm, volume cm³ of its wool alone,
    weight g without loose end, seam wool and fur. ``size_mm`` (length, width, thickness) is without the loose
    end, ``across_mm`` the width at base, middle and tip, ``section`` the cross-section. ``firmness`` is None
    before it is felted. ``wires_out_mm`` are the lengths of bare wires, ``holes`` the purposes of open holes,
    ``carries`` what sits on it."""

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
