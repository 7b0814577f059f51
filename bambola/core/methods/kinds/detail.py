"""A detail so thin that it is drawn with a thread of wool."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, oval
from bambola.core.methods.parts import SLANTED, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method
from bambola.core.wool.pan import right_size_range


def _card(at: StepInPlan) -> Card:
    thick = at.thick
    long = max(at.finished)
    return card(
        at,
        "detail",
        (
            fact("detail.dot", part=at.part_name),
            fact("detail.draw", line=Mm(max(thick, slots.LINE_MM)), long=Mm(long)),
            Fact("detail.ends"),
            Fact("detail.trim"),
        ),
        start=Fact("detail.start"),
        needles=(run(40, slots.SKIN_MM, SLANTED, "only"),),
        stops=(stop("length", *right_size_range(long)),),
        until=Fact("detail.until"),
        checks=(check("line-even"), check("line-place")),
        scale=Fact("detail.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the thread on its dots, as wide as it is."""
    long, wide = max(at.finished), max(at.thick, slots.LINE_MM)
    x = np.linspace(0, long, 49)
    curve = np.column_stack([x, long / 12 * np.sin(np.pi * x / long)])
    dots = [
        DrawnArea(oval(wide, wide, (float(a), float(b) - 2.5 * wide)), "paper")
        for a, b in curve[::8]
    ]
    run, there = card_.needles[0], float(curve[36, 1])
    return StepDrawing(
        (
            *dots,
            DrawnLine(curve, "thread", wide),
            across((0.0, -4 * wide), (long, -4 * wide), long),
            across(
                (long * 0.75, there - wide / 2),
                (long * 0.75, there + wide / 2),
                wide,
                wide,
            ),
            stab((long / 2, float(curve[24, 1])), run, 60),
            Number((0.0, 2.5 * wide), 3),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "detail.dot": N_("Dot {part} out with the needle."),
    "detail.draw": N_(
        "Draw a wisp long without parting it, {long} and some more, and twist it to {line}."
    ),
    "detail.ends": N_("Fix both ends, then follow the dots, twisting again as you go."),
    "detail.trim": N_("Trim what is left over flush with the skin, and go over it once."),
    "detail.start": N_("Wool that lies all one way, longer than needed."),
    "detail.until": N_("It lies on the skin, as wide all along."),
    "detail.scale": N_("A line keeps its width at most sizes; larger heads bear a wider one."),
    "detail.why": N_("It is too thin to hold and felt by itself: lay a thread where it belongs."),
}

METHOD = Method("detail", lambda at: at.sort == "detail", _card, _picture)
