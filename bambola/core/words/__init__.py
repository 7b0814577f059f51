"""The sentences for facts, in words a felter uses and in the maker's units."""

from bambola.core.words.names import kind
from bambola.core.words.phrases import growth_phrase, standing_phrase, stiffness_phrase, times_held
from bambola.core.words.saying import ENGLISH, Words, error_words, every_sentence
