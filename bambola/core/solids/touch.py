"""Picks things on a figure in a view: places on the skin, axes to snap to, outlines of patches."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from bambola.core.figure.fields import View
from bambola.core.figure.model import Seat, Tilt
from bambola.core.figure.shapes import Chain, ChainShape, Leaf, Shape
from bambola.core.solids.forms import Array, box_of, chain, flatten_sheet, profile, seat_point
from bambola.core.solids.meshes import Detail, mesh_of
from bambola.core.solids.placement import Copy, Placement
from bambola.core.solids.regions import VIEWS

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
        return _to_polar(along, x / (shape.width / 2), -y / (shape.thickness / 2))
    form = profile(shape)
    z = min(max(z, 0.0), float(form.z[-1]))
    wide = float(np.interp(z, form.z, form.half_width))
    deep = float(np.interp(z, form.z, form.half_depth))
    right = x / wide if wide > 1e-9 else 0.0
    front = -y / deep if deep > 1e-9 else 0.0
    return _to_polar(z / float(form.z[-1]), right, front)


def _to_polar(along: float, right: float, front: float) -> tuple[float, float, float]:
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
    return _to_polar(
        along, float(off @ aside / (aside @ aside)), float(off @ ahead / (ahead @ ahead))
    )


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


def skin_seat(copy: Copy, axes: Array, u: float, v: float) -> tuple[float, float] | None:
    """Return where (along, around) the line of sight through (u, v) first meets a copy's skin, if it does.

    ``axes`` are right, up and towards the viewer (3, 3); u, v in mm of the figure's own origin.
    """
    mesh = mesh_of(copy.shape, Detail.DRAWN)
    placed = mesh.vertices @ copy.matrix[:3, :3].T + copy.matrix[:3, 3]
    seen = placed @ axes.T
    a, b, c = (seen[mesh.faces[:, i]] for i in range(3))
    p = np.array([u, v])
    e1, e2, off = b[:, :2] - a[:, :2], c[:, :2] - a[:, :2], p - a[:, :2]
    whole = e1[:, 0] * e2[:, 1] - e1[:, 1] * e2[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        s = (off[:, 0] * e2[:, 1] - off[:, 1] * e2[:, 0]) / whole
        t = (e1[:, 0] * off[:, 1] - e1[:, 1] * off[:, 0]) / whole
        met = (s >= -1e-9) & (t >= -1e-9) & (s + t <= 1 + 1e-9)
    hit = np.flatnonzero(met)
    if not len(hit):
        return None
    depth = a[hit, 2] + s[hit] * (b[hit, 2] - a[hit, 2]) + t[hit] * (c[hit, 2] - a[hit, 2])
    point = np.array([u, v, depth.max()]) @ axes
    own = np.linalg.inv(copy.matrix)
    along, around, _ = nearest_seat(copy.shape, own[:3, :3] @ point + own[:3, 3])
    return along, around


def nearest_axis(
    placement: Placement, axes: Array, u: float, v: float, reach: float
) -> tuple[Copy, float] | None:
    """Return the part and the share along its axis nearest to (u, v) as seen, within ``reach`` mm."""
    best: tuple[float, Copy, float] | None = None
    for copy in placement.copies:
        for share in np.linspace(0, 1, 41):
            place = axes[:2] @ copy.point(float(share))
            far = float(np.hypot(place[0] - u, place[1] - v))
            # Joints draw a little: a bone's end belongs where a part begins, bends or ends.
            pulled = far - (0.25 * reach if _is_joint(copy, float(share)) else 0.0)
            if far <= reach and (best is None or pulled < best[0]):
                best = (pulled, copy, float(share))
    return (best[1], best[2]) if best else None


def _is_joint(copy: Copy, share: float) -> bool:
    if share in (0.0, 1.0):
        return True
    if copy.shape.kind != "limb":
        return False
    points = chain(copy.shape).points
    runs = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    return bool((np.abs(runs / runs[-1] - share) < 0.0125).any())


def patch_outline(
    copy: Copy, axes: Array, drawn: Sequence[tuple[float, float]]
) -> tuple[View, tuple[tuple[float, float], ...]]:
    """Return the view of a part's own box that faces the viewer, and ``drawn`` (mm as seen) as an outline on
    it.

    Outlines run from -1 to 1 across and up the box (see :class:`bambola.core.figure.places.Outline`).
    """
    turn = copy.matrix[:3, :3]
    toward = turn.T @ axes[2]
    view = max(VIEWS, key=lambda name: float(toward[VIEWS[name][2][0]] * VIEWS[name][2][1]))
    (across, right), (up, rise), (facing, sense) = VIEWS[view]
    centre, half = box_of(copy.shape)
    own = np.linalg.inv(copy.matrix)
    middle = (
        copy.matrix[:3, :3] @ (centre + 0.5 * half * sense * np.eye(3)[facing]) + copy.matrix[:3, 3]
    )
    depth = float(axes[2] @ middle)
    outline = []
    for u, v in drawn:
        point = np.array([u, v, depth]) @ axes
        local = (own[:3, :3] @ point + own[:3, 3] - centre) / half
        outline.append((float(local[across] * right), float(local[up] * rise)))
    return view, tuple(outline)  # type: ignore[return-value]


def skin_point(copy: Copy, along: float, around: float) -> Array:
    """Return a seat on the skin as a point (3,) of the figure, mm."""
    placed: Array = copy.matrix[:3, :3] @ seat_point(copy.shape, along, around, 1.0)
    return placed + copy.matrix[:3, 3]
