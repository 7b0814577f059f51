"""A wool mixed of others: all that the figure takes, at once."""

from __future__ import annotations

from bambola.core.facts import Fact, Grams, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, StepDrawing, box
from bambola.core.methods.parts import card, check
from bambola.core.methods.values import Card, Method

PULLS = (10, 30)
"""So often it is pulled apart and laid together to be mottled, and so often to be even. Judged. See craft.md,
10."""
_STRIP_MM = 60.0
"""How long strips are drawn."""


def _card(at: StepInPlan) -> Card:
    mix = next(mix for mix in at.plan.mixes if mix.wool == at.about)
    names = at.bench.wool_by_id
    parts = tuple(fact("mix.part", weight=Grams(g), wool=names[id].name) for id, g, _ in mix.parts)
    mottled, even = PULLS
    return card(
        at,
        "mix",
        (
            fact("mix.take", of=parts),
            Fact("mix.lay"),
            fact("mix.pull", mottled=mottled, even=even),
            fact("mix.from", wool=names[mix.wool].name),
        ),
        start=Fact("mix.start"),
        until=Fact("mix.until"),
        checks=(check("mixed"),),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return strips laid on each other, and the one that they become."""
    high, left = _STRIP_MM / 8, -_STRIP_MM * 0.6
    return StepDrawing(
        (
            DrawnArea(box(_STRIP_MM, high, (0.0, 0.0)), "wool"),
            DrawnArea(box(_STRIP_MM, high, (0.0, high * 1.2)), "core"),
            DrawnArea(box(_STRIP_MM, high, (0.0, high * 2.4)), "wool"),
            DrawnArea(box(_STRIP_MM, high * 2, (0.0, -high * 3)), "wool"),
            Number((left, high * 1.2), 1),
            Number((left, -high * 3), 3),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "mix.take": N_("Take {of}: all that the figure needs, at once."),
    "mix.part": N_("{weight} of {wool:lower}"),
    "mix.lay": N_(
        "Tear all of it into thin strips, and lay them on each other, the colours in turn."
    ),
    "mix.pull": N_(
        "Pull them apart lengthwise and lay them together again: {mottled} times for mottled, {even} "
        "for even."
    ),
    "mix.from": N_("Weigh out from it wherever a card asks for {wool:lower}."),
    "mix.start": N_("A second mixing never comes out alike: mix enough."),
    "mix.until": N_("No strip of one colour is left that you do not want to see."),
    "mix.why": N_("Wool has no paint: only fibres side by side make a colour in between."),
    "look.mixed": N_("Roll a pinch to a ball, and look at it from an arm’s length."),
    "look.mixed.right": N_("It is the colour you want."),
    "look.mixed.wrong": N_("Add a little of one, and pull all of it apart again."),
}

METHOD = Method("mix", lambda at: at.sort == "mix", _card, _picture)
