"""How a figure came out: as it stands, and where it differs from its plan."""

from __future__ import annotations

from typing import Literal

from bambola.core.bench import Bench, Making
from bambola.core.figure import Brief
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.plan.counter.carry_on import with_found
from bambola.core.resize import ResizeError, placed_at, resize
from bambola.core.solids import Placement, place
from bambola.core.wool.mending import PAIR_SIZE, PAIR_WEIGHT


@frozen
class Off:
    """What of a part came out otherwise than planned by more than is let pass: one of its measures (mm), or
    its weight (g), as ``planned`` and as ``found``."""

    part: str
    what: str
    kind: Literal["size", "weight"]
    planned: float
    found: float

    @property
    def share(self) -> float:
        """By how much it is more than planned, as a share of that."""
        return self.found / self.planned - 1


def as_it_came(plan: Plan, making: Making, bench: Bench) -> Placement:
    """Return the planned figure with its parts as they measure, as high as it is; where no such figure can
    be, all of it is as much higher or lower as it came out."""
    figure = plan.resized.figure
    free = tuple(part.replaced(rules=()) for part in figure.parts)
    planned = figure.replaced(parts=free)
    brief = Brief()
    for part in figure.parts:
        names = part.shape.measure_names
        known = {n: mm for n, mm in making.sizes.get(part.id, {}).items() if n in names}
        if known:
            brief = with_found(brief, part.id, known)
    height = making.reached_mm
    try:
        if height is None:
            return placed_at(planned, brief, bench, 1.0)
        return place(resize(planned, brief.at(height), bench).figure)
    except ResizeError:
        share = (height or plan.to_height_mm) / plan.to_height_mm
        return plan.solids.placement.scaled(share, planned)


def came_off(plan: Plan, making: Making) -> tuple[Off, ...]:
    """Return where it came out otherwise, part by part in the order of the figure."""
    found = []
    for part in plan.parts:
        for name, mm in making.sizes.get(part.id, {}).items():
            planned = part.to_mm.get(name)
            if planned and abs(mm / planned - 1) > PAIR_SIZE:
                found.append(Off(part.id, name, "size", planned, mm))
        grams = making.weights.get(part.id)
        if grams and part.grams and abs(grams / part.grams - 1) > PAIR_WEIGHT:
            found.append(Off(part.id, "", "weight", part.grams, grams))
    return tuple(found)
