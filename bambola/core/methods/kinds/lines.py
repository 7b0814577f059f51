"""A patch that has become so narrow that it is drawn as lines."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.figure.places import Line as PlaceLine
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, rod
from bambola.core.methods.parts import SLANTED, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method
from bambola.core.wool.pan import right_size_range

BENDS_DEG = 40.0
"""A line that turns by more than this in all is laid along pins. Judged. See craft.md, 10."""


def is_curved(at: StepInPlan) -> bool:
    """Return whether the line turns so much that its thread is laid along pins."""
    where = next(p for p in at.body.patches if p.id == at.step.key.detail).where
    if not isinstance(where, PlaceLine) or len(where.way) < 3:
        return False
    long, wide, _ = at.finished
    flat = [(np.radians(around) * wide / 2, along * long) for along, around in where.way]
    ways = np.diff(np.array(flat), axis=0)
    turns = np.degrees(np.arctan2(ways[:, 1], ways[:, 0]))
    off = np.abs((np.diff(turns) + 180) % 360 - 180)
    return float(off.sum()) > BENDS_DEG


def _card(at: StepInPlan) -> Card:
    return card(
        at,
        "lines",
        (
            fact("lines.pins" if is_curved(at) else "lines.dot", part=at.part_name),
            fact("lines.draw", line=Mm(slots.LINE_MM)),
            Fact("lines.ends"),
            Fact("lines.trim"),
        ),
        start=Fact("lines.start"),
        needles=(run(40, slots.SKIN_MM, SLANTED, "only"),),
        stops=(stop("width", *right_size_range(slots.LINE_MM)),),
        until=Fact("lines.until"),
        checks=(check("line-even"), check("line-place")),
        scale=Fact("lines.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return two lines on the skin, as wide as they are drawn."""
    wide = slots.LINE_MM
    long = 12 * wide
    x = np.linspace(-long / 2, long / 2, 49)
    bow = wide * np.cos(np.pi * x / long)
    lower, upper = (np.column_stack([x, bow + shift]) for shift in (-2 * wide, 2 * wide))
    return StepDrawing(
        (
            DrawnArea(rod(long * 1.3, 12 * wide), "under"),
            DrawnLine(lower, "thread", wide),
            DrawnLine(upper, "thread", wide),
            across((0.0, 2.5 * wide), (0.0, 3.5 * wide), wide, long * 0.75),
            stab((long * 0.2, -2 * wide), card_.needles[0], 60),
            Number((-long / 2, 2 * wide), 3),
            Number((-long / 4, -2 * wide), 2),
        )
    )


def _fits(at: StepInPlan) -> bool:
    name = at.step.key.detail
    return at.sort == "inset" and at.job is not None and name in at.job.lines


SENTENCES: dict[str, str | Plural] = {
    "lines.dot": N_("Dot their course on {part} with the needle."),
    "lines.pins": N_("Set pins along its curve on {part}, and lay the thread along them."),
    "lines.draw": N_("Draw a wisp long without parting it, and twist it to {line}."),
    "lines.ends": N_("Fix both ends, then follow the dots between."),
    "lines.trim": N_("Trim it flush, and go over it once."),
    "lines.start": N_("A wisp of the patch’s wool, longer than the line."),
    "lines.until": N_("The lines lie on the skin, all equally wide."),
    "lines.scale": N_("A line keeps its width: on a larger figure it is a patch again."),
    "lines.why": N_(
        "A patch narrower than this frays into its ground: a twisted thread stays a line."
    ),
}

METHOD = Method("lines", _fits, _card, _picture)
