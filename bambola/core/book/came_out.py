"""How a figure came out: the real figure, and its differences from the plan."""

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
    """A measure (mm) or weight (g) of a part that differs noticeably from the plan: ``planned`` and
    ``found``."""

    part: str
    what: str
    kind: Literal["size", "weight"]
    planned: float
    found: float

    @property
    def share(self) -> float:
        """The difference as a share of the planned value."""
        return self.found / self.planned - 1


def as_it_came(plan: Plan, making: Making, bench: Bench) -> Placement:
    """Return the planned figure with its parts and height as measured; if no such figure can be built, the
    planned one scaled to the real height."""
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
    """Return the noticeable differences, part by part in the order of the figure."""
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
