"""Clothes: put on, and felted down where they are of felt."""

from __future__ import annotations

from bambola.core.facts import Fact, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import LOW, SQUARE, card, check, run
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    bought = at.row.made == "bought"
    how: tuple[Fact | None, ...]
    if bought:
        how = (fact("garment.try", part=at.called), Fact("garment.on"), Fact("garment.stitch"))
    else:
        how = (
            fact("garment.lay", part=at.called),
            Fact("garment.overlap"),
            Fact("garment.waist"),
            Fact("garment.rim"),
        )
    return card(
        at,
        "garment",
        how,
        start=Fact("garment.start-bought" if bought else "garment.start"),
        needles=()
        if bought
        else (run(at.step.needle or 38, 4.0, SQUARE, "first"), run(40, 2.0, LOW, "edges")),
        until=Fact("garment.until-bought" if bought else "garment.until"),
        checks=(check("passes"), check("four-sides")),
        scale=Fact("garment.scale"),
    )


def _fits(at: At) -> bool:
    return at.step.kind == "dress"


METHOD = Method("garment", _fits, _card)
