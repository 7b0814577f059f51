"""What records have taught, in words: the time for each sort of work, and its uncertainty."""

from __future__ import annotations

from bambola.core.book.came_out import HeldJoins
from bambola.core.wool.learning import Estimate
from bambola.language import N_, tr, trn

_SORTS = {
    "": N_("all work"),
    "core": N_("cores"),
    "coat": N_("coats"),
    "inset": N_("colours laid on"),
    "face": N_("the face"),
    "fur": N_("fur"),
    "join": N_("joins"),
    "pair": N_("pairs joined"),
    "blend": N_("blending joins"),
    "cut": N_("cutting wire"),
    "bend": N_("bending wire"),
    "fit": N_("setting eyes and the like"),
    "mark": N_("marking"),
    "check": N_("looking it over"),
    "finish": N_("smoothing"),
    "pattern": N_("cutting out"),
}


_NARROW = {
    "soft": N_("soft"),
    "medium": N_("medium"),
    "firm": N_("firm"),
    "hard": N_("hard"),
    "small": N_("small ones"),
    "middling": N_("middling ones"),
    "large": N_("large ones"),
}
"""Of what firmness and size."""


def hours_words(found: Estimate) -> str:
    """Return one learned number of the hours with its uncertainty and the number of steps or pieces behind
    it."""
    sort, *narrow = found.what.split(":")[1:] or [""]
    named = [
        tr(_SORTS.get(sort, N_("other work"))),
        *(tr(_NARROW.get(word, word)) for word in narrow),
    ]
    return trn(
        "{sort}: × {value:.2f} ({low:.2f} to {high:.2f}), from {n} at the clock",
        "{sort}: × {value:.2f} ({low:.2f} to {high:.2f}), from {n} at the clock",
        len(found.records),
        sort=", ".join(named),
        value=found.value,
        low=found.low,
        high=found.high,
    )


_JOINED = {
    "fringe": N_("Joins of wool alone"),
    "patch": N_("Joins under a patch"),
    "scarf": N_("Joins under a scarf of wool"),
    "peg": N_("Joins on a wire peg"),
    "wire": N_("Joins on wire"),
}


def held_words(found: HeldJoins) -> str:
    """Return how many joins of a kind held, and the credible share."""
    return tr(
        "{joins}: {held} of {of} held ({low:.0f} to {high:.0f} %)",
        joins=tr(_JOINED.get(found.kind, N_("Joins"))),
        held=found.held,
        of=found.of,
        low=found.low * 100,
        high=found.high * 100,
    )
