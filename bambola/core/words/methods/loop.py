"""The loop."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "loop.at": N_("Mark its place {high} above the lowest point, right over the weight."),
    "loop.over": N_("Mark its place where the figure hangs level on a needle."),
    "loop.anchor": N_("Anchor strong thread out of sight."),
    "loop.try": N_("Let it hang from the thread, and move it until it hangs as wished."),
    "loop.sew": N_("Two stitches more, and bury the end."),
    "loop.until": N_("It hangs as wished, and a tug does not move the loop."),
    "loop.scale": N_("Thread stays as strong; a large figure wants a wire ring."),
    "loop.why": N_("It hangs from above its middle, or it tips."),
}
