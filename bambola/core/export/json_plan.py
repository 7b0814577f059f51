"""The plan as JSON, the contract of the headless command."""

from __future__ import annotations

import json
import math
from typing import Any

from pydantic import TypeAdapter

from bambola.core.memo import remembered
from bambola.core.plan import Sheet
from bambola.core.words import ENGLISH

PLACES = 6
"""Decimals kept: a nanometre and a microgram, far below what anyone weighs or measures."""


@remembered(1)
def _adapter() -> TypeAdapter[Sheet]:
    return TypeAdapter(Sheet)


def plan_data(plan: Sheet) -> dict[str, Any]:
    """The plan as plain values: mm, g, degrees, minutes."""
    found = _adapter().dump_python(plan, mode="json", context={"say": ENGLISH.say})
    tidy: dict[str, Any] = _rounded(found)
    return tidy


def plan_json(plan: Sheet) -> str:
    """The plan as JSON text; the same plan gives the same text byte for byte."""
    return json.dumps(plan_data(plan), ensure_ascii=False, indent=1) + "\n"


def plan_schema() -> dict[str, Any]:
    """The JSON Schema of :func:`plan_json`."""
    schema = _adapter().json_schema(mode="serialization")
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Bambola plan",
        **schema,
    }


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, PLACES) + 0.0 if math.isfinite(value) else None
    if isinstance(value, dict):
        return {key: _rounded(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [_rounded(item) for item in value]
    return value
