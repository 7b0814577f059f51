"""What facts and numbers mean at the table: sentences in words a felter uses, in the maker's units."""

from bambola.core.words.names import kind
from bambola.core.words.phrases import grown, held, stands, stiff
from bambola.core.words.saying import ENGLISH, Words, error_words, every_sentence
