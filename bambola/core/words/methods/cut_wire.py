"""Cutting a wire."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "cut-wire.pull": N_("Pull the {stock:lower}, {gauge}, straight over a round edge."),
    "cut-wire.mark": N_("Lay it along a ruler and mark where it ends: {long}."),
    "cut-wire.bends": N_("Mark where it bends: {at}."),
    "cut-wire.at": N_("{at}"),
    "cut-wire.snip": N_("Snip it, both halves held."),
    "cut-wire.turn": N_("Turn {end} back at each end and press it shut."),
    "cut-wire.file": N_("File both ends smooth."),
    "cut-wire.tag": N_("Tag it with its name."),
    "cut-wire.until": N_("It is as long as marked, and a fingertip over its ends meets no point."),
    "cut-wire.scale": N_(
        "A small figure needs fewer wires: one may be folded back on itself. Stout wire wants side "
        "cutters."
    ),
    "cut-wire.why": N_(
        "A wire that is short by a loop cannot be made longer, and a cut end left sharp works "
        "its way out of the felt."
    ),
}
