"""The computed values that notices are derived from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bambola.core.armature import CutWire, Gauge, StockCut, ThinLimb
from bambola.core.balance import Balance, JoinStress
from bambola.core.bench import Bench
from bambola.core.figure import Brief, Join, Part, Rope
from bambola.core.figure.questions import A
from bambola.core.figure.shapes import ChainShape
from bambola.core.plan.making.dress import DressPlan
from bambola.core.plan.making.values import BonePlan, FittingPlan, Option
from bambola.core.resize import Resized
from bambola.core.resize.laws import HELD_MM
from bambola.core.solids import Solids
from bambola.core.wool import PartWool


@dataclass(frozen=True)
class Findings:
    """Everything computed before it is judged. ``asked`` are limbs found too thin for their wire before
    any answer, ``thin`` those that still are. ``wished`` are the joins before their load had a say,
    ``drawn`` is whether the maker's own routes are followed, ``stood_on`` are the parts that carry the
    figure. ``held`` are the parts that reach each prop as made; ``folds`` is whether one folded wire could
    do for several."""

    resized: Resized
    brief: Brief
    bench: Bench
    fittings: tuple[FittingPlan, ...]
    asked: tuple[ThinLimb, ...]
    thin: tuple[ThinLimb, ...]
    stresses: tuple[JoinStress, ...]
    balance: Balance
    wires: tuple[CutWire, ...]
    gauges: Mapping[str, Gauge]
    bones: tuple[BonePlan, ...]
    cutting: tuple[StockCut, ...]
    wool: Mapping[str, PartWool]
    counts: Mapping[str, int]
    wished: Mapping[str, Join]
    drawn: bool
    stood_on: frozenset[str]
    dress: tuple[DressPlan, ...]
    solids: Solids
    held: Mapping[str, tuple[str, ...]]
    folds: bool


def answer_among(answer: A | None, options: Sequence[Option]) -> A | None:
    """Return the maker's answer if it is still on offer."""
    return answer if any(option.id == answer for option in options) else None


DROOP = 5.0
"""An unwired part longer than this many thicknesses droops. See craft.md, 2."""


def slenderness(part: Part) -> float:
    """Return the length of the free part as a multiple of its thickness; 0 for sheets, rings, strands of wool
    lying on their bearer, and the part everything sits on."""
    shape, thick = part.shape, part.shape.smallest_mm
    ring = isinstance(shape, Rope) and shape.closed
    if part.parent is None or shape.flat or ring or thick < HELD_MM:
        return 0.0
    # Round ends do not hang free: they are what it is joined by and what it ends in.
    ends = thick if isinstance(shape, ChainShape) else 0.0
    return float((shape.measures().get("length", 0.0) - ends) / thick)
