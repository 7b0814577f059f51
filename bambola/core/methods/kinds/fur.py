"""A row of fur: bunches folded and stabbed in at their fold."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import SQUARE, card, check, run
from bambola.core.methods.values import Card, Method

BUNCH_MM = 15.0
"""A bunch is about so wide. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    fur = at.body.fur
    assert fur is not None and at.job is not None
    row = int(at.step.key.rpartition(":")[2])
    wide = min(BUNCH_MM, 0.5 * sorted(at.row.to_mm.values())[-1])
    depth = min(10.0, 0.5 * min(at.row.to_mm.values()))
    start = "fur.first" if row == 1 else "fur.next"
    return card(
        at,
        "fur",
        (
            fact(start, apart=Mm(fur.spacing)) if row > 1 else fact(start, part=at.called),
            fact("fur.bunch", wide=Mm(wide)),
            fact("fur.fold", hair=Mm(fur.hair))
            if fur.kind != "pile"
            else fact("fur.pile", hair=Mm(fur.hair)),
            Fact("fur.close"),
        ),
        start=Fact(f"fur.start-{fur.kind}"),
        needles=(run(38, depth, SQUARE, "fold"),),
        until=Fact("fur.until"),
        checks=(check("hair-sheds"), check("fur-line")),
        scale=Fact("fur.scale"),
    )


METHOD = Method("fur", lambda at: at.sort == "fur", _card)
