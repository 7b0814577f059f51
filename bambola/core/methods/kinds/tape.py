"""Taping a wire on which so little wool goes that it would spin."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line, rod
from bambola.core.methods.parts import across, card, check
from bambola.core.methods.values import Card, Method

WIDE, WIDE_MM = 4.0, (4.0, 12.0)
"""Tape is so many times as wide as the wire is thick, within these. Judged. See craft.md, 10."""


def tape_width(at: StepInPlan) -> float:
    """Return the width of the split tape, mm."""
    return min(max(WIDE * at.wire_mm, WIDE_MM[0]), WIDE_MM[1])


def _card(at: StepInPlan) -> Card:
    return card(
        at,
        "tape",
        (
            fact("tape.split", wide=Mm(tape_width(at))),
            fact("tape.wind", long=Mm(at.finished[0])),
            Fact("tape.joints"),
            Fact("tape.pinch"),
        ),
        until=Fact("tape.until"),
        checks=(check("wisp-turns"), check("tape-lump")),
        scale=Fact("tape.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the wire, and the tape that is wound on it half over itself."""
    long, thick, wide = at.finished[0], max(at.wire_mm, 0.8), tape_width(at)
    step = max(wide / 2, long / 30)
    laps = [
        DrawnLine(line((x, -thick), (x + step / 2, thick)), "cut")
        for x in np.arange(-long / 2, long / 2 - step, step)
    ]
    return StepDrawing(
        (
            DrawnLine(line((-long * 0.6, 0), (long * 0.6, 0)), "wire", at.wire_mm),
            DrawnArea(rod(long, 2 * thick), "paper"),
            *laps,
            across((-long / 2, -thick), (long / 2, -thick), long, -2.5 * thick),
            across((0.0, thick), (wide, thick), wide, 2.5 * thick),
            Number((wide * 1.6, 3.5 * thick), 1),
            Number((-long * 0.45, -4.5 * thick), 2),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "tape.split": N_("Split paper tape lengthwise to {wide}, so that it lies flat."),
    "tape.wind": N_(
        "Stretch it, and wind it slanting over {long}, half over itself, from the body out."
    ),
    "tape.joints": N_("Cross each joint in two directions."),
    "tape.pinch": N_("Pinch the end down."),
    "tape.until": N_("One layer lies half over itself, and no metal is seen."),
    "tape.scale": N_("Under thick wool it may be left out; it grips where wool is thin."),
    "tape.why": N_("Wool slides on bare metal: tape gives it something to hold."),
}

METHOD = Method("tape", lambda at: at.sort == "tape", _card, _picture)
