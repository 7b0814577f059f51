"""One function, one value: the plan."""

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
