"""What one copy of a part shares with a cluster of neighbours: volume with earlier ones, skin with all.

Volume and joins are found by cutting solids where few things touch; in a crowd, random points in the shape
give as much in less time. Skin is found facet by facet (:mod:`.buried`).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

import manifold3d as m3
import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.places import Place
from bambola.core.figure.shapes import Shape
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.facets import (
    edges,
    facet_areas,
    facet_centres,
    quarter_facets,
    vector_lengths,
)
from bambola.core.solids.forms import Array, support_distances
from bambola.core.solids.inside import (
    POINTS,
    THRONG,
    PlacedPart,
    buried_points,
    buried_skin,
    points_within,
    random_points_within,
    seen_by,
)
from bambola.core.solids.lengthwise import hidden_in
from bambola.core.solids.meshes import (
    KEPT_SHAPES,
    Detail,
    detail_for,
    from_manifold,
    mesh_of,
    solid_near,
    solid_of,
)
from bambola.core.solids.patches import place_areas, place_edge


@dataclass(frozen=True)
class Neighbour:
    """Another copy as seen from the one measured: its relation, shape and relative place."""

    role: str
    """"parent", "earlier" or "later"; "capped" is a limb whose end lies in the part, which is whole; "twin"
    is the other one of a mirrored pair, and what the two share is parted at the mirror plane; "wound" is a
    limb on wire that the part is wound round."""
    shape: Shape
    rows: tuple[tuple[float, ...], ...]
    root: Shape | None = None
    """Of a "wound" limb as much as the part is wound round, in the limb's axes; of a "parent" as much of the
    part as it is wound round, in the part's axes."""

    def owns_points(self, points: Array) -> NDArray[np.bool_]:
        """Return which of ``points`` (n, 3) in the part's axes belong to this neighbour."""
        rows = np.array(self.rows)
        if self.role == "wound":
            assert self.root is not None
            return buried_points([(self.root, rows)], points)
        found = buried_points([(self.shape, rows)], points)
        if self.role == "twin":
            normal, off = _mirror_of(self)
            found &= points @ np.array(normal) > off
        if self.role == "parent" and self.root is not None:
            found &= ~points_within(self.root, points)
        return found


Box = tuple[float, ...]
"""Low x, y, z and high x, y, z of something in a copy's own axes, mm."""
KEPT_SHARES = 1024
"""Shares that are remembered: those of 120 parts at two sizes. Each is known by the shapes it is of, which
weigh far more than what it tells. Judged."""
OPEN: Box = (-math.inf,) * 3 + (math.inf,) * 3


@frozen
class ShapeMoments:
    """Volume, its first moment, skin, patches, and the skin under each fur: of a shape alone, or of what it
    shares; in that case ``hidden`` marks points of its slices."""

    volume: float
    moment: tuple[float, float, float]
    skin: float
    patches: tuple[float, ...]
    join_mm2: float = 0.0
    join_line_mm: float = 0.0
    edges: tuple[float, ...] = ()
    box: Box = OPEN
    hidden: bytes = b""
    furs: tuple[float, ...] = ()


_NOTHING = ShapeMoments(0.0, (0.0, 0.0, 0.0), 0.0, ())


@remembered(KEPT_SHAPES)
def alone_worth(shape: Shape, places: tuple[Place, ...]) -> ShapeMoments:
    """Return the measures of a shape by itself."""
    mesh, fine = mesh_of(shape), mesh_of(shape, Detail.DRAWN)
    skin = fine.vertices[fine.faces]
    return ShapeMoments(
        mesh.volume,
        _volume_moment(mesh.vertices[mesh.faces]),
        fine.area,
        _patch_areas(shape, skin, places),
        edges=tuple(place_edge(shape, place.where) for place in places if place.wool),
        box=(*-support_distances(shape, -np.eye(3)), *support_distances(shape, np.eye(3))),
        furs=_fur_areas(shape, skin, places),
    )


def _patch_areas(shape: Shape, skin: Array, places: tuple[Place, ...]) -> tuple[float, ...]:
    """Return the area of ``skin`` under each patch, mm²."""
    return place_areas(shape, skin, [place for place in places if place.wool])


def _fur_areas(shape: Shape, skin: Array, places: tuple[Place, ...]) -> tuple[float, ...]:
    """Return the area of ``skin`` under each fur, mm²."""
    about = [place for place in places if place.fur or place.bare]
    found = zip(place_areas(shape, skin, about), about, strict=True)
    return tuple(area for area, place in found if place.fur)


@remembered(KEPT_SHARES)
def share(
    shape: Shape, neighbours: tuple[Neighbour, ...], places: tuple[Place, ...], most: int
) -> ShapeMoments:
    """Return what ``shape`` shares with one cluster: volume with the earlier ones, skin with all. Solids are
    cut with up to ``most`` neighbours."""
    buried = buried_skin(shape, list(_placed_neighbours(neighbours)))
    before = tuple(n for n in neighbours if n.role != "later")
    return replace(
        _shared_volume(shape, before, most) if before else _NOTHING,
        skin=float(facet_areas(buried).sum()),
        patches=_patch_areas(shape, buried, places),
        furs=_fur_areas(shape, buried, places),
    )


