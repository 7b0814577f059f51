"""A body, head or foot wrapped on its wire."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line, oval
from bambola.core.methods.parts import (
    card,
    check,
    coarse_to_fine,
    finer_than,
    sides,
    size_stops,
    stab,
)
from bambola.core.methods.values import Card, Method

SMALL_MM = 20.0
"""A body thinner than this is wound in one go. Judged. See craft.md, 10."""


def _card(at: StepInPlan) -> Card:
    small = at.thick < SMALL_MM
    return card(
        at,
        "wrap-body",
        (
            fact("wrap-body.anchor" if at.wound_pairs else "wrap-body.end", part=at.part_name),
            _winding_fact(at, small),
            Fact("wrap-body.tack-small" if small else "wrap-body.tack"),
            None if small else Fact("wrap-body.under" if at.wound_pairs else "wrap-body.pads"),
            fact("wrap-body.mid", size=Mm(slots.change_size(max(at.loose), max(at.finished))))
            if finer_than(at.step.needle or 38, at.bench) != (at.step.needle or 38)
            else None,
        ),
        start=Fact("wrap-body.start"),
        needles=coarse_to_fine(at, near_wire=True),
        stops=size_stops(at),
        until=Fact("wrap-body.until"),
        checks=(check("wool-turns"), check("four-sides")),
        scale=fact("wrap-body.scale", small=Mm(SMALL_MM)),
    )


def _winding_fact(at: StepInPlan, small: bool) -> Fact | None:
    if not small:
        return band_direction(at)
    return Fact("wrap-body.wind") if at.wound_pairs else None


def band_direction(at: StepInPlan) -> Fact:
    """Return how the bands run, so that the wool does not turn on its wire."""
    if at.wound_pairs >= 2:
        return Fact("wrap-body.cross")
    return Fact("wrap-body.between" if at.wound_pairs else "wrap-body.over")


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the piece with its bands crossing over the wire."""
    along, wide, _ = at.finished
    half, tall = wide / 2, along / 2
    bands = [
        DrawnLine(
            line((-half * 0.8, s * tall * 0.55), (half * 0.8, -s * tall * 0.55)),
            "hair",
            wide * 0.12,
        )
        for s in (-1, 1)
    ]
    run = card_.needles[0]
    wires = (
        [DrawnLine(line((0.0, -tall * 1.15), (0.0, tall * 1.15)), "wire", at.wire_mm)]
        if at.wire_mm
        else []
    )
    deep = min(run.depth_mm, half)
    return StepDrawing(
        (
            DrawnArea(oval(wide, along), "wool"),
            *bands,
            *wires,
            *sides((wide, along), wide, along, max(wide, along) * 0.12),
            stab((-half + deep * 0.7, tall * 0.3), run, 150),
            Number((0.0, 0.0), 2),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "wrap-body.anchor": N_("Anchor the wool at the middle of {part} and wind it tight."),
    "wrap-body.end": N_(
        "Anchor the wool at the near end of {part}, and wind it tight to the far end and back."
    ),
    "wrap-body.wind": N_("Wind it all in one go, to and fro."),
    "wrap-body.cross": N_("Cross over each shoulder and between the legs, so that nothing turns."),
    "wrap-body.between": N_("Cross between the limbs and over them, so that nothing turns."),
    "wrap-body.over": N_("Cross over its end and slanting round it, so that nothing turns."),
    "wrap-body.tack-small": N_("Tack it slanting and shallow, beside the wire."),
    "wrap-body.tack": N_(
        "Tack it slanting, shallow until there is a finger’s breadth of wool over the wire."
    ),
    "wrap-body.under": N_("Lift each limb and work under it; pads in the hollows, edges first."),
    "wrap-body.pads": N_("Lay pads in the hollows, edges first."),
    "wrap-body.mid": N_("At about {size} on its longest side take the finer needle."),
    "wrap-body.start": N_("Flat strips, taut."),
    "wrap-body.until": N_("It has its size, and drags alike at the needle on all sides."),
    "wrap-body.scale": N_(
        "Thinner than {small} it is wound in one go; large ones take pads in pairs."
    ),
    "wrap-body.why": N_(
        "Wool is laid on where it is wanted, and each layer is felted before the next hides it."
    ),
}

METHOD = Method("wrap-body", lambda at: at.step.kind == "wrap", _card, _picture)
