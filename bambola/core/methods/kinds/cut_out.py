"""What is not wool is cut: to a pattern, to a length, or shaped of clay."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Grams, Mm, fact
from bambola.core.figure.stuff import SHEETS
from bambola.core.methods.at import At
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, Piece, StepDrawing, box, oval
from bambola.core.methods.parts import card, check, size_stops, stop
from bambola.core.methods.sketch import across
from bambola.core.methods.values import Card, Method
from bambola.core.plan.making.patterns import PatternPiece, PatternPlan
from bambola.core.wool.mending import close


def _pattern(at: At) -> tuple[PatternPlan, PatternPiece]:
    row = at.plan.pattern_of(at.row.id)
    assert row is not None
    return row, row.pieces[0]


def _card(at: At) -> Card:
    row, piece = _pattern(at)
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
        how.append(_closing(at, row))
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
    sizes = (stop("length", *close(piece.long_mm)), stop("width", *close(piece.wide_mm)))
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


def _closing(at: At, row: PatternPlan) -> Fact | None:
    """What is on it beyond the girth that it closes round."""
    if row.round_mm <= 0 or row.fixed in ("knotted", "gathered"):
        return None
    round_ = Mm(row.round_mm + row.ease_mm)
    if row.fixed == "tied":
        is_band = row.pieces[0].form == "band"
        return fact("cut-out.round-tied", round=round_) if is_band else None
    if row.overlap_mm:
        return fact("cut-out.round-overlap", over=Mm(row.overlap_mm), round=round_)
    return fact("cut-out.round-seam", seam=Mm(row.seam_mm), round=round_)


def _fits(at: At) -> bool:
    return at.step.kind == "cut out"


def _picture(at: At, card_: Card) -> StepDrawing:
    """The piece to cut, with the line it is sewn on inside the line to cut; a long band or a length lies
    across the page."""
    row, piece = _pattern(at)
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


METHOD = Method("cut-out", _fits, _card, _picture)
