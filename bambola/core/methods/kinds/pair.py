"""The two of a pair joined to each other before they are set."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, StepDrawing, fringe, rod
from bambola.core.methods.parts import SLANTED, across, card, check, run, stab
from bambola.core.methods.values import Card, Method


def _card(at: StepInPlan) -> Card:
    fringe = at.fringe_mm
    return card(
        at,
        "pair",
        (
            fact("pair.lay", part=at.part_name, half=Mm(fringe / 2)),
            Fact("pair.stab"),
            Fact("pair.tease"),
            Fact("pair.tack"),
        ),
        needles=(run(38, slots.DEPTH_MM["pair"], SLANTED, "both-sides"),),
        until=Fact("pair.until"),
        checks=(check("pair-lifts"), check("pair-centre")),
        scale=Fact("pair.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the two with their bases together, the fringes crossing."""
    along, wide, _ = at.finished
    fringe_mm = at.fringe_mm
    left, right = (rod(along, wide, (s * (along / 2 + fringe_mm / 4), 0.0)) for s in (-1, 1))
    return StepDrawing(
        (
            DrawnArea(left, "wool"),
            DrawnArea(right, "wool"),
            *fringe((-fringe_mm / 4, 0.0), wide * 0.7, fringe_mm, 0),
            *fringe((fringe_mm / 4, 0.0), wide * 0.7, fringe_mm, 180),
            across((-fringe_mm / 4, 0.0), (fringe_mm / 4, 0.0), fringe_mm / 2, -wide * 0.8),
            stab((0.0, wide * 0.1), card_.needles[0], 60),
            Number((0.0, -wide * 0.25), 1),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "pair.lay": N_("Lay {part} together at their bases, the fringes crossing by {half}."),
    "pair.stab": N_("Pinch them, stab on the side, turn, and stab again."),
    "pair.tease": N_("Tease out a fringe that both share."),
    "pair.tack": N_("Tack them on the middle mark while they are floppy; look, move, then firm."),
    "pair.until": N_("One tip lifts both."),
    "pair.scale": N_("Bases far apart, or heavy ones, are set one by one."),
    "pair.why": N_("Two parts joined into one piece stay level, however you set them."),
}

METHOD = Method("pair", lambda at: at.sort == "pair", _card, _picture)
