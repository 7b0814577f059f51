"""The fold of a limb that sits."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "crease.bend": N_("Bend {part} by {angle} over the edge of the pad, and hold it so."),
    "crease.front": N_("Stab straight down along the fold in front, {depth} deep."),
    "crease.rear": N_("The same behind, from the other side."),
    "crease.on": N_("Let go, look, and go on till it stays."),
    "crease.start": N_("Nothing is laid into the fold: what is there is driven in."),
    "crease.until": N_("Let go, it keeps its {angle}, within {off}, and is firm in the fold."),
    "crease.scale": N_("On a figure over {tall} a thigh that sits wants a wire in it."),
    "crease.why": N_(
        "Bent felt springs back; stabbed along the fold it is shorter there, and keeps the bend."
    ),
}
