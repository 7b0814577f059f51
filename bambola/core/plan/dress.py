"""Clothes at their new size: what they must pass over, and what to cut."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from bambola.core.figure import Figure, Part
from bambola.core.plan.jobs import girth
from bambola.core.wool import extents

EASE_MM = 3.0
"""All round, for every layer worn under it."""
KNOT_MM = 60.0
"""What a knot takes of a strip."""


@dataclass(frozen=True, slots=True)
class DressPlan:
    """One garment, mm. ``girth_mm`` is that of what it is worn on, ``passes_mm`` of what it must pass over,
    ``stretched_mm`` its opening stretched. ``cut_mm`` is the length to cut, of each of ``strips``."""

    part: str
    kind: Literal["pulled over", "wrap", "sash", "skirt"]
    girth_mm: float
    passes: str
    passes_mm: float
    stretched_mm: float
    passes_over: bool
    cut_mm: float
    strips: int


def dress_plans(figure: Figure) -> tuple[DressPlan, ...]:
    """The garments of a resized figure."""
    return tuple(_dress(part, figure) for part in figure.parts if part.garment)


def _dress(part: Part, figure: Figure) -> DressPlan:
    dress = part.garment
    assert dress is not None
    worn_on = figure.by_id[part.parent] if part.parent else part
    round_it = girth(worn_on) + math.tau * EASE_MM * dress.layers
    over = girth(figure.by_id[dress.passes])
    stretched = dress.opening * (1 + dress.stretch)
    cut, strips = round_it, 1
    if dress.kind in ("wrap", "sash"):
        cut = round_it + KNOT_MM + 2 * dress.tails
    elif dress.kind == "skirt":
        strips = math.ceil(round_it * dress.fullness / dress.strip - 1e-9)
        cut = 2 * extents(part.shape)["along"] + KNOT_MM
    tied = dress.kind != "pulled over"
    return DressPlan(
        part.id, dress.kind, round_it, dress.passes, over, stretched, tied or stretched >= over, cut, strips
    )  # fmt: skip


def dress_words(row: DressPlan, names: dict[str, str], cut: str) -> str:
    """What to cut, in words; ``cut`` is the length as the maker reads it."""
    if row.kind == "skirt":
        return f"Cut {row.strips} strips of {cut} and knot them on."
    if row.kind in ("wrap", "sash"):
        return f"Cut {cut}, knot and tails included; tied, it passes anything."
    over = "passes" if row.passes_over else "does not pass"
    return f"Its felt goes {cut} round; stretched it {over} over the {names[row.passes].lower()}."
