"""What all cards share: needles, when to stop, amounts."""

from __future__ import annotations

from bambola.core.words.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "run.single": N_("{when}: a {gauge} needle, {depth} deep, {angle} to the surface"),
    "run.holder": N_(
        "{when}: {n} needles of {gauge} in the holder, {depth} deep, {angle} to the surface"
    ),
    "when.first": N_("First"),
    "when.tacked": N_("Once it holds when let go"),
    "when.mid": N_("From the change of needle on"),
    "when.firming": N_("As it firms"),
    "when.then": N_("Then"),
    "when.last": N_("At the end"),
    "when.only": N_("All of it"),
    "when.beside-wire": N_("Beside the wire, slowly"),
    "when.edges": N_("Along the edges"),
    "when.outline": N_("Along the outline"),
    "when.fold": N_("Through each fold"),
    "when.both-sides": N_("From one side, then the other"),
    "when.all-round": N_("All round, from the part into what bears it"),
    "when.rim": N_("Round the rim, when the glue has set"),
    "when.both-ways": N_("Both ways over the join"),
    "when.dimple": N_("For the dimple"),
    "when.rocks": N_("Only where it rocks"),
    "stop.between": N_("{what} {low} to {high}"),
    "stop.nod": N_("it nods as wished, within {off}"),
    "stop.lean": N_("it still stands when it leans by {least}"),
    "drawn.length": N_("{mm}"),
    "drawn.girth": N_("{mm} round"),
    "drawn.needle": N_("{gauge}: {depth} deep, {angle}"),
    "measure.at-base": N_("thickness at its base"),
    "measure.at-middle": N_("in its middle"),
    "measure.at-tip": N_("near its tip"),
    "measure.flat": N_("height over its flat side"),
    "measure.proud": N_("height above the skin"),
    "measure.seat": N_("width of the seat"),
    "measure.tilt": N_("tilt"),
    "measure.lean": N_("lean"),
    "as-first": N_("Do it as at its twin, step {n}, and look at the two side by side as you go."),
    "pair.uneven": N_(
        "The two differ: give the one on the {side} {by} more than is told, and the other as much less."
    ),
    "amount.of": N_("{wool}: {amount}"),
    "amount.each": N_("For each of the {n}, {amount:first lower}"),
    "amount.for-all": N_("{amount}; for all {n} figures {all}"),
    "amount.for-others": NN_(
        "{amount}; for the one after the trial {all}", "{amount}; for the {n} after the trial {all}"
    ),
    "amount.so-each": N_("{amount}; so for each of the {n} figures"),
    "amount.twice": N_("For each of the two, {amount:first lower}"),
    "by-hand.weight": N_("{weight}, a loose ball {ball} across"),
    "by-hand.weight-strip": N_("{weight}, or {long} of a top split in four"),
    "by-hand.strip": N_("{long} of a top split in four, or a loose ball {ball} across"),
    "by-hand.ball": N_("a loose ball {ball} across"),
    "by-hand.pinch-paper": N_(
        "a pinch that fingers roll to {pinch}; a square of writing paper of {paper} weighs as much"
    ),
    "by-hand.pinch": N_("a pinch that fingers roll to {pinch}"),
    "by-hand.hairs": N_("a wisp of {low} to {high} hairs, which fingers roll to {pinch}"),
}
