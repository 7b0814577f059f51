"""A head pressed over a bump of wool on its neck."""

from __future__ import annotations

import math

import numpy as np

from bambola.core.facts import NOTHING, Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, fringe, oval
from bambola.core.methods.kinds.join import seat_measures
from bambola.core.methods.parts import SLANTED, SQUARE, across, card, check, run, stab, stop
from bambola.core.methods.slots import by_hand
from bambola.core.methods.values import Card, Method
from bambola.core.wool.pan import right_size_range

BUMP_MM, MOST_OF_HEAD = (12.0, 25.0), 0.4
"""How high a neck bump is, and at most as a share of the head it goes into. Judged. See craft.md, 10."""


LARGE_HEAD_MM = 60.0
"""Above this a head is pegged rather than set on a bump. Judged. See craft.md, 10."""


def bump(at: StepInPlan) -> tuple[float, float]:
    """Return the width and height of the bump: as wide as the seat, half a ball, within the usual range."""
    wide, *_ = seat_measures(at)
    high = min(max(BUMP_MM[0], wide / 2), BUMP_MM[1], MOST_OF_HEAD * at.thick)
    return wide, high


def bump_grams(at: StepInPlan) -> float:
    """Return the wool of the bump: half an ellipsoid as firm as the part, g. It is set aside from the part's
    own wool."""
    wide, high = bump(at)
    density = at.bench.packed_density(at.plan.resized.figure, at.body)
    return density * 2 / 3 * math.pi * (wide / 2) ** 2 * high / 1000


def _card(at: StepInPlan) -> Card:
    wide, high = bump(at)
    _, _, fringe_mm, sink = seat_measures(at)
    core = at.bench.wool_by_id[at.body.core]
    take = by_hand(bump_grams(at), core, at.bench.scale_g)
    return card(
        at,
        "bump",
        (
            fact("bump.build", high=Mm(high), wide=Mm(wide), on=at.bearer.part.name),
            fact("bump.keep", amount=take, part=at.part_name) if take is not NOTHING else None,
            fact("bump.hollow", part=at.part_name, deep=Mm(high)),
            fact("bump.press", fringe=Mm(fringe_mm)),
            fact("bump.drive", sink=Mm(sink)),
        ),
        start=Fact("join.start"),
        needles=(
            run(at.step.needle or 38, sink, SLANTED, "all-round"),
            run(max(38, at.step.needle or 38), sink, SQUARE, "then"),
        ),
        stops=(stop("seat", *right_size_range(wide)),),
        until=Fact("join.until"),
        checks=(check("tug"), check("straight")),
        scale=fact("bump.scale", most=Mm(BUMP_MM[1]), large=Mm(LARGE_HEAD_MM)),
    )


def _fits(at: StepInPlan) -> bool:
    job = at.job
    if at.sort != "join" or job is None or not at.fringe_mm:
        return False
    return job.id == at.plan.work.neck and at.plan.work.school("seat") == "bump"


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return a section: the bump on what bears it, the head over it, the needle up through both."""
    wide, high = bump(at)
    _, _, fringe_mm, sink = seat_measures(at)
    thick = max(sorted(at.finished)[1], 1.3 * wide)
    head = oval(thick, thick, (0.0, thick / 2))
    t = np.linspace(0, np.pi, 65)
    dome = np.column_stack([wide / 2 * np.cos(t), high * np.sin(t)])
    ground = 1.6 * wide + 2 * fringe_mm
    under = np.array(
        [(-ground / 2, 0.0), (ground / 2, 0.0), (ground / 2, -2 * sink), (-ground / 2, -2 * sink)]
    )
    run_, then = card_.needles
    numbers = 1 + (len(card_.how) == 5)
    pieces: list[Piece] = [
        DrawnArea(under, "under"),
        DrawnArea(head, "wool"),
        DrawnArea(dome, "core", "hidden"),
        *fringe((-wide * 0.55, thick * 0.1), wide * 0.12, fringe_mm, 205, 7),
        *fringe((wide * 0.55, thick * 0.1), wide * 0.12, fringe_mm, -25, 7),
        across((-wide / 2, 0.0), (wide / 2, 0.0), wide, -sink * 0.6),
        across((0.0, 0.0), (0.0, high), high, wide * 0.2),
        stab((wide * 0.3, -sink * 0.6), run_, 45),
        stab((-wide * 0.15, sink * 0.5), then, -95),
        Number((-wide * 0.3, high * 0.4), 1),
        Number((-thick * 0.3, thick * 0.6), numbers + 1),
        Number((wide * 0.6, -sink * 0.3), numbers + 3),
    ]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "bump.build": N_(
        "Felt a bump on the {on:lower}, {wide} wide and {high} high, its top left hairy."
    ),
    "bump.keep": N_("Keep core wool back for it when {part} is shaped: {amount:first lower}."),
    "bump.hollow": N_("Press a hollow into {part} with your thumb, {deep} deep."),
    "bump.press": N_("Set it over the bump, its fringe of {fringe} spread all round, and look."),
    "bump.drive": N_(
        "Stab down through it into the bump, and up from below, {sink} deep, all round."
    ),
    "bump.scale": N_(
        "The bump grows with the seat, up to {most}; under a head over {large} a peg is safer."
    ),
    "bump.why": N_(
        "A head on a bump cannot slide, and its tilt can be tried before anything is felted fast."
    ),
}

METHOD = Method("bump", _fits, _card, _picture)
