"""A body wrapped on its wire."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "wrap-body.anchor": N_("Anchor the wool at the middle of {part} and wind it tight."),
    "wrap-body.end": N_(
        "Anchor the wool at the near end of {part}, and wind it tight to the far end and back."
    ),
    "wrap-body.wind": N_("Wind it all in one go, to and fro."),
    "wrap-body.cross": N_("Cross over each shoulder and between the legs, so that nothing turns."),
    "wrap-body.between": N_("Cross between the limbs and over them, so that nothing turns."),
    "wrap-body.over": N_("Cross over its end and slanting round it, so that nothing turns."),
    "wrap-body.tack-small": N_("Tack it slanting and shallow, beside the wire."),
    "wrap-body.tack": N_(
        "Tack it slanting, shallow until there is a finger’s breadth of wool over the wire."
    ),
    "wrap-body.under": N_("Lift each limb and work under it; pads in the hollows, edges first."),
    "wrap-body.pads": N_("Lay pads in the hollows, edges first."),
    "wrap-body.mid": N_("At about {size} on its longest side take the finer needle."),
    "wrap-body.start": N_("Flat strips, taut."),
    "wrap-body.until": N_("It has its size, and drags alike at the needle on all sides."),
    "wrap-body.scale": N_(
        "Thinner than {small} it is wound in one go; large ones take pads in pairs."
    ),
    "wrap-body.why": N_(
        "Wool is laid on where it is wanted, and each layer is felted before the next hides it."
    ),
}
