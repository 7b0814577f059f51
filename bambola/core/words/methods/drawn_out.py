"""Drawing a part out of what it sits on."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "drawn-out.pinch": N_("Pinch {part} up out of the soft ball, a lump {wide} across."),
    "drawn-out.rest": N_("Then felt {part} firm all over, to {size}."),
    "drawn-out.tease": N_("Tease out of the soft ball what {part} takes, and draw it long."),
    "drawn-out.twist": N_("Twist and wind it, to {size}: no wool is added."),
    "drawn-out.along": N_("Stab along it, turning it, and round its foot."),
    "drawn-out.line": N_(
        "Stab the dividing line close together, {wide} across, and pinch along it."
    ),
    "drawn-out.round": N_("Round it as a piece of its own, the needle to its axis."),
    "drawn-out.forward": N_("Squeeze its sides, so that it grows outward, and fix it there."),
    "drawn-out.again": N_("Go over all of it again, closer; the line last."),
    "drawn-out.start": N_("The ball still takes the needle easily: no wool is added."),
    "drawn-out.until": N_("It has its size, and the line is seen all round."),
    "drawn-out.scale": N_("It does best on small figures; on large ones parts are made apart."),
    "drawn-out.why": N_(
        "One mass needs no join: a line of close stabs draws the wool in, and what lies beyond "
        "stands out."
    ),
}
