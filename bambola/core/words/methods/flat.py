"""A flat part."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "flat.blank": N_("Lay the wool to its blank, {wide} × {long}, in crossing layers."),
    "flat.colour": N_(
        "Lay the {place} over it before the edges come in, {wide} × {long}: {wool:lower}, {amount}."
    ),
    "flat.crest": N_(
        "Of the crest the first is {first}, the tallest {tallest} and the last {last} long: the rest grow "
        "between."
    ),
    "flat.pinch": N_("Lay the pinch for {part} flat and fold it once."),
    "flat.scratch": N_(
        "Scratch the finished outline into it with the needle: {long} long, {wide} wide."
    ),
    "flat.fold": N_("Fold the loose edges in to the line, most of it to the middle."),
    "flat.turn": N_("Stab lightly, lift it off the pad and turn it, {turns} times."),
    "flat.edge": N_("Hold the edge in a folded card and stab along it."),
    "flat.foot": N_(
        "Keep its foot {times:.1f} times as thick as its tip: fold most of the loose wool back to there."
    ),
    "flat.cup": N_(
        "Pinch its base together to {by} of a round, lay it on its side, and stab each side till it stays."
    ),
    "flat.folded": N_(
        "Fold its base double along its middle, and stab along the fold till it stays."
    ),
    "flat.fringe": N_("Leave {fringe} loose at its base, and pull half of that off."),
    "flat.start": N_("Pinch it close to the pad to lift it."),
    "flat.start-pair": N_("One strip split lengthwise serves both."),
    "flat.until": N_("It has its outline, no light comes through, and its base is still fluff."),
    "flat.scale": N_(
        "Under {small} long a pinch folded once does; very long ones want a stem inside."
    ),
    "flat.why": N_(
        "A flat piece grows thin where it is stabbed, and felts to the pad: so it is turned "
        "and lifted all the time."
    ),
}
