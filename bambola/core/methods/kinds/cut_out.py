"""Things not of wool: cut to a pattern or a length, or shaped of clay."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Grams, Mm, fact
from bambola.core.figure.model import SHEETS
from bambola.core.marked import N_, NN_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, Piece, StepDrawing, box, oval
from bambola.core.methods.parts import across, card, check, size_stops, stop
from bambola.core.methods.values import Card, Method
from bambola.core.plan.making.patterns import PatternPiece, PatternPlan
from bambola.core.wool.pan import right_size_range


def _pattern_of_step(at: StepInPlan) -> tuple[PatternPlan, PatternPiece]:
    row = at.plan.pattern_of(at.row.id)
    assert row is not None
    return row, row.pieces[0]


def _card(at: StepInPlan) -> Card:
    row, piece = _pattern_of_step(at)
    if row.kind == "clay":
        return card(
            at,
            "cut-out",
            (
                fact("cut-out.clay", amount=Grams(row.uses), what=row.name),
                Fact("cut-out.clay-hole"),
                Fact("cut-out.clay-dry"),
            ),
            stops=size_stops(at),
            until=Fact("cut-out.until-clay"),
            checks=(check("lump-size"),),
            scale=Fact("cut-out.scale-clay"),
        )
    n = piece.count * at.copies
    how: list[Fact | None] = []
    if piece.cut_mm:
        kind = f"cut-out.{piece.form}"
        how.append(fact(kind, n=n, what=row.name, wide=Mm(piece.wide_mm), long=Mm(piece.long_mm)))
        how.append(Fact("cut-out.grain") if row.kind in ("cloth", "net") else None)
        how.append(_closing_allowance(at, row))
        if piece.form == "outline" and (at.copies == 2 or piece.count == 2):
            how.append(Fact("cut-out.turned-over"))
    else:
        how.append(fact("cut-out.length", n=n, what=row.name, long=Mm(piece.long_mm)))
        kind = row.kind if row.kind in ("chenille", "ribbon") else "ends"
        how.append(Fact(f"cut-out.{kind}"))
    if row.hem_mm:
        how.append(fact("cut-out.hem", hem=Mm(row.hem_mm)))
    elif row.kind in SHEETS:
        how.append(Fact("cut-out.frays" if row.frays else "cut-out.raw"))
    if row.fixed == "gathered":
        how.append(fact("cut-out.gather", round=Mm(row.round_mm + row.ease_mm)))
    sizes = (
        stop("length", *right_size_range(piece.long_mm)),
        stop("width", *right_size_range(piece.wide_mm)),
    )
    return card(
        at,
        "cut-out",
        tuple(how),
        start=Fact("cut-out.start" if piece.cut_mm else "cut-out.start-length"),
        stops=sizes if piece.cut_mm else sizes[:1],
        until=Fact("cut-out.until"),
        checks=(check("paper-first") if piece.cut_mm else check("cut-twice"),),
        scale=Fact("cut-out.scale"),
    )


def _closing_allowance(at: StepInPlan, row: PatternPlan) -> Fact | None:
    """Return the allowances beyond the girth it closes round."""
    if row.round_mm <= 0 or row.fixed in ("knotted", "gathered"):
        return None
    round_ = Mm(row.round_mm + row.ease_mm)
    if row.fixed == "tied":
        is_band = row.pieces[0].form == "band"
        return fact("cut-out.round-tied", round=round_) if is_band else None
    if row.overlap_mm:
        return fact("cut-out.round-overlap", over=Mm(row.overlap_mm), round=round_)
    return fact("cut-out.round-seam", seam=Mm(row.seam_mm), round=round_)


def _fits(at: StepInPlan) -> bool:
    return at.step.kind == "cut out"


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the piece to cut, with the line it is sewn on inside the line to cut; a long band or a length
    lies across the page."""
    row, piece = _pattern_of_step(at)
    if row.kind == "clay":
        along, wide, _ = at.finished
        return StepDrawing(
            (
                DrawnArea(oval(wide, along), "wool"),
                across((wide / 2, -along / 2), (wide / 2, along / 2), along, -wide * 0.15),
                across((-wide / 2, -along / 2), (wide / 2, -along / 2), wide, -along * 0.15),
                Number((0.0, 0.0), 1),
            )
        )
    wide, long = piece.wide_mm, piece.long_mm
    if not piece.cut_mm or long > 4 * wide:
        clear = max(2 * wide, long * 0.05)
        return StepDrawing(
            (
                DrawnArea(box(long, wide), "wool"),
                across((-long / 2, 0.0), (long / 2, 0.0), long, -clear),
                across((0.0, -wide / 2), (0.0, wide / 2), wide, -clear / 2),
                Number((-long * 0.3, 0.0), 1),
            )
        )
    cut, sewn = np.array(piece.cut_mm), np.array(piece.sewn_mm)
    pieces: list[Piece] = [DrawnArea(cut, "wool", "cut")]
    if row.seam_mm or row.hem_mm:
        pieces.append(DrawnLine(np.vstack([sewn, sewn[:1]]), "hidden"))
    pieces += [
        across((-wide / 2, -long / 2), (wide / 2, -long / 2), wide, -long * 0.12),
        across((wide / 2, -long / 2), (wide / 2, long / 2), long, -wide * 0.12),
        Number((0.0, 0.0), 1),
    ]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "cut-out.panel": NN_(
        "Print its pattern at actual size. Cut {n} piece of {what:lower} along the "
        "outer line, {wide} × {long}.",
        "Print its pattern at actual size. Cut {n} pieces of {what:lower} along the "
        "outer line, {wide} × {long}.",
    ),
    "cut-out.gore": NN_(
        "Print its pattern at actual size. Cut {n} piece of {what:lower} along the outer line, {wide} ×"
        " {long}.",
        "Print its pattern at actual size. Cut {n} alike of {what:lower} along the outer line, {wide} ×"
        " {long}.",
    ),
    "cut-out.outline": NN_(
        "Print its pattern at actual size. Cut {n} of {what:lower} along the outer "
        "line, {wide} × {long}.",
        "Print its pattern at actual size. Cut {n} of {what:lower} along the outer "
        "line, {wide} × {long}.",
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
        "Cloth is as thick on a small figure as on a large one: fold nothing that can lie flat."
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

METHOD = Method("cut-out", _fits, _card, _picture)
