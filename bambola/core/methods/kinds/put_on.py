"""Putting on what is cut of cloth and the like: tried on, then sewn, gathered, tied, knotted, wrapped, glued
or threaded."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, NN_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, Piece, StepDrawing, line
from bambola.core.methods.parts import across, card, check
from bambola.core.methods.values import Card, Method
from bambola.core.order.work import called
from bambola.core.plan.making.patterns import PatternPlan
from bambola.core.solids import outline_of_copy

COUCHED_MM = 5.0
"""Yarn laid along a line is caught so often. Judged. See craft.md, 6."""


def _card(at: StepInPlan) -> Card:
    row = at.plan.pattern_of(at.row.id)
    on = fact("the", name=at.bearer.part.name)
    if row is None:
        return _of_wool(at, on)
    worn = at.body.garment is not None
    cut = bool(row.pieces[0].cut_mm)
    tried = row.fixed not in ("wrapped", "threaded") and (cut or not worn)
    how = "put-on.try" if cut and worn else "put-on.hold"
    return card(
        at,
        "put-on",
        (
            fact(how, part=at.part_name, on=on) if tried else None,
            _pulled_past(at) if row.fixed != "sewn" else None,
            *_fixing_facts(at, row, on),
        ),
        start=fact("put-on.start", on=on),
        until=Fact(f"put-on.until-{'worn' if worn else 'set'}"),
        checks=(check("sits"), check("four-sides")),
        scale=Fact("put-on.scale"),
    )


def _of_wool(at: StepInPlan, on: Fact) -> Card:
    """Return the card for joining a felted part to cloth: it is sewn on."""
    return card(
        at,
        "put-on",
        (fact("put-on.hold", part=at.part_name), fact("put-on.sew-felt", on=on)),
        start=Fact("put-on.start-felt"),
        until=Fact("put-on.until-set"),
        checks=(check("four-sides"),),
        scale=Fact("put-on.scale"),
    )


def _pulled_past(at: StepInPlan) -> Fact | None:
    """Return what it is pulled over on its way."""
    dress = next((d for d in at.plan.dress if d.part == at.row.id), None)
    if dress is None or dress.kind != "pulled over":
        return None
    past = at.plan.resized.figure.by_id[dress.before[0] if dress.before else dress.passes]
    over = called(past.name, past.plural, 2 if past.pair else 1)
    if dress.before or (at.job and at.job.must_precede):
        return fact("put-on.before", over=over)
    if not dress.passes_over:
        return fact("put-on.closed-round", over=over)
    return fact("put-on.over", over=over, round=Mm(dress.passes_mm), opens=Mm(dress.stretched_mm))


def _fixing_facts(at: StepInPlan, row: PatternPlan, on: Fact) -> tuple[Fact | None, ...]:
    piece, past = row.pieces[0], _pulled_past(at)
    match row.fixed:
        case "tied":
            if piece.form in ("panel", "gore"):
                return (fact("put-on.tie-panel", on=on), Fact("put-on.caught"))
            bow = at.body.garment is None
            return (Fact("put-on.bow" if bow else "put-on.tie"), Fact("put-on.caught"))
        case "knotted":
            return (
                fact("put-on.band", on=on),
                fact("put-on.knot", n=piece.count),
                Fact("put-on.trim"),
            )
        case "wrapped":
            half = row.kind == "ribbon"
            return (
                fact("put-on.wrap", on=on, over=Mm(piece.wide_mm / 2)) if half
                else fact("put-on.wind", on=on),
                Fact("put-on.caught"),
            )  # fmt: skip
        case "gathered":
            return (fact("put-on.draw", on=on), Fact("put-on.spread"), Fact("put-on.stitched"))
        case "glued":
            return (Fact("put-on.glue"), Fact("put-on.press"))
        case "threaded":
            return (fact("put-on.thread", on=on), Fact("put-on.thread-ends"))
        case _ if not piece.cut_mm:
            stitched = row.kind == "thread"
            return (
                fact("put-on.stitch", on=on)
                if stitched
                else fact("put-on.couch", on=on, apart=Mm(COUCHED_MM)),
                Fact("put-on.end-in"),
            )
        case _:
            seamed = piece.count > 1 and piece.form in ("gore", "panel", "outline")
            lined = piece.form == "outline" and piece.count > 1
            whole = past is not None and past.kind in ("put-on.over", "put-on.before")
            halves = Fact("put-on.halves-whole" if whole else "put-on.halves")
            return (
                None if whole else past,
                halves if seamed and not lined and at.body.garment else None,
                Fact("put-on.lining") if lined else None,
                past if whole else Fact("put-on.seam") if at.body.garment else None,
                fact("put-on.sew", on=on),
            )


def _fits(at: StepInPlan) -> bool:
    return at.step.kind == "dress" and bool(at.job and at.job.fixed)


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """It and what bears it as they are seen from the front, or from the side where more of it is seen."""
    copy = at.placed[0]
    view = max(
        ("front", "side"),
        key=lambda view: float(np.ptp(outline_of_copy(copy, view), axis=0).prod()),
    )
    under, worn = (outline_of_copy(one, view) for one in (at.bearer, copy))
    (left, low), (right, high) = worn.min(axis=0).tolist(), worn.max(axis=0).tolist()
    wide, long = right - left, high - low
    away = 0.1 * max(wide, long)
    middle, level = (left + right) / 2, (low + high) / 2
    behind = DrawnArea(under, "under")
    pieces: list[Piece] = [behind, DrawnArea(worn, "wool")]
    if at.body.garment is not None:
        pieces.append(
            DrawnLine(line((middle, low), (middle + wide * 0.03, level), (middle, high)), "thread")
        )
    pieces += [
        across((left, low), (right, low), wide, -away),
        across((right, low), (right, high), long, -away),
        Number((middle - wide * 0.25, level), 1),
        Number((middle + wide * 0.2, level), 2),
    ]
    return StepDrawing(tuple(pieces))


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
        "Sew its pieces together, right sides facing, leave one seam open, and turn it."
    ),
    "put-on.halves-whole": N_("Sew its pieces together, right sides facing, and turn it."),
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
    "put-on.why": N_("If you close it before trying it on, you have to open it again."),
    "look.sits": N_("Push a finger under its edge, all round."),
    "look.sits.right": N_("It gives a little and comes back."),
    "look.sits.wrong": N_(
        "Tight: open one seam and close it nearer the edge. Loose: take it in behind."
    ),
}

METHOD = Method("put-on", _fits, _card, _picture)
