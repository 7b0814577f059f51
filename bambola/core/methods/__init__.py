"""How every step of a plan is done: a card for each, computed when it is looked at."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

from bambola.core.bench import Bench
from bambola.core.facts import Fact, RefusedError, Sizes, fact
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import Number
from bambola.core.methods.kinds import METHODS
from bambola.core.methods.values import Card, Check, Method, NeedleRun, StepSheet, Stop
from bambola.core.order import Step
from bambola.core.plan.making.values import Plan


class SlotError(RefusedError):
    """Raised for a card with a missing number; the message is one sentence."""


def check_numbers(card: Card, step: Step) -> Card:
    """Return ``card`` unchanged. Raises :class:`SlotError` if one of its numbers is not finite."""
    told = (*card.how, card.start, card.amount, card.until, card.scale)
    for one in (*told, *(run.told for run in card.needles), *(stop.told for stop in card.stop)):
        for name, number in numbers_in(one):
            if not math.isfinite(number):
                raise SlotError(fact("refused.slot", step=step.text, n=step.n, slot=name))
    return card


def numbers_in(told: Fact) -> Iterator[tuple[str, float]]:
    """Return the numbers in a fact's slots by name, including those of nested facts."""
    for name, value in told.slots:
        if isinstance(value, Fact):
            yield from numbers_in(value)
        elif isinstance(value, tuple):
            for each in value:
                if isinstance(each, Fact):
                    yield from numbers_in(each)
        elif isinstance(value, Sizes):
            yield from ((name, mm) for mm in value.values)
        elif not isinstance(value, str):
            yield name, value if isinstance(value, int | float) else value.value


def method_for(at: StepInPlan) -> Method:
    """Return the method of a step. Raises ``LookupError`` if there is none."""
    found = next((method for method in METHODS if method.fits(at)), None)
    if found is None:
        raise LookupError(f"no method for {at.step.key}")
    return found


def card_for(plan: Plan, step: Step, bench: Bench) -> Card:
    """Return the card of ``step``. Raises :class:`SlotError` if one of its numbers is not finite."""
    at = StepInPlan(plan, step, bench)
    return _card(at, method_for(at))


def sheet_for(plan: Plan, step: Step, bench: Bench) -> StepSheet:
    """Return the card of ``step`` with its picture. Raises :class:`SlotError` as :func:`card_for` does."""
    at = StepInPlan(plan, step, bench)
    method = method_for(at)
    card = _card(at, method)
    drawing = method.picture(at, card)
    numbered = tuple(
        piece
        for piece in drawing.pieces
        if not (isinstance(piece, Number) and piece.n > len(card.how))
    )
    return StepSheet(at, card, replace(drawing, pieces=numbered))


def _card(at: StepInPlan, method: Method) -> Card:
    """Return its card; short where the other one of a pair was made in just this way."""
    card = check_numbers(method.card(at), at.step)
    first = at.twin
    if first is None or method_for(StepInPlan(at.plan, first, at.bench)) is not method:
        return card
    return replace(card, how=(fact("as-first", n=first.n),))
