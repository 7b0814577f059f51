"""The order of making in short, to tick off: task, wool, needle and time; with the cautions once at the
end."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from bambola.core.export.drawn import MADDER, QUIET, PaperPage
from bambola.core.export.packet.columns import (
    ColumnLine,
    column_pages,
    columns_of,
    head,
    keep_together,
    with_tick_box,
    words_in,
)
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.facts import Fact
from bambola.core.methods.alike import alike_steps, alike_title
from bambola.core.order import Step
from bambola.core.order.steps import duration_fact
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import laid_fact

_INDENT, _TITLE, _TOLD = 5.5, 3.0, 2.4


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield the steps in two columns if the paper is wide enough."""
    for plan, height in each_plan(job):
        told = job.words.tr("the order") + height
        yield from column_pages(_order_lines(plan, job), job.paper, "order", told, job.words)


def _order_lines(plan: Plan, job: Job) -> Iterator[ColumnLine]:
    words, (_, wide) = job.words, columns_of(job.paper)
    yield head(words.tr("Order of making"))
    for steps in alike_steps(plan, job.bench):
        yield with_tick_box(_step_line(steps, plan, job, wide))
    yield head(words.tr("With care"))
    for caution in dict.fromkeys(c for step in plan.steps for c in step.cautions):
        yield words_in(words.say(caution), wide, _TOLD, colour=MADDER)
    yield words_in(words.say(Fact("care.barb")), wide, _TOLD, colour=MADDER)


def _step_line(steps: Sequence[Step], plan: Plan, job: Job, wide: float) -> ColumnLine:
    """Return the lines of a step, or of several that are done alike."""
    words, step, last = job.words, steps[0], steps[-1]
    lasts = words.say(duration_fact(steps, plan.runs))
    told = (
        words.say(laid_fact(plan, step, job.bench)),
        words.tr("needle {needle}", needle=step.needle) if step.needle else "",
        lasts,
    )
    number = f"{step.n}" if last is step else f"{step.n}–{last.n}"
    title = f"{number}  {words.say(alike_title(steps))}"
    return keep_together(
        (
            words_in(title, wide, _TITLE, "bold", indent=_INDENT),
            words_in(" · ".join(filter(None, told)), wide, _TOLD, colour=QUIET, indent=_INDENT),
        )
    )
