"""Places on a part: how deep points of its skin lie within them."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure import Figure, Leaf, Part, Place, Shape
from bambola.core.figure.fields import View
from bambola.core.figure.places import Band, Line, Near, Outline, Where
from bambola.core.figure.shapes import ChainShape
from bambola.core.figure.shapes.chain import smooth
from bambola.core.memo import remembered
from bambola.core.solids.forms import Array, box_of, chain, flatten_sheet, profile, seat_point
from bambola.core.solids.meshes import Detail, mesh_of
from bambola.core.solids.outlines import encloses, signed_distance

# For each view: which local axes run across and up, their sense, and which way the skin must face.
VIEWS = {
    "front": ((0, 1.0), (2, 1.0), (1, -1.0)),
    "back": ((0, -1.0), (2, 1.0), (1, 1.0)),
    "left": ((1, 1.0), (2, 1.0), (0, 1.0)),
    "right": ((1, -1.0), (2, 1.0), (0, -1.0)),
    "top": ((0, 1.0), (1, 1.0), (2, 1.0)),
}
_LEG_PIECES = 16
"""Between two places of its way a line over the skin, which runs smoothly by them, is laid in so many."""
_FINE = 0.1
"""No more than this share of a line's width lies between the points of it against which skin is held: at its
edge that is off by a four-hundredth of the width (Pythagoras)."""

Deep = Callable[[Array, Array, float], Array]
"""How deep (mm) points (n, 3) of a skin with outward normals (n, 3) lie within a place, negative outside it:
by no more than a point is moved does it change. What lies deeper than the last number, or farther out, may be
told as endless."""


def as_seen(view: View, points: Array) -> Array:
    """Return points (..., 3), relative to the middle of a part's box, projected into a view of it (...,
    2)."""
    (across, right), (up, rise), _ = VIEWS[view]
    return np.stack([points[..., across] * right, points[..., up] * rise], axis=-1)


def faces_view(view: View, normals: NDArray[np.floating]) -> NDArray[np.bool_]:
    """Return which of ``normals`` (n, 3) face a viewer at ``view``."""
    _, _, (facing, sense) = VIEWS[view]
    towards: NDArray[np.bool_] = normals[:, facing] * sense > 0
    return towards


def settle_places(part: Part, figure: Figure) -> tuple[Place, ...]:
    """Return the places of ``part`` with those near another part moved to where the two meet."""
    if not any(isinstance(place.where, Near) for place in part.places):
        return part.places
    return tuple(
        place.replaced(where=_where_it_meets(part, place.where, figure))
        if isinstance(place.where, Near)
        else place
        for place in part.places
    )


def with_settled_places(figure: Figure) -> Figure:
    """Return ``figure`` with all places near another part settled; the same value if there are none."""
    parts = tuple(
        part.replaced(places=settle_places(part, figure)) for part in figure.parts if part.places
    )
    if all(part.places == figure.by_id[part.id].places for part in parts):
        return figure
    laid = {part.id: part for part in parts}
    return figure.replaced(parts=tuple(laid.get(part.id, part) for part in figure.parts))


def _where_it_meets(part: Part, near: Near, figure: Figure) -> Where:
    """Return a spot at the base of what sits on ``part``, or at the end of ``part`` that sits on the
    other."""
    other = figure.by_id[near.part]
    if part.parent == other.id:
        reach = max(0.0, part.seat.sink) + near.within
        return Band(end=min(1.0, reach / _run_mm(part.shape)))
    across = max(other.shape.extents()[1:])
    way = ((min(1.0, max(0.0, other.seat.along)), other.seat.around),)
    return Line(way=way, wide=across + 2 * near.within, mirrored=other.pair and not part.pair)


def deep_in(shape: Shape, where: Where) -> Deep:
    """Return a function that gives how deep points lie within a place of ``shape``."""
    match where:
        case Outline():
            return _in_outline(shape, where)
        case Band():
            return _in_band(shape, where)
        case Line():
            return _on_line(shape, where)
        case Near():
            raise TypeError("what is near another part is settled first")


def _in_outline(shape: Shape, where: Outline) -> Deep:
    centre, half = box_of(shape)
    (across, _), (up, _), _ = VIEWS[where.view]
    polygon = np.array(where.outline) * [half[across], half[up]]

    def deep(points: Array, normals: Array, most: float) -> Array:
        flat = as_seen(where.view, points - centre)
        found = signed_distance(polygon, flat, most)
        if where.mirrored:
            found = np.maximum(found, signed_distance(polygon * [-1, 1], flat, most))
        seen: Array = np.where(faces_view(where.view, normals), found, -np.inf)
        return seen

    return deep


def _in_band(shape: Shape, where: Band) -> Deep:
    long = _run_mm(shape)

    def deep(points: Array, normals: Array, most: float) -> Array:
        along, around, radius = places_of(shape, points)
        found = np.full(len(points), np.inf)
        if where.begin > 0:
            found = np.minimum(found, (along - where.begin) * long)
        if where.end < 1:
            found = np.minimum(found, (where.end - along) * long)
        if where.wide >= 360:
            return found
        off = np.abs((around - where.around + 180) % 360 - 180)
        if where.mirrored:
            off = np.minimum(off, np.abs((around + where.around + 180) % 360 - 180))
        aside: Array = np.minimum(found, np.radians(where.wide / 2 - off) * radius)
        return aside

    return deep


def _on_line(shape: Shape, where: Line) -> Deep:
    from scipy.spatial import cKDTree  # the window need not wait for it

    run = run_of(shape, where)
    runs = [run, run * [-1, 1, 1]] if where.mirrored else [run]
    half, fine = where.wide / 2, where.wide * _FINE
    trees = [cKDTree(_refine_line(each, fine)) for each in runs]
    # The skin on the far side of a thin part is near, but another side.
    out = _outward_direction(shape, where, run)
    ways = [out, out * [-1, 1, 1]][: len(runs)]
    is_thread = where.wide < shape.smallest_mm / 4

    def deep(points: Array, normals: Array, most: float) -> Array:
        found = np.full(len(points), -np.inf)
        for tree, out in zip(trees, ways, strict=True):
            far, _ = tree.query(points, distance_upper_bound=half + most + fine)
            faces = is_thread | (normals @ out > 0)
            found = np.maximum(found, np.where(faces, half - far, -np.inf))
        return found

    return deep


def _outward_direction(shape: Shape, where: Line, run: Array) -> Array:
    """Return the outward direction (3) of the skin under a line: away from the axis; at a rounded end, away
    from the middle of its rounding; of a leaf, towards the side it is drawn on."""
    if isinstance(shape, Leaf):
        around = math.radians(float(np.unwrap([a for _, a in where.way], period=360.0).mean()))
        return np.array([math.sin(around), -math.cos(around), 0.0])
    middle = run.mean(axis=0)
    along, _, _ = places_of(shape, middle[None])
    rounding = min(0.5, shape.smallest_mm / 2 / _run_mm(shape))
    share = min(1 - rounding, max(rounding, float(along[0])))
    out: Array = middle - seat_point(shape, share, 0.0, 0.0)
    return out


def run_of(shape: Shape, where: Line) -> Array:
    """Return the line as points (n, 3) of the skin, mm, in the part's own axes."""
    way = np.array(where.way)
    way[:, 1] = np.unwrap(way[:, 1], period=360.0)
    if len(way) > 1:
        closed = len(way) > 3 and bool((np.abs(way[0] - way[-1]) < 1e-9).all())
        bent = smooth(way[:-1] if closed else way, closed, _LEG_PIECES)
        way = np.vstack([bent, bent[:1]]) if closed else bent
    return np.array([seat_point(shape, along, around, 1.0) for along, around in way.tolist()])


