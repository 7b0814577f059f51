"""What the fields of a figure may hold: names, notes, colours, angles, and words from a list."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, StringConstraints

Slug = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,59}$")]


def on_one_line(text: object) -> object:
    """A name without line breaks and other characters that nobody sees: it stands in sentences, calendars
    and tables of one line."""
    if not isinstance(text, str):
        return text
    return " ".join("".join(c if c.isprintable() else " " for c in text).split())


def in_letters(text: Any) -> Any:
    """Text of which every sign can be written: what came from letters of another kind (as in the name of a
    file) or was cut through is told as ``?``."""
    return text.encode("utf-8", "replace").decode() if isinstance(text, str) else text


MOST_NOTE = 2000
"""Characters of a note. Judged."""
Note = Annotated[str, BeforeValidator(in_letters), StringConstraints(max_length=MOST_NOTE)]
Name = Annotated[str, BeforeValidator(on_one_line), StringConstraints(min_length=1, max_length=120)]
Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]
Angle = Annotated[float, Field(ge=-360, le=360)]
Grams = Annotated[float, Field(ge=0, le=1_000_000)]

Firmness = Literal["soft", "medium", "firm", "hard"]
Side = Literal["left", "right"]
Cover = Literal["like", "over", "contrast"]
View = Literal["front", "back", "left", "right", "top"]
Join = Literal["fringe", "patch", "scarf", "peg", "wire"]
Metal = Literal["soft aluminium", "soft copper", "half-hard brass", "soft steel"]
