"""A part set into the seat it was made for, and felted both ways."""

from __future__ import annotations

import math

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, fringe
from bambola.core.methods.kinds.flat import crest_of
from bambola.core.methods.parts import SLANTED, SQUARE, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method
from bambola.core.order.keys import key_of
from bambola.core.wool.pan import right_size_range

_LIES = 0.2
"""So round, for its width, is drawn what something lies on with its side; no number is told of it. Judged."""
_FAN = math.radians(11)
"""How far the fringe is drawn hanging."""
LEAST_MM = 1.0
"""Where what bears a part rises by less into its end, that gives way by itself. Judged. See craft.md, 10."""


SLIT_MM = 4.0
"""A sheet thinner than this has so thin a fringe that it is tucked into a slit. Judged. See craft.md, 10."""


def seat_measures(at: StepInPlan) -> tuple[float, float, float, float]:
    """Return (mm) the width of the seat, its rise into the part's end, the fringe, and how deep that goes
    in."""
    wide = slots.seat_width(at.placed[1].join_line_mm, at.job is not None and at.job.flat)
    return wide, at.rises_mm, at.fringe_mm, slots.fringe_depth(min(at.bearer.shape.extents()))


def _card(at: StepInPlan) -> Card:
    wide, rises, fringe, sink = seat_measures(at)
    small = at.job is not None and at.job.small
    if at.is_round_wire:
        seated = fact("join.over-wire", part=at.part_name, wide=Mm(wide))
    elif at.is_flat_on:
        seated = fact(
            "join.flat-side",
            on=fact("the", name=at.bearer.part.name),
            wide=Mm(wide),
            part=at.part_name,
        )
    elif rises >= LEAST_MM and at.job is not None and not at.job.flat:
        seated = fact("join.press", wide=Mm(wide), part=at.part_name)
    else:
        seated = fact("join.rough", part=at.part_name, wide=Mm(wide))
    if is_slit(at):
        first: tuple[Fact | None, ...] = (
            fact("join.slit", part=at.part_name, wide=Mm(wide), deep=Mm(fringe)),
            fact("join.tuck", fringe=Mm(fringe)),
        )
    else:
        first = seated, fact("join.spread", fringe=Mm(fringe)) if fringe else None
    return card(
        at,
        "join",
        (
            *first,
            Fact("join.pin"),
            Fact("join.fin") if crest_of(at) else None,
            Fact("join.pads") if _is_head(at) else None,
            fact("join.drive", sink=Mm(sink)),
            Fact("join.turn"),
            Fact("join.firm-there") if small else None,
            _edge_fact(at),
        ),
        start=Fact("join.start"),
        needles=(
            run(at.step.needle or 38, sink, SLANTED, "all-round"),
            run(40 if small else max(38, at.step.needle or 38), sink, SQUARE, "then"),
        ),
        stops=(stop("seat", *right_size_range(wide)),),
        until=Fact("join.until"),
        checks=(check("tug"), check("straight"), check("parent-dents")),
        scale=Fact("join.scale"),
    )


def _is_head(at: StepInPlan) -> bool:
    """Return whether the part has eyes, so that its bearer is looked at under it."""
    return any(f.kind == "eye" and f.part == at.row.id for f in at.plan.work.fittings)


def is_slit(at: StepInPlan) -> bool:
    """Return whether the end of a part is tucked into a slit, since a thin sheet has too little for
    spokes."""
    return at.job is not None and at.job.flat and 0 < at.thick < SLIT_MM and at.fringe_mm > 0


def _edge_fact(at: StepInPlan) -> Fact | None:
    """Return how the edge is treated if no step of its own blends it."""
    job, bearer = at.job, at.bearer.part.id
    if job is None or key_of("blend", job.id) in {step.key for step in at.plan.steps}:
        return None
    on = next(each for each in at.plan.work.parts if each.id == bearer)
    return Fact("join.fluff" if job.skin == on.skin else "join.line")


