"""Bought eyes come in whole sizes: what stays is the gap between them."""

from __future__ import annotations

from bambola.core.figure import Fitting, Shape
from bambola.core.figure.shapes import ProfileShape
from bambola.core.solids.levels import around_at, level_arc

_NOTHING_MM = 1e-6


def gap_kept(eye: Fitting, wanted: float, bearer: Shape) -> Fitting:
    """A pair of eyes of the size used, moved along its level so that the gap between the two is the one that
    eyes of the ``wanted`` size (mm) would leave: each by half of what it is larger. What is no pair of
    eyes on a rounded part stays where it is. See craft.md, 2."""
    off = eye.size - wanted
    if eye.kind != "eye" or not eye.pair or abs(off) < _NOTHING_MM:
        return eye
    if not isinstance(bearer, ProfileShape):
        return eye
    seat = eye.seat
    arc = level_arc(bearer, seat.along, seat.around) + off / 2
    around = around_at(bearer, seat.along, max(arc, eye.size / 2))
    return eye.replaced(seat=seat.replaced(around=around if seat.around >= 0 else -around))
