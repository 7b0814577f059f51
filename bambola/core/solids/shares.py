"""What one copy of a part shares with a cluster of its neighbours: volume with the earlier, skin with all.

Solids are cut where few things touch. Where many crowd together, or where what touches is a speck beside
the shape, points thrown into it and over its skin tell as much in less time.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import manifold3d as m3
import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.model import Inset
from bambola.core.figure.shapes import Shape
from bambola.core.memo import remembered
from bambola.core.solids.forms import Array, supports
from bambola.core.solids.inside import thrown, within
from bambola.core.solids.meshes import (
    KEPT_SHAPES,
    Detail,
    detail_for,
    from_manifold,
    mesh_of,
    solid_near,
    solid_of,
)
from bambola.core.solids.patches import patch_area, patch_edge, quartered


@dataclass(frozen=True)
class Neighbour:
    """Another copy as seen from the one measured: its relation, shape and relative place."""

    role: str  # "parent", "earlier" or "later"
    shape: Shape
    rows: tuple[tuple[float, ...], ...]


Box = tuple[float, ...]
"""Low x, y, z and high x, y, z of something in a copy's own axes, mm."""
KEPT_SHARES = 1024
"""Shares that are remembered: those of 120 parts at two sizes. Each is known by the shapes it is of, which
weigh far more than what it tells. Judged."""
OPEN: Box = (-math.inf,) * 3 + (math.inf,) * 3


@dataclass(frozen=True, slots=True)
class Worth:
    """Volume, its first moment, skin and patches: of a shape alone, or of what it shares."""

    volume: float
    moment: tuple[float, float, float]
    skin: float
    patches: tuple[float, ...]
    join_mm2: float = 0.0
    join_line_mm: float = 0.0
    edges: tuple[float, ...] = ()
    box: Box = OPEN


@remembered(KEPT_SHAPES)
def alone_worth(shape: Shape, insets: tuple[Inset, ...]) -> Worth:
    """What a shape is worth by itself."""
    mesh, fine = mesh_of(shape), mesh_of(shape, Detail.DRAWN)
    skin = fine.vertices[fine.faces]
    return Worth(
        mesh.volume,
        _moment(mesh.vertices[mesh.faces]),
        fine.area,
        tuple(patch_area(shape, skin, inset) for inset in insets),
        edges=tuple(patch_edge(shape, inset) for inset in insets),
        box=(*-supports(shape, -np.eye(3)), *supports(shape, np.eye(3))),
    )


@remembered(KEPT_SHARES)
def share(
    shape: Shape, neighbours: tuple[Neighbour, ...], insets: tuple[Inset, ...], most: int
) -> Worth:
    """What ``shape`` shares with one cluster: volume with the earlier ones, skin with all. Solids are cut
    with up to ``most`` neighbours."""
    if len(neighbours) > most or _is_among_giants(shape, neighbours):
        return _share_in_a_crowd(shape, neighbours, insets)
    if _is_speckled(shape, neighbours):
        return _under(shape, neighbours, insets)
    whole = solid_of(shape).as_original()
    low, high = -supports(shape, -np.eye(3)), supports(shape, np.eye(3))
    middle, reach = (low + high) / 2, float(np.linalg.norm(high - low)) / 2
    own = whole.original_id()
    others = [(n, *_body(n, middle, reach, shape.smallest_mm)) for n in neighbours]
    before = [body for n, _, body in others if n.role != "later"]
    earlier = _union(before) if before else m3.Manifold()
    shared = whole ^ earlier if before else m3.Manifold()
    everything = shared if len(before) == len(others) else whole ^ _union([b for *_, b in others])
    if everything.is_empty():
        return Worth(0.0, (0.0, 0.0, 0.0), 0.0, tuple(0.0 for _ in insets))
    parent = next((original for n, original, _ in others if n.role == "parent"), None)
    join_area, join_line = _join(shared, parent) if parent is not None else (0.0, 0.0)
    buried, _ = _surface_of(everything, own)
    # Flat facets have a little less or more skin than the round they stand for.
    rounder = mesh_of(shape, Detail.DRAWN).area / mesh_of(shape).area
    skin = float(_areas(buried).sum()) * rounder
    solid = from_manifold(shared)
    return Worth(
        shared.volume(),
        _moment(solid.vertices[solid.faces]),
        skin,
        tuple(patch_area(shape, buried, inset) * rounder for inset in insets),
        join_area,
        join_line,
        box=_left_over(whole, earlier) if before else OPEN,
    )