def _fits(at: StepInPlan) -> bool:
    return at.sort == "join" and at.job is not None and not at.job.is_pegged


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return a section through the join: seat, fringe, and the needle from the part into what bears it."""
    wide, rises, fringe_mm, deep = seat_measures(at)
    lies = at.is_flat_on or at.is_round_wire
    if lies:  # how deep it lies over what bears it differs along it
        rises = _LIES * wide
    run, then = card_.needles
    thick = max(wide, sorted(at.finished)[1])
    high = min(max(at.finished), 1.6 * thick, 1.6 * wide)  # the rest of a large part tells nothing
    # What bears it rises over the seat; beyond, as a circle through both would go on.
    radius = (rises**2 + (wide / 2) ** 2) / (2 * rises) if rises >= 0.3 else 40 * wide
    ground = min(wide * 1.5 + 2 * fringe_mm, 1.96 * radius)
    x = np.linspace(-ground / 2, ground / 2, 65)
    bulge = np.sqrt(np.maximum(radius**2 - x**2, 0.0)) - radius + rises
    depth = max(deep * 1.8, wide * 0.5, 0.2 * wide - float(bulge.min()))
    under = np.vstack([np.column_stack([x, bulge]), [(ground / 2, -depth), (-ground / 2, -depth)]])
    inner = np.linspace(-wide / 2, wide / 2, 33)
    foot = np.sqrt(np.maximum(radius**2 - inner**2, 0.0)) - radius + rises
    t = np.linspace(0, np.pi, 49)
    head = np.column_stack([thick / 2 * np.cos(t), np.maximum(0.0, high * np.sin(t)) * 0.98])
    body = np.vstack([np.column_stack([inner, foot]), head])
    pieces: list[Piece] = [
        DrawnArea(under, "under"),
        DrawnArea(body, "wool"),
        across((-wide / 2, 0.0), (wide / 2, 0.0), wide, high * 0.32),
        stab((wide * 0.28, -deep * 0.7), run, 45),
        stab((-wide * 0.1, foot[16] + deep * 0.5), then, -95),
        Number((wide * 0.48, deep * 0.9), 4 if fringe_mm else 3),
        Number((-wide * 0.16, -deep * 0.9), 5 if fringe_mm else 4),
    ]
    if fringe_mm:
        pieces += [
            *fringe((-wide * 0.46, 0.0), wide * 0.12, fringe_mm, 200, 7),
            *fringe((wide * 0.46, 0.0), wide * 0.12, fringe_mm, -20, 7),
            across(
                (wide / 2, 0.0),
                (wide / 2 + fringe_mm * math.cos(_FAN), -fringe_mm * math.sin(_FAN)),
                fringe_mm,
                fringe_mm * 0.5,
            ),
            Number((wide * 0.62, -deep * 0.25), 2),
        ]
    if rises >= LEAST_MM and not lies:
        pieces.append(Number((wide * 0.1, rises * 0.5), 1))
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "join.press": N_(
        "Press the soft end of {part} on the seat, {wide} wide, until it gives way and lies on all round."
    ),
    "join.flat-side": N_(
        "Lay the flat side of {part} on {on}, hairy to hairy; the seat is {wide} wide."
    ),
    "join.over-wire": N_(
        "Slit {part} where the limb goes in, push it over the bare wire, and close the slit; the seat is "
        "{wide} wide."
    ),
    "join.rough": N_("Rough the place for {part}, {wide} wide, with a coarse needle."),
    "join.slit": N_("Cut a slit for {part}, {wide} long and {deep} deep."),
    "join.tuck": N_("Tuck its loose end in, {fringe}, and press the slit shut on it."),
    "join.fluff": N_("Last stab the fluff at its base down all round: it hides the join."),
    "join.line": N_("Let the two colours meet in a clean line; no veil goes over it."),
    "join.spread": N_("Spread its fringe, {fringe}, like the spokes of a wheel."),
    "join.pin": N_("Pin it; look from the front, the side, behind and above; then tack a ring."),
    "join.fin": N_("Seat it close against the fin before it, so that no gap is seen."),
    "join.pads": N_("Where shoulders or chest look thin under it, add a pad before it is fixed."),
    "join.drive": N_("Stab from the part into what bears it, {sink} deep, all round."),
    "join.turn": N_("Turn it over, and drive hairs of what bears it into the part."),
    "join.firm-there": N_("Firm it now, where it sits."),
    "join.start": N_(
        "What will be joined stays hairy there: a skin that is felted shut does not take."
    ),
    "join.until": N_("A tug opens nothing, after one full round each way at least."),
    "join.scale": N_(
        "A join must hold more as a figure grows than it grows itself: from fringe to scarf to peg."
    ),
    "join.why": N_(
        "Loose fibre of the part is driven into what bears it, and then the other way round: "
        "two directions hold, one pulls out."
    ),
}

METHOD = Method("join", _fits, _card, _picture)
