"""Joining a part."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

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
