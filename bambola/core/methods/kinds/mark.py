"""Marking a face before anything is fixed on it."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods.at import At
from bambola.core.methods.parts import SQUARE, card, check, run
from bambola.core.methods.values import Card, Method

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
        needles=(run(40, 1.0, SQUARE, "only"),),
        until=fact("mark.until", off=Mm(max(LEVEL_MM, LEVEL_SHARE * wide))),
        checks=(check("level"), check("pins-out")),
        scale=Fact("mark.scale"),
    )


METHOD = Method("mark", lambda at: at.sort == "mark", _card)
