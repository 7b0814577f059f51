"""What each copy of a part is worth: net volume, exposed skin, joins, patches.

Volume that two parts share belongs to the parent (among others, to the one placed first). What a
copy is worth is what its shape is worth by itself, less what it shares with each cluster of its
neighbours that touch one another. Each share is worked out in the copy's own axes, at the size it
was made, and remembered: a change that leaves a cluster as it was measures nothing again there.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Container, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import manifold3d as m3
import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.model import Figure, Inset
from bambola.core.figure.shapes import Leaf, Limb, Rope, Shape
from bambola.core.solids.forms import Array, supports
from bambola.core.solids.inside import thrown, within
from bambola.core.solids.meshes import (
    Detail,
    detail_for,
    from_manifold,
    mesh_of,
    solid_near,
    solid_of,
)
from bambola.core.solids.patches import patch_area, patch_edge, quartered
from bambola.core.solids.placement import MIRROR, Copy, Placement, place
from bambola.core.solids.snap import GRID, snapped

_WAYS = np.array(
    [(1, 0, 0), (0, 1, 0), (0, 0, 1), (1, 1, 0), (1, -1, 0), (1, 0, 1), (1, 0, -1), (0, 1, 1), (0, 1, -1)]
) / np.sqrt([1, 1, 1, 2, 2, 2, 2, 2, 2])[:, None]  # fmt: skip
_SIDES = np.vstack([_WAYS, -_WAYS])
"""Two copies whose shadows along one of these ways do not meet cannot touch."""


@dataclass(frozen=True, slots=True)
class CopySolid:
    """One copy in numbers. ``centre`` is the centroid of the net volume in the copy's own axes.

    ``whole_mm3`` is the volume of its shape alone; ``left`` how much of its width, depth and length earlier
    parts leave of it, as shares. ``patches_mm2`` is the exposed area of each of its insets, ``edges_mm`` the
    length of their edges, of which as much is taken to be buried as of the patch.
    """

    net_mm3: float
    exposed_mm2: float
    centre: tuple[float, float, float]
    join_mm2: float
    join_line_mm: float
    patches_mm2: tuple[float, ...]
    edges_mm: tuple[float, ...]
    whole_mm3: float
    left: tuple[float, float, float]

    @property
    def shows(self) -> float:
        """The share of its shape that no other part takes up."""
        return self.net_mm3 / self.whole_mm3 if self.whole_mm3 > 0 else 0.0

    @property
    def is_cap(self) -> bool:
        """Whether so little of it shows that it is no body set on another, but a cap laid on it."""
        return self.shows < CAP_SHARE

    def scaled(self, s: float) -> CopySolid:
        """The same copy ``s`` times as large."""
        return CopySolid(
            self.net_mm3 * s**3,
            self.exposed_mm2 * s**2,
            (self.centre[0] * s, self.centre[1] * s, self.centre[2] * s),
            self.join_mm2 * s**2,
            self.join_line_mm * s,
            tuple(area * s**2 for area in self.patches_mm2),
            tuple(mm * s for mm in self.edges_mm),
            self.whole_mm3 * s**3,
            self.left,
        )


@dataclass(frozen=True)
class Solids:
    """A placed figure and what each of its copies is worth, in the order of its copies.

    ``near`` (copies, copies) says which copies may touch.
    """

    placement: Placement
    measured: tuple[CopySolid, ...]
    near: NDArray[np.bool_]

    @property
    def net_mm3(self) -> float:
        """Volume of the whole figure, mm³."""
        return sum(solid.net_mm3 for solid in self.measured)

    def of(self, part: str) -> list[tuple[Copy, CopySolid]]:
        """The copies of a part with their numbers."""
        return [
            (copy, solid)
            for copy, solid in zip(self.placement.copies, self.measured, strict=True)
            if copy.part.id == part
        ]

    @cached_property
    def centroids(self) -> Array:
        """Centres of the copies' net volumes in the figure's axes, (copies, 3) mm."""
        matrices = np.stack([copy.matrix for copy in self.placement.copies])
        own = np.array([solid.centre for solid in self.measured])
        found: Array = np.einsum("nij,nj->ni", matrices[:, :3, :3], own) + matrices[:, :3, 3]
        return found


@dataclass(frozen=True)
class _Neighbour:
    """Another copy as seen from the one measured: its relation, shape and relative place."""

    role: str  # "parent", "earlier" or "later"
    shape: Shape
    rows: tuple[tuple[float, ...], ...]


class CalledOffError(Exception):
    """Measuring was called off."""


def measure_solids(
    figure: Figure, scale: float = 1.0, base: Solids | None = None, bent: Container[str] = (),
    told: Callable[[float], bool] | None = None,
) -> Solids:  # fmt: skip
    """Measure every copy of ``figure``; ``scale`` is how many times larger it is than as made.

    ``scale`` only says in which size results are remembered. Where ``base``, the figure as made, is
    given, ``bent`` names the parts that are not just ``scale`` times as large, and whatever lies in
    an evenly scaled neighbourhood is taken from it. Results are in mm, mm² and mm³ of ``figure``.
    ``told`` hears what share is done, and says whether to go on. Raises :class:`CalledOffError` if not.
    """
    placement = place(figure)
    copies = placement.copies
    reach = np.array([copy.reaches(_SIDES) for copy in copies])
    high, low = reach[:, : len(_WAYS)], -reach[:, len(_WAYS) :]
    near: NDArray[np.bool_] = np.all((low[:, None] <= high) & (high[:, None] >= low), axis=2)
    np.fill_diagonal(near, False)
    kept = _unmoved(placement, near, base, bent, scale)
    layers = worn_layers(figure)
    worn = [layers[copy.part.id] for copy in copies]
    most = _CROWD if len(copies) <= _MANY else _CROWD_OF_MANY
    measured = []
    for i, copy in enumerate(copies):
        if told is not None and not told(i / len(copies)):
            raise CalledOffError
        if base is not None and kept[i]:
            measured.append(base.measured[i].scaled(scale))
            continue
        shape = _normal_shape(copy.shape, scale)
        region = np.maximum(low, low[i]), np.minimum(high, high[i])
        shares = [
            _share(
                shape,
                tuple(_seen_from(copy, i, copies[j], j, scale, worn) for j in cluster),
                copy.part.insets,
                most,
            )
            for cluster in _clusters(np.flatnonzero(near[i]).tolist(), *region)
        ]
        measured.append(_less(_alone(shape, copy.part.insets), shares).scaled(scale))
    return Solids(placement, tuple(measured), near)


def worn_layers(figure: Figure) -> dict[str, int]:
    """How many garments each part is or hangs on, by its id: nought for the figure itself."""
    found: dict[str, int] = {}
    for part in figure.parents_first:
        below = found[part.parent] if part.parent is not None else 0
        found[part.id] = below + (part.garment is not None)
    return found


def _unmoved(
    placement: Placement,
    near: NDArray[np.bool_],
    base: Solids | None,
    bent: Container[str],
    scale: float,
) -> NDArray[np.bool_]:
    """Which copies and all their neighbours, then and now, only grew ``scale`` times: (copies,)."""
    if base is None:
        return np.zeros(len(placement.copies), dtype=bool)
    even = np.array([copy.part.id not in bent for copy in placement.copies])
    at = np.array([copy.matrix[:3, 3] for copy in placement.copies]) / scale
    was = np.array([copy.matrix[:3, 3] for copy in base.placement.copies])
    shift = at - was
    same = np.abs(shift[:, None] - shift).max(axis=2) < GRID
    found: NDArray[np.bool_] = even & ((same & even) | ~(near | base.near)).all(axis=1)
    return found


def _clusters(near: list[int], low: Array, high: Array) -> list[list[int]]:
    """``near`` parted into groups that may touch within ``low`` to ``high``, in rising order."""
    groups: list[list[int]] = []
    for j in near:
        touching = [
            g
            for g in groups
            if any((low[j] <= high[k]).all() and (high[j] >= low[k]).all() for k in g)
        ]
        groups = [g for g in groups if g not in touching]
        groups.append(sorted([j, *(k for g in touching for k in g)]))
    return groups


@lru_cache(maxsize=4096)
def _normal_shape(shape: Shape, scale: float) -> Shape:
    if scale == 1.0:
        return shape
    return snapped(shape.scaled(1 / scale))


def _seen_from(
    copy: Copy, i: int, other: Copy, j: int, scale: float, worn: Sequence[int]
) -> _Neighbour:
    shape = _normal_shape(other.shape, scale)
    relative = np.linalg.inv(copy.matrix) @ other.matrix
    relative[:3, 3] /= scale
    if np.linalg.det(relative[:3, :3]) < 0 and _symmetric(shape):
        # A symmetric shape is its own mirror image: seen so, both of a pair are the same case.
        relative = relative @ MIRROR
    is_parent = copy.part.parent == other.part.id and other.side in (None, copy.side)
    # What is worn takes nothing from what lies deeper, in whatever order they are placed.
    first = (worn[j], j) < (worn[i], i)
    role = "parent" if is_parent else "earlier" if first else "later"
    rows = np.round(relative[:3] / GRID) * GRID + 0.0
    return _Neighbour(role, shape, tuple(map(tuple, rows.tolist())))


def _symmetric(shape: Shape) -> bool:
    return not isinstance(shape, Limb | Rope | Leaf)


CAP_SHARE = 0.25
"""A part of which less than a quarter shows is a cap. Judged."""

Box = tuple[float, ...]
"""Low x, y, z and high x, y, z of something in a copy's own axes, mm."""
_OPEN: Box = (-math.inf,) * 3 + (math.inf,) * 3


