"""Blending in."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "blend.start": N_("A torn wisp of {wool:lower}, thin enough to read through."),
    "blend.veil": N_("Lay a torn veil over the join of {part}, {past} past it, as the hair lies."),
    "blend.outward": N_("Fix it from the join outward."),
    "blend.brush": N_("Brush its rim apart with an awl, and catch the hairs low."),
    "blend.again": N_("Once more, with half as much."),
    "blend.until": N_("The join is not seen from an arm’s length, and no ridge is felt."),
    "blend.scale": N_("A veil reaches as far past a join at most sizes, half on small parts."),
    "blend.why": N_("A seam is seen where fibres end together: torn wool ends nowhere."),
}
