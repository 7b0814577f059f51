"""Dates and times in the format of the maker's country."""

from __future__ import annotations

from datetime import date, datetime, time

from PyQt6.QtCore import QDate, QLocale, QTime


def _current_locale() -> QLocale:
    here = QLocale()
    # A system that says nothing of its country is taken to write as the sentences here do.
    plain = here.language() == QLocale.Language.C
    return QLocale(QLocale.Language.English, QLocale.Country.UnitedKingdom) if plain else here


def day_words(day: date) -> str:
    """Return a date without its year: “Mon 2 Mar”."""
    return _current_locale().toString(QDate(day.year, day.month, day.day), "ddd d MMM")


ANY_YEAR = "d MMM yyyy"
"""How a day of any year is written."""


def date_words(day: date) -> str:
    """Return a date with its year: “2 Mar 2026”."""
    return _current_locale().toString(QDate(day.year, day.month, day.day), ANY_YEAR)


def clock_words(when: time | datetime) -> str:
    """Return a time: “19:30”, or “7:30 PM” where that is usual."""
    return _current_locale().toString(QTime(when.hour, when.minute), QLocale.FormatType.ShortFormat)


def weekday_words(weekday: int, short: bool = False) -> str:
    """Return the name of a day of the week, Monday being 0."""
    form = QLocale.FormatType.ShortFormat if short else QLocale.FormatType.LongFormat
    return _current_locale().dayName(weekday + 1, form)