@dataclass(frozen=True, slots=True)
class _Worth:
    """Volume, its first moment, skin and patches: of a shape alone, or of what it shares."""

    volume: float
    moment: tuple[float, float, float]
    skin: float
    patches: tuple[float, ...]
    join_mm2: float = 0.0
    join_line_mm: float = 0.0
    edges: tuple[float, ...] = ()
    box: Box = _OPEN


def _less(alone: _Worth, shares: Sequence[_Worth]) -> CopySolid:
    net = max(0.0, alone.volume - sum(share.volume for share in shares))
    x, y, z = (
        (alone.moment[k] - sum(share.moment[k] for share in shares)) / net if net > 1e-6 else 0.0
        for k in range(3)
    )
    patches = tuple(
        max(0.0, patch - sum(share.patches[k] for share in shares))
        for k, patch in enumerate(alone.patches)
    )
    return CopySolid(
        net,
        max(0.0, alone.skin - sum(share.skin for share in shares)),
        (x, y, z),
        sum(share.join_mm2 for share in shares),
        sum(share.join_line_mm for share in shares),
        patches,
        tuple(
            edge * left / whole if whole > 0 else 0.0
            for edge, left, whole in zip(alone.edges, patches, alone.patches, strict=True)
        ),
        alone.volume,
        _left(alone.box, [share.box for share in shares]),
    )


