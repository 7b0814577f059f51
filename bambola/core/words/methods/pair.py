"""The two of a pair joined to each other."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "pair.lay": N_("Lay {part} together at their bases, the fringes crossing by {half}."),
    "pair.stab": N_("Pinch them, stab on the side, turn, and stab again."),
    "pair.tease": N_("Tease out a fringe that both share."),
    "pair.tack": N_("Tack them on the middle mark while they are floppy; look, move, then firm."),
    "pair.until": N_("One tip lifts both."),
    "pair.scale": N_("Bases far apart, or heavy ones, are set one by one."),
    "pair.why": N_("Two that are one piece stay level with each other, however they are set."),
}
