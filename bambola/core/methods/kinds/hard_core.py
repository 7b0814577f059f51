"""The first wool round a hard core: a stick, a bauble, a ball."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, oval
from bambola.core.methods.parts import SLANTED, across, card, check, run, stab
from bambola.core.methods.values import Card, Method

FIRST_MM = 4.0
"""The first layer round a hard core is so thick, or half of what lies over it. Judged. See craft.md, 10."""


def first_layer_mm(at: StepInPlan) -> float:
    """Return the thickness of the first layer, mm."""
    return max(1.0, min(FIRST_MM, (at.thick - at.hard_mm) / 4))


def _card(at: StepInPlan) -> Card:
    deep = first_layer_mm(at)
    return card(
        at,
        "hard-core",
        (
            Fact("hard-core.rough"),
            Fact("hard-core.wind"),
            fact("hard-core.stab", deep=Mm(deep)),
            Fact("hard-core.turn"),
        ),
        start=Fact("hard-core.start"),
        needles=(run(at.step.needle or 38, deep, SLANTED, "only"),),
        until=Fact("hard-core.until"),
        checks=(check("slides"), check("hard-felt")),
        scale=Fact("hard-core.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the core, the first wool wound over it crosswise, and the needle that does not reach it."""
    hard, deep = at.hard_mm, first_layer_mm(at)
    outer = hard + 2 * deep
    turns = [
        DrawnLine(oval(outer, outer * share, (0.0, 0.0)), "hair")
        for share in np.linspace(0.25, 0.9, 4)
    ]
    at_rim = outer / 2 * 0.7071
    return StepDrawing(
        (
            DrawnArea(oval(outer, outer), "wool"),
            *turns,
            DrawnArea(oval(hard, hard), "paper"),
            across((-hard / 2, 0.0), (hard / 2, 0.0), hard, -outer * 0.75),
            across((hard / 2, 0.0), (outer / 2, 0.0), deep, outer * 0.7),
            stab((at_rim - deep / 2, at_rim - deep / 2), card_.needles[0], 15),
            Number((-outer * 0.62, outer * 0.2), 2),
            Number((outer * 0.15, outer * 0.62), 3),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "hard-core.rough": N_(
        "Roughen what is smooth, or rub a thin skin of glue on it and let it dry."
    ),
    "hard-core.wind": N_("Wind long wool round it crosswise, taut, until none of it is seen."),
    "hard-core.stab": N_("Stab slanting along its skin, no deeper than {deep}: there it is hard."),
    "hard-core.turn": N_("Turn it all the time, so that no side grows thick."),
    "hard-core.start": N_("Long, thin strips; short ones slide off."),
    "hard-core.until": N_("The wool does not slide when it is twisted."),
    "hard-core.scale": N_("It takes no wool; what lies over it may be no thinner than hides it."),
    "hard-core.why": N_("No needle goes through it: the wool has to hold on to itself, all round."),
}

METHOD = Method("hard-core", lambda at: at.sort == "hard", _card, _picture)
