"""Built in place."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

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
    "in-place.why": N_("What is too small to hold is built where it sits, and needs no join."),
}
