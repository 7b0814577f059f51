"""The sentences for facts, in words a felter uses and in the maker's units."""

from bambola.core.words.names import kind
from bambola.core.words.phrases import grown, held, stands, stiff
from bambola.core.words.saying import ENGLISH, Words, error_words, every_sentence
