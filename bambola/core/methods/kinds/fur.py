"""A row of fur: bunches folded and stabbed in at their fold."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.figure import Fur, Place
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, Piece, StepDrawing, box
from bambola.core.methods.parts import SQUARE, across, card, check, run, stab
from bambola.core.methods.values import Card, Method

_TOLD_ROWS = 2
"""From the third row on hands know how. Judged."""
BUNCH_MM = 15.0
"""A bunch is about so wide. Judged. See craft.md, 10."""


def _fur_of_step(at: StepInPlan) -> Fur:
    """Return the fur that the step lays."""
    name = at.step.key.place
    places = (p for p in at.body.furs if ("" if p.is_whole else p.id) == name)
    fur = next(places).fur
    assert fur is not None
    return fur


def _places_above(at: StepInPlan) -> tuple[Place, ...]:
    """Return the places that lie over the one with the fur."""
    about = [place for place in at.body.places if place.fur or place.bare]
    name = at.step.key.place
    n = next(i for i, p in enumerate(about) if p.fur and ("" if p.is_whole else p.id) == name)
    return tuple(about[n + 1 :])


def _fixing_way(at: StepInPlan) -> str:
    """Return how a bunch is fixed: pile is always trimmed, and locks stay locks. Hair as long as the part is
    laid over it and held at its base alone."""
    kind = _fur_of_step(at).kind
    if kind != "pile" and _fur_of_step(at).hair >= max(at.row.to_mm.values()):
        return "laid"
    return at.plan.work.school("fur") if kind == "fleece" else {"pile": "middle"}.get(kind, "locks")


def _card(at: StepInPlan) -> Card:
    assert at.job is not None
    fur, job = _fur_of_step(at), at.job.fur_at(at.step.key)
    name, rows = job.name, job.rows
    row = at.step.key.nth
    wide = min(BUNCH_MM, 0.5 * sorted(at.row.to_mm.values())[-1])
    depth = min(10.0, 0.5 * min(at.row.to_mm.values()))
    start = "fur.first" if row == 1 else "fur.next"
    begin = fact(start, apart=Mm(fur.spacing)) if row > 1 else fact(start, part=at.part_name)
    if row == 1 and name:
        begin = fact("fur.first-at", part=at.part_name, place=name)
    free = tuple(place.display_name for place in _places_above(at)) if row == 1 else ()
    each = (
        fact("fur.leaves", places=free) if free else None,
        fact("fur.bunch", wide=Mm(wide)),
        fact(f"fur.by-{_fixing_way(at)}", hair=Mm(fur.hair)),
        fact("fur.rows", apart=Mm(fur.spacing)) if row == 1 and rows > 1 else None,
        Fact("fur.close"),
    )
    return card(
        at,
        "fur",
        (begin, *each) if row <= _TOLD_ROWS else (begin, Fact("fur.as-before")),
        start=Fact(f"fur.start-{fur.kind}"),
        needles=(run(38, depth, SQUARE, "fold"),),
        until=Fact("fur.until"),
        checks=(check("hair-sheds"), check("fur-line")),
        scale=Fact("fur.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return a bunch folded over its stab, the row before beside it."""
    fur = _fur_of_step(at)
    hair, apart = fur.hair, fur.spacing
    deep = card_.needles[0].depth_mm
    wide = hair + 2.5 * apart
    pieces: list[Piece] = [
        DrawnArea(box(wide * 1.4, deep * 1.6, (wide * 0.35, -deep * 0.8)), "under")
    ]
    for k in range(2):
        x = k * apart
        for s in np.linspace(-0.16, 0.2, 7):
            bow = [
                (x, -deep * 0.9),
                (x, 0.0),
                (x + hair * 0.35, hair * (0.4 + s)),
                (x + hair, hair * (0.35 + s)),
            ]
            pieces.append(DrawnLine(np.array(bow), "hair"))
            if _fixing_way(at) == "middle":  # both halves stand up
                pieces.append(DrawnLine(np.array([(2 * x - u, v) for u, v in bow]), "hair"))
    pieces += [
        across((0.0, 0.0), (apart, 0.0), apart, -deep * 1.9),
        across((apart, hair * 0.62), (apart + hair, hair * 0.62), hair, hair * 0.12),
        stab((apart, -deep), card_.needles[0], 90),
        Number((apart - hair * 0.12, hair * 0.25), min(3, len(card_.how))),
    ]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "fur.first": N_("Begin {part} at the edge that the hair points to."),
    "fur.first-at": N_("Begin at the edge of the {place} on {part} that the hair points to."),
    "fur.next": N_("Set this row {apart} from the last, over its roots."),
    "fur.rows": N_("Set each next row {apart} from the last, over its roots."),
    "fur.bunch": N_("Lay bunches {wide} wide side by side."),
    "fur.by-fold": N_(
        "Stab each across its middle, fold it over, and stab the fold: {hair} of hair hangs free."
    ),
    "fur.by-middle": N_("Stab each across its middle, and trim it to {hair} when the row is full."),
    "fur.by-locks": N_("Press each in whole, by its root: {hair} of it hangs free."),
    "fur.by-laid": N_(
        "Lay each from its base over the part, fix it there by one line of stabs, and leave the rest: {hair} "
        "lies free."
    ),
    "fur.as-before": N_("Lay it as the row before, bunch by bunch to the last gap."),
    "fur.leaves": N_("Leave {places} free: other hair grows there, or none."),
    "fur.close": N_("Close the last gap with a thinner bunch."),
    "fur.start-fleece": N_("Lay all tips the same way."),
    "fur.start-locks": N_("Pull the locks apart, and sort them by their length."),
    "fur.start-pile": N_("Trim both ends square before you lay it."),
    "fur.until": N_("Rubbed, nothing lifts, and no line of stabs shows."),
    "fur.scale": N_("Hair keeps its length: a small figure takes fewer rows."),
    "fur.why": N_("Hair is held at its root alone. Each row hides the roots of the one before it."),
}

METHOD = Method("fur", lambda at: at.sort == "fur", _card, _picture)
