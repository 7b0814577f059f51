"""Smoothing the whole surface."""

from __future__ import annotations

from bambola.core.facts import Fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import FLAT, LOW, card, check, run
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    return card(
        at,
        "finish",
        (Fact("finish.over"), Fact("finish.rub"), Fact("finish.veil"), Fact("finish.trim")),
        needles=(run(40, 2.0, LOW, "first"), run(40, slots.SKIN_MM, FLAT, "last")),
        until=Fact("finish.until"),
        checks=(check("pits"), check("hairs")),
        scale=Fact("finish.scale"),
    )


METHOD = Method("finish", lambda at: at.step.kind == "finish", _card)
