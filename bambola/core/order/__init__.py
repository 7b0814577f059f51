"""What to make and join, when, and why."""

from bambola.core.order.choices import CHOICE_BY_ID, CHOICES, Choice
from bambola.core.order.moving import (
    OWN,
    Refusal,
    broken_by,
    moved,
    places_for,
    refusal,
    with_moves,
)
from bambola.core.order.rules import RULE_BY_ID, RULES
from bambola.core.order.schools import followed
from bambola.core.order.sequence import Edge, OrderConflictError, Sequence, sequence
from bambola.core.order.steps import (
    Change,
    Step,
    Why,
    differences,
    made_fact,
    number_steps,
    waiting_for,
)
from bambola.core.order.tally import Tally, tally
from bambola.core.order.tasks import needle_for, tasks_for
from bambola.core.order.work import FittingJob, PartJob, Task, WireJob, Work

__all__ = [
    "CHOICES",
    "CHOICE_BY_ID",
    "OWN",
    "RULES",
    "RULE_BY_ID",
    "Change",
    "Choice",
    "Edge",
    "FittingJob",
    "OrderConflictError",
    "PartJob",
    "Refusal",
    "Sequence",
    "Step",
    "Tally",
    "Task",
    "Why",
    "WireJob",
    "Work",
    "broken_by",
    "differences",
    "followed",
    "made_fact",
    "moved",
    "needle_for",
    "number_steps",
    "places_for",
    "refusal",
    "sequence",
    "tally",
    "tasks_for",
    "waiting_for",
    "with_moves",
]
