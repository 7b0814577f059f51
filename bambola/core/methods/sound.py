"""Whether a card can be followed: every number on it is one that a hand can set."""

from __future__ import annotations

import math
from collections.abc import Iterator

from bambola.core.facts import Fact, RefusedError, Sizes, fact
from bambola.core.methods.values import Card
from bambola.core.order import Step


class SlotError(RefusedError):
    """A card whose sentence lacks its number; the message is one sentence."""


def sound(card: Card, step: Step) -> Card:
    """``card`` as it is. Raises :class:`SlotError` where one of its numbers is none."""
    told = (*card.how, card.start, card.amount, card.until, card.scale)
    for one in (*told, *(run.told for run in card.needles), *(stop.told for stop in card.stop)):
        for name, number in _numbers(one):
            if not math.isfinite(number):
                raise SlotError(fact("refused.slot", step=step.text, n=step.n, slot=name))
    return card


def _numbers(told: Fact) -> Iterator[tuple[str, float]]:
    """The numbers in a fact's slots, by their names, those of facts within it as well."""
    for name, value in told.slots:
        if isinstance(value, Fact):
            yield from _numbers(value)
        elif isinstance(value, tuple):
            for each in value:
                if isinstance(each, Fact):
                    yield from _numbers(each)
        elif isinstance(value, Sizes):
            yield from ((name, mm) for mm in value.values)
        elif not isinstance(value, str):
            yield name, value if isinstance(value, int | float) else value.value
