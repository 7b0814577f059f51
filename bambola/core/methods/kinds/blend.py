"""Blending a part in, so that the join is not seen."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import LOW, card, check, run
from bambola.core.methods.values import Card, Method

PAST_MM, SMALL_MM = 15.0, 20.0
"""A veil reaches so far past a join, half of it on parts thinner than the second. Judged. See
craft.md, 10."""


def _card(at: At) -> Card:
    small = min(at.row.to_mm.values()) < SMALL_MM
    return card(
        at,
        "blend",
        (
            fact("blend.veil", past=Mm(PAST_MM / 2 if small else PAST_MM), part=at.called),
            Fact("blend.outward"),
            Fact("blend.brush"),
            Fact("blend.again"),
        ),
        needles=(run(40, 2.5, LOW, "only"),),
        until=Fact("blend.until"),
        checks=(check("seam-seen"), check("tug")),
        scale=Fact("blend.scale"),
    )


METHOD = Method("blend", lambda at: at.sort == "blend", _card)
