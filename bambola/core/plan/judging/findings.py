"""The computed values that notices are derived from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bambola.core.armature import CutWire, Gauge, StockCut, ThinLimb
from bambola.core.balance import Balance, JoinStress
from bambola.core.bench import Bench
from bambola.core.figure import Brief, Join
from bambola.core.figure.questions import A, Question
from bambola.core.plan.making.dress import DressPlan
from bambola.core.plan.making.values import BonePlan, FittingPlan, Option
from bambola.core.resize import Resized
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


def answer_among(brief: Brief, question: Question[A], options: Sequence[Option]) -> A | None:
    """Return the maker's answer if it is still on offer."""
    answer = brief.answer_to(question)
    return answer if any(option.id == answer for option in options) else None
