"""The cards of a plan, kept with a figure once it is begun so that they do not change."""

from __future__ import annotations

import hashlib
from collections.abc import Callable

from bambola.core.bench import Bench
from bambola.core.bench.making import KeptCard
from bambola.core.facts import Fact
from bambola.core.methods import card_for
from bambola.core.methods.told import told
from bambola.core.plan.counter.weighing import laid_fact
from bambola.core.plan.making.values import Plan


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
