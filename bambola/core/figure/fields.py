"""Types of the figure's fields: names, notes, colours, angles, and words from a list."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BeforeValidator, Field, StringConstraints

from bambola.core.facts import RefusedError, fact

Slug = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,59}$")]


def on_one_line(text: object) -> object:
    """Return a name without line breaks and invisible characters, since it stands in sentences, calendars and
    tables."""
    if not isinstance(text, str):
        return text
    return " ".join("".join(c if c.isprintable() else " " for c in text).split())


def in_letters(text: Any) -> Any:
    """Return text in which every character can be written: what cannot (from the name of a file in another
    encoding, or cut through) becomes ``?``."""
    return text.encode("utf-8", "replace").decode() if isinstance(text, str) else text


MOST_NOTE = 2000
"""Characters of a note. Judged."""
Note = Annotated[str, BeforeValidator(in_letters), StringConstraints(max_length=MOST_NOTE)]
Name = Annotated[str, BeforeValidator(on_one_line), StringConstraints(min_length=1, max_length=120)]
Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]
Angle = Annotated[float, Field(ge=-360, le=360)]
Grams = Annotated[float, Field(ge=0, le=1_000_000)]

FIRST_YEAR, LAST_YEAR = 1900, 2999
"""Days of other years are slips: nobody can count back from them to a day to begin. Judged by us."""


def _real_day(text: str) -> str:
    """Return ``text`` if it is a valid date. Raises :class:`RefusedError`."""
    try:
        is_real = FIRST_YEAR <= date.fromisoformat(text).year <= LAST_YEAR
    except ValueError:
        is_real = False
    if not is_real:
        raise RefusedError(fact("document.no-day", found=text))
    return text


Day = Annotated[str, StringConstraints(pattern=r"^\d{4}-\d{2}-\d{2}$"), AfterValidator(_real_day)]
"""A day of the calendar, as text such as 2026-12-12."""

Firmness = Literal["soft", "medium", "firm", "hard"]
Side = Literal["left", "right"]
Cover = Literal["like", "over", "contrast"]
View = Literal["front", "back", "left", "right", "top"]
Join = Literal["fringe", "patch", "scarf", "peg", "wire"]
Metal = Literal["soft aluminium", "soft copper", "half-hard brass", "soft steel"]
