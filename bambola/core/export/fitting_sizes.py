"""Sizes of fittings on paper: what is bought as it is sold, what is made as a tape reads it."""

from __future__ import annotations

from bambola.core.plan import Plan
from bambola.core.plan.making.values import FittingPlan
from bambola.core.quantities import Units, show_bought, show_length


def fitting_size(plan: Plan, row: FittingPlan, mm: float, units: Units) -> str:
    """``mm`` of a fitting, in words. Only what is ready made comes in sizes of its own."""
    bought = any(f.id == row.id and f.follows == "ready-made" for f in plan.resized.figure.fittings)
    return show_bought(mm, units) if bought else show_length(mm, units)
