"""Waiting for glue, and what may be touched meanwhile."""

from __future__ import annotations

from bambola.core.facts import Fact, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, oval
from bambola.core.methods.parts import card, check
from bambola.core.methods.values import Card, Method
from bambola.core.solids.outlines import outline_of_copy, outlines


def _card(at: StepInPlan) -> Card:
    where = (
        fact("cure.leave", part=fact("the", name=at.row.name))
        if at.step.part
        else Fact("cure.alone")
    )
    return card(
        at,
        "cure",
        (Fact("cure.stand"), where, Fact("cure.meanwhile")),
        until=Fact(f"cure.until-{at.bench.glue}"),
        checks=(check("glue-dry"),),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the whole as it stands; what is left alone is ringed."""
    placement = at.plan.solids.placement
    outline = outlines(placement, "front")
    pieces: list[Piece] = [DrawnArea(run, "under") for run in outline]
    if at.step.part:
        copy = at.placed[0]
        shadow = outline_of_copy(copy, "front")
        low, high = shadow.min(axis=0), shadow.max(axis=0)
        middle, size = (low + high) / 2, (high - low) * 1.25
        pieces.append(DrawnArea(shadow, "wool"))
        pieces.append(
            DrawnArea(
                oval(float(size[0]), float(size[1]), (float(middle[0]), float(middle[1]))),
                "none",
                "cut",
            )
        )
        pieces.append(Number((float(high[0]), float(high[1])), 2))
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "cure.stand": N_("Stand it so that nothing touches the glue."),
    "cure.leave": N_("Leave {part} alone; all else may go on."),
    "cure.alone": N_("Leave that place alone; all else may go on."),
    "cure.meanwhile": N_("Meanwhile: other parts, and the wool for the next."),
    "cure.until-white": N_(
        "You may handle it after an hour; wait overnight before you press there again."
    ),
    "cure.until-clear": N_("Half an hour has passed."),
    "cure.until-hot": N_("It is cold to the touch, about 3 minutes."),
    "cure.until-instant": N_("2 minutes have passed."),
    "cure.why": N_("Glue touched before it is hard never holds as well again."),
}

METHOD = Method("cure", lambda at: at.step.kind == "wait", _card, _picture)
