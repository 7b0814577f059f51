"""What is cut of cloth and the like, and what that takes, as facts to be said."""

from __future__ import annotations

from bambola.core.facts import NOTHING, Fact, Grams, Mm, fact
from bambola.core.plan.making.patterns import MaterialTotal, PatternPiece, PatternPlan


def piece_fact(row: PatternPlan, piece: PatternPiece) -> Fact:
    """Return what to cut for one copy of a part."""
    if piece.form == "lump":
        return fact("pattern.lump", grams=Grams(row.uses), what=row.name)
    long, wide = Mm(piece.long_mm), Mm(piece.wide_mm)
    if piece.form == "length":
        return fact("pattern.length", n=piece.count, what=row.name, long=long)
    kind = "strip" if piece.form == "strip" else "piece"
    return fact(f"pattern.{kind}", n=piece.count, what=row.name, long=long, wide=wide)


def added_fact(row: PatternPlan) -> Fact:
    """Return what is in its size: the girth, and what is added to that; nothing for what has neither."""
    gathered = row.fixed == "gathered"
    found = []
    if row.round_mm > 0 and gathered:
        times = fact("pattern.gathered", round=Mm(row.round_mm), times=row.fullness)
        found.append(times)
    elif row.round_mm > 0:
        found.append(fact("pattern.round", round=Mm(row.round_mm)))
    for name, mm in (
        ("ease", row.ease_mm),
        ("overlap", row.overlap_mm),
        ("seam", row.seam_mm),
        ("hem", row.hem_mm),
    ):
        if mm > 0:
            found.append(fact(f"pattern.{name}", mm=Mm(mm)))
    return fact("pattern.added", parts=tuple(found)) if found else NOTHING


def material_fact(row: MaterialTotal) -> Fact:
    """Return what all figures take of a material."""
    return _material_fact("takes", row, row.uses)


def to_buy_fact(row: MaterialTotal) -> Fact:
    """Return what is to be bought of it."""
    return _material_fact("buy", row, row.buy)


def _material_fact(what: str, row: MaterialTotal, much: float) -> Fact:
    if row.wide_mm <= 0:
        return fact(f"material.{what}-clay", name=row.name, much=Grams(much))
    return fact(f"material.{what}", name=row.name, wide=Mm(row.wide_mm), much=Mm(much))
