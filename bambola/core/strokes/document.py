"""The file of strokes: one line along each part of a figure, as drawn in its pictures."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Any

from pydantic import ValidationError, model_validator

from bambola.core.facts import Fact, RefusedError, fact
from bambola.core.figure.document import describe_fault, fault_in, read_json
from bambola.core.figure.fields import Name
from bambola.core.figure.shapes import Frozen, at_most
from bambola.core.figure.survey import Framing, Sight, Spot


class PartStroke(Frozen):
    """A line along one part, from where it is joined to its tip, in pixels of the picture file.

    ``pair`` says whether it is one of two, ``on`` names the part that it sits on; where they are left out,
    the name of the part tells.
    """

    view: Sight
    name: Name
    points: Annotated[tuple[Spot, ...], at_most(200, 2)]
    pair: bool | None = None
    on: Name | None = None

    @model_validator(mode="after")
    def _has_length(self) -> PartStroke:
        if len(set(self.points)) < 2:
            raise RefusedError(Fact("fault.trace-points"))
        return self


class StrokeSheet(Frozen):
    """All strokes of a figure."""

    strokes: Annotated[tuple[PartStroke, ...], at_most(400, 1)]


def check_strokes(strokes: Sequence[PartStroke], framings: Mapping[Sight, Framing]) -> None:
    """Raise ``ValueError`` for the first stroke of whose view there is no picture, or that leaves it."""
    for n, stroke in enumerate(strokes, 1):
        framing, view = framings.get(stroke.view), Fact(f"view.{stroke.view}")
        if framing is None:
            raise RefusedError(fact("strokes.no-picture", n=n, name=stroke.name, view=view))
        for x, y in stroke.points:
            if not (0 <= x <= framing.width and 0 <= y <= framing.height):
                raise RefusedError(
                    fact(
                        "strokes.outside", n=n, name=stroke.name, view=view, x=round(x), y=round(y),
                        wide=framing.width, high=framing.height,
                    )
                )  # fmt: skip


def strokes_schema() -> dict[str, Any]:
    """Return the JSON Schema of a file of strokes."""
    return StrokeSheet.model_json_schema()


def load_strokes(data: str | bytes, file: str) -> tuple[PartStroke, ...]:
    """Return the strokes in ``data``. Raises :class:`DocumentError`."""
    found = read_json(data, file, Fact("document.strokes"))
    try:
        return StrokeSheet.model_validate(found).strokes
    except ValidationError as error:
        raise fault_in(file, describe_fault(error, found)) from None
