"""Blending a part in, so that the join is not seen."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, box, line, oval
from bambola.core.methods.parts import LOW, across, card, check, run, stab
from bambola.core.methods.values import Card, Method

PAST_MM, SMALL_MM, MOST_PAST = 15.0, 20.0, 0.25
"""A veil reaches so far past a join, half of it on parts thinner than the second, and at most a quarter of
the part's width. Judged. See craft.md, 10."""


def past_mm(at: StepInPlan) -> float:
    """Return how far the veil extends past the join, mm."""
    past = PAST_MM / 2 if min(at.row.to_mm.values()) < SMALL_MM else PAST_MM
    return min(past, MOST_PAST * at.row.piece[1])


def _card(at: StepInPlan) -> Card:
    skin = at.body.coat.wool if at.body.coat else at.body.core
    return card(
        at,
        "blend",
        (
            fact("blend.veil", past=Mm(past_mm(at)), part=at.part_name),
            Fact("blend.outward"),
            Fact("blend.brush"),
            Fact("blend.again"),
        ),
        start=fact("blend.start", wool=at.bench.wool_by_id[skin].name),
        needles=(run(at.step.needle or 40, slots.DEPTH_MM["veil"], LOW, "only"),),
        until=Fact("blend.until"),
        checks=(check("seam-seen"), check("tug")),
        scale=Fact("blend.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the join, and the veil laid past it."""
    wide = sorted(at.finished)[1]
    past = past_mm(at)
    ground = wide + 3 * past
    run = card_.needles[0]
    veil = oval(wide * 0.8, 2 * past, (wide * 0.1, 0.0))
    return StepDrawing(
        (
            DrawnArea(box(ground, wide * 0.8, (0.0, -wide * 0.4)), "under"),
            DrawnArea(box(wide, wide, (0.0, wide / 2)), "core"),
            DrawnArea(veil, "wool", "hidden"),
            DrawnLine(line((-wide / 2, 0.0), (wide / 2, 0.0)), "hidden"),
            across((wide * 0.5, 0.0), (wide * 0.5, past), past, -past),
            across((-wide * 0.5, -past), (-wide * 0.5, 0.0), past, past),
            stab((wide * 0.2, -past * 0.5), run, 30),
            Number((0.0, past * 0.4), 1),
            Number((wide * 0.3, -past * 0.9), 3),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "blend.start": N_("A torn wisp of {wool:lower}, thin enough to read through."),
    "blend.veil": N_("Lay a torn veil over the join of {part}, {past} past it, as the hair lies."),
    "blend.outward": N_("Fix it from the join outward."),
    "blend.brush": N_("Brush its rim apart with an awl, and catch the hairs low."),
    "blend.again": N_("Once more, with half as much."),
    "blend.until": N_("The join is not seen from an arm’s length, and no ridge is felt."),
    "blend.scale": N_("A veil reaches as far past a join at most sizes, half on small parts."),
    "blend.why": N_("A seam is seen where fibres end together: torn wool ends nowhere."),
}

METHOD = Method("blend", lambda at: at.sort == "blend", _card, _picture)
