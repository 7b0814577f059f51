"""A thing that is no eye."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "thing.dent": N_("Stab a dent for {what}, {deep} deep, where it will sit."),
    "thing.try": N_("Try it dry, and look from all sides."),
    "thing.drop": N_("A drop of glue into the dent, none on the wool round it."),
    "thing.hold": N_("Press it in, and hold it till the glue takes."),
    "thing.hole": N_("Open a hole for {what} with the awl, {deep} deep."),
    "thing.push": N_("A touch of glue on the stem, and push it in to its foot."),
    "thing.close": N_("Stab the wool close round the stem, beside it, never on it."),
    "thing.bend": N_("Take a turn in the middle of {what}: the turn will hold it."),
    "thing.draw": N_(
        "Draw one half through with a darning needle, until the turn lies in the wool."
    ),
    "thing.stay": N_("A drop of glue on the turn, and a wisp over it."),
    "thing.curl": N_("Curl them over a rod, and snip them in pairs."),
    "thing.until-through": N_("A pull moves neither half, and both are as long as each other."),
    "thing.thread": N_("Bring the thread up from below where {what} will sit, its end knotted."),
    "thing.twice": N_("Go twice through it and down again, and pull it into the wool."),
    "thing.knot": N_("Knot under the wool, and snip the end so that it springs in."),
    "thing.start": N_("The wool under it is finished."),
    "thing.until-glued": N_("It sits without rocking, and no glue shows."),
    "thing.until-pushed": N_("It does not turn, and the wool closes round it."),
    "thing.until-sewn": N_("It does not lift, and no thread shows."),
    "thing.scale": N_("A bought thing keeps its size: look whether it still suits the figure."),
    "thing.why": N_("Wool holds what it encloses; glue on its surface only stiffens it."),
}
