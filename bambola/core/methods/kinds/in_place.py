"""A small part built up where it sits, from a pinch of wool."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.drawing import Area, Drawing, Number, box, oval
from bambola.core.methods.parts import SLANTED, SQUARE, card, check, run, size_stops
from bambola.core.methods.sketch import across, stab
from bambola.core.methods.values import Card, Method
from bambola.core.resize.laws import HELD_MM

PROUD = 0.5
"""A lump built in place stands out by so much of its width. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    across = sorted(at.finished)[1]
    needle = at.step.needle or 40
    return card(
        at,
        "in-place",
        (
            Fact("in-place.pull"),
            Fact("in-place.roll-long" if at.finished[0] > 1.5 * across else "in-place.roll"),
            Fact("in-place.lay"),
            Fact("in-place.fix"),
            fact("in-place.foot", proud=Mm(min(PROUD * across, at.thick))),
        ),
        start=Fact("in-place.start"),
        needles=(
            run(38, min(slots.DEPTH_MM["lump"], at.thick), SQUARE, "first"),
            run(needle, min(slots.DEPTH_MM["foot"], at.thick / 2), SLANTED, "then"),
        ),
        stops=size_stops(at),
        until=Fact("in-place.until"),
        checks=(check("nail"), check("lump-size")),
        scale=fact("in-place.scale", thread=Mm(HELD_MM), apart=Mm(at.bench.apart_mm)),
    )


def _fits(at: At) -> bool:
    return at.sort == "core" and at.row.made == "in place"


def _picture(at: At, card_: Card) -> Drawing:
    """The lump on what bears it, and the needle at its foot."""
    _, wide, _ = at.finished
    proud = min(PROUD * sorted(at.finished)[1], at.thick)
    ground = wide * 2.6
    lump = oval(wide, 2 * proud, (0.0, 0.0))
    runs = card_.needles
    return Drawing(
        (
            Area(lump, "wool"),
            Area(box(ground, proud * 1.6, (0.0, -proud * 0.8)), "under"),
            across((-wide / 2, proud), (wide / 2, proud), wide, proud * 0.5),
            across((wide / 2, 0.0), (wide / 2, proud), proud, -wide * 0.35),
            stab((0.0, 0.0), runs[0], 90),
            stab((-wide / 2, -runs[1].depth_mm * 0.2), runs[1], 135),
            Number((-wide * 0.8, proud * 1.2), 5),
            Number((wide * 0.15, proud * 2.2), 4),
        )
    )


METHOD = Method("in-place", _fits, _card, _picture)
