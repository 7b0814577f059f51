"""A thin layer over most of what bears it, such as hair: a sheet laid and felted in its place."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, Sizes, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, oval
from bambola.core.methods.parts import SLANTED, SQUARE, across, card, check, run, sides, stab, stop
from bambola.core.methods.values import Card, Method
from bambola.core.wool.pan import right_size_range

_TUCKED_MM = 6.0
"""So much wider the sheet is torn all round, to be tucked under its rim: the margin of a blank. See craft.md,
2."""


def _card(at: StepInPlan) -> Card:
    long, wide, thick = at.row.piece
    on = fact("the", name=at.bearer.part.name)
    deep = thick + slots.DEPTH_MM["coat"]
    needle = at.step.needle or 38
    return card(
        at,
        "shell",
        (
            fact("shell.lay", size=Sizes((long + 2 * _TUCKED_MM, wide + 2 * _TUCKED_MM))),
            fact("shell.scratch", part=at.part_name, on=on),
            Fact("shell.over"),
            fact("shell.rim", tucked=Mm(_TUCKED_MM)),
            fact("shell.all", deep=Mm(deep)),
        ),
        start=Fact("shell.start"),
        needles=(
            run(needle, min(slots.DEPTH_MM["foot"], thick), SLANTED, "first"),
            run(needle, deep, SQUARE, "then"),
        ),
        stops=(stop("thickness", *right_size_range(thick)),),
        until=Fact("shell.until"),
        checks=(check("nail"), check("four-sides")),
        scale=Fact("shell.scale"),
    )


def _fits(at: StepInPlan) -> bool:
    return at.sort == "core" and at.row.made == "in place" and at.section == "sheet"


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the sheet as it is torn, the rim that is tucked under, and the needle that fixes it."""
    long, wide, _ = at.row.piece
    first = card_.needles[0]
    pieces: list[Piece] = [
        DrawnArea(oval(long + 2 * _TUCKED_MM, wide + 2 * _TUCKED_MM), "wool", "hidden"),
        DrawnArea(oval(long, wide), "wool"),
        *sides((long, wide), long, wide, 2.5 * _TUCKED_MM),
        across((-long / 2 - _TUCKED_MM, 0.0), (-long / 2, 0.0), _TUCKED_MM, wide * 0.1),
        stab((long * 0.36, wide * 0.35), first, 40),
        Number((-long * 0.3, wide * 0.1), 1),
        Number((long * 0.42, wide * 0.45), 4),
    ]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "shell.lay": N_("Lay the wool out as an even sheet, {size}, its layers crossing."),
    "shell.scratch": N_("Scratch with the needle how far {part} reaches on {on}."),
    "shell.over": N_("Lay the sheet over that, and pull it smooth from the middle."),
    "shell.rim": N_("Tuck {tucked} of its rim under along the line, and stab the rim fast first."),
    "shell.all": N_("Then stab it down all over, close and straight, {deep} deep."),
    "shell.start": N_("Where it looks thin against the light, lay a wisp before it goes on."),
    "shell.until": N_("Nothing shows through it, it has no hollow place, and a nail lifts no rim."),
    "shell.scale": N_(
        "At any size it is laid as a sheet; only its thickness grows with the figure."
    ),
    "shell.why": N_(
        "A thin layer over a round is felted where it lies: made apart, it would not fit."
    ),
}

METHOD = Method("shell", _fits, _card, _picture)
