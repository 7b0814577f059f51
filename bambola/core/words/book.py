"""The book: what a figure costs, and what became of it."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "cost.grams": N_("{grams}"),
    "cost.length": N_("{long}"),
    "cost.pieces": N_("{n}"),
    "cost.eyes": N_("Eyes {size}"),
}
