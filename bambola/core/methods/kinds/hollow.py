"""A hollow: a bowl, an open mouth, a place for a face, pressed into the bearer and lined."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, line
from bambola.core.methods.parts import LOW, SQUARE, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method
from bambola.core.resize import NEEDLE_REACH_MM
from bambola.core.wool.pan import right_size_range


def hollow_mm(at: StepInPlan) -> tuple[float, float]:
    """Return the width of a hollow at its rim, and its depth: as far as its shape lies in the bearer."""
    copy, solid = at.placed
    deep, above = slots.overlap_at_join(copy, at.bearer)
    return slots.seat_width(solid.join_line_mm), deep + above


def _card(at: StepInPlan) -> Card:
    wide, deep = hollow_mm(at)
    on = fact("the", name=at.bearer.part.name)
    reach = min(deep, NEEDLE_REACH_MM)
    return card(
        at,
        "hollow",
        (
            fact("hollow.outline", wide=Mm(wide), on=on),
            fact("hollow.press", deep=Mm(deep)),
            Fact("hollow.walls"),
            Fact("hollow.line") if at.wool is not None else None,
            Fact("hollow.rim"),
        ),
        start=fact("hollow.start", on=on),
        needles=(run(38, reach, SQUARE, "first"), run(40, slots.DEPTH_MM["rim"], LOW, "edges")),
        stops=(stop("width", *right_size_range(wide)), stop("depth", *right_size_range(deep))),
        until=Fact("hollow.until"),
        checks=(check("hollow-even"),),
        scale=Fact("hollow.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return a section: the hollow in what bears it, how wide and how deep it is, the needle in its wall."""
    wide, deep = hollow_mm(at)
    t = np.linspace(0, np.pi, 65)
    bowl = np.column_stack([-wide / 2 * np.cos(t), -deep * np.sin(t)])
    around, under = 0.9 * wide, -deep - 0.5 * max(wide, deep)
    ground = np.vstack(
        [[(-around, 0.0)], bowl, line((around, 0.0), (around, under), (-around, under))]
    )
    pieces: list[Piece] = [
        DrawnArea(ground, "under"),
        across((-wide / 2, 0.0), (wide / 2, 0.0), wide, wide * 0.12),
        across((0.0, 0.0), (0.0, -deep), deep, 0.0),
        stab((-wide * 0.25, -deep * 0.9), card_.needles[0], 100),
        Number((-wide * 0.75, under * 0.3), 1),
        Number((wide * 0.2, -deep * 0.6), 2),
    ]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "hollow.outline": N_("Scratch its rim on {on}, {wide} wide, and look at it from the front."),
    "hollow.press": N_(
        "Stab straight into its middle, then round and round outwards, until it is {deep} deep: the wool "
        "gives way and grows firm."
    ),
    "hollow.walls": N_(
        "Turn the needle with the wall, slanting outwards, never through the far side."
    ),
    "hollow.line": N_(
        "Lay its own colour in as thin veils, from the rim inwards, and tack each one."
    ),
    "hollow.rim": N_("Go round the rim with the needle almost flat, so that its edge is clear."),
    "hollow.start": N_(
        "{on:capital} is firm and has its coat: in soft wool a hollow closes again."
    ),
    "hollow.until": N_(
        "A finger or a bead of its size sits in it without rocking, and it stays open."
    ),
    "hollow.scale": N_(
        "Under a finger’s width a hollow is a dimple: a few deep stabs in one place do."
    ),
    "hollow.why": N_(
        "A hollow that is cut out frays; one that is pressed in is the firmest place of the part."
    ),
    "look.hollow-even": N_("Look into it against the light, and lay a bead in it."),
    "look.hollow-even.right": N_("Its wall is even all round, and no core shows."),
    "look.hollow-even.wrong": N_("Shallow on one side: stab there. Core shows: one more veil."),
}

METHOD = Method("hollow", lambda at: at.sort == "detail" and at.body.hollow, _card, _picture)
