"""Opening the sockets and trying the eyes dry."""

from __future__ import annotations

from bambola.core.facts import Bought, Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import SQUARE, card, check, run, stop
from bambola.core.methods.values import Card, Method

PIT, SHANK = 0.4, 0.8
"""A pit is so much of the eye deep; a shank at most so much of its head. Judged. See craft.md, 10."""


def fitting_mm(at: At) -> float:
    """The size of the fitting that the step is about."""
    return next(f.use_mm for f in at.plan.fittings if f.id == at.about)


def _card(at: At) -> Card:
    eye = fitting_mm(at)
    head = min(at.row.to_mm.values())
    return card(
        at,
        "socket",
        (
            fact("socket.dimple", deep=Mm(PIT * eye), eye=Bought(eye)),
            fact("socket.awl", deep=Mm(min(SHANK * head, 2 * eye))),
            Fact("socket.both"),
            Fact("socket.level"),
        ),
        needles=(run(38, PIT * eye + 2.0, SQUARE, "dimple"),),
        stops=(stop("depth", max(0.5, PIT * eye - 0.5), PIT * eye + 0.5),),
        until=Fact("socket.until"),
        checks=(check("level"), check("hole-wide")),
        scale=Fact("socket.scale"),
    )


METHOD = Method("socket", lambda at: at.sort == "socket", _card)
