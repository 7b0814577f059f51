"""Cutting a wire to its length, with its bends marked before it is cut."""

from __future__ import annotations

from bambola.core.armature.curves import by_hand
from bambola.core.facts import Bought, Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import card, check
from bambola.core.methods.values import Card, Method, Stop

CUT_MM, CUT_SHARE = 2.0, 0.01
"""A wire is cut to 2 mm, or a hundredth if that is more. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    wire = next(w for w in at.plan.wires if w.id == at.about)
    bends = by_hand(wire.bends)
    off = max(CUT_MM, CUT_SHARE * wire.cut_mm)
    told = fact(
        "stop.between",
        what=Fact("measure.length"),
        low=Mm(wire.cut_mm - off),
        high=Mm(wire.cut_mm + off),
    )
    ends = [a.mm for a in wire.allowances if "end" in a.why.kind]
    return card(
        at,
        "cut-wire",
        (
            fact("cut-wire.pull", stock=wire.stock, gauge=Bought(wire.diameter_mm)),
            fact("cut-wire.mark", long=Mm(wire.cut_mm)),
            fact("cut-wire.bends", at=tuple(fact("cut-wire.at", at=Mm(b.start_mm)) for b in bends))
            if bends
            else None,
            Fact("cut-wire.snip"),
            fact("cut-wire.turn", end=Mm(ends[0])) if ends else Fact("cut-wire.file"),
            Fact("cut-wire.tag"),
        ),
        stops=(Stop(Fact("measure.length"), wire.cut_mm - off, wire.cut_mm + off, "mm", told),),
        until=Fact("cut-wire.until"),
        checks=(check("cut-ends"), check("cut-length")),
        scale=Fact("cut-wire.scale"),
    )


METHOD = Method("cut-wire", lambda at: at.sort == "cut", _card)
