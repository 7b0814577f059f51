"""Fixing what is cut of cloth and the like."""

from __future__ import annotations

from bambola.core.words.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "put-on.try": N_(
        "Try {part} on {on}, pinned, and look at it from all sides before anything is closed."
    ),
    "put-on.hold": N_("Hold {part} in place with two pins and look from all sides."),
    "put-on.over": N_("Pull it over {over}: that is {round} round, and it opens to {opens}."),
    "put-on.before": N_("It goes on now, while {over} is not there yet: later it could not pass."),
    "put-on.closed-round": N_(
        "It could not pass over {over}: leave it open and close it where it is worn."
    ),
    "put-on.tie": N_(
        "Tie it once, flat, the knot behind or to one side, and draw it no tighter than it lies."
    ),
    "put-on.bow": N_("Lay two loops, cross them, pull one through, and even the loops and ends."),
    "put-on.tie-panel": N_(
        "Lay it round {on} and tie it at its upper edge with a strong thread, open in front."
    ),
    "put-on.stitch": N_(
        "Come up from where nobody looks and sew along its line in back stitches, drawn in until they lie "
        "flush, through the wool of {on} and not over it."
    ),
    "put-on.couch": N_(
        "Lay it along its line on {on} and catch it at every {apart} with a thread of its own colour."
    ),
    "put-on.end-in": N_("Draw both ends through to where nobody looks, and trim them flush."),
    "put-on.caught": N_("Catch its end with two stitches where nobody looks."),
    "put-on.band": N_("Tie a thread round {on} where its upper edge will be."),
    "put-on.knot": NN_(
        "Fold each strip in half, loop it over the thread, pull its ends through: {n} in all, side by"
        " side.",
        "Fold each strip in half, loop it over the thread, pull its ends through: {n} in all, side by"
        " side.",
    ),
    "put-on.trim": N_("Trim the ends to one hem with the figure standing."),
    "put-on.wrap": N_("Begin behind, low, and go up round {on}, each turn {over} over the last."),
    "put-on.wind": N_("Begin behind and lay turn beside turn round {on}, close but not tight."),
    "put-on.draw": N_("Lay it round {on} and draw its thread until it closes; knot the thread."),
    "put-on.spread": N_("Spread the gathers evenly with the tip of a needle."),
    "put-on.stitched": N_("Catch every third fold to the wool with one stitch."),
    "put-on.glue": N_("Put a thin line of glue on the overlap only, not on the wool."),
    "put-on.press": N_("Press it between two fingers until it holds, a pin across it."),
    "put-on.thread": N_("Thread a long needle and go through {on} from one side to the other."),
    "put-on.thread-ends": N_(
        "Even both ends, knot or dab each where it leaves the wool, and trim."
    ),
    "put-on.halves": N_(
        "Sew its pieces to each other but for one seam, right sides together, and turn them."
    ),
    "put-on.halves-whole": N_("Sew its pieces to each other, right sides together, and turn it."),
    "put-on.lining": N_(
        "Lay back and front on each other, sew round, leave the foot open and turn it out."
    ),
    "put-on.seam": N_(
        "Close the last seam on the figure, from top to hem, in small stitches of its own colour."
    ),
    "put-on.sew": N_("Catch it to {on} in four places, each stitch deep in the wool."),
    "put-on.sew-felt": N_(
        "Sew it to {on} with a thread of its own colour, through both, the knot on the wrong side."
    ),
    "put-on.start-felt": N_("Cloth takes no wool: what is felted is sewn on it."),
    "put-on.start": N_(
        "{on:capital} is finished: what lies under cloth is neither needled nor brushed again."
    ),
    "put-on.until-worn": N_("It lies as drawn, its hem is level, no pin is left in it."),
    "put-on.until-set": N_(
        "It sits where it is drawn and does not turn, and no pin is left in it."
    ),
    "put-on.scale": N_("Stitches and knots stay as large: fewer of them on a small figure."),
    "put-on.why": N_("What is closed before it is tried on is opened again."),
    "look.sits": N_("Push a finger under its edge, all round."),
    "look.sits.right": N_("It gives a little and comes back."),
    "look.sits.wrong": N_(
        "Tight: open one seam and close it nearer the edge. Loose: take it in behind."
    ),
}
