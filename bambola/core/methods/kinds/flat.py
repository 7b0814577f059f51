"""A flat part: wool laid to its blank, folded to the line and felted in turns."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import SLANTED, SQUARE, card, check, run, stop
from bambola.core.methods.values import Card, Method
from bambola.core.plan.counter.blanks import blanks_of

TURNS = 5
"""A flat part is lifted and turned so often. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    blank = blanks_of(at.plan, at.bench).get(at.row.id)
    long, wide, thick = at.finished
    large = max(long, wide) > slots.WIDE_FROM_MM
    laid: Fact | None = None
    if blank is not None:
        low, high = blank.outline.min(axis=0), blank.outline.max(axis=0)
        laid = fact(
            "flat.blank", wide=Mm(float(high[0] - low[0])), long=Mm(float(high[1] - low[1]))
        )
    return card(
        at,
        "flat",
        (
            laid or fact("flat.pinch", part=at.called),
            fact("flat.scratch", wide=Mm(wide), long=Mm(long)),
            Fact("flat.fold"),
            fact("flat.turn", turns=TURNS),
            Fact("flat.edge"),
            fact("flat.fringe", fringe=Mm(blank.fringe_mm)) if blank is not None else None,
        ),
        start=Fact("flat.start-pair" if at.copies == 2 else "flat.start"),
        needles=(
            run(38, thick + slots.FLAT_MM, SQUARE, "first", 6 if large else 1),
            run(40, min(4.0, max(2.0, thick)), SLANTED, "edges"),
        ),
        stops=(
            stop("length", *slots.close(long)),
            stop("width", *slots.close(wide)),
            stop("thickness", max(0.5, thick - 0.5), thick + 0.5),
        ),
        until=Fact("flat.until"),
        checks=(
            check("light-through"),
            check("twin-laid") if at.copies == 2 else check("flat-size"),
        ),
        scale=Fact("flat.scale"),
    )


def _fits(at: At) -> bool:
    return at.sort == "core" and at.job is not None and at.job.flat


METHOD = Method("flat", _fits, _card)
