"""A hollow pressed into a part."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

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
    "hollow.why": N_("What is cut out frays; what is pressed in is the firmest place of the part."),
    "look.hollow-even": N_("Look into it against the light, and lay a bead in it."),
    "look.hollow-even.right": N_("Its wall is even all round, and no core shows."),
    "look.hollow-even.wrong": N_("Shallow on one side: stab there. Core shows: one more veil."),
}
