"""Wool over a join."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "seam.scarf": N_("Lay a strip {high} high and {long} long round where {part} sits, taut."),
    "seam.patch": N_(
        "Lay the wool over the join of {part}, {wide} wide along its {long}, from the one onto the "
        "other."
    ),
    "seam.edges": N_("The edges first, then across."),
    "seam.feather": N_("Feather the ends out until no ridge is felt."),
    "seam.up-down": N_("Stab up into {part} and down into {on}, all round."),
    "seam.again": N_("Turn it upside down and do it again."),
    "seam.start": N_("Long thin pinches, as the hair lies."),
    "seam.until": N_("A finger run over it meets no bump, and a tug opens nothing."),
    "seam.scale": N_("Small joins take wisps; heavy parts a scarf and a peg."),
    "seam.why": N_(
        "A strip that runs over a join takes the pull along its fibres, where wool is strongest."
    ),
}
