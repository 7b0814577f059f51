"""Ray casting: a figure's meshes in Embree, and one orthographic ray a pixel."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from embreex.mesh_construction import TriangleMesh
from embreex.rtcore_scene import EmbreeScene
from numpy.typing import NDArray

from bambola.core.figure import Part, Piece, Shape
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids import Detail, Mesh, Placement, mesh_of
from bambola.core.solids.meshes import detail_for, from_manifold, to_manifold
from bambola.core.solids.placement import GRID, Copy
from bambola.core.solids.regions import settle_places

Array = NDArray[np.float64]
Float32 = NDArray[np.float32]
Int32 = NDArray[np.int32]


@frozen
class Camera:
    """The viewpoint: ``turn`` degrees round the vertical (0 is the front, 90 the figure's left, 180 the
    back), and ``tip`` degrees upwards (90 is from above)."""

    turn: float = 0.0
    tip: float = 0.0

    def axes(self) -> Array:
        """The view's right, up and towards-the-viewer axes as rows, in the figure's axes."""
        return _view_axes(self.turn, self.tip)


@remembered(256)
def _view_axes(turn: float, tip: float) -> Array:
    a, e = math.radians(turn), math.radians(tip)
    right = np.array([math.cos(a), math.sin(a), 0.0])
    level = np.array([math.sin(a), -math.cos(a), 0.0])
    toward = level * math.cos(e) + np.array([0, 0, math.sin(e)])
    axes: Array = np.stack([right, np.cross(toward, right), toward])
    axes.flags.writeable = False
    return axes


THINNEST = 0.015
"""Of a figure's height. Facets stand off the round by a fortieth of it: a third of a pixel where a thousand
show the whole. Derived."""
STANDARD_MM = 100.0
"""Largest measure of the shapes that are meshed for pictures."""
_KEPT_BYTES = 8_000_000
"""Of normals that are remembered: those of the parts of two large figures. Judged."""


@frozen
class Actor:
    """One mesh in the scene: a copy of a part, or a piece of a fitting, and what it belongs to. The mesh is
    of a shape of standard size, ``size`` times as large in the scene, so that a growing figure is meshed
    once."""

    part: str
    felt: Part | None
    piece: Piece | None
    shape: Shape
    mesh: Mesh
    normals: Array
    size: float
    matrix: Array


@dataclass(frozen=True)
class Stage:
    """A placed figure prepared for rays. Arrays run over all actors' corners or triangles."""

    actors: tuple[Actor, ...]
    scene: EmbreeScene
    corners: Array
    local: Float32
    normals: Float32
    local_normals: Float32
    triangles: NDArray[np.int64]
    first_triangle: NDArray[np.int64]
    ground: float

    def bounds(self, camera: Camera) -> tuple[float, float, float, float]:
        """Return left, right, bottom and top of the figure in the view (mm)."""
        right, up, _ = camera.axes()
        x, y = self.corners @ right, self.corners @ up
        return float(x.min()), float(x.max()), float(y.min()), float(y.max())


@frozen
class Hits:
    """The hits of a picture's rays; arrays of shape (rows, columns) or (found, ...). ``found`` lists the
    pixels that hit something, row by row; the other arrays are for those only. ``depth`` is away from the
    viewer, from the plane through the figure's origin (mm)."""

    shape: tuple[int, int]
    found: NDArray[np.int64]
    actor: Int32
    depth: Float32
    local: Float32
    normal: Float32
    local_normal: Float32


def stage_of(placement: Placement, detail: Detail = Detail.DRAWN) -> Stage:
    """Prepare the figure for rays, with as many facets as ``detail`` says, fewer where the difference is
    invisible."""
    return set_up(tuple(actors_of(placement, detail)), placement.ground)


def set_up(actors: tuple[Actor, ...], ground: float) -> Stage:
    """Return a scene of these actors, at least one."""
    scene = EmbreeScene()
    corners, local, normals, local_normals, triangles, first = [], [], [], [], [], []
    base = count = 0
    for actor in actors:
        turn, shift = actor.matrix[:3, :3], actor.matrix[:3, 3]
        sized = actor.mesh.vertices * actor.size
        placed = sized @ turn.T + shift
        corners.append(placed)
        local.append(sized)
        local_normals.append(actor.normals)
        normals.append(actor.normals @ turn.T)
        triangles.append(actor.mesh.faces + base)
        first.append(count)
        base += len(placed)
        count += len(actor.mesh.faces)
        TriangleMesh(scene, placed.astype(np.float32), actor.mesh.faces.astype(np.int32))
    return Stage(
        actors,
        scene,
        np.vstack(corners),
        np.vstack(local).astype(np.float32),
        np.vstack(normals).astype(np.float32),
        np.vstack(local_normals).astype(np.float32),
        np.vstack(triangles),
        np.array(first),
        ground,
    )


@remembered(_KEPT_BYTES, lambda normals: normals.nbytes)
def _normals_of(shape: Shape, detail: Detail) -> Array:
    """Return the vertex normals of a mesh, cached."""
    return mesh_of(shape, detail).vertex_normals()


