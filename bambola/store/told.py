"""Errors of the store as sentences in the maker's language."""

from __future__ import annotations

from bambola.core.facts import Fact
from bambola.core.words import Words, error_words
from bambola.language import current_catalogue


def fact_sentence(wrong: Exception | Fact) -> str:
    """Return a fact as one sentence. Files contain no quantities that depend on the maker's units."""
    words = Words(catalogue=current_catalogue())
    return words.say(wrong) if isinstance(wrong, Fact) else error_words(wrong, words)
