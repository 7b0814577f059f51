"""The piece in hand at a step: as large as the step leaves it, which is not yet the size of the part."""

from __future__ import annotations

from bambola.core.bench import Bench
from bambola.core.figure import Shape
from bambola.core.methods import sheet_for
from bambola.core.order import Step
from bambola.core.order.steps import base_part
from bambola.core.plan import Plan
from bambola.core.wool import is_ring


def shape_in_hand(plan: Plan, step: Step, bench: Bench) -> Shape | None:
    """Return the shape that ``step`` leaves of its part; None if it has none in hand.

    A core is smaller than its part, without its coat and without what will lie in its bearer; so is each
    round. A ring, which is made unrolled, is returned as it is worn.
    """
    part = base_part(step.part)
    if part is None:
        return None
    body = plan.resized.figure.by_id[part]
    shape = body.shape
    if step.key.sort != "core" or is_ring(body, plan.solids.copies_of(part)[0][1]):
        return shape
    sizes = sheet_for(plan, step, bench).card.sizes
    along, across, through = shape.axes
    full = shape.measures()
    measures = {
        name: min(sizes[size], full[name])  # what lies aslant is told longer than it is drawn
        for name, size in ((through, "thickness"), (across, "width"), (along, "length"))
        if size in sizes
    }
    made = shape.resized(measures)
    least = made.least_length(made.measures())
    short = made.measures().get("length", least) < least
    return made.resized({"length": least}) if short else made
