"""Contradictions between measurements."""

from __future__ import annotations

from bambola.core.marked import N_

SENTENCES = {
    "view.front": N_("front"),
    "view.side": N_("side"),
    "view.back": N_("back"),
    "view.top": N_("top"),
    "doubt.taller": N_(
        "The measured parts stacked come to {stacked}; the original is {original} high,"
        " {off} more. One of the tall parts is off."
    ),
    "doubt.shorter": N_(
        "The measured parts stacked come to {stacked}; the original is {original} high,"
        " {off} less. One of the tall parts is off."
    ),
    "doubt.landmark": N_(
        "{mark} is {up} up in the {view} picture and {other_up} in the {other} picture. Is the ground line "
        "or the scale of one of them off?"
    ),
    "doubt.pair-long": N_(
        "{part}: one is {one} long, the other {other}. The two of a pair should be within {within}."
    ),
    "doubt.pair-thick": N_(
        "{part}: one is {one} thick, the other {other}. The two of a pair should be within {within}."
    ),
    "doubt.apart": N_("{part} does not touch {on:lower}, which it sits on."),
    "doubt.wire": N_("{part} is thinner than its wire and the wool to hide it: {how:first lower}"),
    "doubt.eye": N_("{name} of {size} do not fit on {on:lower}, which is {room} across."),
    "doubt.weight": N_("The original weighs {weighs}. {told}"),
    "doubt.weight-off": N_(
        "As drawn the figure would weigh {expected}, and the original weighs {weighs}. {told}"
    ),
    "doubt.outside": N_("{part} lies {share} outside the silhouette of the {view} picture."),
    "weight.horn": N_(
        "Even wool packed like horn would not weigh that: an original of {weighs} cannot have these measures."
    ),
    "weight.too-light": N_(
        "Wire and fittings alone weigh {other}, and skin and joins need their wool too: an original of "
        "{weighs} cannot have these measures."
    ),
    "weight.firmness": N_("So its wool must be about {firmness}."),
    "weight.looser": N_(
        "So its wool must be looser than soft wool can be: a measure or the weight is wrong."
    ),
    "weight.harder": N_(
        "So its wool must be harder than hard wool can be: a measure or the weight is wrong."
    ),
}
