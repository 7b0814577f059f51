"""A card said in words, as the window, paper and the command show it."""

from __future__ import annotations

from collections.abc import Callable

from bambola.core.facts import Fact
from bambola.core.frozen import frozen
from bambola.core.methods.values import Card


@frozen
class CardText:
    """A card's sentences. ``needles`` is one of each run, ``stop`` sizes and what is felt, ``stop_in_short``
    the sizes where there are any, ``checks`` how to look with what to do where it is not right, ``why`` the
    reason behind it all, ``scale`` what another size of the figure would change."""

    start: str
    amount: str
    how: tuple[str, ...]
    needles: tuple[str, ...]
    stop: str
    stop_in_short: str
    checks: tuple[tuple[str, str], ...]
    why: str
    scale: str


MOST_IN_SHORT = 4
"""So many sentences are read at a glance with wool on both hands. Judged. See craft.md, 10."""


def in_short(card: Card) -> tuple[int, ...]:
    """Return the numbers of the sentences that a card is told by at first: those with a size or a part of
    their own, and others from the first on, as long as there is room."""
    numbered = range(1, len(card.how) + 1)
    own = [n for n in numbered if card.how[n - 1].slots]
    others = [n for n in numbered if n not in own]
    return tuple(sorted([*own, *others][:MOST_IN_SHORT]))


TELL_WHERE = frozenset(
    ("cut-wire", "bend-wire", "cut-out", "mark", "socket", "eye", "sewn-eye", "felted-eye", "thing",
     "face-piece", "inset", "lines", "furrow", "peg", "join")
)  # fmt: skip
"""Methods whose sentences say where or how far, each time otherwise: who knows the way still needs them."""


def for_one_who_knows(card: Card) -> tuple[int, ...]:
    """Return the numbers of the sentences that a card is told by to one who has done its kind: none, where
    amount, needle and stop say all that is new; else those in short that have a size or part of their own."""
    if card.method not in TELL_WHERE:
        return ()
    return tuple(n for n in in_short(card) if card.how[n - 1].slots)


def told(card: Card, say: Callable[[Fact], str]) -> CardText:
    """Return the card in the words of ``say``."""
    sizes = ", ".join(say(stop.told) for stop in card.stop)
    return CardText(
        say(card.start),
        say(card.amount),
        tuple(map(say, card.how)),
        tuple(say(run.told) for run in card.needles),
        " ".join(part for part in (f"{sizes}." if sizes else "", say(card.until)) if part),
        f"{sizes}." if sizes else say(card.until),
        tuple((f"{say(c.text)} {say(c.passed)}", say(c.failed)) for c in card.checks),
        say(card.why),
        say(card.scale),
    )