_SPECK = 0.15
"""What is smaller than this share of a shape takes away so little of its skin that points tell how much.
Judged."""


_GIANT = 1000.0
"""Beside something so many times as large a cut through long slivers takes for ever, and points do not.
Judged: no figure that is meant has such parts."""


def _is_among_giants(shape: Shape, neighbours: tuple[Neighbour, ...]) -> bool:
    """Whether something that touches a shape, and does not bear it, is beyond all proportion."""
    large = _GIANT * max(shape.measures().values())
    return any(n.role != "parent" and max(n.shape.measures().values()) > large for n in neighbours)


def _is_speckled(shape: Shape, neighbours: tuple[Neighbour, ...]) -> bool:
    """Whether all that touches a shape is small, and none of it takes anything but skin."""
    large = _SPECK * max(shape.measures().values())
    return all(n.role == "later" and max(n.shape.measures().values()) < large for n in neighbours)


def _under(shape: Shape, neighbours: tuple[Neighbour, ...], insets: tuple[Inset, ...]) -> Worth:
    """The skin of ``shape`` under things that are small beside it."""
    mesh = mesh_of(shape, Detail.DRAWN)
    facets, hidden = mesh.vertices[mesh.faces], []
    size = np.linalg.norm(facets - facets.mean(axis=1, keepdims=True), axis=2).max()
    for n in neighbours:
        rows = np.array(n.rows)
        middle = rows[:, :3] @ (supports(n.shape, np.eye(3)) - supports(n.shape, -np.eye(3))) / 2
        reach = max(n.shape.measures().values()) + float(size)
        pieces = facets[np.linalg.norm(facets.mean(axis=1) - middle - rows[:, 3], axis=1) < reach]
        for _ in range(3):
            pieces = quartered(pieces)
        hidden.append(pieces[_covers(n, pieces.mean(axis=1))])
    buried = np.concatenate(hidden)
    return Worth(
        0.0,
        (0.0, 0.0, 0.0),
        float(_areas(buried).sum()),
        tuple(patch_area(shape, buried, inset) for inset in insets),
    )


def _covers(neighbour: Neighbour, points: Array) -> NDArray[np.bool_]:
    """Which of ``points`` (n, 3), in the measured copy's axes, lie within a neighbour."""
    rows = np.array(neighbour.rows)
    return within(neighbour.shape, (points - rows[:, 3]) @ np.linalg.inv(rows[:, :3]).T)


_CROWD = 8
_MANY, _CROWD_OF_MANY = 60, 3
"""In a cluster of more neighbours than this, points are thrown instead of cutting solids; in a figure of more
than sixty copies sooner. Judged."""


def most_cut(copies: int) -> int:
    """With how many neighbours solids are cut in a figure of so many copies."""
    return _CROWD if copies <= _MANY else _CROWD_OF_MANY


def _share_in_a_crowd(
    shape: Shape, neighbours: tuple[Neighbour, ...], insets: tuple[Inset, ...]
) -> Worth:
    """The same by points thrown into the shape and over its skin; only the join to its parent is cut."""
    points = thrown(shape)
    mesh = mesh_of(shape)
    rounder = mesh_of(shape, Detail.DRAWN).area / mesh.area
    skin = quartered(mesh.vertices[mesh.faces])
    middles = skin.mean(axis=1)
    earlier, hidden = np.zeros(len(points), dtype=bool), np.zeros(len(skin), dtype=bool)
    for n in neighbours:
        hidden |= _covers(n, middles)
        if n.role != "later":
            earlier |= _covers(n, points)
    area, line = _join_in_a_crowd(shape, neighbours)
    # What is thrown is a little off the volume itself; shares of it are not.
    exact = mesh_of(shape).volume / max(1, len(points))
    shared, left = points[earlier], points[~earlier]
    low, high = (left.min(axis=0), left.max(axis=0)) if len(left) else (np.zeros(3), np.zeros(3))
    x, y, z = (shared.sum(axis=0) * exact).tolist()
    buried = skin[hidden]
    return Worth(
        len(shared) * exact,
        (x, y, z),
        float(_areas(buried).sum()) * rounder,
        tuple(patch_area(shape, buried, inset) * rounder for inset in insets),
        area,
        line,
        box=(*low, *high) if len(shared) else OPEN,
    )


