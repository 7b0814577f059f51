"""Dates and times in the format of the maker's country."""

from __future__ import annotations

import re
from datetime import date, datetime, time

from PyQt6.QtCore import QDate, QLocale, QTime


def _current_locale() -> QLocale:
    here = QLocale()
    # A system that says nothing of its country is taken to write as the sentences here do.
    plain = here.language() == QLocale.Language.C
    return QLocale(QLocale.Language.English, QLocale.Country.UnitedKingdom) if plain else here


def date_form() -> str:
    """Return how a date with its year is written, its month short: “d MMM yyyy”, “MMM d, yyyy”."""
    long = _current_locale().dateFormat(QLocale.FormatType.LongFormat)
    return re.sub(r"[\s,]*dddd[\s,]*", "", long).replace("MMMM", "MMM")


def day_words(day: date) -> str:
    """Return a date without its year: “Mon 2 Mar”, or “Mon, Mar 2” where the month comes first."""
    form = date_form()
    day_form = "d." if "d." in form else "d"
    own = ("ddd,", "MMM", "d") if form.find("M") < form.find("d") else ("ddd", day_form, "MMM")
    return _current_locale().toString(QDate(day.year, day.month, day.day), " ".join(own))


def date_words(day: date) -> str:
    """Return a date with its year: “2 Mar 2026”."""
    return _current_locale().toString(QDate(day.year, day.month, day.day), date_form())


def clock_words(when: time | datetime) -> str:
    """Return a time: “19:30”, or “7:30 PM” where that is usual."""
    return _current_locale().toString(QTime(when.hour, when.minute), QLocale.FormatType.ShortFormat)


def weekday_words(weekday: int, short: bool = False) -> str:
    """Return the name of a day of the week, Monday being 0."""
    form = QLocale.FormatType.ShortFormat if short else QLocale.FormatType.LongFormat
    return _current_locale().dayName(weekday + 1, form)
