"""A small part built up where it sits, from a pinch of wool."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import SLANTED, SQUARE, card, check, run, size_stops
from bambola.core.methods.values import Card, Method

PROUD = 0.5
"""A lump built in place stands out by so much of its width. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    across = sorted(at.finished)[1]
    needle = at.step.needle or 40
    return card(
        at,
        "in-place",
        (
            Fact("in-place.pull"),
            Fact("in-place.roll-long" if at.finished[0] > 1.5 * across else "in-place.roll"),
            fact("in-place.lay", part=at.called),
            Fact("in-place.fix"),
            fact("in-place.foot", proud=Mm(min(PROUD * across, at.thick))),
        ),
        start=Fact("in-place.start"),
        needles=(
            run(38, min(5.0, at.thick), SQUARE, "first"),
            run(needle, min(3.0, at.thick / 2), SLANTED, "then"),
        ),
        stops=size_stops(at),
        until=Fact("in-place.until"),
        checks=(check("nail"), check("lump-size")),
        scale=Fact("in-place.scale"),
    )


def _fits(at: At) -> bool:
    return at.sort == "core" and at.row.made == "in place"


METHOD = Method("in-place", _fits, _card)
