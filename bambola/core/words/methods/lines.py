"""Patches drawn as lines."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "lines.dot": N_("Dot their course on {part} with the needle."),
    "lines.pins": N_("Set pins along its curve on {part}, and lay the thread along them."),
    "lines.draw": N_("Draw a wisp long without parting it, and twist it to {line}."),
    "lines.ends": N_("Fix both ends, then follow the dots between."),
    "lines.trim": N_("Trim it flush, and go over it once."),
    "lines.start": N_("A wisp of the patch’s wool, longer than the line."),
    "lines.until": N_("The lines lie on the skin, as wide as each other."),
    "lines.scale": N_("A line keeps its width: on a larger figure it is a patch again."),
    "lines.why": N_(
        "A patch narrower than this frays into its ground: a twisted thread stays a line."
    ),
}
