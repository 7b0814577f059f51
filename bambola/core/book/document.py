"""The book as a file: complete makings, to be kept elsewhere or imported into another book."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import StringConstraints, ValidationError

from bambola.core.bench import Making
from bambola.core.facts import Fact
from bambola.core.figure.document import MAX_BYTES as A_FIGURE
from bambola.core.figure.document import describe_fault, fault_in, read_json
from bambola.core.figure.shapes import Frozen

MakingId = Annotated[str, StringConstraints(min_length=1, max_length=200)]


_TIMES = 10
MAX_BYTES = _TIMES * A_FIGURE
"""A book may be so large: each making has the design it was begun with. Judged."""


class BookDocument(Frozen):
    """All makings by id: the design's id, with ``#2``, ``#3`` appended from the second making on."""

    book: Literal[1] = 1
    makings: dict[MakingId, Making] = {}


def book_schema() -> dict[str, Any]:
    """Return the published JSON Schema of a book's file."""
    return BookDocument.model_json_schema()


def dump_book(makings: Mapping[str, Making]) -> str:
    """Return the makings as JSON text without default values."""
    found = BookDocument(makings=dict(makings))
    return found.model_dump_json(exclude_defaults=True, indent=1) + "\n"


def load_book(data: str | bytes, file: str) -> dict[str, Making]:
    """Return the makings in ``data``. Raises :class:`DocumentError`."""
    found = read_json(data, file, Fact("document.book"), _TIMES)
    try:
        return BookDocument.model_validate(found).makings
    except ValidationError as error:
        raise fault_in(file, describe_fault(error, found)) from None
