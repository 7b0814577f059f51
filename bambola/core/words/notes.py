"""What is said of a list of parts that a maker noted."""

from __future__ import annotations

from bambola.core.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "notes.no-name": N_("The name is missing: write what it is, such as “head 48”."),
    "notes.size": N_("{size} is not a size for such a part: write it like {example}."),
    "notes.count": N_("{n} of them are too many: up to 60 go into a row."),
    "notes.too-long": N_("Too long: at most {most} lines of {characters} characters are read."),
    "notes.nothing": N_("No parts yet: write one line for each, such as “head 48”."),
    "notes.likely": N_("“{name}” is not known; taken for “{likely}”."),
    "notes.unknown": N_("“{name}” is not known; taken for {form}."),
    "notes.form.ball": N_("a ball"),
    "notes.form.pad": N_("a half ball"),
    "notes.form.cone": N_("a cone"),
    "notes.form.limb": N_("a limb"),
    "notes.form.leaf": N_("a flat piece"),
    "notes.form.sausage": N_("a roll"),
    "notes.form.ring": N_("a ring"),
    "notes.form.eyes": N_("eyes"),
    "notes.taken": N_("{name}: {side} taken as {mm}"),
    "notes.side.width": N_("width"),
    "notes.side.depth": N_("depth"),
    "notes.side.height": N_("height"),
    "notes.side.length": N_("length"),
    "notes.side.thickness": N_("thickness"),
    "notes.side.base": N_("width at its base"),
    "notes.side.tip": N_("width at its tip"),
    "notes.girth": N_("{name}: {round} round is read with the tape, {wide} across"),
    "notes.across": N_("{name}: {round} round is read as {wide} across"),
    "notes.at": N_("Line {line}: {why}"),
    "notes.bears": N_("“{on}” sits on “{part}”: keep its line, or remove both."),
    "notes.scaled": N_("Your sizes come to {typed}; all of them are scaled to {percent} %."),
    "strokes.no-picture": N_("Stroke {n}, {name}: no picture is given of this view: {view}."),
    "strokes.outside": N_(
        "Stroke {n}, {name}: {x}, {y} lies outside the picture ({view}), which is {wide} by {high} pixels."
    ),
    "strokes.draw-root": N_("{name}: draw along it from end to end."),
    "strokes.draw-up": N_("{name}: draw from its lowest point to its highest."),
    "strokes.draw-along": N_("{name}: draw along it, from the {on:lower} to its tip."),
    "strokes.draw-out": N_("{name}: draw along it, from where it is joined to its tip."),
    "strokes.draw-round": N_("{name}: draw across it, from edge to edge."),
    "strokes.same": N_("{name}: {measure} taken as its {other}"),
    "strokes.share": N_("{name}: {measure} taken as {share} of its {other}"),
    "strokes.taken": N_("{name}: {measure} taken as {mm}"),
    "notes.high": N_("{typed} high as typed"),
}
