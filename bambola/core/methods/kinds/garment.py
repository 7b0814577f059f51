"""Clothes: put on, and felted down where they are of felt."""

from __future__ import annotations

import math

from bambola.core.facts import Fact, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, box, line, oval, rod
from bambola.core.methods.parts import LOW, SQUARE, across, card, check, run, stab
from bambola.core.methods.values import Card, Method
from bambola.core.wool import finished_size


def _card(at: StepInPlan) -> Card:
    bought = at.row.made == "bought"
    shaped = any(step.key.is_of(at.row.id, "core") for step in at.plan.steps)
    how: tuple[Fact | None, ...]
    if bought:
        how = (fact("garment.try", part=at.part_name), Fact("garment.on"), Fact("garment.stitch"))
    elif shaped:
        how = (
            fact("garment.worn", part=at.part_name),
            Fact("garment.close") if at.is_ring else None,
            Fact("garment.waist"),
            Fact("garment.rim"),
        )
    else:
        how = (
            fact("garment.lay", part=at.part_name),
            Fact("garment.overlap"),
            Fact("garment.waist"),
            Fact("garment.rim"),
        )
    return card(
        at,
        "garment",
        how,
        start=Fact(f"garment.start-{'bought' if bought else 'shaped' if shaped else 'laid'}"),
        needles=()
        if bought
        else (
            run(at.step.needle or 38, slots.DEPTH_MM["cloth"], SQUARE, "first"),
            run(40, slots.DEPTH_MM["rim"], LOW, "edges"),
        ),
        until=Fact("garment.until-bought" if bought else "garment.until"),
        checks=(check("closed" if shaped and at.is_ring else "passes"), check("four-sides")),
        scale=Fact("garment.scale"),
    )


def _fits(at: StepInPlan) -> bool:
    return at.step.kind == "dress"


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the piece of clothing on what it is worn over, from its telling side."""
    if at.is_ring:
        return _ring_drawing(at, card_)
    along, wide, deep = finished_size(at.placed[0].shape).values()
    inner = max(wide, deep) * 0.72
    hem = [
        (-inner * 0.7, -along / 2),
        (inner * 0.7, -along / 2),
        (inner * 0.5, along / 2),
        (-inner * 0.5, along / 2),
    ]
    pieces: list[Piece] = [
        DrawnArea(oval(inner * 1.1, along * 2.2, (0.0, -along * 0.5)), "under"),
        DrawnArea(line(*hem), "wool"),
        across(
            (-inner * 0.7, -along / 2), (inner * 0.7, -along / 2), max(wide, deep), -along * 0.3
        ),
        across((inner * 0.7, -along / 2), (inner * 0.7, along / 2), along, -inner * 0.12),
        Number((0.0, 0.0), 1),
    ]
    if at.step.needle and at.row.made != "bought":
        pieces.append(stab((-inner * 0.3, along * 0.35), card_.needles[0], 140))
    return StepDrawing(tuple(pieces))


def _ring_drawing(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return a worn ring's band width, and its diameter."""
    round_, band, wall = at.row.piece
    worn = round_ / math.pi - wall
    outer = worn + 2 * wall
    high = max(2.2 * band, 0.9 * outer)
    pieces: list[Piece] = [
        DrawnArea(box(worn, high), "under"),
        DrawnArea((rod if band < 2 * wall else box)(outer, band), "wool"),
        across((-outer / 2, 0.0), (outer / 2, 0.0), outer, -high / 2 - outer * 0.08),
        across((outer / 2, -band / 2), (outer / 2, band / 2), band, -outer * 0.1),
        Number((0.0, 0.0), 1),
    ]
    if at.step.needle and at.row.made != "bought":
        pieces.append(stab((-outer * 0.3, band / 2), card_.needles[0], 120))
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "garment.try": N_("Try {part} on before anything is fixed."),
    "garment.on": N_("Pull it over, or close it round what it sits on."),
    "garment.stitch": N_("Hold it with one stitch or a drop of glue where it is not seen."),
    "garment.lay": N_("Lay crossing wisps for {part} where it is worn, ends under the arms."),
    "garment.overlap": N_("Let each lie half over the last."),
    "garment.waist": N_("Stab it down at neck and waist; it stays free between."),
    "garment.rim": N_("Firm its rim from the side, with the needle flat."),
    "garment.close": N_(
        "Bring its two loose ends together behind and felt them into each other, from both sides "
        "by turns."
    ),
    "garment.worn": N_("Pin {part} where it is worn; pull it in shape while it is still soft."),
    "garment.start-shaped": N_("It was shaped apart: here it is only fixed."),
    "garment.start-laid": N_(
        "Thinner than you think: felt of a finger’s thickness looks like armour."
    ),
    "garment.start-bought": N_("Bought clothes keep their size."),
    "garment.until": N_("Its rim has no hair, and no gap shows."),
    "garment.until-bought": N_("It sits, and comes off only if it is meant to."),
    "garment.scale": N_(
        "Felt stays as thin on a small figure; knots do not shrink: take fewer strips."
    ),
    "garment.why": N_("What has to pass over an end goes on while that end is still small enough."),
}

METHOD = Method("garment", _fits, _card, _picture)
