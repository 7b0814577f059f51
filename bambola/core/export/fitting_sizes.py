"""Sizes of fittings on paper: bought ones as sold, others as a tape reads."""

from __future__ import annotations

from bambola.core.plan import Plan
from bambola.core.plan.making.values import FittingPlan
from bambola.core.quantities import Units, show_bought, show_length
from bambola.core.words import Words


def fitting_stock(row: FittingPlan, words: Words) -> str:
    """Return how many of a fitting are in the box and to buy, as text; empty if they are not counted."""
    if not row.have and not row.buy:
        return ""
    if not row.buy:
        return words.tr(", in the box")
    return words.trn(", {n} to buy", ", {n} to buy", row.buy)


def fitting_size(plan: Plan, row: FittingPlan, mm: float, units: Units) -> str:
    """Return ``mm`` of a fitting as text. Only ready-made ones come in fixed sizes."""
    bought = any(f.id == row.id and f.follows == "ready-made" for f in plan.resized.figure.fittings)
    return show_bought(mm, units) if bought else show_length(mm, units)
