"""A stem laid along its bearer and held by a band of wool."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line, oval
from bambola.core.methods.kinds.peg import stem_mm
from bambola.core.methods.parts import SLANTED, SQUARE, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method
from bambola.core.wool.pan import right_size_range

BAND = 1.0 / 3.0
"""The band is so wide as a share of the stem that it covers. Judged. See craft.md, 10."""


def _card(at: StepInPlan) -> Card:
    long = stem_mm(at)
    on = fact("the", name=at.bearer.part.name)
    deep = slots.fringe_depth(min(at.bearer.shape.extents()))
    return card(
        at,
        "stem-band",
        (
            fact("stem-band.lay", part=at.part_name, on=on, long=Mm(long)),
            fact("stem-band.over", wide=Mm(BAND * long)),
            Fact("stem-band.beside"),
            Fact("stem-band.down"),
            Fact("stem-band.close"),
        ),
        start=Fact("stem-band.start"),
        needles=(
            run(38, deep, SQUARE, "beside-wire"),
            run(38, slots.DEPTH_MM["outline"], SLANTED, "edges"),
        ),
        stops=(stop("length", *right_size_range(long)),),
        until=Fact("stem-band.until"),
        checks=(check("tug"), check("straight")),
        scale=Fact("stem-band.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the stem along the body, and the band over it."""
    long = stem_mm(at)
    thick, wide = min(at.bearer.shape.extents()), BAND * long
    return StepDrawing(
        (
            DrawnArea(oval(long * 2.2, thick), "under"),
            DrawnLine(line((-long * 1.4, 0.0), (long / 2, 0.0)), "wire", 0.8),
            DrawnArea(oval(wide, thick * 0.5), "wool"),
            across((-long / 2, 0.0), (long / 2, 0.0), long, -thick * 0.62),
            stab((wide * 0.3, thick * 0.1), card_.needles[0], 90),
            Number((-long * 0.45, thick * 0.15), 1),
            Number((0.0, thick * 0.3), 2),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "stem-band.lay": N_("Lay the bare stem of {part} along {on}, {long} of it."),
    "stem-band.over": N_("Lay a band of wool across it, {wide} wide."),
    "stem-band.beside": N_("Stab the band down on both sides of the stem, never on it."),
    "stem-band.down": N_(
        "Then further off beside the stem, all along, so that it does not wobble."
    ),
    "stem-band.close": N_("Draw wool over what is still seen of it, and fix that."),
    "stem-band.start": N_("What bears it is felted, and still takes the needle."),
    "stem-band.until": N_("It does not wobble when the part is moved, and no wire is seen."),
    "stem-band.scale": N_(
        "A longer stem takes a second band; a heavy part is better bound to the frame."
    ),
    "stem-band.why": N_(
        "Wool holds a wire from both sides at once: stabs beside it press it in, stabs on it break needles."
    ),
}

METHOD = Method(
    "stem-band",
    lambda at: at.sort == "join" and at.job is not None and at.job.banded,
    _card,
    _picture,
)
