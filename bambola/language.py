"""The language the program speaks: catalogues, and looking sentences up."""

from __future__ import annotations

import gettext
import locale
import os
from gettext import NullTranslations, translation
from pathlib import Path
from string import Formatter
from typing import NamedTuple

from bambola.translated import fill_slots, isolate_number, looked_up, runs_left

DOMAIN = "bambola"
CATALOGUES = Path(__file__).parent / "shipped" / "locale"


class _Slots(Formatter):
    """Fills slots; numbers with a part after the decimal sign have that of the maker's country."""

    def format_field(self, value: object, format_spec: str) -> str:
        if format_spec == "lower":  # within a sentence, where a language has its names so
            return str(value).lower()
        text = str(super().format_field(value, format_spec))
        text = text.replace(".", _spoken.decimal) if isinstance(value, float) else text
        mixes = runs_left(_spoken.catalogue) and any(letter.isdigit() for letter in text)
        return isolate_number(text) if mixes else text


class _Spoken(NamedTuple):
    catalogue: NullTranslations
    decimal: str = "."


_spoken = _Spoken(NullTranslations())
_slots = _Slots()


def set_language(catalogue: NullTranslations, decimal: str = ".") -> None:
    """Speak the language of ``catalogue`` from now on, with its country's decimal sign."""
    global _spoken
    _spoken = _Spoken(catalogue, decimal)


def current_catalogue() -> NullTranslations:
    """Return the catalogue of the language that is spoken."""
    return _spoken.catalogue


def decimal() -> str:
    """Return what stands between the whole and its parts."""
    return _spoken.decimal


def tr(sentence: str, /, **slots: object) -> str:
    """Return ``sentence`` in the language spoken, its slots filled in."""
    return fill_slots(_slots, *looked_up(_spoken.catalogue, sentence), slots)


def trn(one: str, many: str, n: int, /, **slots: object) -> str:
    """Return the sentence for one or for many of ``n``, in the language spoken."""
    english = one if n == 1 else many
    return fill_slots(_slots, _spoken.catalogue.ngettext(one, many, n), english, {"n": n, **slots})


def N_(sentence: str) -> str:
    """Mark a sentence that is looked up where it is shown, not where it stands."""
    return sentence


PARSERS_OWN = (
    N_("usage: "),
    N_("options"),
    N_("positional arguments"),
    N_("show this help message and exit"),
    N_("show program's version number and exit"),
    N_("the following arguments are required: %s"),
    N_("unrecognized arguments: %s"),
    N_("expected one argument"),
    N_("argument %(argument_name)s: %(message)s"),
    N_("invalid choice: %(value)r (choose from %(choices)s)"),
    N_("not allowed with argument %s"),
    N_("%(prog)s: error: %(message)s\n"),
)
"""What Python's own reader of commands says; it looks here for it, too."""


class UnknownLanguageError(ValueError):
    """A language for which there is no catalogue; the message is one sentence."""


def languages() -> tuple[str, ...]:
    """Return those that can be spoken, English first."""
    found = (mo.parts[-3] for mo in CATALOGUES.glob(f"*/LC_MESSAGES/{DOMAIN}.mo"))
    return ("en", *sorted(found))


def catalogue_of(asked: str | None = None) -> NullTranslations:
    """Return the catalogue of the language ``asked`` for, or else of the system's, or English.

    Raises :class:`UnknownLanguageError` where one is asked for by name and is not there.
    """
    if asked is None:
        return translation(DOMAIN, CATALOGUES, fallback=True)
    if asked not in languages():
        known = ", ".join(languages())
        raise UnknownLanguageError(
            tr(
                "“{asked}” is not a language known here; use {known}.",
                asked=asked,
                known=known,
            )
        )
    return translation(DOMAIN, CATALOGUES, [asked], fallback=asked == "en")


def choose_language(asked: str | None = None) -> None:
    """Speak the language ``asked`` for, or the system's; so do the processes that are started from here."""
    set_language(catalogue_of(asked), _decimal_sign())
    gettext.bindtextdomain(DOMAIN, str(CATALOGUES))
    gettext.textdomain(DOMAIN)
    if asked is not None:
        os.environ["LANGUAGE"] = asked


def _decimal_sign() -> str:
    """Return what the system's country writes between the whole and its parts."""
    here = locale.setlocale(locale.LC_NUMERIC)
    try:
        locale.setlocale(locale.LC_NUMERIC, "")
        return str(locale.localeconv()["decimal_point"])
    except locale.Error:
        return "."
    finally:
        # Numbers in files are read and written without a country.
        locale.setlocale(locale.LC_NUMERIC, here)


def part_name(likely: str) -> str:
    """Return what a part is called that is most likely a ``head``, or the like; or of which nothing is
    known."""
    return tr(likely.capitalize()) if likely else tr("Another part")
