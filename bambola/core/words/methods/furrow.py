"""Furrows between toes or lobes."""

from __future__ import annotations

from bambola.core.words.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "furrow.anchor": N_("Anchor strong thread in {part} where nobody looks."),
    "furrow.over": N_(
        "Come up at the furrow, over, and down again; pull till it lies {deep} deep."
    ),
    "furrow.through": N_(
        "Bring strong thread up through the middle of {part}, from its base to its top."
    ),
    "furrow.round": N_(
        "Lay it down over the outside and up through again; pull till it lies {deep} deep."
    ),
    "furrow.all-round": N_(
        "{n} threads all round, about {apart} apart where it is thickest: they need not be even."
    ),
    "furrow.two": N_("Take the thread double: so wide a part opens a single one."),
    "furrow.next": NN_(
        "One furrow, its two lobes {apart} wide each.",
        "{n} furrows in all, {apart} from one to the next.",
    ),
    "furrow.bury": N_("Bury the tail, two stitches deep, and snip it."),
    "furrow.pull-out": N_("Draw the wool out a little between them with the needle’s eye."),
    "furrow.groove": N_("Groove the line in {part} with the needle, {deep} deep, to and fro."),
    "furrow.start": N_("Strong thread in the wool’s own colour."),
    "furrow.start-groove": N_("So narrow a part takes no thread: the needle does it."),
    "furrow.until": N_("All furrows are as deep, and the lobes between them as round."),
    "furrow.scale": N_("The number stays; what is grooved small is sewn large."),
    "furrow.why": N_("Thread holds a furrow open that felting alone closes again."),
    "measure.furrow": N_("deep"),
}
