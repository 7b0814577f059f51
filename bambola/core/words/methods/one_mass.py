"""The soft ball that several parts are drawn out of."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "one-mass.roll": N_("Roll all the wool for {parts} into one loose ball."),
    "one-mass.soft": N_("Felt it only soft, all round: {wide} across."),
    "one-mass.choose": N_("Choose which side is the top, which the front and which the base."),
    "one-mass.until": N_("It holds together, and a thumb still sinks in."),
    "one-mass.scale": N_("Above a hand’s height parts are better made apart and joined."),
    "one-mass.why": N_(
        "What is drawn out needs wool that still gives: a firm ball can only be added to."
    ),
}
