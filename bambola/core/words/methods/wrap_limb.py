"""A limb wrapped on its wire."""

from __future__ import annotations

from bambola.core.words.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "wrap-limb.ribbon": N_(
        "Draw the wool into a ribbon {wide} wide that you can see through, for {part}."
    ),
    "wrap-limb.from-middle": N_(
        "Catch it at the middle of the limb, and wind to one end and then to the other."
    ),
    "wrap-limb.from-both": N_(
        "Catch it on the wire where {on} will be, and wind out along the one and then the other."
    ),
    "wrap-limb.from-stem": N_(
        "Leave {bare} of the wire bare, which goes into {on}; catch the wool there, and wind to the tip."
    ),
    "wrap-limb.from-body": N_("Catch it at the body, and wind to the tip."),
    "wrap-limb.over": N_("Carry it {over} past the end of the wire and fold it back."),
    "wrap-limb.to": N_("End it where the wire goes on into the {part:lower}; leave that bare."),
    "wrap-limb.stab": N_("Stab along both sides of the wire, turning by sixths."),
    "wrap-limb.roll": N_("Roll it in the palms, and measure at its top, middle and end."),
    "wrap-limb.start": N_("Tear the wool, never cut it."),
    "wrap-limb.start-pair": N_(
        "Tear the wool, never cut it; one strip laid at its middle winds both alike."
    ),
    "wrap-limb.until": N_(
        "Rolled between the fingers nothing hard is felt, and the wool does not turn on the wire."
    ),
    "wrap-limb.scale": N_(
        "With less than {hide} of wool over the wire it would not hide; from {round} on it is built in "
        "rounds."
    ),
    "wrap-limb.wind": NN_(
        "Wind it slanting and taut, half over itself, once over: about {turns} turns.",
        "Wind it slanting and taut, half over itself, {n} times over, about {turns} turns each time.",
    ),
    "wrap-limb.wind-short": NN_(
        "Wind it slanting and taut over all of it, once.",
        "Wind it slanting and taut over all of it, {n} times.",
    ),
    "wrap-limb.why": N_(
        "Wool turned on crosswise is bound by its own turns; stabs beside the wire lock them."
    ),
}
