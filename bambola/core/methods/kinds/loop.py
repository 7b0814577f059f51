"""The loop that a figure hangs by."""

from __future__ import annotations

from bambola.core.facts import Degrees, Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import card, check
from bambola.core.methods.values import Card, Method, Stop

NOD_DEG = 5.0
"""A figure hangs as wished within so much. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    place = at.plan.balance.loop_mm
    where = fact("loop.at", high=Mm(place[2])) if place is not None else Fact("loop.over")
    told = fact("stop.nod", off=Degrees(NOD_DEG))
    return card(
        at,
        "loop",
        (where, Fact("loop.anchor"), Fact("loop.try"), Fact("loop.sew")),
        stops=(Stop(Fact("measure.tilt"), -NOD_DEG, NOD_DEG, "deg", told),),
        until=Fact("loop.until"),
        checks=(check("hangs"),),
        scale=Fact("loop.scale"),
    )


METHOD = Method("loop", lambda at: at.step.key == "loop", _card)