def line_mm(shape: Shape, where: Line) -> float:
    """Return the length of a line over the skin, mm; a spot is as long as it is wide."""
    if where.is_spot:
        return where.wide
    run = run_of(shape, where)
    return float(np.linalg.norm(np.diff(run, axis=0), axis=1).sum())


def place_mm(shape: Shape, where: Where) -> tuple[float, float]:
    """Return the length and width of a place over the skin, mm: a line as it runs, else the longer and the
    shorter side."""
    match where:
        case Line():
            return line_mm(shape, where), where.wide
        case Outline():
            (across, _), (up, _), _ = VIEWS[where.view]
            _, half = box_of(shape)
            sides = np.ptp(np.array(where.outline) * [half[across], half[up]], axis=0).tolist()
        case Band():
            round_mm = math.radians(where.wide) * shape.smallest_mm / 2
            sides = [(where.end - where.begin) * _run_mm(shape), round_mm]
        case Near():
            raise TypeError("what is near another part is settled first")
    return max(sides), min(sides)


def _refine_line(run: Array, mm: float) -> Array:
    """Return the line cut into pieces of at most ``mm``, so that its nearest point tells how far it is."""
    if len(run) == 1:
        return run
    at = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(run, axis=0), axis=1))])
    fine = np.linspace(0.0, at[-1], max(2, math.ceil(at[-1] / mm) + 1))
    return np.column_stack([np.interp(fine, at, run[:, k]) for k in range(3)])


