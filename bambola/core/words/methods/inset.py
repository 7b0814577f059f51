"""A patch of another colour."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "inset.scratch": N_("Scratch its outline on {part}."),
    "inset.edges": N_("Lay thin pinches along the outline first, then fill inward."),
    "inset.tuck": N_("Later the coat is brought to its line and tucked {under} under."),
    "inset.abut": N_("Later the coat is brought to its line, edge to edge."),
    "inset.thread": N_("Lay a thread of its wool along the line, and fix that first."),
    "inset.wind": N_("Wind a wisp of its wool round, first along the line."),
    "inset.cap": N_("Fold the wisp over the end, and stab it down from all sides."),
    "inset.fill": N_("Fill from there to the middle, pinch by thin pinch."),
    "inset.even": N_("Even the halves by adding to the small side."),
    "inset.start": N_("Thin pinches: the right amount for a mark looks far too little."),
    "inset.until": N_("No ground shows through, and both halves are alike."),
    "inset.until-one": N_("No ground shows through, and its edge is a line."),
    "inset.scale": N_("The overlap stays the same at any size; small patches are laid on top."),
    "inset.why": N_(
        "Fibres are drawn inward from the edge; so the edge is set first, and what is inside follows."
    ),
}
