"""How large the piece in hand is: of its own solid, the part less all that stands before it."""

from __future__ import annotations

from collections.abc import Sequence

from bambola.core.plan.making.values import PartPlan, Plan
from bambola.core.solids import CopySolid
from bambola.core.solids.placement import Copy
from bambola.core.wool import as_wound, is_ring, ring_size, shown

Size3 = tuple[float, float, float]
"""Along, across and through, mm."""


def whole_sizes(row: PartPlan, copy: Copy, solid: CopySolid) -> Size3:
    """A part with all its wool, as far as it lies in no other."""
    if is_ring(copy.part, solid) and row.is_felted:
        size = ring_size(copy.part, solid, row.net_cm3)
    else:
        size = shown(copy.shape, solid)
        size = as_wound(size, solid) if is_wound(row) else size
    along, across, through = size.values()
    return along, across, through


def is_wound(row: PartPlan) -> bool:
    """Whether a part is wound on its wire: so it has no hollow."""
    return row.made == "on wire"


def core_sizes(row: PartPlan, copy: Copy, solid: CopySolid) -> Size3:
    """A part without its coat; the whole of it where nothing is rolled for it."""
    core = next((p for p in row.portions if p.role == "core" and p.finished_mm), None)
    if core is None:
        return whole_sizes(row, copy, solid)
    along, across, through = core.finished_mm.values()
    return along, across, through


def fills(row: PartPlan, copy: Copy, solid: CopySolid) -> float:
    """As much of a piece's own size as is wool: the rest stays empty, where it fits over what it sits on."""
    return 1.0 if is_ring(copy.part, solid) or is_wound(row) else 1.0 - solid.seen.hollow


HOLLOW = 0.15
"""A piece of which so much stays empty is felted hollow. Judged. See craft.md, 10."""


def is_hollow(row: PartPlan, copy: Copy, solid: CopySolid) -> bool:
    """Whether a piece is laid as a pad and felted hollow, since it fits over what it sits on."""
    return row.made == "apart" and 1 - fills(row, copy, solid) >= HOLLOW


def is_pad(plan: Plan, row: PartPlan) -> bool:
    """Whether a part is laid as a pad and felted hollow in one go, so that no bundle is rolled for it."""
    return row.rounds == 1 and is_hollow(row, *plan.solids.of(row.id)[0])


def taper_of(row: PartPlan, copy: Copy, solid: CopySolid, across: float) -> Size3:
    """How thick a piece ``across`` wide is at base, middle and tip."""
    if is_ring(copy.part, solid):
        return across, across, across
    whole = whole_sizes(row, copy, solid)[1]
    thinner, drawn_in = whole / solid.seen.width, whole - across
    base, middle, tip = (max(mm * thinner - drawn_in, mm / 2) for mm in solid.seen.widths)
    return base, middle, tip


def round_sizes(
    finished: Sequence[float], rounds: int, grows: int, hard: float = 0.0, fills: float = 1.0
) -> list[tuple[float, ...]]:
    """Return the size of a core (mm) after each of its rounds, which lay equal wool, from the middle or from
    a ``hard`` core on: volumes grow evenly, so lengths with their cube root, or where it ``grows`` in two
    directions only, and has its whole length from the first, with their square root. What ``fills`` only a
    share of its size, since its back is hollow, is smaller and full in all rounds but the last."""
    smaller = fills ** (1 / grows)

    def grown(mm: float, n: int) -> float:
        volume = hard**grows + (mm**grows - hard**grows) * n / rounds
        return float(volume ** (1 / grows)) * (1.0 if n == rounds else smaller)

    return [
        tuple(mm if grows == 2 and i == 0 else grown(mm, n) for i, mm in enumerate(finished))
        for n in range(1, rounds + 1)
    ]
