"""A card said in words, as the window, paper and the command show it."""

from __future__ import annotations

from collections.abc import Callable

from bambola.core.facts import Fact
from bambola.core.frozen import frozen
from bambola.core.methods.values import Card


@frozen
class Told:
    """A card's sentences. ``needles`` is one of each run, ``stop`` sizes and what is felt, ``checks`` how to
    look with what to do where it is not right, ``why`` the reason behind it all, ``scale`` what another
    size of the figure would change."""

    start: str
    amount: str
    how: tuple[str, ...]
    needles: tuple[str, ...]
    stop: str
    checks: tuple[tuple[str, str], ...]
    why: str
    scale: str


def told(card: Card, say: Callable[[Fact], str]) -> Told:
    """The card in the words of ``say``."""
    sizes = ", ".join(say(stop.told) for stop in card.stop)
    return Told(
        say(card.start),
        say(card.amount),
        tuple(map(say, card.how)),
        tuple(say(run.told) for run in card.needles),
        " ".join(part for part in (f"{sizes}." if sizes else "", say(card.until)) if part),
        tuple((f"{say(c.text)} {say(c.passed)}", say(c.failed)) for c in card.checks),
        say(card.why),
        say(card.scale),
    )
