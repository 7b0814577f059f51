"""A ball, egg, sausage, cone or pad, rolled and felted in the hand."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bambola.core.facts import Fact, Mm, Sizes, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import (
    DrawnArea,
    Measure,
    Number,
    Piece,
    StepDrawing,
    fringe,
    rolled_outline,
    tapered,
)
from bambola.core.methods.parts import (
    across,
    at_ends,
    card,
    check,
    coarse_to_fine,
    finer_than,
    flat_side,
    size_stops,
    stab,
)
from bambola.core.methods.values import Card, Method
from bambola.core.piece.state import Size3
from bambola.core.resize.laws import AT_ONCE_MM
from bambola.core.solids.lengthwise import NEAR_END

_SEEN_TO_SHRINK = 0.1
"""By less a side that shrinks does not tell how far the work is. Judged."""
_LOOSE_ENDS_MM = 15.0
"""A finger's breadth, as it is told. Judged."""
ON_NEEDLE_MM, ON_NEEDLE_LONG_MM = (4.0, 8.0), 40.0
"""A limb without wire so thick and at most so long is wound on the needle. Judged. See craft.md, 10."""
FORMS = ("ball", "sausage", "cone", "sheet")


def _card(at: StepInPlan) -> Card:
    form = at.portion.form if at.portion and at.portion.form in FORMS else "ball"
    loose, finished = _in_hand(at, form)
    middles = [slots.change_size(before, mm) for before, mm in zip(loose, finished, strict=True)]
    first = at.step.needle or 38
    finer = finer_than(first, at.bench)
    fringe = at.fringe_mm
    rolled = at.portion is not None and len(at.portion.loose_mm) == 3
    return card(
        at,
        "shape",
        (
            _rolling_fact(at, form) if rolled else fact("shape.gather", part=at.part_name),
            fact("shape.squeeze", size=Sizes(finished)) if rolled else None,
            Fact("shape.split") if is_split(at, form) else None,
            Fact("shape.axis" if form in ("sausage", "cone") else "shape.middle"),
            _needle_change(at, middles, finer) if finer != first else Fact("shape.closer"),
            flat_side(at),
            _loose_end_fact(at, form) if fringe else None,
            Fact("shape.ends") if at.is_ring else None,
        ),
        start=Fact(f"shape.start-{form}"),
        needles=coarse_to_fine(at),
        stops=size_stops(at),
        until=Fact("shape.until-soft" if at.job and at.job.small else "shape.until"),
        checks=(
            check("squeeze"),
            check("four-sides" if at.is_flat_on or at.is_ring else "round"),
            check("twin-laid") if at.copies == 2 else check("crack"),
        ),
        scale=fact("shape.scale", apart=Mm(at.bench.apart_mm), round=Mm(AT_ONCE_MM)),
    )


def _needle_change(at: StepInPlan, middles: Sequence[float], needle: int) -> Fact:
    """Return the size at which the finer needle is taken: on the longest side, or across if that hardly
    shrinks."""
    shrinks = [loose / mm for loose, mm in zip(at.loose, at.finished, strict=True)]
    longest = middles.index(max(middles))
    if shrinks[longest] > 1 + _SEEN_TO_SHRINK:
        return fact("shape.change", size=Mm(middles[longest]), needle=needle)
    return fact("shape.change-across", size=Mm(middles[1]), needle=needle)


def is_on_needle(at: StepInPlan, form: str) -> bool:
    """Return whether a short limb is wound tightly on the needle, and so half felted at once."""
    long, wide, _ = at.finished
    thin = ON_NEEDLE_MM[0] <= wide <= ON_NEEDLE_MM[1]
    return form == "sausage" and thin and long <= ON_NEEDLE_LONG_MM and not at.is_ring


def is_one_roll(at: StepInPlan, form: str) -> bool:
    """Return whether two limbs without taper are one roll, cut in its middle."""
    alike = at.copies == 2 and at.taper is None and not at.is_flat_on
    return form == "sausage" and alike and at.fringe_mm > 0 and not is_on_needle(at, form)


def is_split(at: StepInPlan, form: str) -> bool:
    """Return whether a pair of small balls, such as feet, is split from one; makers of one mass do so."""
    quick = at.plan.work.school("mass") == "one mass"
    return quick and at.copies == 2 and form == "ball" and not at.hard_mm


def _in_hand(at: StepInPlan, form: str) -> tuple[Size3, Size3]:
    """Return the bundle and the finished piece in hand: for two limbs in one roll, both."""
    times = 2 if is_one_roll(at, form) else 1
    (long, *loose), (finished_long, *finished) = at.loose, at.finished
    return (times * long, loose[0], loose[1]), (times * finished_long, finished[0], finished[1])


def _rolling_fact(at: StepInPlan, form: str) -> Fact:
    """Return how the wool is laid up; what is wound round a hard core is not rolled."""
    size, _ = _in_hand(at, form)
    if at.hard_mm:
        kind = "shape.over-hard"
    elif is_on_needle(at, form):
        kind = "shape.on-needle"
    elif is_one_roll(at, form):
        kind = "shape.one-roll"
    elif is_split(at, form):
        kind = "shape.one-ball"
    else:
        kind = f"shape.roll-{form}"
    return fact(kind, part=at.part_name, size=Sizes(size))


