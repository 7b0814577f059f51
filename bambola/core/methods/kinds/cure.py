"""Waiting for glue, and what may be touched meanwhile."""

from __future__ import annotations

from bambola.core.facts import Fact, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import card, check
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    where = (
        fact("cure.leave", part=fact("the", name=at.row.name))
        if at.step.part
        else Fact("cure.alone")
    )
    return card(
        at,
        "cure",
        (Fact("cure.stand"), where, Fact("cure.meanwhile")),
        until=Fact("cure.until"),
        checks=(check("glue-dry"),),
    )


METHOD = Method("cure", lambda at: at.step.kind == "wait", _card)
