"""Regroups parts: joins two into one, or cuts one in two along a stroke.

It works on solids, so it does not matter how a part came about. The results are fitted again, as a line in
each of the views that see them long; nothing else moves.
"""

from __future__ import annotations

import cv2
import manifold3d as m3
import numpy as np

from bambola.core.bench import Bench
from bambola.core.facts import RefusedError, fact
from bambola.core.figure import Figure, Part, Seat, Sight, Survey, Trace
from bambola.core.figure.graft import check_figure, descendants, without_part
from bambola.core.figure.shapes import ChainShape, as_kind
from bambola.core.figure.survey import Spot
from bambola.core.frozen import frozen
from bambola.core.plan.reading.assembling import ROUND
from bambola.core.plan.reading.tracing import with_seated
from bambola.core.sight.build import origin_of, with_traces
from bambola.core.sight.fit import fit_shape
from bambola.core.sight.profile import read_trace
from bambola.core.sight.silhouette import Silhouette
from bambola.core.solids import AXES, Copy, frame_along, own_copy, place, reseat
from bambola.core.solids.edit import axis_ends, put_on
from bambola.core.solids.forms import Array
from bambola.core.solids.meshes import solid_of
from bambola.core.solids.outlines import outline_of_copy

LEAST = 0.02
"""A cut that leaves less than this share of a part on one side is none. Judged. See craft.md, 9."""
TURNED = 1.25
"""What comes of it keeps the axis of what was there, unless it is so many times as long another way.
Judged. See craft.md, 9."""
END_ON = 0.3
"""A view that sees less than this share of an axis's length says nothing of it. Judged. See craft.md, 9."""
_PX_MM = 3.0
"""Shadows are drawn with so many pixels to a millimetre."""
_STATIONS = 41
_VIEWS: tuple[Sight, ...] = ("front", "side", "top")


def merge_parts(figure: Figure, survey: Survey, part: str, into: str) -> tuple[Figure, Survey]:
    """Return ``figure`` and ``survey`` with ``part`` and ``into`` merged into one with the name of ``into``;
    if one bears the other, the bearer remains. What sat on either sits on it. Raises ``ValueError`` if it
    cannot be built."""
    if into in descendants(figure, part):
        part, into = into, part
    placement = place(figure)
    own = _first_copy(figure, into)
    paired = own.side is not None
    if paired and _first_copy(figure, part).side is None:
        names = {"part": figure.by_id[part].name, "pair": figure.by_id[into].name}
        raise RefusedError(fact("edit.joins-pair", **names))
    others = [copy for copy in placement.copies_of(part) if not paired or copy.side == "left"]
    whole = m3.Manifold.batch_boolean([_solid_of_copy(c) for c in (own, *others)], m3.OpType.Add)
    ways = [_straight_axis(own), *(_middle_of(c) - _middle_of(own) for c in others)]
    way = _led_on(own, others) if isinstance(own.shape, ChainShape) else _drawing_axis(whole, ways)
    stands = _placed_copies(figure, survey)
    for child in [p.id for p in figure.parts if p.parent == part]:
        figure = put_on(figure, child, into)
    fittings = tuple(f.replaced(part=into) if f.part == part else f for f in figure.fittings)
    figure = without_part(figure.replaced(fittings=fittings), part)
    survey = survey.without_parts(frozenset((part, into)))
    figure, survey = _drawn_as(figure, survey, into, _traces_along(whole, way, into, stands.origin))
    return _kept_in_place(figure, survey, stands, (into,))


