"""Glue and soap at the end."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "skin.brush": N_("Brush off dust and loose hair."),
    "skin.mix": N_("A little white glue in soapy water, as thin as milk."),
    "skin.stroke": N_("Stroke it on bare skin with a damp fingertip, always the same way."),
    "skin.dry": N_("Stand it to dry for a night; nothing may lie on it."),
    "skin.comb": N_("Comb the fur, tag the figure, and take a picture with a ruler beside it."),
    "skin.start": N_("The figure is needled to the end, and dry. Fur, glass and paper stay dry."),
    "skin.until": N_("No spot feels cool, and no hair stands up."),
    "skin.scale": N_("Twice the height takes four times as much."),
    "skin.why": N_("A thin skin lays the last hairs, where a needle would only make pits."),
}
