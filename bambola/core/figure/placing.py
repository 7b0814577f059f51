"""Lays places on a part, drags them, and removes them."""

from __future__ import annotations

from bambola.core.figure.graft import check_figure, free_id, with_part
from bambola.core.figure.model import Part
from bambola.core.figure.places import Band, Fur, Line, Near, Place, Where
from bambola.core.figure.whole import Figure

NEW_LINE_SHARE, NEW_WITHIN_SHARE = 0.06, 0.12
"""A new line is so wide, and what is near another part reaches so far from it, beside the part's smallest
measure. Judged."""
_LEAST_SHARE = 0.01
"""No stretch is shorter than this share of its part. Judged."""


def with_place(figure: Figure, part: str, place: Place) -> tuple[Figure, str]:
    """Return ``figure`` with one more place on a part, on top of the others, and the place's id."""
    body = figure.by_id[part]
    name = free_id(place.id, frozenset(p.id for p in body.places))
    new = body.replaced(places=(*body.places, place.replaced(id=name)))
    return check_figure(with_part(figure, new)), name


def place_changed(part: Part, id: str, **changes: object) -> Part:
    """Return ``part`` with one of its places changed."""
    places = tuple(p.replaced(**changes) if p.id == id else p for p in part.places)
    return part.replaced(places=places)


def without_place(part: Part, name: str) -> Part:
    """Return ``part`` without one of its places."""
    return part.replaced(places=tuple(p for p in part.places if p.id != name))


def new_place(part: Part, kind: str, near: str = "", fur: Fur | None = None) -> Place:
    """Return a place to begin with: the middle third, the front, a line across the front, or the area
    ``near`` another part; with ``fur`` growing there if given."""
    small = part.shape.smallest_mm
    where: Where
    match kind:
        case "stretch":
            where = Band(begin=1 / 3, end=2 / 3)
        case "side":
            where = Band(wide=120.0)
        case "line":
            wide = NEW_LINE_SHARE * small
            where = Line(way=((0.5, -30.0), (0.45, 0.0), (0.5, 30.0)), wide=wide)
        case _:
            where = Near(part=near, within=NEW_WITHIN_SHARE * small)
    return Place(id=kind, where=where, fur=fur)


def stretch_band(where: Band, begin: float | None = None, end: float | None = None) -> Band:
    """Return a band with another beginning or end, neither passing the other."""
    if begin is not None:
        return where.replaced(begin=min(max(0.0, begin), where.end - _LEAST_SHARE))
    if end is not None:
        return where.replaced(end=max(min(1.0, end), where.begin + _LEAST_SHARE))
    return where


def led_by(where: Line, n: int, along: float, around: float) -> Line:
    """Return a line with its point ``n`` moved."""
    way = list(where.way)
    way[n] = (min(1.0, max(0.0, along)), around)
    return where.replaced(way=tuple(way))
