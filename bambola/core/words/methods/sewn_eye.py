"""Sewing on eyes."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "sewn-eye.anchor": N_(
        "Knot a strong thread, and go in with it out of sight: under the neck, or behind an ear."
    ),
    "sewn-eye.bead": N_(
        "Come up through the head at the pin, go through the eye twice, and back in beside it."
    ),
    "sewn-eye.pull": N_(
        "Pull until it sits {deep} deep, a thumb on it, and take two stitches where you went in."
    ),
    "sewn-eye.other": N_("The other eye with the same thread."),
    "sewn-eye.snip": N_("Press the wool down, snip the tail, and let it spring in."),
    "sewn-eye.start": N_("A long needle and a thread that does not tear."),
    "sewn-eye.until": N_("They sit as deep as each other and are level, both ways up."),
    "sewn-eye.scale": N_("Pits deepen with the figure; eyes come in whole sizes."),
    "sewn-eye.why": N_("Thread draws the eye in and keeps it where a hand would pull it off."),
}
