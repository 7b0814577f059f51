"""The order of making and joining, with the reason for each step and its time."""

from bambola.core.figure.schools import known_schools
from bambola.core.order.choices import CHOICE_BY_ID, CHOICES, Choice
from bambola.core.order.moving import (
    OWN,
    Refusal,
    broken_by,
    move_key,
    places_for,
    why_not_move,
    with_moves,
)
from bambola.core.order.rules import RULE_BY_ID, RULES
from bambola.core.order.sequence import (
    Edge,
    OrderConflictError,
    Sequence,
    sequence,
    unordered_tasks,
)
from bambola.core.order.steps import (
    Change,
    Step,
    StepReason,
    differences_in_making,
    made_fact,
    number_steps,
    waiting_for,
)
from bambola.core.order.tally import Tally, count_changes
from bambola.core.order.tasks import needle_for, tasks_for
from bambola.core.order.work import FittingJob, PartJob, Task, WireJob, Work
