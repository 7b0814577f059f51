"""Wound with glue."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "glue-wound.glue": N_("Rub a thin skin of glue on {long} of the wire."),
    "glue-wound.touch": N_("Touch a wisp on at the thick end."),
    "glue-wound.turn": N_("Turn the wire, and draw the wool thinner as it winds."),
    "glue-wound.press": N_(
        "Twist it off at the tip, press the hairs down with damp fingers, and stand it to dry."
    ),
    "glue-wound.start": N_("Wisps as long as a finger, a few dozen hairs."),
    "glue-wound.until": N_("No metal is seen, and it is as thick as drawn. No needle in wet glue."),
    "glue-wound.scale": N_("From {wound} on it is wrapped and needled instead."),
    "glue-wound.why": N_(
        "In so thin a layer a needle only meets wire: glue holds what it cannot reach."
    ),
}
