"""Which way a language runs, and what keeps a number and its unit together in one that runs the other way."""

from __future__ import annotations

from gettext import NullTranslations

_RIGHT_TO_LEFT = {"ar", "arc", "ckb", "dv", "fa", "he", "ks", "ps", "sd", "ug", "ur", "yi"}
"""Languages in scripts that run from right to left, by their codes (Unicode, CLDR)."""


def language_of(catalogue: NullTranslations) -> str:
    """The code of the language that a catalogue is in; English has none of its own."""
    return str(catalogue.info().get("language") or "en")


def runs_left(catalogue: NullTranslations) -> bool:
    """Whether the language of a catalogue is written from right to left."""
    return language_of(catalogue).replace("-", "_").partition("_")[0] in _RIGHT_TO_LEFT


def isolated(text: str) -> str:
    """A number with its unit, between marks that keep it as it is in text of any direction (UAX 9)."""
    return f"\u2068{text}\u2069"
