"""Eyes of clay."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "clay-eye.balls": N_(
        "Roll two balls {eye} across from two equal slices of one roll, and compare them."
    ),
    "clay-eye.ball": N_("Roll a ball {eye} across."),
    "clay-eye.wire": N_(
        "Bend a thin wire like a hairpin into the back of each: {stem} stands out."
    ),
    "clay-eye.bake": N_("Bake or dry them as the packet says; in the air that takes days."),
    "clay-eye.varnish": N_("Varnish them when they are hard, and let that dry as well."),
    "clay-eye.start": N_("Made first of all: the figure is begun while they dry."),
    "clay-eye.until": N_("They are hard, alike, and their wires do not turn."),
    "clay-eye.scale": N_("Clay goes to any size; the wire is cut to what the head is deep."),
    "clay-eye.why": N_("What is not dry when it is tried is pressed out of shape."),
    "look.clay-alike": N_("Lay them side by side."),
    "look.clay-alike.right": N_("They are equally large and round."),
    "look.clay-alike.wrong": N_("Make the larger one again: it costs less than an uneven face."),
}
