"""A part too thin for needles round its wire: wool wound on with glue."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import card, check, stop
from bambola.core.methods.values import Card, Method

THIN_MM = 3.5
"""Up to this finished thickness a wire is wound with glue. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    long, thick = at.finished[0], at.thick
    return card(
        at,
        "glue-wound",
        (
            fact("glue-wound.glue", long=Mm(long)),
            Fact("glue-wound.touch"),
            Fact("glue-wound.turn"),
            Fact("glue-wound.press"),
        ),
        start=Fact("glue-wound.start"),
        stops=(stop("thickness", thick - 0.5, thick + 0.5),),
        until=Fact("glue-wound.until"),
        checks=(check("bald"), check("blob")),
        scale=Fact("glue-wound.scale"),
    )


def _fits(at: At) -> bool:
    return at.step.kind == "wrap" and at.wire_mm > 0 and at.thick <= THIN_MM


METHOD = Method("glue-wound", _fits, _card)
