"""The coat."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "coat.tear": N_("Tear the wool into {n} veils that you could read through."),
    "coat.first": N_("Lay the first over {part} as the hair grows, {over} past where it ends."),
    "coat.edges": N_("Fix the edges first, stroke it flat, then all over."),
    "coat.cross": N_("Lay the next ones crosswise."),
    "coat.band": N_("Pull a band {wide} wide, and fix one end of it at the end of {part}."),
    "coat.wind": N_("Wind it on taut, half over itself, and felt each lap before the next."),
    "coat.end": N_("End it where it will be joined, or below."),
    "coat.over": N_("Draw the last veil from {bearer} over it in one: no seam is seen then."),
    "coat.bare": N_("Stop at {at}: it stays bare there."),
    "coat.light": N_("Look in slanting light, and add a wisp where the core shows."),
    "coat.start": N_("Pale wool before dark, with clean hands."),
    "coat.until": N_("No core shows at arm’s length nor in slanting light."),
    "coat.scale": N_(
        "A coat is as thick at any size: on a small figure it takes more of the part."
    ),
    "coat.why": N_(
        "Edges first: stabbing the middle would draw all of it inward and leave the rim bare."
    ),
}
