"""Setting eyes that are glued."""

from __future__ import annotations

from bambola.core.facts import Fact, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import card, check
from bambola.core.methods.values import Card, Method


def _glued(at: At) -> bool:
    return any(f.id == at.about and f.glued for f in at.plan.work.fittings)


def _card(at: At) -> Card:
    job = next(f for f in at.plan.work.fittings if f.id == at.about)
    called = fact("both" if job.count == 2 else "the", name=job.name)
    return card(
        at,
        "eye",
        (Fact("eye.awl"), fact("eye.glue", what=called), Fact("eye.press"), Fact("eye.band")),
        start=Fact("eye.start"),
        until=Fact("eye.until"),
        checks=(check("level"), check("glue-rim")),
        scale=Fact("eye.scale"),
    )


METHOD = Method("eye", lambda at: at.sort == "fit" and _glued(at), _card)
