"""What the height decides, as JSON."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

from bambola.core.export.json_plan import round_values, schema_of, write_json
from bambola.core.facts import Fact
from bambola.core.frozen import frozen
from bambola.core.heights.conditions import Answer
from bambola.core.heights.sizes import SizeSeries
from bambola.core.heights.values import HeightWindow, Sensible, Turn
from bambola.core.memo import remembered
from bambola.core.words import ENGLISH


@frozen
class HeightsSheet:
    """The heights of a figure between ``low_mm`` and ``high_mm``: ``turns`` are those at which its plan
    changes, ``bands`` what fits only there. ``sensible`` are the heights at which nothing is to be decided,
    about the one that is asked for; null where there are none. ``answer`` tells which heights meet all that
    was asked, and ``best_mm`` is the tallest; null where nothing was asked, or none does. ``sizes`` are
    those laid beside each other."""

    figure: str
    datum: Fact
    from_height_mm: float
    low_mm: float
    high_mm: float
    turns: tuple[Turn, ...]
    bands: tuple[HeightWindow, ...]
    sensible: Sensible | None
    answer: Answer | None
    best_mm: float | None
    sizes: SizeSeries | None


@remembered(1)
def _adapter() -> TypeAdapter[HeightsSheet]:
    return TypeAdapter(HeightsSheet)


def heights_json(sheet: HeightsSheet) -> str:
    """Return the sheet as JSON text, in mm, g and minutes, with English sentences."""
    found = _adapter().dump_python(sheet, mode="json", context={"say": ENGLISH.say})
    return write_json(round_values(found))


def heights_schema() -> dict[str, Any]:
    """Return the JSON Schema of :func:`heights_json`."""
    return schema_of(_adapter().json_schema(mode="serialization"), "Bambola heights")
