"""A core in rounds."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "rounds.of": N_("This is round {n} of {of}."),
    "rounds.first": N_("Roll the wool of this round tight and felt {part} to {size}."),
    "rounds.first-wound": N_("Wind the wool of this round on tight, and felt {part} to {size}."),
    "rounds.next": N_(
        "Wind a strip about {wide} wide on, taut, across the last one; pin its start."
    ),
    "rounds.tight": N_("Shut its edge first, then stab towards the middle, turning."),
    "rounds.through": N_("Stab through it into what is beneath."),
    "rounds.measure": N_("Measure: this round ends at {size}."),
    "rounds.try-on": N_(
        "Before it, pin {head} on and look from four sides: lay more of this round where shoulders or "
        "chest lack."
    ),
    "rounds.wire": N_("Stab slowly and beside the wire."),
    "rounds.start": N_(
        "Part the core’s wool into its rounds before you begin; scraps do for the first."
    ),
    "rounds.cross": N_("Each strip lies across the grain of the last."),
    "rounds.until": N_("It has the size of this round, and no layer slides under the thumb."),
    "rounds.until-last": N_("It has its finished size, and resists when squeezed."),
    "rounds.scale": N_(
        "A core up to {once} thick is rolled at once; every {more} more takes another round."
    ),
    "rounds.why": N_(
        "Squeezed, a core of this size is not reached to its middle. In rounds of equal wool, each is "
        "firm before the next covers it."
    ),
}
