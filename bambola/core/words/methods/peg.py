"""A peg and its hole."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "peg.open": N_("Open the hole for {part}, {deep} deep, turning the awl."),
    "peg.try": N_(
        "Try the peg, {gauge}, dry: the awl stays in until the glue is ready, for holes close."
    ),
    "peg.glue": N_("Glue on the bare wire only, for {part}."),
    "peg.push": N_("Push it home, {deep}."),
    "peg.hold": N_("Hold it until it does not move."),
    "peg.rim": N_("Felt the rim when the glue has set."),
    "peg.start": N_("All needlework nearby is done first: glue spoils needles."),
    "peg.until": N_("It does not turn, and its rim lies on."),
    "peg.until-hole": N_("The peg goes in to its mark and stands straight."),
    "peg.scale": N_("Large heads want two pegs; a peg under {least} does nothing."),
    "peg.why": N_("Glue holds wire better than felt holds felt where the weight is large."),
}
