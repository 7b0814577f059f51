"""A row of fur."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "fur.first": N_("Begin {part} at the edge that the hair points to."),
    "fur.first-at": N_("Begin at the edge of the {place} on {part} that the hair points to."),
    "fur.next": N_("Set this row {apart} from the last, over its roots."),
    "fur.rows": N_("Set each next row {apart} from the last, over its roots."),
    "fur.bunch": N_("Lay bunches {wide} wide side by side."),
    "fur.by-fold": N_(
        "Stab each across its middle, fold it over, and stab the fold: {hair} of hair hangs free."
    ),
    "fur.by-middle": N_("Stab each across its middle, and trim it to {hair} when the row is full."),
    "fur.by-locks": N_("Press each in whole, by its root: {hair} of it hangs free."),
    "fur.by-laid": N_(
        "Lay each from its base over the part, fix it there by one line of stabs, and leave the rest: {hair} "
        "lies free."
    ),
    "fur.as-before": N_("Lay it as the row before, bunch by bunch to the last gap."),
    "fur.leaves": N_("Leave {places} free: other hair grows there, or none."),
    "fur.close": N_("Close the last gap with a thinner bunch."),
    "fur.start-fleece": N_("Lay all tips the same way."),
    "fur.start-locks": N_("Pull the locks apart, and sort them by their length."),
    "fur.start-pile": N_("Trim both ends square before you lay it."),
    "fur.until": N_("Rubbed, nothing lifts, and no line of stabs shows."),
    "fur.scale": N_("Hair keeps its length: a small figure takes fewer rows."),
    "fur.why": N_("Hair is held at its root alone. Each row hides the roots of the one before it."),
}
