"""Wool over a join: a patch along it, or a scarf round it."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import (
    DrawnArea,
    DrawnLine,
    Measure,
    Number,
    StepDrawing,
    box,
    line,
    oval,
)
from bambola.core.methods.parts import LOW, SLANTED, across, card, check, run, stab
from bambola.core.methods.values import Card, Method
from bambola.core.wool.bundles import seam_cover, wide_mm


def seam_size(at: StepInPlan) -> tuple[float, float]:
    """Return the length and width of the seam wool (mm), by its weight."""
    join = at.portion.detail if at.portion is not None else "patch"
    long, wide, _ = seam_cover(at.body, at.placed[1], join, wide_mm(at.bearer.shape))
    return 10 * long, 10 * wide


def _card(at: StepInPlan) -> Card:
    scarf = at.portion is not None and at.portion.detail == "scarf"
    long, wide = seam_size(at)
    deep = min(slots.DEPTH_MM["seam"], 0.4 * min(at.row.to_mm.values()))
    return card(
        at,
        "seam",
        (
            fact("seam.scarf", high=Mm(wide), long=Mm(long), part=at.part_name)
            if scarf
            else fact("seam.patch", wide=Mm(wide), long=Mm(long), part=at.part_name),
            fact("seam.up-down", part=at.part_name, on=fact("the", name=at.bearer.part.name))
            if scarf
            else Fact("seam.edges"),
            Fact("seam.again" if scarf else "seam.feather"),
        ),
        start=Fact("seam.start"),
        needles=(run(38, deep, SLANTED, "both-ways"), run(40, slots.DEPTH_MM["rim"], LOW, "last")),
        until=Fact("seam.until"),
        checks=(check("tug"), check("bump")),
        scale=Fact("seam.scale"),
    )


def _fits(at: StepInPlan) -> bool:
    return at.sort == "blend" and at.portion is not None and at.portion.role == "seam"


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the join with the wool over it, as wide and long as it is laid."""
    long, wide = seam_size(at)
    thick = long / np.pi
    runs = card_.needles
    band_ = box(thick * 1.04, wide)
    return StepDrawing(
        (
            DrawnArea(oval(thick * 1.5, thick * 1.2, (0.0, -thick * 0.6 - wide * 0.2)), "under"),
            DrawnArea(oval(thick * 1.2, thick * 1.1, (0.0, thick * 0.55 + wide * 0.2)), "core"),
            DrawnArea(band_, "wool"),
            DrawnLine(line((-thick / 2, 0.0), (thick / 2, 0.0)), "hidden"),
            across((thick * 0.52, -wide / 2), (thick * 0.52, wide / 2), wide, -thick * 0.2),
            Measure(
                (-thick / 2, -wide / 2),
                (thick / 2, -wide / 2),
                fact("drawn.girth", mm=Mm(long)),
                -thick * 1.15,
            ),
            stab((0.0, runs[0].depth_mm * 0.4), runs[0], -45),
            stab((thick * 0.2, -runs[0].depth_mm * 0.4), runs[0], 45),
            Number((-thick * 0.3, 0.0), 1),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "seam.scarf": N_("Lay a strip {high} high and {long} long round where {part} sits, taut."),
    "seam.patch": N_(
        "Lay the wool over the join of {part}, {wide} wide along its {long}, from the one onto the "
        "other."
    ),
    "seam.edges": N_("The edges first, then across."),
    "seam.feather": N_("Feather the ends out until no ridge is felt."),
    "seam.up-down": N_("Stab up into {part} and down into {on}, all round."),
    "seam.again": N_("Turn it upside down and do it again."),
    "seam.start": N_("Long thin pinches, as the hair lies."),
    "seam.until": N_("A finger run over it meets no bump, and a tug opens nothing."),
    "seam.scale": N_("Small joins take wisps; heavy parts a scarf and a peg."),
    "seam.why": N_(
        "A strip that runs over a join takes the pull along its fibres, where wool is strongest."
    ),
}

METHOD = Method("seam", _fits, _card, _picture)