@remembered(KEPT_SHARES)
def _shared_volume(shape: Shape, before: tuple[Neighbour, ...], most: int) -> ShapeMoments:
    """Return the volume that ``shape`` shares with the earlier ones of a cluster, and its join to its
    parent."""
    among = len(before) > most or _is_among_giants(shape, before)
    found = _thrown_share(shape, before) if among else _cut_share(shape, before)
    if found.volume <= 0:
        return found
    # What it is wound round does not make it smaller outside.
    beside = [n for n in before if n.role != "wound"]
    return replace(found, hidden=hidden_in(shape, lambda points: _is_taken(beside, points)))


def _cut_share(shape: Shape, before: tuple[Neighbour, ...]) -> ShapeMoments:
    """Return what ``shape`` shares with a cluster, by cutting solids."""
    whole = left = outer = solid_of(shape)
    taken: list[m3.Manifold] = []
    area = line = 0.0
    # The one it sits on is cut after others: its join is what they leave of it. Last comes what is inside it.
    for n in sorted(before, key=lambda n: (n.role == "wound", n.role in _BEARING)):
        body = _body_in_place(
            n if n.role != "wound" or n.root is None else replace(n, shape=n.root), shape
        )
        if n.role == "twin":
            body = body.trim_by_plane(*_mirror_of(n))
        if n.role in _BEARING:
            body = body.as_original()  # so that its surface is told from all others
        shared, rest = left.split(body)
        if n.role in _BEARING:
            area, line = _join_area(shared, body.original_id())
        if n.role == "parent" and n.root is not None:
            shared -= solid_of(n.root)
            rest = left - shared
        if n.role != "capped":
            taken.append(shared)
            left = rest
        outer = outer if n.role == "wound" else left
    found = replace(_NOTHING, join_mm2=area, join_line_mm=line)
    volume = sum(shared.volume() for shared in taken)
    if volume <= 0:
        return found
    facets = np.concatenate([solid.vertices[solid.faces] for solid in map(from_manifold, taken)])
    return replace(
        found, volume=volume, moment=_volume_moment(facets), box=_left_over(whole, outer)
    )


_BEARING = ("parent", "capped")


def _mirror_of(twin: Neighbour) -> tuple[tuple[float, float, float], float]:
    """Return the mirror plane between a copy and its twin in the copy's axes: the normal towards the twin,
    and the offset (mm). It lies midway between the two origins."""
    at = np.array(twin.rows)[:, 3]
    away = float(np.linalg.norm(at))
    x, y, z = (at / away).tolist()
    return (x, y, z), away / 2


def _is_taken(before: Iterable[Neighbour], points: Array) -> NDArray[np.bool_]:
    """Return which of ``points`` (n, 3) earlier parts take."""
    taken: NDArray[np.bool_] = np.zeros(len(points), dtype=bool)
    for n in before:
        if n.role != "capped":
            taken[~taken] = n.owns_points(points[~taken])  # in a crowd most are found soon
    return taken


def _placed_neighbours(neighbours: Iterable[Neighbour]) -> Iterator[PlacedPart]:
    return ((n.shape, np.array(n.rows)) for n in neighbours)


_GIANT = 1000.0
"""Beside something so many times as large a cut through long slivers takes for ever, and points do not.
Judged: no figure that is meant has such parts."""


def _is_among_giants(shape: Shape, neighbours: tuple[Neighbour, ...]) -> bool:
    """Return whether a neighbour other than the bearer is out of all proportion to a shape."""
    large = _GIANT * max(shape.measures().values())
    return any(n.role != "parent" and max(n.shape.measures().values()) > large for n in neighbours)


_CROWD = 8
_MANY, _CROWD_OF_MANY = 60, 3
"""Where more earlier copies than this crowd together, points are thrown instead of cutting solids; in a
figure of more than sixty copies sooner. Judged."""


def most_cut(copies: int) -> int:
    """Return with how many neighbours solids are cut in a figure of this many copies."""
    return _CROWD if copies <= _MANY else _CROWD_OF_MANY


