"""A head by itself, and its place on the page."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from PyQt6.QtCore import QPointF

from bambola.core.solids import Copy, Placement, own_copy


def head_alone(placement: Placement, part: str) -> Placement:
    """Return the part and what sits on it, without the rest of the figure; of a pair, the marked one."""
    figure, own = placement.figure, own_copy(placement, part)
    side = own.side if own else None
    kept = {part}
    for other in figure.parents_first:
        if other.parent in kept and other.garment is None:
            kept.add(other.id)
    return replace(
        placement,
        copies=tuple(
            copy
            for copy in placement.copies
            if copy.part.id in kept and (side is None or copy.side == side)
        ),
        fittings=tuple(
            placed
            for placed in placement.fittings
            if placed.fitting.part in kept and (side is None or placed.side == side)
        ),
    )


@dataclass(frozen=True)
class ShownHead:
    """One head: its solids alone, its measure, and where it lies on the page (px a mm, middle)."""

    placement: Placement
    copy: Copy
    per_mm: float
    at: QPointF
    middle: np.ndarray
