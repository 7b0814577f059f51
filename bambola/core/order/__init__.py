"""What to make and join, when, and why."""

from bambola.core.order.rules import RULE_BY_ID, RULES
from bambola.core.order.sequence import OrderConflictError, Sequence, sequence
from bambola.core.order.steps import Change, Step, Why, differences, number_steps
from bambola.core.order.tasks import (
    MADE_WORDS,
    FittingJob,
    PartJob,
    Task,
    WireJob,
    Work,
    needle_for,
    tasks_for,
)

__all__ = [
    "MADE_WORDS", "RULES", "RULE_BY_ID", "Change", "FittingJob", "OrderConflictError", "PartJob",
    "Sequence", "Step", "Task", "Why", "WireJob", "Work", "differences", "needle_for",
    "number_steps", "sequence", "tasks_for",
]  # fmt: skip
