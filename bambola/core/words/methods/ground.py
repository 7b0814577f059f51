"""Pressing level what touches the table."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "ground.stand": N_("Set the figure on a hard table."),
    "ground.spot": N_("Find the one place on which it rocks."),
    "ground.slant": N_("Stab it there from below, slanting to the middle of what touches."),
    "ground.turn": N_("Set it down, and again, until it stands."),
    "ground.until": N_("It does not rock, and stays standing when it is nudged."),
    "ground.scale": N_("A large figure wants its weight low and what it stands on wide."),
    "ground.why": N_("Felt is soft underneath only until all the weight sits on it."),
}
