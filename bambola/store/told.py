"""What went wrong, in the language spoken here."""

from __future__ import annotations

from bambola.core.facts import Fact
from bambola.core.words import Words, error_words
from bambola.language import spoken


def told(wrong: Exception | Fact) -> str:
    """Return one sentence. Files hold no quantities that a maker has units of their own for."""
    words = Words(catalogue=spoken())
    return words.say(wrong) if isinstance(wrong, Fact) else error_words(wrong, words)
