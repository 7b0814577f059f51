"""The plan: one function from figure, brief and bench to one value."""

from bambola.core.plan.make import draft_plan, make_plan
from bambola.core.plan.making.values import (
    BonePlan,
    FittingPlan,
    Notice,
    Option,
    PartPlan,
    Plan,
    Sheet,
)
