"""Bending and binding a wire."""

from __future__ import annotations

from bambola.core.words.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "bend-wire.start": N_(
        "Hold the wire in the pliers at the mark and bend it over them, in this order, from its "
        "first end."
    ),
    "bend-wire.marks": NN_(
        "Lay it on its strip at true size, and bend it at the mark until it lies on the line.",
        "Lay it on its strip at true size, and bend it at one of the {n} marks after the other until it lies "
        "on the line.",
    ),
    "bend-wire.one": N_("{bend:capital}."),
    "bend-wire.straight": N_("It runs straight: only roll it flat."),
    "bend-wire.bind": N_(
        "Hook it round the other wire where they meet, {turns} turns, and press them flat."
    ),
    "bend-wire.band": N_(
        "Lay it under the other stem where they cross, wind it round {turns} times and band the crossing "
        "with tape both ways: it grips by itself."
    ),
    "bend-wire.loops": N_("Bend the loops at its ends last."),
    "bend-wire.lay": N_("Lay it on its strip at true size and correct it."),
    "bend-wire.until": N_("Every bend lies on its mark, within a pencil line."),
    "bend-wire.until-bound": N_("No joint slips when two fingers pull, and it lies on the print."),
    "bend-wire.scale": N_(
        "On a small figure the wire folds back on itself instead of being bound; on a large one bind "
        "with thin wire."
    ),
    "bend-wire.why": N_(
        "Bends are made flat along a ruler, since nobody can measure a wire that stands in the air."
    ),
}
