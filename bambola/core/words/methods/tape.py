"""Taping a wire."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "tape.split": N_("Split paper tape lengthwise to {wide}, so that it lies flat."),
    "tape.wind": N_(
        "Stretch it, and wind it slanting over {long}, half over itself, from the body out."
    ),
    "tape.joints": N_("Cross each joint in two directions."),
    "tape.pinch": N_("Pinch the end down."),
    "tape.until": N_("One layer lies half over itself, and no metal is seen."),
    "tape.scale": N_("Under thick wool it may be left out; it grips where wool is thin."),
    "tape.why": N_("Wool slides on bare metal: tape gives it something to hold."),
}
