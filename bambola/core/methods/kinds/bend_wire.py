"""Bending a wire along its marks, and binding it to the wire it meets."""

from __future__ import annotations

from bambola.core.armature.curves import by_hand
from bambola.core.armature.cuts import BINDING_TURNS
from bambola.core.facts import NOTHING, Fact, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import card, check
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    wire = next(w for w in at.plan.wires if w.id == at.about)
    bends = by_hand(wire.bends)
    bound = any(s.kind == "binding" for s in wire.stretches)
    return card(
        at,
        "bend-wire",
        (
            *(fact("bend-wire.one", bend=bend.told) for bend in bends),
            None if bends else Fact("bend-wire.straight"),
            fact("bend-wire.bind", turns=BINDING_TURNS) if bound else None,
            Fact("bend-wire.loops") if any(s.kind == "loop" for s in wire.stretches) else None,
            Fact("bend-wire.lay"),
        ),
        start=Fact("bend-wire.start") if bends else NOTHING,
        until=Fact("bend-wire.until-bound" if bound else "bend-wire.until"),
        checks=(check("joint"), check("bare-stand")) if bound else (check("bare-print"),),
        scale=Fact("bend-wire.scale"),
    )


METHOD = Method("bend-wire", lambda at: at.sort == "bend", _card)
