"""Pressing the feet level while they still give."""

from __future__ import annotations

from bambola.core.balance import WARN_DEG
from bambola.core.facts import Degrees, Fact, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line
from bambola.core.methods.parts import SLANTED, card, check, run, stab
from bambola.core.methods.values import Card, Method, Stop
from bambola.core.order.keys import GROUND
from bambola.core.solids.outlines import outlines


def _card(at: StepInPlan) -> Card:
    told = fact("stop.lean", least=Degrees(WARN_DEG))
    return card(
        at,
        "ground",
        (Fact("ground.stand"), Fact("ground.spot"), Fact("ground.slant"), Fact("ground.turn")),
        needles=(run(38, slots.DEPTH_MM["rocking"], SLANTED, "rocks"),),
        stops=(Stop(Fact("measure.lean"), WARN_DEG, 90.0, "deg", told),),
        until=Fact("ground.until"),
        checks=(check("rocks"), check("nudge")),
        scale=Fact("ground.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the figure on the table, and the needle from below."""
    outline = outlines(at.plan.solids.placement, "front")
    low = min(float(run[:, 1].min()) for run in outline)
    left = min(float(run[:, 0].min()) for run in outline)
    right = max(float(run[:, 0].max()) for run in outline)
    foot = next(run for run in outline if float(run[:, 1].min()) <= low + 0.5)
    bottom = foot[foot[:, 1] < low + 0.05 * (foot[:, 1].max() - low)]
    x = float(bottom[:, 0].max())
    run = card_.needles[0]
    wide = right - left
    return StepDrawing(
        (
            *(DrawnArea(shape, "under") for shape in outline),
            DrawnLine(line((left - wide * 0.2, low), (right + wide * 0.2, low)), "ground"),
            stab((x * 0.8, low + run.depth_mm), run, -75),
            Number((right + wide * 0.08, low + wide * 0.08), 2),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "ground.stand": N_("Set the figure on a hard table."),
    "ground.spot": N_("Find the one place on which it rocks."),
    "ground.slant": N_("Stab it there from below, slanting to the middle of what touches."),
    "ground.turn": N_("Set it down, and again, until it stands."),
    "ground.until": N_("It does not rock, and stays standing when it is nudged."),
    "ground.scale": N_("A large figure wants its weight low and what it stands on wide."),
    "ground.why": N_("Felt is soft underneath only until all the weight sits on it."),
}

METHOD = Method("ground", lambda at: at.step.key == GROUND, _card, _picture)
