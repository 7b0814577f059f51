"""A detail so thin that it is drawn with a thread of wool."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import FLAT, card, check, run, stop
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    thick = at.thick
    long = max(at.finished)
    return card(
        at,
        "detail",
        (
            fact("detail.dot", part=at.called),
            fact("detail.draw", line=Mm(max(thick, slots.LINE_MM)), long=Mm(long)),
            Fact("detail.ends"),
            Fact("detail.trim"),
        ),
        start=Fact("detail.start"),
        needles=(run(40, slots.SKIN_MM, FLAT * 3, "only"),),
        stops=(stop("length", *slots.close(long)),),
        until=Fact("detail.until"),
        checks=(check("line-even"), check("line-place")),
        scale=Fact("detail.scale"),
    )


METHOD = Method("detail", lambda at: at.sort == "detail", _card)
