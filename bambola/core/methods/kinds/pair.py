"""The two of a pair joined to each other before they are set."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import SLANTED, card, check, run
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    fringe = at.row.fringe_mm or 6.0
    return card(
        at,
        "pair",
        (
            fact("pair.lay", part=at.called, half=Mm(fringe / 2)),
            Fact("pair.stab"),
            Fact("pair.tease"),
            Fact("pair.tack"),
        ),
        needles=(run(38, 8.0, SLANTED, "both-sides"),),
        until=Fact("pair.until"),
        checks=(check("pair-lifts"), check("pair-centre")),
        scale=Fact("pair.scale"),
    )


METHOD = Method("pair", lambda at: at.sort == "pair", _card)