def _loose_end_fact(at: StepInPlan, form: str) -> Fact:
    """Return what stays unfelted for the join."""
    if is_one_roll(at, form):
        return fact("shape.cut-roll", fringe=Mm(2 * at.fringe_mm))
    return fact("shape.fringe", fringe=Mm(at.fringe_mm))


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the rolled bundle, where the needle changes, and the finished piece, one in the other."""
    form = at.portion.form if at.portion and at.portion.form in FORMS else "ball"
    middles = [
        slots.change_size(start, mm) for start, mm in zip(at.loose, at.finished, strict=True)
    ]
    drawn = [rolled_outline(form, size) for size in (at.loose, middles, at.finished)]
    if at.taper:
        drawn[2] = tapered(at.finished[0], *at.taper)
    flat = [np.ptp(shape, axis=0) for shape in drawn]
    gap = float(max(flat[0])) * 0.1
    long, tall = (float(v) for v in flat[2])
    lies = form != "ball" or at.taper is not None  # a ball stands on its axis
    names = at.finished[:2] if lies else (at.finished[1], at.finished[0])
    run = card_.needles[0]
    pieces: list[Piece] = [
        DrawnArea(drawn[0], "wool", "hidden"),
        DrawnArea(drawn[1], "none", "hidden"),
        DrawnArea(drawn[2], "core"),
        across((-long / 2, 0.0), (long / 2, 0.0), names[0], -float(flat[0][1]) / 2 - gap),
        *_thickness_measure(at, float(flat[0][0]) / 2 + gap, tall, names[1]),
        stab((0.0, tall / 2 - min(run.depth_mm, tall / 2)), run, 75),
        Number((-float(flat[0][0]) * 0.4, float(flat[0][1]) * 0.36), 1),
        Number((0.0, -tall * 0.12), 3),
    ]
    if at.is_ring:
        for end, way in ((-1, 180.0), (1, 0.0)):
            pieces += fringe((end * long / 2, 0.0), tall, _LOOSE_ENDS_MM, way)
    mm = at.fringe_mm
    if mm and form in ("sausage", "cone"):
        pieces += fringe((-long / 2, 0.0), tall, mm, 180)
    return StepDrawing(tuple(pieces))


def _thickness_measure(
    at: StepInPlan, away: float, tall: float, wide: float
) -> tuple[Measure, ...]:
    """Return the thickness of the finished piece as a measure at this distance from its middle; if it tapers,
    at base and tip."""
    if at.taper is None:
        return (across((0.0, -tall / 2), (0.0, tall / 2), wide, -away),)
    x = at.finished[0] * (0.5 - NEAR_END)
    return at_ends(x, at.taper, away - x, x - away)


SENTENCES: dict[str, str | Plural] = {
    "shape.roll-ball": N_(
        "Roll the wool for {part} tight, a quarter turn each lap, sides in, to {size}."
    ),
    "shape.roll-sausage": N_("Roll an even sheet for {part} tight across its length, to {size}."),
    "shape.on-needle": N_(
        "Hook a strip for {part} over the needle, pinch it and turn till it bites; wind on to {size}, "
        "and draw the needle out."
    ),
    "shape.one-ball": N_("Roll the wool for {part} as one ball, to {size} twice over."),
    "shape.split": N_(
        "Scratch a line round its middle, and drive the needle along it from both sides until the halves "
        "part; then each by itself."
    ),
    "shape.one-roll": N_("Roll one even roll for {part}, twice as long: {size}."),
    "shape.cut-roll": N_(
        "Leave {fringe} in its middle loose and cut it there: both cut ends are the hairy ones."
    ),
    "shape.ends": N_(
        "Leave both its ends loose for a finger’s breadth: they are felted into each other where it is worn."
    ),
    "shape.roll-cone": N_("Roll a tapering sheet for {part} tight, to {size}."),
    "shape.roll-sheet": N_("Fold the wool for {part} in three, to {size}."),
    "shape.over-hard": N_(
        "Wind the rest of the wool for {part} over it, crosswise and taut, to {size}."
    ),
    "shape.gather": N_("Gather the wool for {part} and roll it between the fingers."),
    "shape.squeeze": N_("Squeeze it hard: it should give about {size}."),
    "shape.middle": N_("Stab the edge shut, then towards the middle, turning all the time."),
    "shape.axis": N_("Stab the edge shut, then towards its axis, turning all the time."),
    "shape.change": N_(
        "At {size} on its longest side change to a {needle} needle, and stab closer."
    ),
    "shape.change-across": N_("At {size} across change to a {needle} needle, and stab closer."),
    "shape.closer": N_("Stab closer and shallower as it firms."),
    "shape.flat": N_(
        "Leave the side that will lie on {on} flat and hairy: {wide} wide, it stands out {thick} from there."
    ),
    "shape.flat-wound": N_(
        "Where it will lie along {on}, press it flat on that side: {wide} wide, it stands out {thick} there."
    ),
    "shape.fringe": N_("Leave {fringe} loose at the end that will be joined."),
    "shape.start-ball": N_("The best face outward, the rest gathered behind it."),
    "shape.start-sausage": N_("An uneven sheet makes an uneven limb."),
    "shape.start-cone": N_("More laps where it is thick."),
    "shape.start-sheet": N_("Edges inward."),
    "shape.until": N_("It has its size, and resists a squeeze while the needle still goes in."),
    "shape.until-soft": N_("It has its shape and is still soft: it is firmed where it sits."),
    "shape.scale": N_(
        "Under {apart} it is built in place; what is thicker than {round} takes rounds."
    ),
    "shape.why": N_(
        "The needle takes fibre along the way it goes: a piece shrinks where it is stabbed, "
        "and in that direction."
    ),
}

METHOD = Method("shape", lambda at: at.sort == "core", _card, _picture)
