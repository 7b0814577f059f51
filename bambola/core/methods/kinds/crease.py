"""The fold of a limb that sits."""

from __future__ import annotations

import math

import numpy as np

from bambola.core.facts import Degrees, Fact, Mm, fact
from bambola.core.figure import PoseBend
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, StepDrawing, rod
from bambola.core.methods.parts import SQUARE, across, card, check, run, stab
from bambola.core.methods.values import Card, Method

DEPTH_MM = (10.0, 15.0)
"""How deep a fold is stabbed, at most half through. Judged. See craft.md, 10."""
WIRED_MM = 120.0
"""A figure that sits and is higher than this wants wire in its thighs. Judged. See craft.md, 10."""
KEEPS_DEG = 5.0
"""A fold stays when it gives back no more than this. Judged. See craft.md, 10."""


def _sharpest_bend(at: StepInPlan) -> PoseBend:
    """Return the sharpest bend of the limb."""
    bends = [bend for bend in at.plan.resized.figure.pose if bend.part == at.row.id]
    return max(bends, key=lambda bend: bend.tilt.slant_deg)


def _card(at: StepInPlan) -> Card:
    angle = _sharpest_bend(at).tilt.slant_deg
    depth = min(DEPTH_MM[1], max(0.5 * at.thick, 1.0))
    return card(
        at,
        "crease",
        (
            fact("crease.bend", part=at.part_name, angle=Degrees(angle)),
            fact("crease.front", depth=Mm(depth)),
            Fact("crease.rear"),
            Fact("crease.on"),
        ),
        start=Fact("crease.start"),
        needles=(run(at.step.needle or 36, depth, SQUARE, "only"),),
        until=fact("crease.until", angle=Degrees(angle), off=Degrees(KEEPS_DEG)),
        checks=(check("crease-springs"),),
        scale=fact("crease.scale", tall=Mm(WIRED_MM)),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the limb folded over an edge, the needle down into the fold."""
    thick, angle = at.thick, math.radians(_sharpest_bend(at).tilt.slant_deg)
    long = 3.2 * thick
    upper = rod(long, thick, (-(long - thick) / 2, 0.0))
    turn = np.array([[math.cos(-angle), -math.sin(-angle)], [math.sin(-angle), math.cos(-angle)]])
    lower = rod(long, thick, ((long - thick) / 2, 0.0)) @ turn.T
    way = math.degrees((math.pi - angle) / 2 + math.pi)
    needle = card_.needles[0]
    inner = math.radians(way)
    tip = (-0.1 * thick * math.cos(inner), -0.1 * thick * math.sin(inner))
    return StepDrawing(
        (
            DrawnArea(lower, "wool"),
            DrawnArea(upper, "wool"),
            across((-long + thick / 2, -thick / 2), (-long + thick / 2, thick / 2), thick, thick),
            stab(tip, needle, way),
            Number((-long * 0.5, thick * 0.15), 1),
            Number((-0.62 * thick * math.cos(inner), -0.62 * thick * math.sin(inner)), 3),
            Number((0.3 * thick * math.cos(inner), 0.3 * thick * math.sin(inner)), 2),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "crease.bend": N_("Bend {part} by {angle} over the edge of the pad, and hold it so."),
    "crease.front": N_("Stab straight down along the fold in front, {depth} deep."),
    "crease.rear": N_("The same behind, from the other side."),
    "crease.on": N_("Let go, look, and go on till it stays."),
    "crease.start": N_("Nothing is laid into the fold: what is there is driven in."),
    "crease.until": N_("Let go, it keeps its {angle}, within {off}, and is firm in the fold."),
    "crease.scale": N_("On a figure over {tall} a thigh that sits wants a wire in it."),
    "crease.why": N_(
        "Bent felt springs back; stabbed along the fold it is shorter there, and keeps the bend."
    ),
}

METHOD = Method("crease", lambda at: at.sort == "crease", _card, _picture)
