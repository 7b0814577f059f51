"""What is not wool: its kinds, how it is fixed, what is cut of it and what it takes."""

from __future__ import annotations

from bambola.core.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "stuff.cloth": N_("cloth"),
    "stuff.felt-sheet": N_("felt sheet"),
    "stuff.ribbon": N_("ribbon"),
    "stuff.net": N_("net"),
    "stuff.yarn": N_("yarn"),
    "stuff.thread": N_("thread"),
    "stuff.chenille": N_("chenille"),
    "stuff.paper": N_("paper"),
    "stuff.clay": N_("clay"),
    "fixing.tied": N_("tied"),
    "fixing.knotted": N_("in knotted strips"),
    "fixing.wrapped": N_("wrapped round"),
    "fixing.gathered": N_("gathered"),
    "fixing.sewn": N_("sewn"),
    "fixing.glued": N_("glued"),
    "fixing.threaded": N_("threaded through"),
    "pattern.length": NN_("{long} of {what:lower}", "{n} lengths of {what:lower}, {long} each"),
    "pattern.lump": N_("{grams} of {what:lower}"),
    "pattern.strip": NN_(
        "{n} strip of {what:lower}, {long} × {wide}", "{n} strips of {what:lower}, {long} × {wide}"
    ),
    "pattern.piece": NN_(
        "{n} of {what:lower}, {long} × {wide}", "{n} of {what:lower}, {long} × {wide}"
    ),
    "pattern.added": N_("That is {parts}."),
    "pattern.round": N_("{round} round"),
    "pattern.ease": N_("{mm} of ease"),
    "pattern.overlap": N_("{mm} over itself"),
    "pattern.seam": N_("{mm} at each seam, sewn on the dashed line"),
    "pattern.hem": N_("{mm} turned in at free edges"),
    "pattern.gathered": N_("gathered to {round}, {times:.1f} times as wide"),
    "material.takes": N_("{name:capital}, {wide} wide: {much}"),
    "material.takes-clay": N_("{name:capital}: {much}"),
    "material.buy": N_("{much} of {name:lower}, {wide} wide"),
    "material.buy-clay": N_("{much} of {name:lower}"),
}
