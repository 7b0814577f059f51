"""Cutting what is not wool."""

from __future__ import annotations

from bambola.core.words.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "cut-out.panel": NN_(
        "Print its pattern at true size. Cut {n} piece of {what:lower} along the outer line, {wide} ×"
        " {long}.",
        "Print its pattern at true size. Cut {n} pieces of {what:lower} along the outer line, {wide} "
        "× {long}.",
    ),
    "cut-out.gore": NN_(
        "Print its pattern at true size. Cut {n} piece of {what:lower} along the outer line, {wide} ×"
        " {long}.",
        "Print its pattern at true size. Cut {n} alike of {what:lower} along the outer line, {wide} ×"
        " {long}.",
    ),
    "cut-out.outline": NN_(
        "Print its pattern at true size. Cut {n} of {what:lower} along the outer line, {wide} × "
        "{long}.",
        "Print its pattern at true size. Cut {n} of {what:lower} along the outer line, {wide} × "
        "{long}.",
    ),
    "cut-out.sheet": NN_(
        "Cut {n} piece of {what:lower}, {wide} × {long}.",
        "Cut {n} pieces of {what:lower}, each {wide} × {long}.",
    ),
    "cut-out.band": NN_(
        "Cut {n} band of {what:lower}, {long} long and {wide} wide.",
        "Cut {n} bands of {what:lower}, each {long} long and {wide} wide.",
    ),
    "cut-out.strip": NN_(
        "Cut {n} strip of {what:lower}, {long} long and {wide} wide.",
        "Cut {n} strips of {what:lower}, each {long} long and {wide} wide.",
    ),
    "cut-out.length": NN_(
        "Cut {long} of {what:lower}.", "Cut {n} lengths of {what:lower}, each {long}."
    ),
    "cut-out.grain": N_(
        "Lay it so that its length follows the threads; across them it would stretch."
    ),
    "cut-out.turned-over": N_(
        "Turn the paper over for every other one, so that they mirror each other."
    ),
    "cut-out.round-tied": N_("That goes {round} round and leaves what the knot takes."),
    "cut-out.round-overlap": N_("That goes {round} round, and {over} over itself."),
    "cut-out.round-seam": N_("That goes {round} round, and {seam} at each edge to sew."),
    "cut-out.hem": N_(
        "It frays: turn {hem} in at each free edge, or seal the edge with thin glue."
    ),
    "cut-out.raw": N_("Its edge does not fray and stays as it is cut."),
    "cut-out.ends": N_("Both ends are drawn in later: leave them long."),
    "cut-out.ribbon": N_("Cut its ends slanting and seal them with thin glue: they fray."),
    "cut-out.frays": N_("Its edges fray: seal them with thin glue, or leave a fringe on purpose."),
    "cut-out.chenille": N_("Snip it with pliers and turn each end over."),
    "cut-out.gather": N_(
        "Run a thread along its upper edge in even stitches: drawn in, it goes {round} round."
    ),
    "cut-out.clay": N_(
        "Knead {amount} of {what:lower} until it is warm, and shape it to its size."
    ),
    "cut-out.clay-hole": N_("Make the hole for its wire or thread while it is soft."),
    "cut-out.clay-dry": N_("Dry it as its packet says, turned over once."),
    "cut-out.start": N_(
        "Cloth is no thinner on a small figure: nothing is folded that can lie flat."
    ),
    "cut-out.start-length": N_("Longer than it seems: what is short is short for good."),
    "cut-out.until": N_("It is as large as its pattern, and its edges are clean."),
    "cut-out.until-clay": N_("It is hard, and its size has held."),
    "cut-out.scale": N_(
        "Its drop and girth go with the figure; thickness, weave and knots do not."
    ),
    "cut-out.scale-clay": N_(
        "Clay is as hard at any size, and heavier than wool: a large piece wants a wire."
    ),
    "cut-out.why": N_("Paper costs nothing: what is tried in paper is cut once."),
    "look.paper-first": N_("Hold the paper where it will be before you cut."),
    "look.paper-first.right": N_("It reaches round and closes, and hangs as far as drawn."),
    "look.paper-first.wrong": N_(
        "Measure round the piece in hand and move the edge of the paper by what is missing."
    ),
    "look.cut-twice": N_("Lay it where it will go before you snip."),
    "look.cut-twice.right": N_("It reaches, with both ends to spare."),
    "look.cut-twice.wrong": N_("Measure the way again along the wool, with a thread."),
}
