"""Cutting a wire to its length, with its bends marked before it is cut."""

from __future__ import annotations

import numpy as np

from bambola.core.armature.cuts import by_hand
from bambola.core.facts import Fact, Mm, SoldSize, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, Piece, StepDrawing, box, line
from bambola.core.methods.parts import across, card, check, stop
from bambola.core.methods.values import Card, Method

CUT_MM, CUT_SHARE = 2.0, 0.01
"""A wire is cut to 2 mm, or a hundredth if that is more. Judged. See craft.md, 10."""


def _card(at: StepInPlan) -> Card:
    wire = at.wire
    bends = by_hand(wire.bends)
    off = max(CUT_MM, CUT_SHARE * wire.cut_mm)
    ends = [a.mm for a in wire.allowances if "end" in a.why.kind]
    return card(
        at,
        "cut-wire",
        (
            fact("cut-wire.pull", stock=wire.stock, gauge=SoldSize(wire.diameter_mm)),
            fact("cut-wire.mark", long=Mm(wire.cut_mm)),
            fact("cut-wire.bends", at=tuple(fact("cut-wire.at", at=Mm(b.start_mm)) for b in bends))
            if bends
            else None,
            Fact("cut-wire.snip"),
            fact("cut-wire.turn", end=Mm(ends[0])) if ends else Fact("cut-wire.file"),
            Fact("cut-wire.tag"),
        ),
        stops=(stop("length", wire.cut_mm - off, wire.cut_mm + off),),
        until=Fact("cut-wire.until"),
        checks=(check("cut-ends"), check("cut-length")),
        scale=Fact("cut-wire.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Draw the wire along a ruler, its bends marked and its ends turned."""
    wire = at.wire
    long, tall = wire.cut_mm, wire.cut_mm / 9
    pieces: list[Piece] = [
        DrawnArea(box(long * 1.06, tall, (long / 2, -tall)), "paper"),
        *(
            DrawnLine(line((x, -tall / 2), (x, -tall * (0.9 if i % 5 else 0.7))), "cut")
            for i, x in enumerate(np.arange(0, long, max(10.0, 10 * round(long / 150))))
        ),
        DrawnLine(line((0, 0), (long, 0)), "wire", wire.diameter_mm),
    ]
    for bend in by_hand(wire.bends):
        x = bend.start_mm
        pieces.append(DrawnLine(line((x, -tall * 0.4), (x, tall * 0.4)), "cut"))
        pieces.append(across((0.0, 0.0), (x, 0.0), x, tall * (1.1 + 0.9 * (len(pieces) % 3))))
    pieces.append(across((0.0, 0.0), (long, 0.0), long, -tall * 2.0))
    kinds = [sentence.kind for sentence in card_.how]
    last = kinds.index("cut-wire.snip") + 2  # the one after it is about the ends
    pieces += [Number((long, tall * 0.9), 2), Number((0.0, tall * 0.9), last)]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "cut-wire.pull": N_("Pull the {stock:lower}, {gauge}, straight over a round edge."),
    "cut-wire.mark": N_("Lay it along a ruler and mark where it ends: {long}."),
    "cut-wire.bends": N_("Mark where it bends: {at}."),
    "cut-wire.at": N_("{at}"),
    "cut-wire.snip": N_("Snip it, both halves held."),
    "cut-wire.turn": N_("Turn {end} back at each end and press it shut."),
    "cut-wire.file": N_("File both ends smooth."),
    "cut-wire.tag": N_("Tag it with its name."),
    "cut-wire.until": N_("It is as long as marked, and a fingertip over its ends meets no point."),
    "cut-wire.scale": N_(
        "A small figure needs fewer wires: one may be folded back on itself. Stout wire wants side "
        "cutters."
    ),
    "cut-wire.why": N_(
        "A wire that is short by a loop cannot be made longer, and a cut end left sharp works "
        "its way out of the felt."
    ),
}

METHOD = Method("cut-wire", lambda at: at.sort == "cut", _card, _picture)
