"""Fixing a thing that is not wool: sewn, hung in a hand, or caught by the felt."""

from __future__ import annotations

from bambola.core.facts import Fact, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, StepDrawing, box, oval, rod
from bambola.core.methods.parts import SLANTED, across, card, check, run, stab
from bambola.core.methods.values import Card, Method


def _card(at: StepInPlan) -> Card:
    job = at.fitting
    called = fact("both" if job.count == 2 else "the", name=job.name)
    return card(
        at,
        "fit",
        (fact("fit.hold", what=called), Fact("fit.contacts"), Fact("fit.over"), Fact("fit.wisp")),
        needles=(run(38, slots.DEPTH_MM["fitting"], SLANTED, "only"),),
        until=Fact("fit.until"),
        checks=(check("upside-down"), check("tips")),
        scale=Fact("fit.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return what is held, a hand folded over it, and the wisp."""
    size = at.fitting_mm
    run = card_.needles[0]
    return StepDrawing(
        (
            DrawnArea(box(size * 0.5, size, (0.0, -size * 0.2)), "paper"),
            DrawnArea(rod(size * 1.1, size * 0.42, (-size * 0.35, size * 0.4)), "under"),
            DrawnArea(oval(size * 0.5, size * 0.22, (size * 0.05, size * 0.52)), "wool"),
            across((size * 0.25, -size * 0.7), (size * 0.25, size * 0.3), size, -size * 0.2),
            stab((0.0, size * 0.4), run, 60),
            Number((-size * 0.7, size * 0.75), 3),
            Number((size * 0.2, size * 0.72), 4),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "fit.hold": N_("Hold {what} in place and mark where it touches."),
    "fit.contacts": N_("Hollow those places a little."),
    "fit.over": N_("Fold the hand over it, or catch it with wool that is stabbed through."),
    "fit.wisp": N_("A dot of glue where it is hard, and a wisp over it."),
    "fit.until": N_("It stays when the figure is turned upside down."),
    "fit.scale": N_("Things held in a hand follow the size of the hand."),
    "fit.why": N_("Felt grips what it is wrapped round, where it touches most."),
}

METHOD = Method("fit", lambda at: at.sort == "fit", _card, _picture)
