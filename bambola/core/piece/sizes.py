"""The size of the piece in hand: the part's own solid, less everything that exists before it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from bambola.core.plan.making.values import PartPlan
from bambola.core.solids import CopySolid
from bambola.core.solids.placement import Copy
from bambola.core.wool import is_ring

Section = Literal["round", "flat side", "sheet", "lump", "ring"]
Size3 = tuple[float, float, float]
"""Along, across and through, mm."""


def core_sizes(row: PartPlan) -> Size3:
    """Return the size of a part without its coat; all of it if no core is rolled."""
    core = next((p for p in row.portions if p.role == "core" and p.finished_mm), None)
    if core is None:
        return row.piece
    along, across, through = core.finished_mm.values()
    return along, across, through


def section_of(row: PartPlan, copy: Copy, solid: CopySolid) -> Section:
    """Return the cross-section of a piece: round, flat towards its bearer, a lump built in place, a sheet, or
    a ring. See craft.md, 10."""
    if is_ring(copy.part, solid):
        return "ring"
    if copy.shape.flat or solid.is_shell:
        return "sheet"
    if row.made in ("in place", "detail"):
        return "lump"
    return "flat side" if solid.seen.is_flat else "round"


def taper_of(copy: Copy, solid: CopySolid, across: float) -> Size3:
    """Return the thicknesses at base, middle and tip (mm) of a piece of this part that is ``across`` wide at
    present."""
    if is_ring(copy.part, solid) or solid.is_shell:
        return across, across, across
    base, middle, tip = (mm * across / solid.seen.width for mm in solid.seen.widths)
    return base, middle, tip


def round_sizes(
    finished: Sequence[float], rounds: int, grows: int, hard: float = 0.0
) -> list[tuple[float, ...]]:
    """Return the size of a core (mm) after each of its rounds of equal wool, from the middle or from a
    ``hard`` core: lengths go with the cube root of the volume; with the square root if it ``grows`` in two
    directions only, at its full length from the start."""

    def grown(mm: float, n: int) -> float:
        volume = hard**grows + (mm**grows - hard**grows) * n / rounds
        return float(volume ** (1 / grows))

    return [
        tuple(mm if grows == 2 and i == 0 else grown(mm, n) for i, mm in enumerate(finished))
        for n in range(1, rounds + 1)
    ]
