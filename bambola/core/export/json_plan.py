"""The plan as JSON: the contract of the headless command."""

from __future__ import annotations

import json
import math
from typing import Any

from pydantic import TypeAdapter

from bambola import __version__
from bambola.core.bench import Bench
from bambola.core.facts import Fact
from bambola.core.frozen import frozen
from bambola.core.heights.conditions import Answer
from bambola.core.heights.values import HeightWindow, Sensible, Turn
from bambola.core.heights.whole import SizeSeries
from bambola.core.memo import remembered
from bambola.core.methods import Card, card_for
from bambola.core.piece import InHand, pieces_by_step
from bambola.core.plan import Plan, Sheet
from bambola.core.plan.reading.faces import FaceRow, face_rows
from bambola.core.rescue import Advice, MeasuredPiece
from bambola.core.words import ENGLISH

PLACES = 6
"""Decimals kept: a nanometre and a microgram, far below what anyone weighs or measures."""


@remembered(1)
def _plan_adapter() -> TypeAdapter[Sheet]:
    return TypeAdapter(Sheet)


@remembered(1)
def _card_adapter() -> TypeAdapter[Card]:
    return TypeAdapter(Card)


@remembered(1)
def _pieces_adapter() -> TypeAdapter[tuple[InHand, ...]]:
    return TypeAdapter(tuple[InHand, ...])


@remembered(1)
def _face_adapter() -> TypeAdapter[tuple[FaceRow, ...]]:
    return TypeAdapter(tuple[FaceRow, ...])


def plan_data(plan: Sheet, bench: Bench | None = None) -> dict[str, Any]:
    """Return the plan as plain values: mm, g, degrees, minutes. With the ``bench`` it was made for, every
    step of a complete plan includes its card, with checks and what to do if they fail."""
    found = _plan_adapter().dump_python(plan, mode="json", context={"say": ENGLISH.say})
    if bench is not None and isinstance(plan, Plan):
        held = _pieces_adapter().dump_python(pieces_by_step(plan, bench), mode="json")
        for step, row, hand in zip(plan.steps, found["steps"], held, strict=True):
            row.update(card_data(card_for(plan, step, bench)))
            row["piece_before"], row["piece_after"] = hand["before"], hand["after"]
    if isinstance(plan, Plan):
        found["faces"] = _face_adapter().dump_python(
            face_rows(plan), mode="json", context={"say": ENGLISH.say}
        )
    tidy: dict[str, Any] = round_values(found)
    return tidy


def card_data(card: Card) -> dict[str, Any]:
    """Return a card as plain values."""
    found: dict[str, Any] = _card_adapter().dump_python(
        card, mode="json", context={"say": ENGLISH.say}
    )
    for check in found["checks"]:
        check["pass"], check["fail"] = check.pop("passed"), check.pop("failed")
    return found


def plan_json(plan: Sheet, bench: Bench | None = None) -> str:
    """Return the plan as JSON text; the same plan gives the same text byte for byte."""
    return write_json(plan_data(plan, bench))


def write_json(data: dict[str, Any]) -> str:
    """Return a sheet as JSON text, with the version that wrote it."""
    return json.dumps({"version": __version__, **data}, ensure_ascii=False, indent=1) + "\n"


def schema_of(schema: dict[str, Any], title: str) -> dict[str, Any]:
    """Return the JSON Schema of what :func:`write_json` writes, from the sheet's own; its id ends with the
    version."""
    return {
        **schema,
        "title": title,
        "properties": {"version": {"type": "string"}, **schema["properties"]},
        "required": ["version", *schema["required"]],
    }


def plan_schema() -> dict[str, Any]:
    """Return the JSON Schema of :func:`plan_json`."""
    schema = _plan_adapter().json_schema(mode="serialization")
    card = _card_adapter().json_schema(mode="serialization")
    check = card["$defs"]["Check"]
    for ours, theirs in (("passed", "pass"), ("failed", "fail")):
        check["properties"][theirs] = check["properties"].pop(ours)
        check["required"][check["required"].index(ours)] = theirs
    faces = _face_adapter().json_schema(mode="serialization")
    schema["$defs"] |= card["$defs"] | faces.pop("$defs")
    schema["properties"]["faces"] = faces
    step = schema["$defs"]["Step"]["properties"]
    bare = step["checks"]["items"]
    step |= card["properties"]
    held = _pieces_adapter().json_schema(mode="serialization")["$defs"]
    schema["$defs"]["PieceState"] = held["PieceState"]
    step |= {f"piece_{when}": held["InHand"]["properties"][when] for when in ("before", "after")}
    step["checks"] = {"type": "array", "items": {"anyOf": [bare, {"$ref": "#/$defs/Check"}]}}
    return schema_of(schema, "Bambola plan")


def round_values(value: Any) -> Any:
    """Return plain values with numbers rounded to :data:`PLACES`; non-finite ones become null."""
    if isinstance(value, float):
        return round(value, PLACES) + 0.0 if math.isfinite(value) else None
    if isinstance(value, dict):
        return {key: round_values(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [round_values(item) for item in value]
    return value


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
def _heights_adapter() -> TypeAdapter[HeightsSheet]:
    return TypeAdapter(HeightsSheet)


def heights_json(sheet: HeightsSheet) -> str:
    """Return the sheet as JSON text, in mm, g and minutes, with English sentences."""
    found = _heights_adapter().dump_python(sheet, mode="json", context={"say": ENGLISH.say})
    return write_json(round_values(found))


def heights_schema() -> dict[str, Any]:
    """Return the JSON Schema of :func:`heights_json`."""
    return schema_of(_heights_adapter().json_schema(mode="serialization"), "Bambola heights")


ADVICE_PLACES = 4


def advice_json(advice: Advice) -> str:
    """Return the advice as JSON text: mm, g; ``within`` means that the part is right already."""
    say = ENGLISH.say
    found = {
        "part": advice.part,
        "symptom": advice.symptom,
        "within": advice.within,
        "wanted": {
            "length_mm": round(advice.wanted.length, ADVICE_PLACES),
            "thickness_mm": round(advice.wanted.thick, ADVICE_PLACES),
            "density_g_cm3": round(advice.wanted.density, ADVICE_PLACES),
        },
        "now": _piece_sizes(advice.now),
        "actions": [
            {
                "do": action.do,
                "where": action.where,
                "mm": round(action.mm, ADVICE_PLACES),
                "grams": round(action.grams, ADVICE_PLACES),
                "text": say(action.told),
            }
            for action in advice.actions
        ],
        "after": _piece_sizes(advice.after),
        "remedies": [say(told) for told in advice.words],
        "follows": [say(told) for told in advice.follows],
    }
    return json.dumps(found, ensure_ascii=False, indent=1) + "\n"


def _piece_sizes(piece: MeasuredPiece) -> dict[str, float]:
    return {
        "length_mm": round(piece.length, ADVICE_PLACES),
        "thickness_mm": round(piece.thick, ADVICE_PLACES),
        "grams": round(piece.grams, ADVICE_PLACES),
        "density_g_cm3": round(piece.density, ADVICE_PLACES),
    }
