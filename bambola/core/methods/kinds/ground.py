"""Pressing the feet level while they still give."""

from __future__ import annotations

from bambola.core.balance import WARN_DEG
from bambola.core.facts import Degrees, Fact, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import SQUARE, card, check, run
from bambola.core.methods.values import Card, Method, Stop


def _card(at: At) -> Card:
    told = fact("stop.lean", least=Degrees(WARN_DEG))
    return card(
        at,
        "ground",
        (Fact("ground.stand"), Fact("ground.spot"), Fact("ground.slant"), Fact("ground.turn")),
        needles=(run(38, 6.0, SQUARE, "rocks"),),
        stops=(Stop(Fact("measure.lean"), WARN_DEG, 90.0, "deg", told),),
        until=Fact("ground.until"),
        checks=(check("rocks"), check("nudge")),
        scale=Fact("ground.scale"),
    )


METHOD = Method("ground", lambda at: at.step.key == "check:ground", _card)
