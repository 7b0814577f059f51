"""What a new size changes in the making, and why."""

from __future__ import annotations

from bambola.core.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "change.made": N_("{part}: {was} before, {now} now"),
    "change.rounds": NN_(
        "{part}: core in {n} round, not {was}", "{part}: core in {n} rounds, not {was}"
    ),
    "change.row": NN_("{part}: {n}, not {was}", "{part}: {n} of them, not {was}"),
    "change.wires": NN_("{n} wire to cut, not {was}", "{n} wires to cut, not {was}"),
    "change.loses-core": N_("{part}: made of its coat’s wool alone, without a core"),
    "change.gains-core": N_("{part}: made with a core under its coat"),
    "change.becomes-lines": N_("{part}: the {inset} drawn with a thread, no patch any more"),
    "change.becomes-patch": N_("{part}: the {inset} laid as a patch, not drawn"),
    "change.join": N_("{part}: joined by {now}, not by {was}"),
    "change.gains-peg": N_("{part}: gains a wire peg, where a {was} was enough"),
    "change.loses-peg": N_("{part}: loses its wire peg, joined by {now} alone"),
    "change.fur-rows": NN_("{part}: {n} fur row, not {was}", "{part}: {n} fur rows, not {was}"),
    "change.goes-on-before": N_("{part}: goes on before the {over:lower}, not after it"),
    "change.goes-on-after": N_("{part}: goes on after the {over:lower}, not before it"),
    "change.needle": N_("{part}: needle {now}, not {was}"),
    "change.firmed-on-body": N_("{part}: firmed on the body, not apart"),
    "change.firmed-apart": N_("{part}: firmed apart, not on the body"),
    # Causes.
    "cause.rounds": N_("The core was {was} thick and is {now}; up to {once} it is rolled at once."),
    "cause.fur-rows": N_(
        "They cover {now} where they covered {was}, a row every {every}: hair of {hair} does not grow with "
        "it."
    ),
    "cause.row": N_("Each was {was} long and is {now}."),
    "cause.folded": N_("Under {under} one wire goes out and back: there is no room for bindings."),
    "cause.lines": N_("Narrower than {under} a patch frays: it is drawn with a thread."),
    "cause.smallest": N_("It was {was} at its smallest and is {now}."),
    "cause.needle": N_("Over {stout} takes a 36, from {middle} a 38, below that a 40."),
    "cause.loses-core": N_("Within its coat there is no room for one."),
    "cause.gains-core": N_("Within its coat there is room for one now."),
    "cause.firmed": N_("Soft wool grips better under {small}."),
    "cause.wire": N_("A wire runs in it now."),
    "cause.no-wire": N_("No wire runs in it now."),
    "cause.thread": N_("Under {under} it is a thread of wool."),
    "cause.apart": N_("Under {under} it cannot be held while it is felted."),
    "cause.built-in-place": N_(
        "A part built in place grows on the part that bears it, and needs nothing to hold it."
    ),
    "cause.chosen": N_("You chose it."),
    "cause.join-lifted": N_(
        "If you lift the figure by it and jerk it, a {kind} join held {was} and would "
        "now hold {now}; a {other} holds {instead}."
    ),
    "cause.join-weight": N_(
        "Jerked under its own weight, a {kind} join held {was} and would now hold "
        "{now}; a {other} holds {instead}."
    ),
    "cause.dress": N_(
        "The {over:lower} was {was} round and is {now}; its opening stretched to {stretched} and stretches "
        "to {stretches}."
    ),
    "cause.dress-same": N_(
        "The {over:lower} was {was} round and is {now}; its opening stretches to {stretches}."
    ),
    # Clothes.
    "worn.not": N_("not clothing"),
    "worn.pulled-over": N_("pulled over"),
    "worn.wrap": N_("a wrap"),
    "worn.sash": N_("a tied sash"),
    "worn.skirt": N_("a skirt of strips"),
    "dress.skirt": NN_(
        "Cut {n} strip of {cut} and knot it on.", "Cut {n} strips of {cut} and knot them on."
    ),
    "dress.tied": N_("Tied, it passes anything."),
    "dress.cut-and-tie": N_("Cut {cut}, knot and tails included; tied, it goes on over anything."),
    "dress.bought-passes": N_(
        "It is bought, {round} round; stretched to {stretched} it passes over the {over:lower}, which is "
        "{passes} round."
    ),
    "dress.bought-stops": N_(
        "It is bought, {round} round; stretched to {stretched} it does not pass over the {over:lower}, which "
        "is {passes} round."
    ),
    "dress.cut-passes": N_(
        "It is cut {round} round; stretched to {stretched} it passes over the {over:lower}, which is "
        "{passes} round."
    ),
    "dress.cut-stops": N_(
        "It is cut {round} round; stretched to {stretched} it does not pass over the {over:lower}, which is "
        "{passes} round: it is closed where it is worn, or put on before."
    ),
    "dress.felt-passes": N_(
        "Its felt goes {round} round; stretched to {stretched} it passes over the {over:lower}, which is "
        "{passes} round."
    ),
    "dress.felt-stops": N_(
        "Its felt goes {round} round; stretched to {stretched} it does not pass over the {over:lower}, which "
        "is {passes} round."
    ),
    "dress.hides": N_("It lies over the {parts:lower}: no coat is needed there."),
}
