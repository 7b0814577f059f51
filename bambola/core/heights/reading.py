"""What a plan says at one height, as far as another height says otherwise."""

from __future__ import annotations

import math
from datetime import date

from bambola.core.bench import Bench
from bambola.core.facts import Fact, fact
from bambola.core.figure import Brief, Figure
from bambola.core.heights.amounts import amounts_of
from bambola.core.heights.kinds import KINDS
from bambola.core.heights.values import REFUSED, Reading, Told
from bambola.core.order import OrderConflictError
from bambola.core.order.sittings import SittingError, finish_of
from bambola.core.plan import Plan, draft_plan, make_plan
from bambola.core.plan.counter.in_time import DRY_DAYS, MEND_DAYS, RESERVE
from bambola.core.resize import ResizeError


def read_at(figure: Figure, brief: Brief, bench: Bench, height: float) -> Reading | None:
    """The reading at a height (mm); None for one that cannot be met."""
    try:
        plan = draft_plan(figure, brief.at(height), bench)
    except ResizeError:
        return None
    except OrderConflictError as error:  # such as a garment that goes over nothing any more
        told = error.told if isinstance(error.told, Fact) else fact("named", name=error.told)
        return Reading(height, {REFUSED: Told(True, told)}, {})
    return reading_of(plan, bench)


def reading_of(plan: Plan, bench: Bench) -> Reading:
    """What ``plan`` says. Its order is not read, so that a draft does."""
    signs = {(kind.id, about): told for kind in KINDS for about, told in kind.tells(plan, bench)}
    return Reading(plan.to_height_mm, signs, amounts_of(plan, bench))


def ready_at(
    figure: Figure, brief: Brief, bench: Bench, first: date, height: float
) -> Reading | None:
    """The day (its ordinal) on which a figure of a height (mm) is ready, begun on the ``first``: of all
    there is to be read this alone asks for its order, and it is read apart. Never, where there is no time
    for it."""
    try:
        plan = make_plan(figure, brief.at(height), bench)
    except (ResizeError, OrderConflictError):
        return None
    try:
        done = finish_of(plan.steps, bench, first, 1 + RESERVE, plan.runs)
    except SittingError:
        return Reading(height, {}, {"ready": math.inf})
    return Reading(height, {}, {"ready": float(done.toordinal() + DRY_DAYS + MEND_DAYS)})
