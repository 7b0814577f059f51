"""A small part built up where it sits, from a pinch of wool."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, box, cone, oval
from bambola.core.methods.parts import (
    SLANTED,
    SQUARE,
    across,
    card,
    check,
    run,
    size_stops,
    stab,
    stop,
)
from bambola.core.methods.values import Card, Method
from bambola.core.resize.laws import HELD_MM
from bambola.core.wool.pan import right_size_range

UPRIGHT = 1.5
"""What stands out by so many times its width is rolled stiff first, or it lies down. Judged.
See craft.md, 10."""


def lump_size(at: StepInPlan) -> tuple[float, float, float]:
    """Return length and width of a part built in place, and how far it stands out (mm), in the direction in
    which most of it lies in its bearer."""
    _, solid = at.placed
    along, across, through = at.finished
    wide, deep, long = solid.left
    by_left = [(long, 0), (deep, 2), (wide, 1)]
    proud = 0 if is_upright(at) else min(by_left)[1]
    foot = sorted(mm for i, mm in enumerate((along, across, through)) if i != proud)
    return foot[1], foot[0], at.finished[proud]


def is_upright(at: StepInPlan) -> bool:
    """Return whether it stands out by more than its width, such as a bill or a horn."""
    copy, solid = at.placed
    if copy.shape.start_form == "ball" or solid.seen.is_flat:
        return False
    return solid.seen.length > UPRIGHT * solid.seen.width


def is_roll(at: StepInPlan) -> bool:
    """Return whether it is a roll lying along its bearer, such as one over a nose or round an eye."""
    copy, solid = at.placed
    lies = copy.shape.start_form != "ball" and solid.seen.is_flat
    return lies and solid.seen.length > UPRIGHT * solid.seen.width


def _card(at: StepInPlan) -> Card:
    long, wide, proud = lump_size(at)
    needle = at.step.needle or 40
    upright = is_upright(at)
    how = (
        (Fact("in-place.stiff"), Fact("in-place.split"), Fact("in-place.spread"))
        if upright
        else (
            Fact("in-place.roll-long"),
            Fact("in-place.along"),
            fact("in-place.edges", proud=Mm(proud)),
        )
        if is_roll(at)
        else (
            Fact("in-place.roll"),
            Fact("in-place.round-wire" if at.is_round_wire else "in-place.lay"),
            Fact("in-place.fix"),
            fact("in-place.foot", proud=Mm(proud)),
        )
    )
    return card(
        at,
        "in-place",
        (Fact("in-place.pull"), *how),
        start=Fact("in-place.start"),
        needles=(
            run(38, min(slots.DEPTH_MM["lump"], at.thick), SQUARE, "first"),
            run(needle, min(slots.DEPTH_MM["foot"], at.thick / 2), SLANTED, "then"),
        ),
        stops=size_stops(at)
        if upright
        else (
            stop("length", *right_size_range(long)),
            stop("width", *right_size_range(wide)),
            stop("proud", *right_size_range(proud)),
        ),
        until=Fact("in-place.until"),
        checks=(check("nail"), check("lump-size")),
        scale=fact("in-place.scale", thread=Mm(HELD_MM), apart=Mm(at.bench.apart_mm)),
    )


def _fits(at: StepInPlan) -> bool:
    return at.sort == "core" and at.row.made == "in place" and at.section != "sheet"


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the lump on what bears it, and the needle at its foot."""
    wide, _, proud = lump_size(at)
    ground = max(wide * 2.6, proud)
    low = max(min(proud, wide) * 0.8, 2.0)
    if is_upright(at):
        base, _, tip = at.taper or (wide, wide, wide)
        body = cone(proud, base, tip)[:, ::-1] + (0.0, proud / 2)
    else:
        body = oval(wide, 2 * proud)
    runs = card_.needles
    pieces: list[Piece] = [
        DrawnArea(body, "wool"),
        DrawnArea(box(ground, 2 * low, (0.0, -low)), "under"),
        across((-wide / 2, 0.0), (wide / 2, 0.0), wide, -low * 0.6),
        across((wide / 2, 0.0), (wide / 2, proud), proud, -wide * 0.35),
        stab((-wide / 2, -runs[1].depth_mm * 0.2), runs[1], 135),
        Number((-wide * 0.8, min(proud, wide) * 0.8), len(card_.how)),
    ]
    if not is_upright(at):
        pieces += [stab((0.0, 0.0), runs[0], 90), Number((wide * 0.15, proud * 2.2), 4)]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "in-place.pull": N_("Pull the wool off with the hands wide apart."),
    "in-place.roll": N_("Roll it in circles to a ball."),
    "in-place.roll-long": N_("Roll it to and fro to a roll, no firmer than it holds together."),
    "in-place.along": N_("Lay it flat along its place, and tack both its ends."),
    "in-place.edges": N_(
        "Then along both its edges, inward and under, until it stands {proud} proud all along."
    ),
    "in-place.stiff": N_("Roll it to and fro and felt it stiff and to size, its base left hairy."),
    "in-place.split": N_("Split the hairs of its base in two and spread them on its place."),
    "in-place.spread": N_("Stab them down, then all round its foot, inward and under."),
    "in-place.lay": N_("Lay it, still hairy, on its place."),
    "in-place.round-wire": N_("Lay it, still hairy, round the bare end of the wire."),
    "in-place.fix": N_("One stab in its middle to hold it."),
    "in-place.foot": N_(
        "Then round its foot, inward and under, until it stands {proud} proud; add wisp by wisp."
    ),
    "in-place.start": N_("Breath or damp fingers help."),
    "in-place.until": N_("It has its size, and a nail under it lifts nothing."),
    "in-place.scale": N_(
        "Under {thread} it would be drawn with a thread; from {apart} on it is made apart and joined."
    ),
    "in-place.why": N_("Build a part too small to hold right where it sits: it needs no join."),
}

METHOD = Method("in-place", _fits, _card, _picture)
