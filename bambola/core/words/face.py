"""The face: its marks, and where they lie."""

from __future__ import annotations

from bambola.core.marked import N_

SENTENCES = {
    "face.middle": N_("{name}, middle"),
    "face.bend": N_("{name}, point {n}"),
    "face.end": N_("{name}, its end"),
    "face.inner-end": N_("{name}, inner end of its base"),
    "expression.happy": N_("happy"),
    "expression.sad": N_("sad"),
    "expression.sleepy": N_("sleepy"),
    "expression.alert": N_("alert"),
    "expression.gentle": N_("gentle"),
    "level.yes": N_("Level: both sides are alike."),
    "level.left": N_(
        "The left one sits {off} farther off. Squeeze the head true in your hands first; then move both "
        "by {half} towards each other."
    ),
    "level.right": N_(
        "The right one sits {off} farther off. Squeeze the head true in your hands first; then move both "
        "by {half} towards each other."
    ),
    "face.smaller": N_(
        "A small face says less: one groove for nose and mouth, no rims and no lids,"
        " and eyes a little larger."
    ),
    "face.bigger": N_(
        "A large face wants more: sockets, lids and rims, nostrils, a crease or two, and finer lines."
    ),
    "face.outer-end": N_("{name}, outer end of its base"),
}
