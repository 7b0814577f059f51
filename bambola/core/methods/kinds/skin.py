"""A skin of glue and soap on bare felt."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line
from bambola.core.methods.parts import across, card, check
from bambola.core.methods.values import Card, Method

STROKE_MM = 30.0
"""A fingertip strokes so far at a time. Judged. See craft.md, 10."""


def _card(at: StepInPlan) -> Card:
    return card(
        at,
        "skin",
        (
            Fact("skin.brush"),
            Fact("skin.mix"),
            Fact("skin.stroke"),
            Fact("skin.dry"),
            Fact("skin.comb"),
        ),
        start=Fact("skin.start"),
        until=Fact("skin.until"),
        checks=(check("skin-stiff"),),
        scale=Fact("skin.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return strokes in one direction over bare skin, from where nothing has been stroked yet."""
    half = STROKE_MM / 2
    strokes = []
    for y in np.arange(-9.0, 9.5, 4.5):
        strokes.append(DrawnLine(line((-half, y), (half, y)), "thread", 0.5))
        strokes.append(
            DrawnLine(line((half - 3, y + 1.2), (half, y), (half - 3, y - 1.2)), "thread", 0.5)
        )
    rim = np.array(
        [(-half - 6, -14), (half + 6, -14), (half + 6, 14), (-half - 6, 14)], dtype=float
    )
    return StepDrawing(
        (
            DrawnArea(rim, "wool"),
            *strokes,
            across((-half, -9.0), (half, -9.0), STROKE_MM, -8.0),
            Number((-half - 3.0, 0.0), 3),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "skin.brush": N_("Brush off dust and loose hair."),
    "skin.mix": N_("A little white glue in soapy water, as thin as milk."),
    "skin.stroke": N_("Stroke it on bare skin with a damp fingertip, always the same way."),
    "skin.dry": N_("Stand it to dry for a night; nothing may lie on it."),
    "skin.comb": N_("Comb the fur, tag the figure, and take a picture with a ruler beside it."),
    "skin.start": N_("The figure is needled to the end, and dry. Fur, glass and paper stay dry."),
    "skin.until": N_("No spot feels cool, and no hair stands up."),
    "skin.scale": N_("Twice the height takes four times as much."),
    "skin.why": N_("A thin skin lays the last hairs, where a needle would only make pits."),
}

METHOD = Method("skin", lambda at: at.sort == "skin", _card, _picture)
