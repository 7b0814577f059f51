"""Moves a mark of a face on the figure: a mark itself, an eye, or the seat of a part."""

from __future__ import annotations

from bambola.core.face.marks import BY_ENDS, Mark, piece_of, twin_of
from bambola.core.face.over_surface import Place
from bambola.core.facts import Exact, Fact, fact
from bambola.core.figure import Figure, Part
from bambola.core.figure.graft import check_figure, place_changed, with_part
from bambola.core.figure.places import Line


def with_mark_at(figure: Figure, mark: Mark, place: Place) -> Figure:
    """Return ``figure`` with a mark at another place on the part it is on; the ends of a base move with the
    part."""
    along, around = min(1.0, max(0.0, place[0])), place[1]
    if mark.kind == "mark":
        marks = tuple(
            m.replaced(along=along, around=around) if m.id == mark.about else m
            for m in figure.marks
        )
        return check_figure(figure.replaced(marks=marks))
    if mark.kind == "fitting":
        fittings = tuple(
            f.replaced(seat=f.seat.replaced(along=along, around=around))
            if f.id == mark.about
            else f
            for f in figure.fittings
        )
        return check_figure(figure.replaced(fittings=fittings))
    if mark.kind == "piece":
        return check_figure(with_part(figure, _piece_moved(figure, mark, (along, around))))
    return check_figure(
        figure.replaced(
            parts=tuple(
                p.replaced(
                    seat=p.seat.replaced(
                        along=min(1.0, max(0.0, p.seat.along + along - mark.along)),
                        around=p.seat.around + around - mark.around,
                    )
                )
                if p.id == mark.about
                else p
                for p in figure.parts
            )
        )
    )


def _piece_moved(figure: Figure, mark: Mark, at: Place) -> Part:
    """Return the part that bears a piece of the face, with one of its points and its mirror image moved."""
    on, name, n = piece_of(mark.about)
    part = figure.by_id[on]
    where = next(place.where for place in part.patches if place.id == name)
    assert isinstance(where, Line)
    if next(p.face for p in part.patches if p.id == name) not in BY_ENDS:  # all of it moves
        up, round_ = at[0] - where.way[n][0], at[1] - where.way[n][1]
        moved = tuple((min(1.0, max(0.0, a + up)), b + round_) for a, b in where.way)
        return place_changed(part, name, where=where.replaced(way=moved))
    way, twin = list(where.way), twin_of(where.way, n)
    on_midline = (
        len(way) > 1 and not where.mirrored and twin is None and abs(where.way[n][1]) < 1e-6
    )
    way[n] = (at[0], 0.0) if on_midline else at
    if twin is not None:
        way[twin] = (at[0], -at[1])
    return place_changed(part, name, where=where.replaced(way=tuple(way)))


LEVEL_MM, LEVEL_SHARE = 0.5, 0.03
"""Left and right are alike within these. Judged. See craft.md, 9."""


def level_of_marks(left: float, right: float) -> Fact:
    """Return what two readings (mm) of the same mark on both sides, from the crown or the midline, mean."""
    off = abs(left - right)
    if off <= max(LEVEL_MM, LEVEL_SHARE * max(left, right)):
        return Fact("level.yes")
    kind = "level.left" if left > right else "level.right"
    return fact(kind, off=Exact(off), half=Exact(off / 2))