def actors_of(placement: Placement, detail: Detail) -> Iterator[Actor]:
    """Yield all copies of parts, then all pieces of fittings."""
    thin_mm = THINNEST * placement.height
    pressed = [copy for copy in placement.copies if copy.part.hollow]
    for copy in placement.copies:
        if copy.part.hollow:
            continue
        standard = _standard_mesh(copy.shape, min(detail, detail_for(copy.shape, thin_mm)))
        felt = copy.part
        if felt.places:
            felt = felt.replaced(places=settle_places(felt, placement.figure))
        hollows = [
            one for one in pressed if one.part.parent == felt.id and one.side in (None, copy.side)
        ]
        skins = _pressed_in(copy, standard, hollows) if hollows else [(felt, standard)]
        for of, mesh in skins:
            skin = felt if of is copy.part else of
            yield Actor(skin.id, skin, None, copy.shape, *mesh, copy.matrix)
    for placed in placement.fittings:
        for piece in placed.fitting.pieces:
            matrix = placed.matrix.copy()
            matrix[:3, 3] += matrix[:3, 2] * piece.at
            standard = _standard_mesh(piece.shape, min(detail, detail_for(piece.shape, thin_mm)))
            yield Actor(placed.fitting.part, None, piece, piece.shape, *standard, matrix)


def _pressed_in(
    copy: Copy, standard: tuple[Mesh, Array, float], hollows: Sequence[Copy]
) -> Iterator[tuple[Part, tuple[Mesh, Array, float]]]:
    """Yield a copy's mesh with its hollows removed, and the lined skin of each hollow."""
    mesh, _, size = standard
    solid, own = to_manifold(mesh).as_original(), np.linalg.inv(copy.matrix)
    skins = {solid.original_id(): copy.part}
    for hollow in hollows:
        there = own @ hollow.matrix
        form = mesh_of(hollow.shape, Detail.DRAWN)
        moved = (form.vertices @ there[:3, :3].T + there[:3, 3]) / size
        faces = form.faces if np.linalg.det(there[:3, :3]) > 0 else form.faces[:, ::-1]
        empty = to_manifold(Mesh(moved, faces)).as_original()
        skins[empty.original_id()] = hollow.part
        solid -= empty
    raw, cut = solid.to_mesh(), from_manifold(solid)
    normals, begins = cut.vertex_normals(), np.asarray(raw.run_index) // 3
    for n, skin in enumerate(np.asarray(raw.run_original_id).tolist()):
        faces = cut.faces[begins[n] : begins[n + 1]]
        yield skins[skin], (Mesh(cut.vertices, faces), normals, size)


def _standard_mesh(shape: Shape, detail: Detail) -> tuple[Mesh, Array, float]:
    """Return the mesh of ``shape`` at a standard size with its normals, and the factor to the shape's
    size."""
    standard, size = _of_standard_size(shape)
    return mesh_of(standard, detail), _normals_of(standard, detail), size


@remembered(512)
def _of_standard_size(shape: Shape) -> tuple[Shape, float]:
    size = max(shape.measures().values()) / STANDARD_MM
    return shape.scaled(1 / size).snapped(GRID), size


def cast_rays(
    stage: Stage, camera: Camera, left: float, top: float, step: float, columns: int, rows: int
) -> Hits:
    """Cast one ray a pixel; ``left``, ``top`` (mm in the view) is the picture's corner, ``step`` mm a
    pixel."""
    right, up, toward = camera.axes()
    x = left + step * (np.arange(columns) + 0.5)
    y = top - step * (np.arange(rows) + 0.5)
    reach = float(np.abs(stage.corners).max()) * 2 + 10.0
    grid = (
        (x[None, :, None] * right + y[:, None, None] * up + reach * toward)
        .reshape(-1, 3)
        .astype(np.float32)
    )
    ahead = np.broadcast_to((-toward).astype(np.float32), grid.shape).copy()
    met = stage.scene.run(grid, ahead, query="INTERSECT", output=True)
    found = np.flatnonzero(met["primID"] >= 0)
    actor = met["geomID"][found].astype(np.int32)
    triangle = stage.triangles[stage.first_triangle[actor] + met["primID"][found]]
    u, v = met["u"][found, None], met["v"][found, None]
    w = 1 - u - v
    a, b, c = triangle[:, 0], triangle[:, 1], triangle[:, 2]
    normal = w * stage.normals[a] + u * stage.normals[b] + v * stage.normals[c]
    normal = (normal / np.linalg.norm(normal, axis=1, keepdims=True)) @ camera.axes().T.astype(
        np.float32
    )
    local = w * stage.local[a] + u * stage.local[b] + v * stage.local[c]
    local_normal = (
        w * stage.local_normals[a] + u * stage.local_normals[b] + v * stage.local_normals[c]
    )
    depth = met["tfar"][found] - np.float32(reach)
    return Hits((rows, columns), found, actor, depth, local, normal, local_normal)
