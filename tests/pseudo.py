"""A language made by machine: accents, longer by two fifths, in brackets."""

from __future__ import annotations

import re
from gettext import NullTranslations

_ACCENTS = str.maketrans("aeiouyAEIOUcns", "äéïöüÿÄÉÏÖÜçñš")


def pseudo(text: str) -> str:
    """``text`` in it; what is in braces stays as it is."""
    pieces = re.split(r"(\{[^}]*\})", text)
    accented = "".join(p if p.startswith("{") else p.translate(_ACCENTS) for p in pieces)
    return f"⟦{accented}{'·' * (len(text) * 2 // 5)}⟧"


class Pseudo(NullTranslations):
    """Its catalogue: it has every sentence."""

    def gettext(self, message: str) -> str:
        return pseudo(message)

    def pgettext(self, context: str, message: str) -> str:
        return pseudo(message)

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return pseudo(msgid1 if n == 1 else msgid2)
