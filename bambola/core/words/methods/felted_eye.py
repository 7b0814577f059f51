"""Eyes of wool."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

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
    "felted-eye.until": N_("They are as wide as each other, level, and their edge is a line."),
    "felted-eye.scale": N_("They may be of any size; tiny ones without a highlight."),
    "felted-eye.why": N_(
        "Made side by side the two come out alike; tacked only, they can still be moved."
    ),
}
