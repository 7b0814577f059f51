"""The last look."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "final.sides": N_("Look from four sides, from above, and upside down."),
    "final.thread": N_("Lay a thread round at {at}: it runs level."),
    "final.tug": N_("Tug {what}, and rub the coat."),
    "final.rub": N_("Rub the coat."),
    "final.eyes": N_("the eyes"),
    "final.ears": N_("the ears"),
    "final.shoulders": N_("the shoulders"),
    "final.head": N_("the head"),
    "final.limbs": N_("the limbs"),
    "final.wire": N_("Feel for wire."),
    "final.measure": N_("Measure the height: {high}. Weigh it, and write it down."),
    "final.until": N_("Nothing gives, nothing pricks, and no needle is missing."),
    "final.scale": N_("A small figure wants a lens; lift a large one by its body."),
    "final.why": N_("From one side everything looks straight."),
}