@remembered(512)
def _run_mm(shape: Shape) -> float:
    """Return the length of the axis that places refer to, mm."""
    if isinstance(shape, ChainShape):
        form = chain(shape)
        points = np.vstack([form.points, form.points[:1]]) if form.closed else form.points
        return float(np.linalg.norm(np.diff(points, axis=0), axis=1).sum())
    return float(shape.length) if isinstance(shape, Leaf) else float(profile(shape).z[-1])


def places_of(shape: Shape, points: Array) -> tuple[Array, Array, Array]:
    """Return for points (n, 3) of the skin the share along (0..1), the angle around (degrees) and the
    distance from the axis (mm), as in :func:`bambola.core.solids.touch.located`."""
    if isinstance(shape, ChainShape):
        return _beside_chain(shape, points)
    if isinstance(shape, Leaf):
        flat = flatten_sheet(shape, points)
        right, front = flat[:, 0] / (shape.width / 2), -flat[:, 1] / (shape.thickness / 2)
        along = np.clip(flat[:, 2] / shape.length, 0.0, 1.0)
        radius = np.full(len(points), shape.width / 2)
    else:
        form = profile(shape)
        z = np.clip(points[:, 2], 0.0, float(form.z[-1]))
        wide = np.maximum(np.interp(z, form.z, form.half_width), 1e-9)
        far = np.maximum(np.interp(z, form.z, form.half_depth), 1e-9)
        right, front = points[:, 0] / wide, -points[:, 1] / far
        along, radius = z / float(form.z[-1]), np.minimum(wide, far)
    return along, np.degrees(np.arctan2(right, front)), radius


def _beside_chain(shape: ChainShape, points: Array) -> tuple[Array, Array, Array]:
    form = chain(shape)
    joints = np.vstack([form.points, form.points[:1]]) if form.closed else form.points
    legs = np.diff(joints, axis=0)
    runs = np.maximum(np.linalg.norm(legs, axis=1), 1e-9)
    begun = np.concatenate([[0.0], np.cumsum(runs)])
    nearest = np.full(len(points), np.inf)
    along, around, radius = (np.zeros(len(points)) for _ in range(3))
    for i, leg in enumerate(legs):
        axis = leg / runs[i]
        reach = np.clip((points - joints[i]) @ axis, 0.0, runs[i])
        off = points - joints[i] - reach[:, None] * axis
        far2 = (off * off).sum(axis=1)
        here = far2 < nearest
        ahead, aside = _front_of(axis)
        nearest[here] = far2[here]
        along[here] = (begun[i] + reach[here]) / begun[-1]
        around[here] = np.degrees(np.arctan2(off[here] @ aside, off[here] @ ahead))
        radius[here] = np.sqrt(far2[here])
    return along, around, radius


def _front_of(axis: Array) -> tuple[Array, Array]:
    """Return the front and left directions of a round limb along ``axis`` (see ``seat_point``)."""
    front = np.array([0.0, -1.0, 0.0]) if abs(axis[1]) < 0.9 else np.array([0.0, 0.0, 1.0])
    front = front - axis * float(front @ axis)
    front /= math.sqrt(float(front @ front))
    aside = np.cross(front, axis)
    return front, -aside if aside[0] < 0 else aside


def span_of(shape: Shape, where: Where) -> float:
    """Return the extent of a place in its narrowest direction, mm."""
    match where:
        case Line():
            return where.wide
        case Near():
            return where.within
        case _:
            return place_mm(shape, where)[1]


