"""Eyes made of wool, felted on where they are marked."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, box, oval
from bambola.core.methods.parts import SLANTED, SQUARE, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method
from bambola.core.plan.making.loose_ends import eye_portion
from bambola.core.wool.amounts import pinch_mm
from bambola.core.wool.layers import DOME

LIGHT_FROM_MM = 2.5
"""Smaller eyes have no highlight. Judged. See craft.md, 10."""


def pinch_diameter(at: StepInPlan) -> float:
    """Return the diameter that the wool of one eye is rolled to, mm."""
    return pinch_mm(eye_portion(at.plan.resized.figure, at.about, at.bench).grams)


def _card(at: StepInPlan) -> Card:
    wide = at.fitting_mm
    both = at.fitting.count == 2
    wool = at.bench.wool_by_id[eye_portion(at.plan.resized.figure, at.about, at.bench).wool].name
    return card(
        at,
        "felted-eye",
        (
            fact(
                f"felted-eye.roll{'' if both else '-one'}", pinch=Mm(pinch_diameter(at)), wool=wool
            ),
            fact("felted-eye.disc", wide=Mm(wide)),
            Fact("felted-eye.set"),
            Fact("felted-eye.rim"),
            Fact("felted-eye.light") if wide >= LIGHT_FROM_MM else None,
        ),
        start=Fact("felted-eye.start"),
        needles=(
            run(40, slots.DEPTH_MM["surface"], SQUARE, "first"),
            run(40, slots.DEPTH_MM["rim"], SLANTED, "edges"),
        ),
        stops=(stop("width", max(0.5, wide - 0.5), wide + 0.5),),
        until=Fact("felted-eye.until"),
        checks=(check("level"), check("eye-edge")),
        scale=Fact("felted-eye.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the pinch, the disc, and the eye on the head with its highlight."""
    wide, rolled = at.fitting_mm, pinch_diameter(at)
    high = DOME * wide
    left = -(wide / 2 + rolled)
    first, edges = card_.needles
    pieces: list[Piece] = [
        DrawnArea(box(wide * 2.4, wide * 0.9, (wide * 0.2, -wide * 0.45)), "under"),
        DrawnArea(oval(wide, 2 * high, (wide * 0.2, 0.0), 0.5), "wool"),
        DrawnArea(oval(rolled, rolled, (left - wide * 0.8, rolled / 2)), "wool"),
        across((-wide * 0.3, 0.0), (wide * 0.7, 0.0), wide, high + wide * 0.12),
        across(
            (left - wide * 0.8 - rolled / 2, rolled / 2),
            (left - wide * 0.8 + rolled / 2, rolled / 2),
            rolled,
            rolled * 0.75,
        ),
        stab((wide * 0.2, high * 0.6), first, 90),
        stab((wide * 0.62, wide * 0.02), edges, 45),
        Number((left - wide * 0.8, rolled / 2), 1),
        Number((-wide * 0.42, high * 0.7), 3),
    ]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "felted-eye.roll": N_(
        "Roll two pinches of {wool:lower} alike, {pinch} across, one in each hand."
    ),
    "felted-eye.roll-one": N_("Roll a pinch of {wool:lower}, {pinch} across."),
    "felted-eye.disc": N_("Felt each to a disc {wide} wide, its edge still soft."),
    "felted-eye.set": N_(
        "Tack them on their marks, look from the front and upside down, then firm them."
    ),
    "felted-eye.rim": N_("Close the edge from the side, slanting inward."),
    "felted-eye.light": N_(
        "Last a highlight of a few white hairs, a fifth as wide as the eye, alike in both."
    ),
    "felted-eye.start": N_("The head is firm by now."),
    "felted-eye.until": N_("They are equally wide and level, and their edge is a clean line."),
    "felted-eye.scale": N_("They may be of any size; tiny ones without a highlight."),
    "felted-eye.why": N_(
        "Made side by side the two come out alike; tacked only, they can still be moved."
    ),
}

METHOD = Method(
    "felted-eye", lambda at: at.sort == "fit" and at.fitting.how == "felted", _card, _picture
)
