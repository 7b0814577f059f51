"""A patch of another colour let into the coat or laid on it."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import LOW, SQUARE, card, check, run
from bambola.core.methods.values import Card, Method
from bambola.core.wool.portions import OVERLAP_MM

THIN_MM = 8.0
"""Colour comes out behind a part thinner than this if it is stabbed straight. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    thin = at.row.to_mm and min(at.row.to_mm.values()) < THIN_MM
    first = at.plan.work.school("insets") == "first"
    angle = LOW if thin else SQUARE
    return card(
        at,
        "inset",
        (
            fact("inset.scratch", part=at.called),
            Fact("inset.edges"),
            fact("inset.tuck", under=Mm(OVERLAP_MM)) if first else Fact("inset.fill"),
            Fact("inset.even"),
        ),
        start=Fact("inset.start"),
        needles=(run(38, 2.0, angle, "outline"), run(40, slots.SKIN_MM, angle, "then")),
        until=Fact("inset.until"),
        checks=(check("halves"), check("edge-crisp")),
        scale=Fact("inset.scale"),
    )


METHOD = Method("inset", lambda at: at.sort == "inset", _card)
