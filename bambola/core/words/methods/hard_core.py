"""Wool round a hard core."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "hard-core.rough": N_(
        "Roughen what is smooth, or rub a thin skin of glue on it and let it dry."
    ),
    "hard-core.wind": N_("Wind long wool round it crosswise, taut, until none of it is seen."),
    "hard-core.stab": N_("Stab slanting along its skin, no deeper than {deep}: there it is hard."),
    "hard-core.turn": N_("Turn it all the time, so that no side grows thick."),
    "hard-core.start": N_("Long, thin strips; short ones slide off."),
    "hard-core.until": N_("The wool does not slide when it is twisted."),
    "hard-core.scale": N_("It takes no wool; what lies over it may be no thinner than hides it."),
    "hard-core.why": N_("No needle goes through it: the wool has to hold on to itself, all round."),
}
