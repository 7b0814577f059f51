"""Advice on a part that went wrong, as JSON: a contract of the headless command."""

from __future__ import annotations

import json

from bambola.core.rescue import Advice, MeasuredPiece
from bambola.core.words import ENGLISH

PLACES = 4


def advice_json(advice: Advice) -> str:
    """Return the advice as JSON text: mm, g; ``within`` means that the part is right already."""
    say = ENGLISH.say
    found = {
        "part": advice.part,
        "symptom": advice.symptom,
        "within": advice.within,
        "wanted": {
            "length_mm": round(advice.wanted.length, PLACES),
            "thickness_mm": round(advice.wanted.thick, PLACES),
            "density_g_cm3": round(advice.wanted.density, PLACES),
        },
        "now": _piece(advice.now),
        "actions": [
            {
                "do": action.do,
                "where": action.where,
                "mm": round(action.mm, PLACES),
                "grams": round(action.grams, PLACES),
                "text": say(action.told),
            }
            for action in advice.actions
        ],
        "after": _piece(advice.after),
        "remedies": [say(told) for told in advice.words],
        "follows": [say(told) for told in advice.follows],
    }
    return json.dumps(found, ensure_ascii=False, indent=1) + "\n"


def _piece(piece: MeasuredPiece) -> dict[str, float]:
    return {
        "length_mm": round(piece.length, PLACES),
        "thickness_mm": round(piece.thick, PLACES),
        "grams": round(piece.grams, PLACES),
        "density_g_cm3": round(piece.density, PLACES),
    }
