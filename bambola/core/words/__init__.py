"""What facts and numbers mean at the table: sentences in words a felter uses, in the maker's units."""

from bambola.core.words.holding import (
    grown_words,
    held_words,
    stands_words,
    stiff_words,
)
from bambola.core.words.saying import ENGLISH, SENTENCES, Words, error_words

__all__ = [
    "ENGLISH",
    "SENTENCES",
    "Words",
    "error_words",
    "grown_words",
    "held_words",
    "stands_words",
    "stiff_words",
]
