"""Marks sentences for translators; the catalogue tools look for these names."""

from __future__ import annotations


def N_(sentence: str) -> str:
    """Return a sentence to be translated when it is said."""
    return sentence


Plural = tuple[str, str]


def NN_(one: str, many: str) -> Plural:
    """Return a sentence for one and for many of its ``n``."""
    return one, many
