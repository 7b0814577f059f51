"""A ball, egg, sausage, cone or pad, rolled and felted in the hand."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, Sizes, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import FINER, card, check, coarse_to_fine, size_stops
from bambola.core.methods.values import Card, Method

FORMS = ("ball", "sausage", "cone", "sheet")


def _card(at: At) -> Card:
    form = at.portion.form if at.portion and at.portion.form in FORMS else "ball"
    middles = [slots.mid(loose, mm) for loose, mm in zip(at.loose, at.finished, strict=True)]
    first = at.step.needle or 38
    fringe = at.row.fringe_mm
    rolled = at.portion is not None and len(at.portion.loose_mm) == 3
    return card(
        at,
        "shape",
        (
            fact(f"shape.roll-{form}", part=at.called, size=Sizes(at.loose))
            if rolled
            else fact("shape.gather", part=at.called),
            fact("shape.squeeze", size=Sizes(at.finished)) if rolled else None,
            Fact("shape.axis" if form in ("sausage", "cone") else "shape.middle"),
            fact("shape.change", size=Mm(max(middles)), needle=FINER[first])
            if first in FINER
            else Fact("shape.closer"),
            fact("shape.fringe", fringe=Mm(fringe)) if fringe else None,
        ),
        start=Fact(f"shape.start-{form}"),
        needles=coarse_to_fine(at),
        stops=size_stops(at),
        until=Fact("shape.until-soft" if at.job and at.job.small else "shape.until"),
        checks=(
            check("squeeze"),
            check("round"),
            check("twin-laid") if at.copies == 2 else check("crack"),
        ),
        scale=Fact("shape.scale"),
    )


METHOD = Method("shape", lambda at: at.sort == "core", _card)
