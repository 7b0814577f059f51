"""Clothes."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "garment.try": N_("Try {part} on before anything is fixed."),
    "garment.on": N_("Pull it over, or close it round what it sits on."),
    "garment.stitch": N_("Hold it with one stitch or a drop of glue where it is not seen."),
    "garment.lay": N_("Lay crossing wisps for {part} where it is worn, ends under the arms."),
    "garment.overlap": N_("Let each lie half over the last."),
    "garment.waist": N_("Stab it down at neck and waist; it stays free between."),
    "garment.rim": N_("Firm its rim from the side, with the needle flat."),
    "garment.close": N_(
        "Bring its two loose ends together behind and felt them into each other, from both sides in turn."
    ),
    "garment.worn": N_("Pin {part} where it is worn; pull it in shape while it is still soft."),
    "garment.start-shaped": N_("It was shaped apart: here it is only fixed."),
    "garment.start-laid": N_(
        "Thinner than you think: felt of a finger’s thickness looks like armour."
    ),
    "garment.start-bought": N_("Bought clothes keep their size."),
    "garment.until": N_("Its rim has no hair, and no gap shows."),
    "garment.until-bought": N_("It sits, and comes off only if it is meant to."),
    "garment.scale": N_(
        "Felt stays as thin on a small figure; knots do not shrink: take fewer strips."
    ),
    "garment.why": N_("What has to pass over an end goes on while that end is still small enough."),
}
