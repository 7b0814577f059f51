"""Eyes larger or smaller than by the scale: what stays is the gap between them."""

from __future__ import annotations

from bambola.core.figure import Fitting, Seat, Shape
from bambola.core.figure.shapes import ProfileShape
from bambola.core.solids.levels import around_at, level_arc

_NOTHING_MM = 1e-6


def gap_kept(eye: Fitting, wanted: float, bearer: Shape) -> Fitting:
    """A pair of eyes of the size used, moved along its level so that the gap between the two is the one that
    eyes of the ``wanted`` size (mm) would leave. See craft.md, 2."""
    off = eye.size - wanted
    if eye.kind != "eye" or not eye.pair or abs(off) < _NOTHING_MM:
        return eye
    return eye.replaced(seat=seat_with_gap(eye.seat, off, bearer, eye.size / 2))


def seat_with_gap(seat: Seat, off: float, bearer: Shape, least: float = 0.0) -> Seat:
    """The seat of one of a pair that is ``off`` mm larger than it was to be: moved along its level by half of
    that, and never nearer to the midline than ``least`` (mm). On what is not rounded it stays."""
    if not isinstance(bearer, ProfileShape):
        return seat
    arc = level_arc(bearer, seat.along, seat.around) + off / 2
    around = around_at(bearer, seat.along, max(arc, least))
    return seat.replaced(around=around if seat.around >= 0 else -around)
