"""A card said in words, as the window, paper and the command show it."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator

from bambola.core.bench import Bench
from bambola.core.bench.making import KeptCard
from bambola.core.facts import Fact, fact
from bambola.core.frozen import frozen
from bambola.core.methods import card_for
from bambola.core.methods.values import Card
from bambola.core.order.keys import Sort
from bambola.core.plan.counter.weighing import laid_fact
from bambola.core.plan.making.jobs import lightness
from bambola.core.plan.making.values import Plan


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


def mark_of(plan: Plan) -> str:
    """Return a fingerprint that is equal for two plans with the same steps in the same order and pieces of
    equal size to three digits. Weights are left out, since they follow the maker's own records."""
    steps = (str(step.key) for step in plan.steps)
    sizes = (
        f"{part.id} {part.made} {part.rounds} "
        + " ".join(f"{mm:.3g}" for mm in part.piece_mm.values())
        for part in plan.parts
    )
    return hashlib.sha256("\n".join((*steps, *sizes)).encode()).hexdigest()[:16]


def cards_told(plan: Plan, bench: Bench, say: Callable[[Fact], str]) -> tuple[KeptCard, ...]:
    """Return the text of the cards of ``plan``, made for ``bench``, in the words of ``say``, in order."""
    found = []
    for step in plan.steps:
        card = told(card_for(plan, step, bench), say)
        lines = (
            card.amount or say(laid_fact(plan, step, bench)),
            card.start,
            *card.how,
            *card.needles,
            *(look for look, _ in card.checks),
        )
        said = tuple(line for line in lines if line)
        found.append(KeptCard(step=step.key, text=say(step.text), lines=said, stop=card.stop))
    return tuple(found)


TOOLS: tuple[tuple[str, frozenset[Sort]], ...] = (
    ("scale", frozenset({"core", "coat", "inset", "fur"})),
    ("tape-measure", frozenset({"core", "mark", "pattern", "cut"})),
    ("pliers", frozenset({"cut", "bend"})),
    ("tape", frozenset({"tape"})),
    ("awl", frozenset({"socket", "peg"})),
    ("pins", frozenset({"mark", "join", "pattern"})),
    ("thread", frozenset({"furrow", "loop"})),
    ("scissors", frozenset({"fur", "pattern", "finish"})),
)
"""Each with the sorts of work it is for, as the cards name them."""
PALE = 0.25
"""Wools whose lightness differs by so much want pads of their own. Judged. See craft.md, 10."""


def tools_to_lay_out(plan: Plan, bench: Bench) -> Iterator[Fact]:
    """Yield what to lay out: needles, holder, pads, then what else the steps need, and glue."""
    sorts = {step.key.sort for step in plan.steps}
    cards = (card_for(plan, step, bench) for step in plan.steps)
    gauges = sorted({run.gauge for card in cards for run in card.needles})
    if gauges:
        yield fact("tool.needles", gauges=", ".join(map(str, gauges)))
        if bench.holder > 1:
            yield fact("tool.holder", n=bench.holder)
        light = dict(lightness(bench))
        shades = [light[total.wool] for total in plan.wools if total.wool in light]
        apart = shades and max(shades) - min(shades) >= PALE
        yield Fact("tool.pads" if apart else "tool.pad")
    yield from (Fact(f"tool.{name}") for name, needs in TOOLS if needs & sorts)
    if any(row.fixed in ("sewn", "gathered") for row in plan.patterns):
        yield Fact("tool.sewing")
    if sorts & {"wait", "dry"}:
        yield fact("tool.glue", what=Fact(f"glue.{bench.glue}"))
