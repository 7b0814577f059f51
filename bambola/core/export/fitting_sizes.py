"""Sizes of fittings on paper: what is bought as it is sold, what is made as a tape reads it."""

from __future__ import annotations

from bambola.core.plan import Plan
from bambola.core.plan.making.values import FittingPlan
from bambola.core.quantities import Units, show_bought, show_length
from bambola.core.words import Words


def fitting_stock(row: FittingPlan, words: Words) -> str:
    """Return how many of a fitting are in the box and to buy, in words; nothing where none is counted."""
    if not row.have and not row.buy:
        return ""
    if not row.buy:
        return words.tr(", in the box")
    return words.trn(", {n} to buy", ", {n} to buy", row.buy)


def fitting_size(plan: Plan, row: FittingPlan, mm: float, units: Units) -> str:
    """Return ``mm`` of a fitting, in words. Only what is ready made comes in sizes of its own."""
    bought = any(f.id == row.id and f.follows == "ready-made" for f in plan.resized.figure.fittings)
    return show_bought(mm, units) if bought else show_length(mm, units)
