"""Furrows between toes or lobes, pulled in with thread or grooved with the needle."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, NN_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import (
    DrawnArea,
    DrawnLine,
    Number,
    Piece,
    StepDrawing,
    line,
    oval,
)
from bambola.core.methods.parts import SQUARE, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method

GROOVED_MM, TWO_THREADS_MM = 12.0, 40.0
"""Under the first across a furrow is grooved with the needle alone, over the second two threads are taken.
Judged. See craft.md, 10."""
PULL_MM = (1.0, 2.0)
"""How deep a furrow is. Judged. See craft.md, 10."""


def _width_across(at: StepInPlan) -> float:
    """Return the width of the part across its furrows: its middle size."""
    return sorted(at.finished)[1]


def gap_mm(wide: float, furrows: int) -> float:
    """Return the spacing of furrows that divide a width into equal lobes."""
    return wide / (furrows + 1)


SEGMENTS, ROUND = 4, 0.85
"""A part as deep as wide, to this share, with so many furrows is a gourd: they run all round, from end to
end. Judged. See craft.md, 10."""


def is_segmented(at: StepInPlan) -> bool:
    """Return whether the furrows run all round through the part's ends, as on a gourd or a shell."""
    _, wide, deep = at.placed[0].shape.extents()
    round_ = min(wide, deep) >= ROUND * max(wide, deep)
    return at.body.furrows >= SEGMENTS and at.placed[0].shape.start_form == "ball" and round_


def _card(at: StepInPlan) -> Card:
    wide, n = _width_across(at), at.body.furrows
    apart, pull = gap_mm(wide, n), min(PULL_MM[1], max(PULL_MM[0], 0.1 * at.thick))
    thread = wide >= GROOVED_MM
    around = (
        fact("furrow.through", part=at.part_name),
        fact("furrow.round", deep=Mm(pull)),
        fact("furrow.all-round", n=n, apart=Mm(np.pi * wide / n)),
        Fact("furrow.bury"),
        Fact("furrow.pull-out"),
    )
    stitches = (
        fact("furrow.anchor", part=at.part_name),
        fact("furrow.over", deep=Mm(pull)),
        Fact("furrow.two") if wide > TWO_THREADS_MM else None,
        fact("furrow.next", n=n, apart=Mm(apart)),
        Fact("furrow.bury"),
        Fact("furrow.pull-out"),
    )
    grooves = (
        fact("furrow.groove", part=at.part_name, deep=Mm(pull)),
        fact("furrow.next", n=n, apart=Mm(apart)),
    )
    return card(
        at,
        "furrow",
        around if thread and is_segmented(at) else stitches if thread else grooves,
        start=Fact("furrow.start" if thread else "furrow.start-groove"),
        needles=(run(40, pull, SQUARE, "only"),),
        stops=(stop("furrow", *PULL_MM),),
        until=Fact("furrow.until"),
        checks=(check("furrow-even"),),
        scale=Fact("furrow.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return a section across the lobes, the thread in the furrows between them."""
    wide, n = _width_across(at), at.body.furrows
    apart, deep, high = gap_mm(wide, n), card_.needles[0].depth_mm, at.thick
    x = np.linspace(-wide / 2, wide / 2, 40 * (n + 1) + 1)
    crown = high / 2 * np.sqrt(np.maximum(0.0, 1 - (2 * x / wide) ** 2))
    furrows = [-wide / 2 + apart * (k + 1) for k in range(n)]
    dip = sum(deep * np.exp(-(((x - at_) / (0.12 * apart)) ** 2)) for at_ in furrows)
    skin = np.column_stack([x, crown - dip])
    below = oval(wide, high, (0.0, 0.0), 0.5, 180)
    pieces: list[Piece] = [DrawnArea(np.vstack([skin[::-1], below]), "wool")]
    for at_ in furrows:
        top = float(np.interp(at_, x, crown - dip))
        pieces.append(DrawnLine(line((at_, top), (at_, -high * 0.3)), "thread", 0.5))
    first = furrows[0]
    left = float(np.interp(first - apart, x, crown))
    level = max(high * 0.62, left + 0.2 * high)
    pieces += [
        across((first - apart, left), (first, left), apart, level - left),
        stab((furrows[-1], float(np.interp(furrows[-1], x, crown)) - deep), card_.needles[0], 90),
        Number((first - 0.25 * apart, high * 0.1), 2 if len(card_.how) > 2 else 1),
    ]
    return StepDrawing(tuple(pieces))


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
    "furrow.start-groove": N_("The part is too narrow for a thread: use the needle."),
    "furrow.until": N_("All furrows are as deep, and the lobes between them as round."),
    "furrow.scale": N_("The number stays; what is grooved small is sewn large."),
    "furrow.why": N_("Thread holds a furrow open that felting alone closes again."),
    "measure.furrow": N_("deep"),
}

METHOD = Method("furrow", lambda at: at.sort == "furrow", _card, _picture)
