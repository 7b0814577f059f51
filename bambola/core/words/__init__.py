"""What numbers mean at the table: sentences for facts, in words a felter uses."""

from bambola.core.words.holding import (
    grown_words,
    held_words,
    stands_words,
    stiff_words,
)

__all__ = ["grown_words", "held_words", "stands_words", "stiff_words"]
