"""A mark of a face moved on the figure: a mark itself, an eye, or the seat of a part. Figure in, figure
out."""

from __future__ import annotations

from bambola.core.face.marks import Mark
from bambola.core.face.over_surface import Place
from bambola.core.figure import Figure
from bambola.core.figure.graft import checked


def with_mark_at(figure: Figure, mark: Mark, place: Place) -> Figure:
    """``figure`` with a mark at another place on the part it is on; the ends of a base move with the part."""
    along, around = min(1.0, max(0.0, place[0])), place[1]
    if mark.kind == "mark":
        marks = tuple(
            m.replaced(along=along, around=around) if m.id == mark.about else m
            for m in figure.marks
        )
        return checked(figure.replaced(marks=marks))
    if mark.kind == "fitting":
        fittings = tuple(
            f.replaced(seat=f.seat.replaced(along=along, around=around))
            if f.id == mark.about
            else f
            for f in figure.fittings
        )
        return checked(figure.replaced(fittings=fittings))
    return checked(
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
