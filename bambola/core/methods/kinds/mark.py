"""Marking a face before anything is fixed on it."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.drawing import Area, Drawing, Line, Number, line, oval
from bambola.core.methods.parts import SQUARE, card, check, run
from bambola.core.methods.sketch import across
from bambola.core.methods.values import Card, Method
from bambola.core.wool import extents

LEVEL_MM, LEVEL_SHARE, SMALL_HEAD_MM = 0.5, 0.03, 20.0
"""Left and right are alike within these; on a smaller head two dots do. Judged. See craft.md, 10."""


def _card(at: At) -> Card:
    small = min(at.row.to_mm.values()) < SMALL_HEAD_MM
    wide = max(at.row.to_mm.values())
    marks = [m for m in at.plan.resized.figure.marks if m.part == at.row.id]
    return card(
        at,
        "mark",
        (
            Fact("mark.dots") if small else fact("mark.strip", part=at.called),
            Fact("mark.pins"),
            Fact("mark.thread"),
            Fact("mark.upside"),
            fact("mark.scratch", n=len(marks)) if marks else Fact("mark.scratch-all"),
        ),
        needles=(run(40, slots.DEPTH_MM["mark"], SQUARE, "only"),),
        until=fact("mark.until", off=Mm(max(LEVEL_MM, LEVEL_SHARE * wide))),
        checks=(check("level"), check("pins-out")),
        scale=Fact("mark.scale"),
    )


def _picture(at: At, card_: Card) -> Drawing:
    """The head from the front with midline, thread and pins."""
    along, wide, _ = extents(at.placed[0].shape).values()
    eye = at.plan.fittings_on(at.row.id)
    pins = [
        Area(oval(wide * 0.05, wide * 0.05, (s * wide * 0.2, along * 0.08)), "paper", "cut")
        for s in (-1, 1)
    ]
    size = [across((-wide / 2, 0.0), (wide / 2, 0.0), wide, -along * 0.62)]
    size += [across((0.0, -along / 2), (0.0, along / 2), along, -wide * 0.62)]
    return Drawing(
        (
            Area(oval(wide, along), "under"),
            Line(line((0.0, -along / 2), (0.0, along / 2)), "cut"),
            Line(oval(wide, along * 0.12, (0.0, along * 0.08), 0.5, 180), "thread", 0.6),
            *pins,
            *size,
            Number((0.0, along * 0.38), 1),
            Number((wide * 0.2, along * 0.2), 2 if eye else 3),
            Number((wide * 0.42, -along * 0.02), 3),
        )
    )


METHOD = Method("mark", lambda at: at.sort == "mark", _card, _picture)
