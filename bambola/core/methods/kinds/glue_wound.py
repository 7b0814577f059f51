"""A part too thin for needles round its wire: wool wound on with glue."""

from __future__ import annotations

import numpy as np

from bambola.core.armature.strength import WOUND_MM
from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line, rod
from bambola.core.methods.parts import across, card, check, stop
from bambola.core.methods.values import Card, Method


def _card(at: StepInPlan) -> Card:
    long, thick = at.finished[0], at.thick
    return card(
        at,
        "glue-wound",
        (
            fact("glue-wound.glue", long=Mm(long)),
            Fact("glue-wound.touch"),
            Fact("glue-wound.turn"),
            Fact("glue-wound.press"),
        ),
        start=Fact("glue-wound.start"),
        stops=(stop("thickness", thick - 0.5, thick + 0.5),),
        until=Fact("glue-wound.until"),
        checks=(check("bald"), check("blob")),
        scale=fact("glue-wound.scale", wound=Mm(WOUND_MM)),
    )


def _fits(at: StepInPlan) -> bool:
    return at.step.kind == "wrap" and at.job is not None and at.job.wound


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the wire, and the wool wound on it."""
    long, thick = at.finished[0], at.thick
    turns = [
        DrawnLine(line((x, -thick / 2), (x + thick, thick / 2)), "hair")
        for x in np.arange(-long / 2 + thick, long / 2 - thick, max(thick, long / 24))
    ]
    return StepDrawing(
        (
            DrawnArea(rod(long, thick), "wool"),
            *turns,
            DrawnLine(line((-long * 0.62, 0), (long / 2, 0)), "wire", at.wire_mm),
            across((-long / 2, -thick), (long / 2, -thick), long, -thick),
            across((long * 0.2, -thick / 2), (long * 0.2, thick / 2), thick, -long / 8),
            Number((-long / 2, thick * 1.8), 2),
            Number((long / 2, thick * 1.8), 4),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "glue-wound.glue": N_("Rub a thin skin of glue on {long} of the wire."),
    "glue-wound.touch": N_("Touch a wisp on at the thick end."),
    "glue-wound.turn": N_("Turn the wire, and draw the wool thinner as it winds."),
    "glue-wound.press": N_(
        "Twist it off at the tip, press the hairs down with damp fingers, and stand it to dry."
    ),
    "glue-wound.start": N_("Wisps as long as a finger, a few dozen hairs."),
    "glue-wound.until": N_("No metal is seen, and it is as thick as drawn. No needle in wet glue."),
    "glue-wound.scale": N_("From {wound} on it is wrapped and needled instead."),
    "glue-wound.why": N_(
        "In a layer this thin the needle only meets wire: glue holds what it cannot reach."
    ),
}

METHOD = Method("glue-wound", _fits, _card, _picture)