def drawn_on(shape: Shape, where: Where) -> tuple[View, Array]:
    """Return the view a place is drawn in, and its outline there (n, 2), mm from the middle of the box."""
    centre, half = box_of(shape)
    if isinstance(where, Outline):
        (across, _), (up, _), _ = VIEWS[where.view]
        return where.view, np.array(where.outline) * [half[across], half[up]]
    view = _view_of(where)

    def flat(points: Array) -> Array:
        return as_seen(view, points - centre)

    if isinstance(where, Line) and not where.is_spot:
        return view, _widen_line(flat(run_of(shape, where)), where.wide)
    from scipy.spatial import ConvexHull

    mesh = mesh_of(shape, Detail.DRAWN)
    points, normals = mesh.vertices, mesh.vertex_normals()
    seen = points_in_places(shape, where, points, normals) & faces_view(view, normals)
    if isinstance(where, Line) or seen.sum() < 3:
        run = run_of(shape, where) if isinstance(where, Line) else points[:1]
        turns = np.linspace(0, 2 * math.pi, 25)[:-1]
        disc = np.column_stack([np.cos(turns), np.sin(turns)]) * span_of(shape, where) / 2
        return view, flat(run).mean(axis=0) + disc
    shown = flat(points[seen])
    return view, shown[ConvexHull(shown).vertices]


def view_axes(shape: Shape, view: View, flat: Array) -> Array:
    """Return points (n, 3) on the side of a part's box facing ``view``, for an outline (n, 2), mm from the
    middle of the box."""
    centre, half = box_of(shape)
    (across, right), (up, rise), (facing, sense) = VIEWS[view]
    points = np.tile(centre, (len(flat), 1))
    points[:, across] += flat[:, 0] * right
    points[:, up] += flat[:, 1] * rise
    points[:, facing] += 0.5 * half[facing] * sense
    return points


def _view_of(where: Where) -> View:
    if isinstance(where, Band):
        around = where.around if where.wide < 360 else 0.0
    elif isinstance(where, Line):
        around = where.way[len(where.way) // 2][1]
    else:
        around = 0.0
    turn = (around + 180) % 360 - 180
    if abs(turn) <= 45:
        return "front"
    if abs(turn) >= 135:
        return "back"
    return "left" if turn > 0 else "right"


def _widen_line(run: Array, wide: float) -> Array:
    """Return a line (n, 2) as an outline of this width."""
    legs = np.gradient(run, axis=0)
    side = np.column_stack([-legs[:, 1], legs[:, 0]])
    side *= wide / 2 / np.maximum(np.linalg.norm(side, axis=1, keepdims=True), 1e-12)
    return np.vstack([run + side, (run - side)[::-1]])


def share_along(shape: Shape, where: Where) -> float:
    """Return the extent of a place along ``shape`` as a share of its length."""
    long = _run_mm(shape)
    match where:
        case Band():
            return where.end - where.begin
        case Outline():
            _, half = box_of(shape)
            up, _ = VIEWS[where.view][1]
            return min(1.0, float(np.ptp(np.array(where.outline)[:, 1])) * float(half[up]) / long)
        case Line():
            along = [share for share, _ in where.way]
            return min(1.0, max(along) - min(along) + where.wide / long)
        case Near():
            return min(1.0, 2 * where.within / long)


def points_in_places(
    shape: Shape, where: Where, points: NDArray[np.floating], normals: NDArray[np.floating]
) -> NDArray[np.bool_]:
    """Return which of ``points`` (n, 3) of a skin, with outward ``normals`` (n, 3), lie within a place; both
    are in the part's own axes, points in mm of ``shape``."""
    if isinstance(where, Outline):  # whether is asked sooner than how deep
        return _is_enclosed(shape, where, points, normals)
    found: NDArray[np.bool_] = (
        deep_in(shape, where)(np.asarray(points, float), np.asarray(normals, float), 0.0) > 0
    )
    return found


def _is_enclosed(
    shape: Shape, where: Outline, points: NDArray[np.floating], normals: NDArray[np.floating]
) -> NDArray[np.bool_]:
    centre, half = box_of(shape)
    flat = as_seen(where.view, (points - centre) / half)
    polygon = np.array(where.outline)
    inside = encloses(polygon, flat)
    if where.mirrored:
        inside |= encloses(polygon, flat * [-1, 1])
    covers: NDArray[np.bool_] = inside & faces_view(where.view, normals)
    return covers
