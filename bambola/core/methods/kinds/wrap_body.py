"""A body, head or foot wrapped on its wire."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import card, check, coarse_to_fine, size_stops
from bambola.core.methods.values import Card, Method

SMALL_MM = 20.0
"""A body thinner than this is wound in one go. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    small = at.thick < SMALL_MM
    return card(
        at,
        "wrap-body",
        (
            fact("wrap-body.anchor", part=at.called),
            Fact("wrap-body.wind" if small else "wrap-body.cross"),
            Fact("wrap-body.tack"),
            None if small else Fact("wrap-body.under"),
            fact("wrap-body.mid", size=Mm(slots.mid(max(at.loose), max(at.finished)))),
        ),
        start=Fact("wrap-body.start"),
        needles=coarse_to_fine(at, near_wire=True),
        stops=size_stops(at),
        until=Fact("wrap-body.until"),
        checks=(check("wool-turns"), check("four-sides")),
        scale=Fact("wrap-body.scale"),
    )


METHOD = Method("wrap-body", lambda at: at.step.kind == "wrap", _card)