def _left(whole: Box, cut: Sequence[Box]) -> tuple[float, float, float]:
    """The shares of a box's width, depth and length that are left within all of ``cut``."""
    x, y, z = (
        float(max(0.0, min(whole[k + 3], *(b[k + 3] for b in cut)) - max(whole[k], *(b[k] for b in cut)))
              / (whole[k + 3] - whole[k])) if cut else 1.0
        for k in range(3)
    )  # fmt: skip
    return x, y, z


@lru_cache(maxsize=2048)
def _alone(shape: Shape, insets: tuple[Inset, ...]) -> _Worth:
    mesh, fine = mesh_of(shape), mesh_of(shape, Detail.DRAWN)
    skin = fine.vertices[fine.faces]
    return _Worth(
        mesh.volume, _moment(mesh.vertices[mesh.faces]), fine.area,
        tuple(patch_area(shape, skin, inset) for inset in insets),
        edges=tuple(patch_edge(shape, inset) for inset in insets),
        box=(*-supports(shape, -np.eye(3)), *supports(shape, np.eye(3))),
    )  # fmt: skip


@lru_cache(maxsize=4096)
def _share(
    shape: Shape, neighbours: tuple[_Neighbour, ...], insets: tuple[Inset, ...], most: int
) -> _Worth:
    """What ``shape`` shares with one cluster: volume with the earlier ones, skin with all. Solids are cut
    with up to ``most`` neighbours."""
    if len(neighbours) > most:
        return _share_in_a_crowd(shape, neighbours, insets)
    if _is_speckled(shape, neighbours):
        return _under(shape, neighbours, insets)
    whole = solid_of(shape).as_original()
    low, high = -supports(shape, -np.eye(3)), supports(shape, np.eye(3))
    middle, reach = (low + high) / 2, float(np.linalg.norm(high - low)) / 2
    own = whole.original_id()
    others = [(n, *_body(n, middle, reach, shape.smallest_mm)) for n in neighbours]
    before = [body for n, _, body in others if n.role != "later"]
    shared = whole ^ _union(before) if before else m3.Manifold()
    everything = shared if len(before) == len(others) else whole ^ _union([b for *_, b in others])
    if everything.is_empty():
        return _Worth(0.0, (0.0, 0.0, 0.0), 0.0, tuple(0.0 for _ in insets))
    parent = next((original for n, original, _ in others if n.role == "parent"), None)
    join_area, join_line = _join(shared, parent) if parent is not None else (0.0, 0.0)
    buried, _ = _surface_of(everything, own)
    # Flat facets have a little less or more skin than the round they stand for.
    rounder = mesh_of(shape, Detail.DRAWN).area / mesh_of(shape).area
    skin = float(_areas(buried).sum()) * rounder
    solid = from_manifold(shared)
    return _Worth(
        shared.volume(), _moment(solid.vertices[solid.faces]), skin,
        tuple(patch_area(shape, buried, inset) * rounder for inset in insets), join_area, join_line,
        box=_left_over(whole, shared) if before else _OPEN,
    )  # fmt: skip


