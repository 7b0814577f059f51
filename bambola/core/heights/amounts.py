"""Amounts of a plan by name, to which conditions can be put.

``minutes`` and ``grams`` (of a finished figure), ``cost`` of one, ``questions`` that wait; ``short:WOOL``
is what is missing on the shelf (g, below nought what would be left over), ``wire`` what is to be bought of
it (mm); ``eyes:FITTING`` the size that is wanted and ``size:PART.MEASURE`` that of a part (mm); ``tip`` the
lean that it bears (degrees), and ``high``, ``wide`` and ``deep`` how far it reaches all in all (mm).
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.bench import Bench
from bambola.core.book.costing import cost_of
from bambola.core.figure import Figure
from bambola.core.memo import remembered
from bambola.core.plan import Plan
from bambola.core.solids import Placement, place

_ACROSS = {"wide": np.array([1.0, 0.0, 0.0]), "deep": np.array([0.0, 1.0, 0.0])}


def amounts_of(plan: Plan, bench: Bench) -> dict[str, float]:
    """Return all amounts of a plan by name."""
    return dict(_amounts(plan, bench))


def _amounts(plan: Plan, bench: Bench) -> Iterator[tuple[str, float]]:
    yield "minutes", plan.minutes
    yield "grams", plan.balance.mass_g
    yield "cost", float(cost_of(plan, bench).total)
    yield "questions", float(len(plan.waiting))
    for total in plan.wools:
        have = bench.wool_by_id[total.wool].grams or 0.0
        yield f"short:{total.wool}", total.own_g - have
    yield "wire", sum((sum(cut.cuts) for cut in plan.cutting if cut.to_buy), 0.0)
    for row in plan.fittings:
        yield f"eyes:{row.id}", row.wanted_mm
    for part in plan.parts:
        for measure, mm in part.to_mm.items():
            yield f"size:{part.id}.{measure}", mm
    if plan.resized.figure.stance != "hanging":
        yield "tip", plan.balance.tip_angle_deg
    yield from overall_size(plan).items()


def overall_size(plan: Plan) -> dict[str, float]:
    """Return how far a figure reaches in height, width and depth (mm), ears and all."""
    if not plan.resized.even:
        return _reaches_of(plan.solids.placement)
    return {name: mm * plan.scale for name, mm in _as_made(plan.resized.was).items()}


@remembered(4)
def _as_made(figure: Figure) -> dict[str, float]:
    return _reaches_of(place(figure))


def _reaches_of(placement: Placement) -> dict[str, float]:
    found = {"high": float(placement.down_up[:, 1].max()) - placement.ground}
    for name, way in _ACROSS.items():
        far = max(copy.reach(way) for copy in placement.copies)
        found[name] = far + max(copy.reach(-way) for copy in placement.copies)
    return found
