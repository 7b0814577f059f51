"""Setting eyes with glue."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "eye.pin": N_("A pin for each eye, with a head {eye} across."),
    "eye.pin-bead": N_("No pin has so large a head: thread a bead of {eye} on a pin for each eye."),
    "eye.pin-cut": N_("Cut each shaft to {long} under a cloth: ends fly."),
    "eye.snip": N_("Snip each shank to no more than {most}: longer comes out at the back."),
    "eye.awl": N_("Open the hole once more: holes close."),
    "eye.glue": N_("Glue on the shank of {what}, not on the wool."),
    "eye.press": N_("Press each home and turn it a little."),
    "eye.band": N_("A band round the head holds them while the glue dries."),
    "eye.start": N_("The head is firm by now."),
    "eye.until": N_("Both are level, both ways up, and no glue shows."),
    "eye.scale": N_("A shank is shorter than four fifths of the head is deep."),
    "eye.why": N_(
        "Glue on the shank is out of sight; on the wool it hardens, and no needle goes in any more."
    ),
}
