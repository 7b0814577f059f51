"""The loop that a figure hangs by."""

from __future__ import annotations

from bambola.core.facts import Degrees, Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line
from bambola.core.methods.parts import across, card, check
from bambola.core.methods.values import Card, Method, Stop
from bambola.core.solids.outlines import outlines

NOD_DEG = 5.0
"""A figure hangs as wished within so much. Judged. See craft.md, 10."""


def _card(at: StepInPlan) -> Card:
    place = at.plan.balance.loop_mm
    where = fact("loop.at", high=Mm(place[2])) if place is not None else Fact("loop.over")
    told = fact("stop.nod", off=Degrees(NOD_DEG))
    return card(
        at,
        "loop",
        (where, Fact("loop.anchor"), Fact("loop.try"), Fact("loop.sew")),
        stops=(Stop(Fact("measure.tilt"), -NOD_DEG, NOD_DEG, "deg", told),),
        until=Fact("loop.until"),
        checks=(check("hangs"),),
        scale=Fact("loop.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the figure from its side, the loop right over its weight."""
    outline = outlines(at.plan.solids.placement, "side")
    x, y, z = at.plan.balance.centre_mm
    place = at.plan.balance.loop_mm or (x, y, at.plan.to_height_mm)
    top = max(float(run[:, 1].max()) for run in outline)
    return StepDrawing(
        (
            *(DrawnArea(run, "under") for run in outline),
            DrawnLine(line((place[1], place[2]), (place[1], top * 1.12)), "thread", 0.8),
            DrawnLine(line((place[1], place[2]), (place[1], z)), "hidden"),
            across((place[1], 0.0), (place[1], place[2]), place[2], -top * 0.3),
            Number((place[1] + top * 0.05, place[2]), 1),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "loop.at": N_("Mark its place {high} above the lowest point, right over the weight."),
    "loop.over": N_("Mark its place where the figure hangs level on a needle."),
    "loop.anchor": N_("Anchor strong thread out of sight."),
    "loop.try": N_("Let it hang from the thread, and move it until it hangs as wished."),
    "loop.sew": N_("Two stitches more, and bury the end."),
    "loop.until": N_("It hangs as you wished, and a tug does not move the loop."),
    "loop.scale": N_("Thread stays as strong; a large figure wants a wire ring."),
    "loop.why": N_("It hangs from above its middle, or it tips."),
}

METHOD = Method("loop", lambda at: at.sort == "loop", _card, _picture)
