"""Fixing a thing that is not wool: sewn, hung in a hand, or caught by the felt."""

from __future__ import annotations

from bambola.core.facts import Fact, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import SLANTED, card, check, run
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    job = next(f for f in at.plan.work.fittings if f.id == at.about)
    called = fact("both" if job.count == 2 else "the", name=job.name)
    return card(
        at,
        "fit",
        (fact("fit.hold", what=called), Fact("fit.contacts"), Fact("fit.over"), Fact("fit.wisp")),
        needles=(run(38, 5.0, SLANTED, "only"),),
        until=Fact("fit.until"),
        checks=(check("upside-down"), check("tips")),
        scale=Fact("fit.scale"),
    )


METHOD = Method("fit", lambda at: at.sort == "fit", _card)
