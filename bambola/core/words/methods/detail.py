"""A drawn detail."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "detail.dot": N_("Dot {part} out with the needle."),
    "detail.draw": N_(
        "Draw a wisp long without parting it, {long} and some more, and twist it to {line}."
    ),
    "detail.ends": N_("Fix both ends, then follow the dots, twisting again as you go."),
    "detail.trim": N_("Trim what is left over flush with the skin, and go over it once."),
    "detail.start": N_("Wool that lies all one way, longer than needed."),
    "detail.until": N_("It lies on the skin, as wide all along."),
    "detail.scale": N_("A line keeps its width at most sizes; larger heads bear a wider one."),
    "detail.why": N_(
        "So thin a thing cannot be held and felted alone: a thread is laid where it belongs."
    ),
}