def _join_in_a_crowd(shape: Shape, neighbours: tuple[Neighbour, ...]) -> tuple[float, float]:
    """Area and line of the join to the parent, as far as no other part lies there already."""
    parent = next((n for n in neighbours if n.role == "parent"), None)
    if parent is None:
        return 0.0, 0.0
    low, high = -supports(shape, -np.eye(3)), supports(shape, np.eye(3))
    original, body = _body(
        parent, (low + high) / 2, float(np.linalg.norm(high - low)) / 2, shape.smallest_mm
    )
    shared = solid_of(shape).as_original() ^ body
    area, line = _join(shared, original)
    if area <= 0:
        return 0.0, 0.0
    pieces = quartered(quartered(_surface_of(shared, original)[0]))
    taken = np.zeros(len(pieces), dtype=bool)
    for n in neighbours:
        if n.role == "earlier":
            taken |= _covers(n, pieces.mean(axis=1))
    free = float(_areas(pieces[~taken]).sum()) / area
    return area * free, line * free


def _left_over(whole: m3.Manifold, earlier: m3.Manifold) -> Box:
    """The box of what earlier parts leave of a copy: of its largest piece; open where none cuts it short."""
    pieces = (whole - earlier).decompose()
    if not pieces:
        return OPEN
    left, all_ = max(pieces, key=lambda piece: piece.volume()).bounding_box(), whole.bounding_box()
    slack = 1e-6 * max(abs(mm) for mm in all_)
    return tuple(
        mm if abs(mm - full) > slack else open_
        for mm, full, open_ in zip(left, all_, OPEN, strict=True)
    )


def _union(bodies: list[m3.Manifold]) -> m3.Manifold:
    return bodies[0] if len(bodies) == 1 else m3.Manifold.batch_boolean(bodies, m3.OpType.Add)


def _body(
    neighbour: Neighbour, middle: Array, reach: float, thin_mm: float
) -> tuple[int, m3.Manifold]:
    """The number a neighbour's surface is known by in a union, and its solid where it stands, as fine as
    something ``thin_mm`` thick, ``reach`` round ``middle``, asks for."""
    rows = np.array(neighbour.rows)
    there = np.linalg.solve(rows[:, :3], middle - rows[:, 3])
    detail = detail_for(neighbour.shape, thin_mm)
    body = solid_near(neighbour.shape, there, reach, detail).as_original()
    return body.original_id(), body.transform(rows)


def _surface_of(body: m3.Manifold, original: int) -> tuple[Array, NDArray[np.int64]]:
    """The triangles (n, 3, 3) of ``body`` from one original solid, and their corners' numbers (n, 3).

    Corners that are one point of the solid have one number.
    """
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


def _areas(triangles: Array) -> Array:
    a, b, c = triangles[:, 0], triangles[:, 1], triangles[:, 2]
    area: Array = np.linalg.norm(np.cross(b - a, c - a), axis=1) / 2
    return area


def _join(shared: m3.Manifold, parent: int) -> tuple[float, float]:
    """Area where a child lies against its parent (mm²) and the length of the line round it (mm)."""
    touching, corner = _surface_of(shared, parent)
    if not len(touching):
        return 0.0, 0.0
    edges = np.sort(np.vstack([corner[:, [0, 1]], corner[:, [1, 2]], corner[:, [2, 0]]]), axis=1)
    lengths = np.concatenate(
        [
            np.linalg.norm(touching[:, i] - touching[:, j], axis=1)
            for i, j in ((0, 1), (1, 2), (2, 0))
        ]
    )
    _, first, count = np.unique(edges, axis=0, return_index=True, return_counts=True)
    return float(_areas(touching).sum()), float(lengths[first[count == 1]].sum())


def _moment(triangles: Array) -> tuple[float, float, float]:
    """First moment of the volume inside closed ``triangles`` (n, 3, 3), mm⁴ (divergence theorem)."""
    if not len(triangles):
        return (0.0, 0.0, 0.0)
    a, b, c = triangles[:, 0], triangles[:, 1], triangles[:, 2]
    six = np.einsum("ij,ij->i", a, np.cross(b, c))
    x, y, z = ((a + b + c) / 24 * six[:, None]).sum(axis=0)
    return float(x), float(y), float(z)