def cut_across(
    figure: Figure,
    survey: Survey,
    part: str,
    view: Sight,
    stroke: tuple[Spot, Spot],
    name: str,
    bench: Bench,
) -> tuple[Figure, Survey, str]:
    """Return ``figure`` and ``survey`` with ``part`` cut in two by ``stroke`` (mm of ``view``), and the new
    part's id. What lies beyond the cut, away from the base, is the new part ``name``, with everything that
    sat there; of the trunk the larger piece remains. Raises ``ValueError`` if it cannot be built."""
    stands = _placed_copies(figure, survey)
    own, normal, off = _cutting_plane(figure, part, view, np.array(stroke), stands.origin)
    whole = _solid_of_copy(own)
    far, near = whole.split_by_plane(normal.tolist(), off)
    if min(far.volume(), near.volume()) < LEAST * whole.volume():
        raise RefusedError(fact("edit.cuts-nothing", part=figure.by_id[part].name))
    base = figure.by_id[part].parent and normal @ own.point(0.0) > off
    if base or (figure.by_id[part].parent is None and far.volume() > near.volume()):
        far, near, normal, off = near, far, -normal, -off
    ways = [
        _chain_up_to(own, normal, off, sense)
        if isinstance(own.shape, ChainShape)
        else _drawing_axis(piece, [_straight_axis(own), normal])
        for piece, sense in ((near, -1), (far, 1))
    ]
    kept, beyond = (
        _traces_along(piece, way, id, stands.origin)
        for piece, way, id in ((near, ways[0], part), (far, ways[1], "new"))
    )
    figure, survey = _drawn_as(figure, survey.without_parts(frozenset((part,))), part, kept)
    kind = _redrawn_kind(own.part, beyond)
    figure, survey, new = with_seated(
        figure, survey, beyond, name, kind, part, own.side is not None, bench
    )

    def goes(on: str, matrix: Array) -> bool:
        return on == part and bool(normal @ matrix[:3, 3] > off)

    parts = [
        p.replaced(parent=new) if p.id != new and goes(p.parent or "", stands.parts[p.id]) else p
        for p in figure.parts
    ]
    fittings = [
        f.replaced(part=new) if goes(f.part, stands.fittings[f.id]) else f for f in figure.fittings
    ]
    figure = figure.replaced(parts=tuple(parts), fittings=tuple(fittings))
    return *_kept_in_place(figure, survey, stands, (part, new)), new


# What stays where it was


@frozen
class _Stands:
    """Where each part and fitting stands: a matrix (4, 4) in the figure's axes; and the origin (3,) of those
    in the pictures' axes."""

    parts: dict[str, Array]
    fittings: dict[str, Array]
    origin: Array


def _placed_copies(figure: Figure, survey: Survey) -> _Stands:
    placement = place(figure)
    return _Stands(
        {c.part.id: c.matrix for c in placement.copies if c.side != "right"},
        {f.fitting.id: f.matrix for f in placement.fittings if f.side != "right"},
        origin_of(figure, survey),
    )


def _kept_in_place(
    figure: Figure, survey: Survey, stands: _Stands, bearers: tuple[str, ...]
) -> tuple[Figure, Survey]:
    """Return the figure with everything on ``bearers`` kept where it stood before they changed."""
    shift = stands.origin - origin_of(figure, survey)
    for bearer in bearers:
        carrier = _first_copy(figure, bearer)

        def seat(matrix: Array, was: Seat, carrier: Copy = carrier) -> Seat:
            return reseat(carrier, matrix[:3, 3] + shift, matrix[:3, :3], was.sink)

        figure = figure.replaced(
            parts=tuple(
                p.replaced(seat=seat(stands.parts[p.id], p.seat))
                if p.parent == bearer and p.id in stands.parts
                else p
                for p in figure.parts
            ),
            fittings=tuple(
                f.replaced(seat=seat(stands.fittings[f.id], f.seat)) if f.part == bearer else f
                for f in figure.fittings
            ),
        )
    figure, survey = with_traces(figure, survey)
    return check_figure(figure), survey


# What comes of it, fitted


def _first_copy(figure: Figure, part: str) -> Copy:
    copy = own_copy(place(figure), part)
    assert copy is not None
    return copy


def _solid_of_copy(copy: Copy) -> m3.Manifold:
    return solid_of(copy.shape).transform(copy.matrix[:3])


def _cutting_plane(
    figure: Figure, part: str, view: Sight, stroke: Array, origin: Array
) -> tuple[Copy, Array, float]:
    """Return the plane of ``stroke`` (2, 2) along the line of sight of ``view`` (normal and offset from the
    figure's origin) in the left copy of a pair, and that copy."""

    def crossed(copy: Copy) -> int:
        outline = outline_of_copy(copy, view, origin).astype(np.float32)
        places = np.linspace(stroke[0], stroke[1], _STATIONS).tolist()
        return sum(cv2.pointPolygonTest(outline, place, False) >= 0 for place in places)

    copy = max(place(figure).copies_of(part), key=crossed)
    along = stroke[1] - stroke[0]
    across = np.array([-along[1], along[0]]) / max(float(np.linalg.norm(along)), 1e-9)
    normal = across @ AXES[view][:2]
    off = float(across @ stroke[0] - normal @ origin)
    if copy.side == "right":
        normal = normal * (-1.0, 1.0, 1.0)
    return _first_copy(figure, part), normal, off


def _straight_axis(copy: Copy) -> Array:
    base, tip = axis_ends(copy)
    return tip - base


