"""Smoothing."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "finish.over": N_("Go over all of it, shallow and close."),
    "finish.over-bare": N_("Go over all bare felt, shallow and close. Spare {spared}."),
    "finish.spare-eyes": N_("eyes"),
    "finish.spare-clothes": N_("clothes"),
    "finish.spare-fur": N_("fur"),
    "finish.rub": N_("Rub with a fingertip and look for pits."),
    "finish.veil": N_("A veil where pits or grey show, the needle almost flat."),
    "finish.trim": N_("Pull out what does not felt, and trim flat on the skin."),
    "finish.until": N_("No hair stands up and no pit is seen."),
    "finish.scale": N_("It takes as long as there is skin: four times for twice the height."),
    "finish.why": N_("Shallow and close makes skin; deep stabs now would leave pits."),
}
