"""How every step of a plan is done: a card for each, worked out when it is looked at."""

from __future__ import annotations

from bambola.core.bench import Bench
from bambola.core.methods.at import At
from bambola.core.methods.kinds import METHODS
from bambola.core.methods.sound import SlotError, sound
from bambola.core.methods.values import Card, Check, Method, NeedleRun, Sheet, Stop
from bambola.core.order import Step
from bambola.core.plan.making.values import Plan


def method_for(at: At) -> Method:
    """The way a step is done. Raises ``LookupError`` for a step that none is for."""
    found = next((method for method in METHODS if method.fits(at)), None)
    if found is None:
        raise LookupError(f"no method for {at.step.key}")
    return found


def card_for(plan: Plan, step: Step, bench: Bench) -> Card:
    """How ``step`` of ``plan`` is done. Raises :class:`SlotError` where a number of it is none."""
    at = At(plan, step, bench)
    return sound(method_for(at).card(at), step)


def sheet_for(plan: Plan, step: Step, bench: Bench) -> Sheet:
    """How it is done, and what that looks like. Raises :class:`SlotError` as :func:`card_for` does."""
    at = At(plan, step, bench)
    method = method_for(at)
    card = sound(method.card(at), step)
    return Sheet(at, card, method.picture(at, card))


__all__ = [
    "METHODS",
    "At",
    "Card",
    "Check",
    "Method",
    "NeedleRun",
    "Sheet",
    "SlotError",
    "Stop",
    "card_for",
    "method_for",
    "sheet_for",
]
