"""How a figure came out: the real figure, and its differences from the plan."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from bambola.core.bench import Bench, Making
from bambola.core.figure import Brief
from bambola.core.figure.model import Join
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.plan.counter.carry_on import with_found
from bambola.core.resize import ResizeError, placed_at, resize
from bambola.core.solids import Placement, place
from bambola.core.wool.pan import PAIR_SIZE, PAIR_WEIGHT


@frozen
class OffPlan:
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
        return place(resize(planned, brief.at_height(height), bench).figure)
    except ResizeError:
        share = (height or plan.to_height_mm) / plan.to_height_mm
        return plan.solids.placement.scaled(share, planned)


def came_off(plan: Plan, making: Making) -> tuple[OffPlan, ...]:
    """Return the noticeable differences, part by part in the order of the figure."""
    found = []
    for part in plan.parts:
        for name, mm in making.sizes.get(part.id, {}).items():
            planned = part.to_mm.get(name)
            if planned and abs(mm / planned - 1) > PAIR_SIZE:
                found.append(OffPlan(part.id, name, "size", planned, mm))
        grams = making.weights.get(part.id)
        if grams and part.grams and abs(grams / part.grams - 1) > PAIR_WEIGHT:
            found.append(OffPlan(part.id, "", "weight", part.grams, grams))
    return tuple(found)


PRIOR = 0.5
"""Of the share that hold nothing is known beforehand: so many held and so many not, as Jeffreys has it."""


@frozen
class HeldJoins:
    """``held`` of ``of`` joins of a kind held; ``low`` and ``high`` bound their true share with 90 %."""

    kind: Join
    held: int
    of: int
    low: float
    high: float


def joins_held(makings: Iterable[Making]) -> tuple[HeldJoins, ...]:
    """Return the statistics of each way of joining over all makings, the most frequent first."""
    from scipy.special import betaincinv

    told: dict[Join, list[bool]] = {}
    for making in makings:
        for join, it_held in making.held.items():
            told.setdefault(join.rpartition(":")[2], []).append(it_held)  # type: ignore[arg-type]
    found = []
    for kind, rows in sorted(told.items(), key=lambda row: -len(row[1])):
        held, of = sum(rows), len(rows)
        low, high = (betaincinv(held + PRIOR, of - held + PRIOR, share) for share in (0.05, 0.95))
        # Where all held, or none, a share of one or of nought is not ruled out.
        found.append(
            HeldJoins(
                kind, held, of, float(low) if held else 0.0, float(high) if held < of else 1.0
            )
        )
    return tuple(found)