def _thrown_share(shape: Shape, before: tuple[Neighbour, ...]) -> ShapeMoments:
    """Estimate the shares from random points in the shape; only the join to its parent is cut."""
    points = random_points_within(shape, POINTS if len(before) <= THRONG else POINTS // 4)
    earlier = _is_taken(before, points)
    # What is thrown is a little off the volume itself; shares of it are not.
    exact = mesh_of(shape).volume / max(1, len(points))
    shared = points[earlier]
    left = points[~_is_taken((n for n in before if n.role != "wound"), points)]
    low, high = (left.min(axis=0), left.max(axis=0)) if len(left) else (np.zeros(3), np.zeros(3))
    x, y, z = (shared.sum(axis=0) * exact).tolist()
    area, line = _join_in_a_crowd(shape, before)
    return replace(
        _NOTHING,
        volume=len(shared) * exact,
        moment=(x, y, z),
        join_mm2=area,
        join_line_mm=line,
        box=(*low, *high) if len(shared) else OPEN,
    )


def _join_in_a_crowd(shape: Shape, before: tuple[Neighbour, ...]) -> tuple[float, float]:
    """Return the area and line of the join to the parent, where no other part lies."""
    parent = next((n for n in before if n.role in _BEARING), None)
    if parent is None:
        return 0.0, 0.0
    body = _body_in_place(parent, shape).as_original()
    original = body.original_id()
    shared = solid_of(shape) ^ body
    area, line = _join_area(shared, original)
    if area <= 0:
        return 0.0, 0.0
    pieces = _surface_of(shared, original)[0]
    for _ in range(2 if len(before) <= THRONG else 0):
        pieces = quarter_facets(pieces)
    others = _placed_neighbours(n for n in before if n.role == "earlier")
    taken = buried_points(others, facet_centres(pieces))
    free = float(facet_areas(pieces[~taken]).sum()) / area
    return area * free, line * free


def _left_over(whole: m3.Manifold, left: m3.Manifold) -> Box:
    """Return the box of the largest remaining piece of a copy; unbounded where nothing cuts it short."""
    pieces = left.decompose()
    if not pieces:
        return OPEN
    largest = max(pieces, key=lambda piece: piece.volume()).bounding_box()
    all_ = whole.bounding_box()
    slack = 1e-6 * max(abs(mm) for mm in all_)
    return tuple(
        mm if abs(mm - full) > slack else open_
        for mm, full, open_ in zip(largest, all_, OPEN, strict=True)
    )


def _body_in_place(neighbour: Neighbour, shape: Shape) -> m3.Manifold:
    """Return a neighbour's solid in place, as fine as needed where ``shape`` lies on it."""
    rows = np.array(neighbour.rows)
    detail = detail_for(neighbour.shape, shape.smallest_mm)
    body = solid_near(neighbour.shape, *_lies_at(shape, neighbour.shape, rows), detail)
    return body.transform(rows)


def _lies_at(shape: Shape, other: Shape, rows: Array) -> tuple[tuple[float, float, float], float]:
    """Return the middle and reach (mm), in the axes of ``other``, of the facets of ``shape`` that lie in it,
    or of the whole shape if none does. Rounded to steps, so that a growing shape finds the other's cached
    solid."""
    mesh = mesh_of(shape)
    corners = seen_by(rows, mesh.vertices)
    inside = points_within(other, corners)
    facets = mesh.faces[inside[mesh.faces].any(axis=1)]
    near = corners[facets.ravel()] if len(facets) else corners
    low, high = near.min(axis=0), near.max(axis=0)
    grid = _STEP ** math.ceil(math.log(float(np.linalg.norm(high - low)) / 2, _STEP)) / 4
    x, y, z = (np.round((low + high) / 2 / grid) * grid).tolist()
    return (x, y, z), grid * (4 + math.sqrt(3) / 2)


_STEP = 1.25
"""By how much more each larger reach is that a solid is made finer for. Judged."""


def _surface_of(body: m3.Manifold, original: int) -> tuple[Array, NDArray[np.int64]]:
    """Return the triangles (n, 3, 3) of ``body`` from one original solid, and the numbers of their corners
    (n, 3); coinciding corners have one number."""
    raw = body.to_mesh()
    corners = np.asarray(raw.vert_properties, dtype=np.float64)[:, :3]
    faces = np.asarray(raw.tri_verts, dtype=np.int64)
    one = np.arange(len(corners))
    one[np.asarray(raw.merge_from_vert, dtype=np.int64)] = np.asarray(raw.merge_to_vert)
    starts = np.asarray(raw.run_index, dtype=np.int64) // 3
    mine = np.zeros(len(faces), dtype=bool)
    for k, run in enumerate(raw.run_original_id):
        mine[starts[k] : starts[k + 1]] |= run == original
    return corners[faces[mine]], one[faces[mine]]


def _join_area(shared: m3.Manifold, parent: int) -> tuple[float, float]:
    """Return the area where a child lies against its parent (mm²) and the length of the line round it
    (mm)."""
    touching, corner = _surface_of(shared, parent)
    if not len(touching):
        return 0.0, 0.0
    long = np.concatenate(
        [vector_lengths(touching[:, i] - touching[:, j]) for i, j in ((0, 1), (1, 2), (2, 0))]
    )
    _, first, _, count = edges(corner)
    return float(facet_areas(touching).sum()), float(long[first[count == 1]].sum())


def _volume_moment(triangles: Array) -> tuple[float, float, float]:
    """Return first moment of the volume inside closed ``triangles`` (n, 3, 3), mm⁴ (divergence theorem)."""
    if not len(triangles):
        return (0.0, 0.0, 0.0)
    a, b, c = triangles[:, 0], triangles[:, 1], triangles[:, 2]
    six = np.einsum("ij,ij->i", a, np.cross(b, c))
    x, y, z = ((a + b + c) / 24 * six[:, None]).sum(axis=0)
    return float(x), float(y), float(z)