def _drawing_axis(solid: m3.Manifold, directions: list[Array]) -> Array:
    """Return the axis (2, 3) to draw a solid along: through its middle, in the first of ``directions`` unless
    it is far longer in another."""
    corners = np.asarray(solid.to_mesh().vert_properties, dtype=np.float64)[:, :3]
    units = [d / np.linalg.norm(d) for d in directions if np.linalg.norm(d) > 1e-6]
    spans = [float(np.ptp(corners @ unit)) for unit in units]
    best = max(range(len(units)), key=lambda n: spans[n] * (TURNED if n == 0 else 1.0))
    turn = frame_along(units[best], np.array([1.0, 0.0, 0.0]))
    own = corners @ turn
    middle = (own.min(axis=0) + own.max(axis=0)) / 2
    ends = np.array([[*middle[:2], own[:, 2].min()], [*middle[:2], own[:, 2].max()]])
    return ends @ turn.T


def _led_on(own: Copy, others: list[Copy]) -> Array:
    """Return the path (n, 3) along a chain, extended through what lies beyond its tip or before its base."""
    way = [own.point(at) for at in (0.0, 0.5, 1.0)]
    for other in others:
        middle = _middle_of(other)
        far = [float(np.linalg.norm(middle - place)) for place in way]
        reach = middle + (middle - way[int(np.argmin(far))])
        if far[-1] < min(far[:-1]):
            way.append(reach)
        elif far[0] < min(far[1:]):
            way.insert(0, reach)
    return np.array(way)


def _chain_up_to(own: Copy, normal: Array, off: float, sense: int) -> Array:
    """Return the part of a chain's path that lies on one side of a plane, from its base on."""
    at = np.linspace(0.0, 1.0, _STATIONS)
    places = np.array([own.point(float(t)) for t in at])
    side = np.flatnonzero(sense * (places @ normal - off) > 0)
    if len(side) < 3:
        raise RefusedError(fact("edit.cuts-nothing", part=own.part.name))
    return np.asarray(places[side[[0, len(side) // 2, -1]]])


def _middle_of(copy: Copy) -> Array:
    return (copy.point(0.0) + copy.point(1.0)) / 2


def _traces_along(solid: m3.Manifold, way: Array, part: str, origin: Array) -> list[Trace]:
    """Return ``solid`` as lines of ``part`` along ``way`` (n, 3), in the two views that see it longest."""
    seen: dict[Sight, float] = {
        view: float(np.linalg.norm((way[-1] - way[0]) @ AXES[view][:2].T)) for view in _VIEWS
    }
    longest = sorted(_VIEWS, key=lambda view: -seen[view])[:2]
    length = float(np.linalg.norm(way[-1] - way[0]))
    return [
        _trace_in_view(solid, way, part, view, origin)
        for view in longest
        if seen[view] > END_ON * length
    ]


def _trace_in_view(solid: m3.Manifold, way: Array, part: str, view: Sight, origin: Array) -> Trace:
    axes = AXES[view]
    runs = solid.transform(np.column_stack([axes, axes @ origin])).project().to_polygons()
    corner = np.min([run.min(axis=0) for run in runs], axis=0) - 4.0
    size = np.max([run.max(axis=0) for run in runs], axis=0) + 4.0 - corner
    cover = np.zeros(np.ceil(size[::-1] * _PX_MM).astype(int), dtype=np.float32)
    cv2.fillPoly(cover, [np.round((run - corner) * _PX_MM).astype(np.int32) for run in runs], 1.0)
    shadow = Silhouette(cover, np.ones_like(cover), 1.0, 1.0)

    def to_px(u: float, v: float) -> Spot:
        return (u - float(corner[0])) * _PX_MM, (v - float(corner[1])) * _PX_MM

    points = [(float(u), float(v)) for u, v in (way + origin) @ axes[:2].T]
    return read_trace(shadow, to_px, part, view, points).replaced(edges="hand")


def _redrawn_kind(was: Part, traces: list[Trace]) -> str:
    """Return the kind of shape a redrawn part gets: its former kind if that is a chain or flat, else round or
    turned."""
    if isinstance(was.shape, ChainShape) or was.shape.flat:
        return was.shape.kind
    return "ball" if max(fit_shape("ball", trace).miss for trace in traces) < ROUND else "turned"


def _drawn_as(
    figure: Figure, survey: Survey, part: str, traces: list[Trace]
) -> tuple[Figure, Survey]:
    """Return the figure with ``part`` rebuilt from ``traces``."""
    was = figure.by_id[part]
    kind = _redrawn_kind(was, traces)
    shape = was.shape if was.shape.kind == kind else as_kind(was.shape, kind)
    for trace in traces:
        survey = survey.traced(trace)
    parts = tuple(p.replaced(shape=shape) if p.id == part else p for p in figure.parts)
    return with_traces(figure.replaced(parts=parts), survey)
