"""A limb wrapped on its wire with a ribbon of wool."""

from __future__ import annotations

import numpy as np

from bambola.core.bench.wools import HIDE_MM
from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, NN_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import (
    DrawnArea,
    DrawnLine,
    Measure,
    Number,
    StepDrawing,
    line,
    rod,
    tapered,
)
from bambola.core.methods.kinds.peg import stem_mm
from bambola.core.methods.parts import (
    BESIDE,
    LOW,
    across,
    at_ends,
    card,
    check,
    flat_side,
    run,
    stab,
    stop,
    taper_stops,
)
from bambola.core.methods.values import Card, Method
from bambola.core.resize.laws import AT_ONCE_MM
from bambola.core.solids.lengthwise import NEAR_END
from bambola.core.wool.pan import right_size_range


def _card(at: StepInPlan) -> Card:
    long, thick = at.finished[0], at.thick
    wide = slots.ribbon_width(thick)
    over = slots.wool_overhang((thick - at.wire_mm) / 2)
    grams, turns = at.take_g, slots.ribbon_turns(long, wide)
    layers = slots.ribbon_layers(grams, long, thick, at.wire_mm)
    return card(
        at,
        "wrap-limb",
        (
            fact("wrap-limb.ribbon", wide=Mm(wide), part=at.part_name),
            _winding_start(at),
            fact("wrap-limb.wind", n=layers, turns=turns)
            if turns > 1
            else fact("wrap-limb.wind-short", n=layers),
            fact("wrap-limb.to", part=at.capped_by)
            if at.capped_by
            else fact("wrap-limb.over", over=Mm(over)),
            Fact("wrap-limb.stab"),
            Fact("wrap-limb.roll"),
            flat_side(at),
        ),
        start=Fact("wrap-limb.start-pair" if at.copies == 2 else "wrap-limb.start"),
        needles=(
            run(at.step.needle or 38, max(1.0, (thick - at.wire_mm) / 3), BESIDE, "beside-wire"),
            run(40, slots.SKIN_MM, LOW, "last"),
        ),
        stops=(
            *(
                taper_stops(at.taper)
                if at.taper
                else (stop("width", *right_size_range(at.finished[1])),)
            ),
            *((stop("flat", *right_size_range(thick)),) if at.is_flat_on else ()),
            stop("length", *right_size_range(long)),
        ),
        until=Fact("wrap-limb.until"),
        checks=(
            check("wire-glints"),
            check("limb-even" if at.taper else "limb-alike"),
            check("wool-turns"),
        ),
        scale=fact("wrap-limb.scale", hide=Mm(HIDE_MM), round=Mm(AT_ONCE_MM)),
    )


def _winding_start(at: StepInPlan) -> Fact:
    """Return where the winding begins: for a pair on one wire, at its middle inside the body."""
    if at.body.parent is None:
        return Fact("wrap-limb.from-middle")
    on = fact("the", name=at.bearer.part.name)
    if at.job is not None and at.job.stem:
        return fact("wrap-limb.from-stem", bare=Mm(stem_mm(at)), on=on)
    if at.plan.work.school("legs") != "middle out":
        return Fact("wrap-limb.from-body")
    if at.copies == 2:
        return fact("wrap-limb.from-both", on=on)
    return Fact("wrap-limb.from-middle")


def _fits(at: StepInPlan) -> bool:
    return at.step.kind == "wrap" and at.job is not None and at.job.limb


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the ribbon on the wire, with its turns, and how far it goes past the end or where the wire goes
    on."""
    long, thick = at.finished[0], at.thick
    wide, over = slots.ribbon_width(thick), slots.wool_overhang((thick - at.wire_mm) / 2)
    end = long * 0.6 if at.capped_by else max(long / 2 - over, 0.0)
    past = (
        ()
        if at.capped_by
        else (across((end, thick / 2), (end + over, thick / 2), over, thick * 0.4),)
    )
    ribbons = [
        DrawnArea(
            line(
                (x, -thick / 2),
                (x + wide / 2, -thick / 2),
                (x + wide, thick / 2),
                (x + wide / 2, thick / 2),
            ),
            "wool",
            "hidden",
        )
        for x in np.arange(-long / 2, long / 2 - wide * 0.8, max(wide / 2, long / 14))
    ]
    run = card_.needles[0]
    return StepDrawing(
        (
            DrawnArea(tapered(long, *at.taper) if at.taper else rod(long, thick), "core"),
            *ribbons,
            DrawnLine(line((-long * 0.6, 0.0), (end, 0.0)), "wire", at.wire_mm),
            across((-long / 2, -thick / 2), (long / 2, -thick / 2), long, -thick * 0.5),
            *_thickness_measure(at, long, thick),
            *past,
            stab((long * 0.1, thick / 2 - run.depth_mm), run, run.angle_deg),
            Number((-long * 0.3, thick * 0.75), 3),
            Number((long / 2, -thick * 0.2), 4),
        )
    )


def _thickness_measure(at: StepInPlan, long: float, thick: float) -> tuple[Measure, ...]:
    """Return the thickness of the limb as a measure beside it; if it tapers, at base and tip."""
    if at.taper is None:
        return (across((-long * 0.2, -thick / 2), (-long * 0.2, thick / 2), thick, long * 0.42),)
    return at_ends(long * (0.5 - NEAR_END), at.taper, long * 0.22, -long * 0.3)


SENTENCES: dict[str, str | Plural] = {
    "wrap-limb.ribbon": N_(
        "Draw the wool into a ribbon {wide} wide that you can see through, for {part}."
    ),
    "wrap-limb.from-middle": N_(
        "Catch it at the middle of the limb, and wind to one end and then to the other."
    ),
    "wrap-limb.from-both": N_(
        "Catch it on the wire where {on} will be, and wind out along the one and then the other."
    ),
    "wrap-limb.from-stem": N_(
        "Leave {bare} of the wire bare, which goes into {on}; catch the wool there, and wind to the tip."
    ),
    "wrap-limb.from-body": N_("Catch it at the body, and wind to the tip."),
    "wrap-limb.over": N_("Carry it {over} past the end of the wire and fold it back."),
    "wrap-limb.to": N_("End it where the wire goes on into the {part:lower}; leave that bare."),
    "wrap-limb.stab": N_("Stab along both sides of the wire, turning by sixths."),
    "wrap-limb.roll": N_("Roll it in the palms, and measure at its top, middle and end."),
    "wrap-limb.start": N_("Tear the wool, never cut it."),
    "wrap-limb.start-pair": N_(
        "Tear the wool, never cut it; one strip laid at its middle winds both alike."
    ),
    "wrap-limb.until": N_(
        "Rolled between the fingers nothing hard is felt, and the wool does not turn on the wire."
    ),
    "wrap-limb.scale": N_(
        "With less than {hide} of wool over the wire it would not hide; from {round} on it is built in "
        "rounds."
    ),
    "wrap-limb.wind": NN_(
        "Wind it slanting and taut, half over itself, once over: about {turns} turns.",
        "Wind it slanting and taut, half over itself, {n} times over, about {turns} turns each time.",
    ),
    "wrap-limb.wind-short": NN_(
        "Wind it slanting and taut over all of it, once.",
        "Wind it slanting and taut over all of it, {n} times.",
    ),
    "wrap-limb.why": N_(
        "Wool turned on crosswise is bound by its own turns; stabs beside the wire lock them."
    ),
}

METHOD = Method("wrap-limb", _fits, _card, _picture)