_SPECK = 0.15
"""What is smaller than this share of a shape takes away so little of its skin that points tell how much."""


def _is_speckled(shape: Shape, neighbours: tuple[_Neighbour, ...]) -> bool:
    """Whether all that touches a shape is small, and none of it takes anything but skin."""
    large = _SPECK * max(shape.measures().values())
    return all(n.role == "later" and max(n.shape.measures().values()) < large for n in neighbours)


def _under(shape: Shape, neighbours: tuple[_Neighbour, ...], insets: tuple[Inset, ...]) -> _Worth:
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
    return _Worth(
        0.0, (0.0, 0.0, 0.0), float(_areas(buried).sum()),
        tuple(patch_area(shape, buried, inset) for inset in insets),
    )  # fmt: skip


def _covers(neighbour: _Neighbour, points: Array) -> NDArray[np.bool_]:
    """Which of ``points`` (n, 3), in the measured copy's axes, lie within a neighbour."""
    rows = np.array(neighbour.rows)
    return within(neighbour.shape, (points - rows[:, 3]) @ np.linalg.inv(rows[:, :3]).T)


_CROWD = 8
_MANY, _CROWD_OF_MANY = 60, 3
"""In a cluster of more neighbours than this, points are thrown instead of cutting solids; in a figure of more
than sixty copies sooner."""


def _share_in_a_crowd(
    shape: Shape, neighbours: tuple[_Neighbour, ...], insets: tuple[Inset, ...]
) -> _Worth:
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
    return _Worth(
        len(shared) * exact, (x, y, z), float(_areas(buried).sum()) * rounder,
        tuple(patch_area(shape, buried, inset) * rounder for inset in insets),
        area, line, box=(*low, *high) if len(shared) else _OPEN,
    )  # fmt: skip


def _join_in_a_crowd(shape: Shape, neighbours: tuple[_Neighbour, ...]) -> tuple[float, float]:
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


def _left_over(whole: m3.Manifold, shared: m3.Manifold) -> Box:
    """The box of what earlier parts leave of a copy: of its largest piece; open where none cuts it short."""
    pieces = (whole - shared).decompose()
    if not pieces:
        return _OPEN
    left, all_ = max(pieces, key=lambda piece: piece.volume()).bounding_box(), whole.bounding_box()
    slack = 1e-6 * max(abs(mm) for mm in all_)
    return tuple(
        mm if abs(mm - full) > slack else open_
        for mm, full, open_ in zip(left, all_, _OPEN, strict=True)
    )


def _union(bodies: list[m3.Manifold]) -> m3.Manifold:
    return bodies[0] if len(bodies) == 1 else m3.Manifold.batch_boolean(bodies, m3.OpType.Add)


def _body(
    neighbour: _Neighbour, middle: Array, reach: float, thin_mm: float
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
