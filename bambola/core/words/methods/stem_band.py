"""A stem under a band of wool."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "stem-band.lay": N_("Lay the bare stem of {part} along {on}, {long} of it."),
    "stem-band.over": N_("Lay a band of wool across it, {wide} wide."),
    "stem-band.beside": N_("Stab the band down on both sides of the stem, never on it."),
    "stem-band.down": N_(
        "Then further off beside the stem, all along, so that it does not wobble."
    ),
    "stem-band.close": N_("Draw wool over what is still seen of it, and fix that."),
    "stem-band.start": N_("What bears it is felted, and still takes the needle."),
    "stem-band.until": N_("It does not wobble when the part is moved, and no wire is seen."),
    "stem-band.scale": N_(
        "A longer stem takes a second band; a heavy part is better bound to the frame."
    ),
    "stem-band.why": N_(
        "Wool holds a wire from both sides at once: stabs beside it press it in, stabs on it break needles."
    ),
}
