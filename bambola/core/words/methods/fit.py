"""Fixing what is not wool."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "fit.hold": N_("Hold {what} in place and mark where it touches."),
    "fit.contacts": N_("Hollow those places a little."),
    "fit.over": N_("Fold the hand over it, or catch it with wool that is stabbed through."),
    "fit.wisp": N_("A dot of glue where it is hard, and a wisp over it."),
    "fit.until": N_("It stays when the figure is turned upside down."),
    "fit.scale": N_("What is held goes by the size of the hand."),
    "fit.why": N_("Felt grips what it is wrapped round, where it touches most."),
}
