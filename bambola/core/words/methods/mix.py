"""Mixing a wool."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "mix.take": N_("Take {of}: all that the figure needs, at once."),
    "mix.part": N_("{weight} of {wool:lower}"),
    "mix.lay": N_(
        "Tear all of it into thin strips, and lay them on each other, the colours in turn."
    ),
    "mix.pull": N_(
        "Pull them apart lengthwise and lay them together again: {mottled} times for mottled, {even} "
        "for even."
    ),
    "mix.from": N_("Weigh out from it wherever a card asks for {wool:lower}."),
    "mix.start": N_("A second mixing never comes out alike: mix enough."),
    "mix.until": N_("No strip of one colour is left that you do not want to see."),
    "mix.why": N_("Wool has no paint: only fibres side by side make a colour in between."),
    "look.mixed": N_("Roll a pinch to a ball, and look at it from an arm’s length."),
    "look.mixed.right": N_("It is the colour you want."),
    "look.mixed.wrong": N_("Add a little of one, and pull all of it apart again."),
}
