"""A piece of felt as it lies on the pad."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from bambola.core.figure import Firmness
from bambola.core.frozen import frozen
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
