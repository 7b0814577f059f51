"""A patch of another colour let into the coat or laid on it."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.figure.places import Band
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, StepDrawing, oval
from bambola.core.methods.parts import LOW, SQUARE, across, card, check, run, stab
from bambola.core.methods.values import Card, Method
from bambola.core.solids.forms import box_of
from bambola.core.solids.regions import VIEWS, drawn_on
from bambola.core.wool.layers import tuck_mm

THIN_MM = 8.0
"""Colour comes out behind a part thinner than this if it is stabbed straight. Judged. See craft.md, 10."""


TIP_SHARE = 0.35
"""A band that covers no more than this share of a limb at its end is wound round it. Judged. See craft.md,
10."""


def is_round_the_end(at: StepInPlan, where: object) -> bool:
    """Return whether a patch is a band all round the end of a limb: a hoof, a sock, the tip of a tail."""
    if not isinstance(where, Band) or where.wide < 360.0 or where.end - where.begin > TIP_SHARE:
        return False
    is_long = at.body.shape.start_form in ("sausage", "cone")
    return is_long and (where.end == 1.0 or where.begin == 0.0)


def _meeting_coat(tucked: float) -> Fact:
    """Return how a coat that is laid later meets the patch."""
    return fact("inset.tuck", under=Mm(tucked)) if tucked > 0 else Fact("inset.abut")


def _card(at: StepInPlan) -> Card:
    thin = at.row.to_mm and min(at.row.to_mm.values()) < THIN_MM
    first = at.plan.work.school("insets") == "first" and at.body.coat is not None
    first = first and not (at.job and at.job.coreless)
    angle = LOW if thin else SQUARE
    patch = next(p for p in at.body.patches if p.id == at.step.key.detail)
    tucked = tuck_mm(at.body, patch, at.placed[1])
    # Else it lies on one side of the middle.
    view, drawn = drawn_on(at.placed[0].shape, patch.where)
    crosses = view not in ("left", "right") and len({x > 0 for x, _ in drawn.tolist()}) == 2
    at_end = is_round_the_end(at, patch.where)
    halves = (patch.copies == 2 or crosses) and not at_end
    return card(
        at,
        "inset",
        (
            fact("inset.scratch", part=at.part_name),
            Fact("inset.wind" if at_end else "inset.edges" if first else "inset.thread"),
            _meeting_coat(tucked) if first else Fact("inset.cap" if at_end else "inset.fill"),
            Fact("inset.even") if halves else None,
        ),
        start=Fact("inset.start"),
        needles=(
            run(38, slots.DEPTH_MM["outline"], angle, "outline"),
            run(40, slots.SKIN_MM, angle, "then"),
        ),
        until=Fact("inset.until" if halves else "inset.until-one"),
        checks=(check("halves"), check("edge-crisp")) if halves else (check("edge-crisp"),),
        scale=Fact("inset.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the part with the patch as it is drawn on it, seen from where it shows."""
    inset = next(p for p in at.body.patches if p.id == at.step.key.detail)
    shape = at.placed[0].shape
    view, patch = drawn_on(shape, inset.where)
    (across_axis, _), (up_axis, _), _ = VIEWS[view]
    _, half = box_of(shape)
    across_, along = 2 * float(half[across_axis]), 2 * float(half[up_axis])
    middle = patch.mean(axis=0)
    (x, y), (right, top) = (
        tuple(map(float, end)) for end in (patch.min(axis=0), patch.max(axis=0))
    )
    gap = max(along, across_) * 0.1
    twin = [DrawnArea(patch * np.array([-1.0, 1.0]), "wool")] if inset.copies == 2 else []
    run = card_.needles[0]
    return StepDrawing(
        (
            DrawnArea(oval(across_, along), "under"),
            DrawnArea(patch, "wool"),
            *twin,
            across((x, y), (right, y), right - x, -gap),
            across((right, y), (right, top), top - y, -gap),
            stab((x, float(middle[1])), run, 130),
            Number((float(middle[0]), float(middle[1])), 2),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "inset.scratch": N_("Scratch its outline on {part}."),
    "inset.edges": N_("Lay thin pinches along the outline first, then fill inward."),
    "inset.tuck": N_("Later, bring the coat up to its line and tuck it {under} under."),
    "inset.abut": N_("Later the coat is brought to its line, edge to edge."),
    "inset.thread": N_("Lay a thread of its wool along the line, and fix that first."),
    "inset.wind": N_("Wind a wisp of its wool round, first along the line."),
    "inset.cap": N_("Fold the wisp over the end, and stab it down from all sides."),
    "inset.fill": N_("Fill from there to the middle, pinch by thin pinch."),
    "inset.even": N_("Even the halves by adding to the small side."),
    "inset.start": N_("Thin pinches: the right amount for a mark looks far too little."),
    "inset.until": N_("No ground shows through, and both halves are alike."),
    "inset.until-one": N_("No ground shows through, and its edge is a line."),
    "inset.scale": N_("The overlap stays the same at any size; small patches are laid on top."),
    "inset.why": N_(
        "Fibres are drawn inward from the edge; so the edge is set first, and what is inside follows."
    ),
}

METHOD = Method("inset", lambda at: at.sort == "inset", _card, _picture)
