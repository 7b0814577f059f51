"""A head pressed over a bump of wool on its neck."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "bump.build": N_(
        "Felt a bump on the {on:lower}, {wide} wide and {high} high, its top left hairy."
    ),
    "bump.keep": N_("Keep core wool back for it when {part} is shaped: {amount:first lower}."),
    "bump.hollow": N_("Press a hollow into {part} with your thumb, {deep} deep."),
    "bump.press": N_("Set it over the bump, its fringe of {fringe} spread all round, and look."),
    "bump.drive": N_(
        "Stab down through it into the bump, and up from below, {sink} deep, all round."
    ),
    "bump.scale": N_(
        "The bump grows with the seat, up to {most}; under a head over {large} a peg is safer."
    ),
    "bump.why": N_(
        "A head on a bump cannot slide, and its tilt can be tried before anything is felted fast."
    ),
}
