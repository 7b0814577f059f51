"""A part set into the seat it was made for, and felted both ways."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import SLANTED, SQUARE, card, check, run, stop
from bambola.core.methods.values import Card, Method
from bambola.core.resize.laws import FRINGE_MM

LEAST_MM = 1.0
"""A hollow less deep is not made. Judged. See craft.md, 10."""


def seat(at: At) -> tuple[float, float, float, float]:
    """Width of the seat, how hollow the part's end is to fit it, the fringe, and how far that goes in."""
    copy, solid = at.placed
    parents = at.plan.solids.placement.copies_of(str(at.body.parent))
    parent = next((c for c in parents if c.side in (None, copy.side)), parents[0])
    wide = slots.seat_width(solid.join_line_mm, at.job is not None and at.job.flat)
    fringe = at.row.fringe_mm or FRINGE_MM[0]
    return wide, slots.caps(copy, parent)[1], fringe, slots.sink(min(parent.shape.extents()))


def _card(at: At) -> Card:
    wide, deep, fringe, sink = seat(at)
    small = at.job is not None and at.job.small
    hollow = (
        fact("join.hollow", wide=Mm(wide), deep=Mm(deep), part=at.called)
        if deep >= LEAST_MM and at.job is not None and not at.job.flat
        else fact("join.rough", part=at.called, wide=Mm(wide))
    )
    return card(
        at,
        "join",
        (
            hollow,
            fact("join.spread", fringe=Mm(fringe)),
            Fact("join.pin"),
            fact("join.drive", sink=Mm(sink)),
            Fact("join.turn"),
            Fact("join.firm-there") if small else None,
        ),
        start=Fact("join.start-flat" if at.job and at.job.flat else "join.start"),
        needles=(
            run(at.step.needle or 38, sink, SLANTED, "all-round"),
            run(40 if small else max(38, at.step.needle or 38), sink, SQUARE, "then"),
        ),
        stops=(stop("seat", *slots.close(wide)),),
        until=Fact("join.until"),
        checks=(check("tug"), check("straight"), check("parent-dents")),
        scale=Fact("join.scale"),
    )


def _fits(at: At) -> bool:
    return at.sort == "join" and at.job is not None and at.job.join != "peg"


METHOD = Method("join", _fits, _card)
