"""The book: what a figure costs, and what became of it."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "cost.grams": N_("{grams}"),
    "cost.length": N_("{long}"),
    "cost.pieces": N_("{n}"),
    "cost.eyes": N_("Eyes {size}"),
    "fair.step": N_("{figure}: {step}"),
    "fair.no-time": N_("Until that day there is no free time."),
    "fair.no-end": N_("{n} choices do not fit into the sittings; plan with fewer designs."),
    "spare.garment": N_("{part}: leave it off"),
    "spare.fur": N_("{part}: no fur"),
    "spare.inset": N_("{part}: in one colour"),
}
