"""Formats a sentence in any language: its slots, and its direction of writing."""

from __future__ import annotations

from collections.abc import Mapping
from gettext import NullTranslations
from string import Formatter

_RIGHT_TO_LEFT = {"ar", "arc", "ckb", "dv", "fa", "he", "ks", "ps", "sd", "ug", "ur", "yi"}
"""Languages in scripts that run from right to left, by their codes (Unicode, CLDR)."""


def language_of(catalogue: NullTranslations) -> str:
    """Return the code of the language that a catalogue is in; English has none of its own."""
    return str(catalogue.info().get("language") or "en")


def runs_left(catalogue: NullTranslations) -> bool:
    """Return whether the language of a catalogue is written from right to left."""
    return language_of(catalogue).replace("-", "_").partition("_")[0] in _RIGHT_TO_LEFT


def isolate_number(text: str) -> str:
    """Return a number with its unit, between marks that keep it as it is in text of any direction (UAX 9)."""
    return f"\u2068{text}\u2069"


def C_(context: str, sentence: str) -> str:
    """Mark a sentence that is said otherwise in another ``context``, as a word alone may be."""
    return f"{context}{_BREAK}{sentence}"


_BREAK = "\4"
"""What catalogues have between a context and its sentence (GNU gettext)."""


def looked_up(catalogue: NullTranslations, sentence: str) -> tuple[str, str]:
    """Return a sentence as a catalogue says it, and in English; its context is not said."""
    context, there, english = sentence.rpartition(_BREAK)
    if there:
        return catalogue.pgettext(context, english), english
    # Of nothing, a catalogue tells its own head.
    return (catalogue.gettext(sentence) if sentence else ""), sentence


def fill_slots(formatter: Formatter, said: str, english: str, slots: Mapping[str, object]) -> str:
    """Return a sentence with its slots filled in; in English where a translation asks for what is not
    there."""
    if not slots:
        return said
    try:
        return formatter.vformat(said, (), slots)
    except (LookupError, ValueError):
        return formatter.vformat(english, (), slots)
