"""A shape rolled in the hand."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

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
