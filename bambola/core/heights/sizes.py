"""Several sizes of a figure compared: what each takes, what changes from one to the next, and the total."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from bambola.core.bench import Bench
from bambola.core.book.costing import cost_of
from bambola.core.facts import Fact
from bambola.core.frozen import frozen
from bambola.core.order import differences_in_making
from bambola.core.plan import Plan
from bambola.core.wool import WoolTotal, wool_totals


@frozen
class Size:
    """One size: how high it is, what it takes, and what is waiting to be decided. ``differs`` is what is made
    otherwise than at the size before."""

    height_mm: float
    scale: float
    wools: tuple[WoolTotal, ...]
    mass_g: float
    wire_mm: float
    wires: tuple[float, ...]
    minutes: float
    cost: Decimal
    questions: tuple[Fact, ...]
    differs: tuple[Fact, ...]

    @property
    def wool_g(self) -> float:
        """The wool that stays in it, g."""
        return sum(total.grams for total in self.wools)


@frozen
class SizeSeries:
    """Sizes from the smallest up, and the ``wools`` of one of each."""

    rows: tuple[Size, ...]
    wools: tuple[WoolTotal, ...]


def sizes_of(plans: Sequence[Plan], bench: Bench) -> SizeSeries:
    """Return the sizes of ``plans`` of one figure, whose order is not used; one of each is made."""
    plans = sorted(plans, key=lambda plan: plan.to_height_mm)
    rows = tuple(_size(plan, plans[i - 1] if i else None, bench) for i, plan in enumerate(plans))
    parts = {(i, part.id): part for i, plan in enumerate(plans) for part in plan.parts}
    counts = {key: part.count * plans[key[0]].count for key, part in parts.items()}
    return SizeSeries(rows, wool_totals(parts, counts, bench)[0])


def _size(plan: Plan, before: Plan | None, bench: Bench) -> Size:
    changes = differences_in_making(before.work, plan.work) if before else ()
    return Size(
        plan.to_height_mm,
        plan.scale,
        plan.wools,
        plan.balance.mass_g,
        sum(wire.cut_mm for wire in plan.wires),
        tuple(sorted({wire.diameter_mm for wire in plan.wires})),
        plan.minutes,
        cost_of(plan, bench).total,
        tuple(notice.title for notice in plan.waiting),
        tuple(change.text for change in changes),
    )
