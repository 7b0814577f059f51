"""Finds the seat for a place in space: used by moving, turning and re-parenting."""

from __future__ import annotations

import math

import numpy as np

from bambola.core.figure.model import Seat, Tilt
from bambola.core.figure.shapes import Chain, ChainShape, Leaf, Shape
from bambola.core.solids.forms import Array, chain, flatten_sheet, profile, seat_point
from bambola.core.solids.placement import Copy

MOST_OUT = 3.0
"""A seat lies at most this many half-widths from its parent's axis."""
_TRIES = (121, 25, 25, 25, 25, 25)
"""Depths tried between the ends of a span, and of what is left of it: the first finds the place among
several, the others only narrow it down."""
_EXACT_MM = 1e-6


def tilt_of(turned: Array) -> Tilt:
    """Return the :class:`Tilt` of a rotation (3, 3): the inverse of ``placement.rotation``."""
    nod = math.asin(max(-1.0, min(1.0, -float(turned[1, 2]))))
    if abs(math.cos(nod)) > 1e-9:
        lean = math.atan2(turned[0, 2], turned[2, 2])
        turn = math.atan2(turned[1, 0], turned[1, 1])
    else:
        lean, turn = 0.0, math.atan2(-turned[0, 1], turned[0, 0])
    return Tilt(nod=math.degrees(nod), lean=math.degrees(lean), turn=math.degrees(turn))


def nearest_seat(shape: Shape, point: Array) -> tuple[float, float, float]:
    """Return the seat (along, around, out) on ``shape`` that comes nearest to ``point`` (3,), local mm."""
    x, y, z = (float(v) for v in point)
    if isinstance(shape, ChainShape):
        return _beside_chain(shape, chain(shape), point)
    if isinstance(shape, Leaf):
        x, y, z = (float(v) for v in flatten_sheet(shape, point[None])[0])
        along = min(1.0, max(0.0, z / shape.length))
        return _polar(along, x / (shape.width / 2), -y / (shape.thickness / 2))
    form = profile(shape)
    z = min(max(z, 0.0), float(form.z[-1]))
    wide = float(np.interp(z, form.z, form.half_width))
    deep = float(np.interp(z, form.z, form.half_depth))
    right = x / wide if wide > 1e-9 else 0.0
    front = -y / deep if deep > 1e-9 else 0.0
    return _polar(z / float(form.z[-1]), right, front)


def _polar(along: float, right: float, front: float) -> tuple[float, float, float]:
    out = math.hypot(right, front)
    return along, math.degrees(math.atan2(right, front)) if out > 1e-12 else 0.0, out


def _beside_chain(shape: Shape, form: Chain, point: Array) -> tuple[float, float, float]:
    points = np.vstack([form.points, form.points[:1]]) if form.closed else form.points
    legs = np.diff(points, axis=0)
    square = np.maximum((legs**2).sum(axis=1), 1e-18)
    share = np.clip(((point - points[:-1]) * legs).sum(axis=1) / square, 0.0, 1.0)
    nearest = points[:-1] + share[:, None] * legs
    i = int(np.argmin(((nearest - point) ** 2).sum(axis=1)))
    runs = np.sqrt(square)
    along = float((runs[:i].sum() + share[i] * runs[i]) / runs.sum())
    centre, front, side = (seat_point(shape, along, a, o) for a, o in ((0, 0), (0, 1), (90, 1)))
    off = point - centre
    ahead, aside = front - centre, side - centre
    return _polar(along, float(off @ aside / (aside @ aside)), float(off @ ahead / (ahead @ ahead)))


def seat_for(parent: Shape, base: Array, turned: Array, sink: float = 0.0) -> Seat:
    """Return the seat on ``parent`` that puts a base at ``base`` (3,) with rotation ``turned`` (3, 3), both
    in the parent's own axes.

    A seat is a point and a ``sink`` along the seated part's axis; the given ``sink`` is kept if possible,
    otherwise the seat nearest to the skin is taken. If no seat reaches that far, the nearest one is returned.
    """
    axis = turned[:, 2]
    tilt = tilt_of(turned)

    def seat(depth: float) -> tuple[float, float, Seat]:
        wished = base + axis * depth
        along, around, out = nearest_seat(parent, wished)
        out = min(out, MOST_OUT)
        miss = float(np.linalg.norm(seat_point(parent, along, around, out) - wished))
        made = Seat.model_construct(along=along, around=around, out=out, sink=depth, tilt=tilt)
        return miss, abs(out - 1), made

    kept = seat(sink)
    if kept[0] < _EXACT_MM:
        return kept[2]
    span = 1.2 * max(parent.measures().values()) + abs(sink) + float(np.linalg.norm(base))
    middle = sink
    best = kept
    for tries in _TRIES:
        tried = [seat(depth) for depth in np.linspace(middle - span, middle + span, tries)]
        # Nearest first; among those that are exact, the one nearest to the skin.
        best = min([best, *tried], key=lambda t: (round(t[0], 5), t[1] + 1e-3 * abs(t[2].sink)))
        middle, span = best[2].sink, span * 4 / tries
    return best[2]


def reseat(parent: Copy, base: Array, turned: Array, sink: float = 0.0) -> Seat:
    """Return the seat as :func:`seat_for` does, with ``base`` and ``turned`` in the figure's axes."""
    own = np.linalg.inv(parent.matrix)
    return seat_for(parent.shape, own[:3, :3] @ base + own[:3, 3], own[:3, :3] @ turned, sink)


def frame_along(axis: Array, across: Array) -> Array:
    """Return a rotation (3, 3) whose z runs along ``axis`` and whose x lies as near ``across`` as it can."""
    z = axis / np.linalg.norm(axis)
    x = across - (across @ z) * z
    if np.linalg.norm(x) < 1e-6:
        x = np.array([0.0, 1.0, 0.0]) - z[1] * z
    x /= np.linalg.norm(x)
    return np.column_stack([x, np.cross(z, x), z])
