"""A sheet laid over most of what bears it."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "shell.lay": N_("Lay the wool out as an even sheet, {size}, its layers crossing."),
    "shell.scratch": N_("Scratch with the needle how far {part} reaches on {on}."),
    "shell.over": N_("Lay the sheet over that, and pull it smooth from the middle."),
    "shell.rim": N_("Tuck {tucked} of its rim under along the line, and stab the rim fast first."),
    "shell.all": N_("Then stab it down all over, close and straight, {deep} deep."),
    "shell.start": N_("Where it looks thin against the light, lay a wisp before it goes on."),
    "shell.until": N_("Nothing shows through it, it has no hollow place, and a nail lifts no rim."),
    "shell.scale": N_(
        "At any size it is laid as a sheet; only its thickness grows with the figure."
    ),
    "shell.why": N_(
        "A thin layer over a round is felted where it lies: made apart, it would not fit."
    ),
}
