"""Closed triangle meshes of the shapes, for unions and for pictures.

A section drawn with n straight sides holds less than the round it stands for; meshes are widened
so that they hold the volume of the form itself (a ring's area is n/2 sin(2π/n) r²).
"""

from __future__ import annotations

import itertools
import math
from enum import IntEnum

import manifold3d as m3
import numpy as np

from bambola.core.figure.shapes import Chain, ChainShape, Leaf, Profile, Shape
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.facets import Faces, cross_products, facet_areas
from bambola.core.solids.forms import (
    Array,
    chain,
    curl_sheet,
    leaf_outline,
    profile,
    thin_curve,
)

KEPT_SHAPES = 640
"""Shapes of which something is remembered: 120 parts at two sizes in two details, and some. Judged."""
_MESH_BYTES, _SOLID_BYTES = 12_000_000, 18_000_000
"""Of meshes that are remembered: those of 120 parts at two sizes; of solids: those of seventy parts. A day of
pulling with parts held makes thousands. Judged."""
_FACET_BYTES = 400
"""What a facet takes in a solid: its edges, where they lead, and the boxes it is found by. Measured."""


def _bytes_of(solid: m3.Manifold) -> int:
    return _FACET_BYTES * int(solid.num_tri()) + 1000


@frozen
class Mesh:
    """Vertices (n, 3) in mm and outward-facing triangles (m, 3)."""

    vertices: Array
    faces: Faces

    @property
    def volume(self) -> float:
        """Enclosed volume, mm³ (divergence theorem)."""
        a, b, c = (self.vertices[self.faces[:, i]] for i in range(3))
        return float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6)

    @property
    def area(self) -> float:
        """Surface, mm²."""
        return float(facet_areas(self.vertices[self.faces]).sum())

    def vertex_normals(self) -> Array:
        """Return the area-weighted unit normals, (n, 3)."""
        face = cross_products(self.vertices[self.faces])
        total = np.zeros_like(self.vertices)
        for i in range(3):
            np.add.at(total, self.faces[:, i], face)
        length = np.linalg.norm(total, axis=1, keepdims=True)
        unit: Array = total / np.maximum(length, 1e-30)
        return unit


class Detail(IntEnum):
    """How many facets a mesh has: few for unions, more for pictures and skins, most under a thin line."""

    UNION = 0
    DRAWN = 1
    CLOSE = 2


_AROUND = (20, 56, 128)
_SECTIONS = (16, 32, 72)
_ROPE_SIDES = (20, 28, 28)
_LIMB_SIDES = (24, 40, 72)


def detail_for(shape: Shape, thin_mm: float) -> Detail:
    """Return the mesh detail for ``shape`` under something ``thin_mm`` thick: its facets deviate from the
    round form by less than a fortieth of that."""
    measures = shape.measures()
    stoutest = measures.get("thickness", max(measures.values()))
    for detail in (Detail.UNION, Detail.DRAWN):
        if stoutest / 2 * (1 - math.cos(math.pi / _AROUND[detail])) <= thin_mm / 40:
            return detail
    return Detail.CLOSE


def _bytes_of_mesh(mesh: Mesh) -> int:
    """Return the memory a mesh takes."""
    return int(mesh.vertices.nbytes + mesh.faces.nbytes) + 500


@remembered(_MESH_BYTES, _bytes_of_mesh)
def mesh_of(shape: Shape, detail: Detail = Detail.UNION) -> Mesh:
    """Return the mesh of ``shape`` in its own axes."""
    around, sections = _AROUND[detail], _SECTIONS[detail]
    if isinstance(shape, ChainShape):
        if shape.smooth:
            return _tube_mesh(shape, _ROPE_SIDES[detail])
        return _union_of_hulls(chain(shape), _LIMB_SIDES[detail])
    if isinstance(shape, Leaf):
        if detail is Detail.CLOSE:
            return mesh_of(shape, Detail.DRAWN)  # no finer one is made of a sheet
        return _leaf_mesh(shape, fine=detail is Detail.DRAWN)
    cut = profile(shape, sections)
    wider = math.sqrt(profile(shape).volume / cut.volume) * _roundness_factor(around)
    return _ring_mesh(cut, around, wider)


def _roundness_factor(sides: int) -> float:
    turn = 2 * math.pi / sides
    return math.sqrt(turn / math.sin(turn))


def _ring_mesh(cut: Profile, sides: int, wider: float) -> Mesh:
    return _rings_at(cut, np.arange(sides) * 2 * math.pi / sides, wider)


def _rings_at(cut: Profile, angle: Array, wider: float) -> Mesh:
    sides = len(angle)
    circle = np.stack([np.sin(angle), -np.cos(angle)])
    solid = (cut.half_width > 1e-9) & (cut.half_depth > 1e-9)
    z, a, b = cut.z[solid], cut.half_width[solid] * wider, cut.half_depth[solid] * wider
    rings = np.stack(
        [a[:, None] * circle[0], b[:, None] * circle[1], np.repeat(z[:, None], sides, axis=1)], -1
    )
    low, high = np.array([0, 0, cut.z[0]]), np.array([0, 0, cut.z[-1]])
    return _closed_rings(rings, low, high)


@remembered(_SOLID_BYTES, _bytes_of)
def solid_near(
    shape: Shape, centre: tuple[float, float, float], reach: float, detail: Detail
) -> m3.Manifold:
    """Return the solid of ``shape``, in ``detail`` within ``reach`` (mm) of ``centre`` and coarse elsewhere,
    to intersect cheaply with something small there."""
    if detail == Detail.UNION or isinstance(shape, ChainShape | Leaf):
        return solid_of(shape, detail)
    full = profile(shape)
    every = max(1, len(full.z) // _SECTIONS[Detail.UNION])
    finely = max(1, len(full.z) // _SECTIONS[detail])
    index = np.arange(len(full.z))
    here = np.abs(full.z - centre[2]) <= reach
    keep = (index % every == 0) | (here & (index % finely == 0)) | (index == len(full.z) - 1)
    cut = Profile(full.z[keep], full.half_width[keep], full.half_depth[keep])
    coarse = np.arange(_AROUND[Detail.UNION]) * 2 * math.pi / _AROUND[Detail.UNION]
    step = 2 * math.pi / _AROUND[detail]
    wide, deep = float(full.half_width.max()), float(full.half_depth.max())
    x, y = centre[0] / wide, -centre[1] / deep
    out, near = math.hypot(x, y), reach / min(wide, deep)
    if out <= near:
        angle = np.arange(_AROUND[detail]) * step
    else:
        half, middle = math.asin(near / out) + step, math.atan2(x, y)
        fine = middle + np.linspace(-half, half, max(2, math.ceil(2 * half / step)))
        away = np.abs((coarse - middle + math.pi) % (2 * math.pi) - math.pi) > half
        angle = np.sort(np.concatenate([coarse[away], fine % (2 * math.pi)]))
    even: Array = angle.astype(np.float64)
    return to_manifold(_rings_at(cut, even, _roundness_factor(_AROUND[detail])))


def _closed_rings(rings: Array, low: Array, high: Array) -> Mesh:
    """Return a closed skin over ``rings`` (k, sides, 3) of one orientation, with end points ``low`` and
    ``high``."""
    k, sides, _ = rings.shape
    vertices = np.vstack([rings.reshape(-1, 3), low, high])
    bottom, top = k * sides, k * sides + 1
    i = np.arange(sides)
    j = (i + 1) % sides
    a, b = np.arange(k - 1)[:, None] * sides, np.arange(1, k)[:, None] * sides
    # Of each two rings that follow one another all of one kind, then all of the other.
    kinds = ((a + i, a + j, b + j), (a + i, b + j, b + i))
    between = np.stack([np.stack(corners, -1) for corners in kinds], 1)
    last = (k - 1) * sides
    first = np.stack([np.full(sides, bottom), j, i], 1)
    final = np.stack([last + i, last + j, np.full(sides, top)], 1)
    return Mesh(vertices, np.vstack([first, between.reshape(-1, 3), final]))


def _tube_mesh(shape: ChainShape, sides: int) -> Mesh:
    """Return a rope as rings along its curve; if it touches itself, as the union of short pieces."""
    form = thin_curve(chain(shape))
    if _lies_on_itself(form):
        return _union_of_hulls(form, sides)
    points, radii = form.points, form.radii * _roundness_factor(sides)
    ahead = np.roll(points, -1, 0) - np.roll(points, 1, 0)
    if not form.closed:
        ahead[0], ahead[-1] = points[1] - points[0], points[-1] - points[-2]
    tangent = ahead / np.linalg.norm(ahead, axis=1, keepdims=True)
    normal = _carried_normals(tangent, form.closed)
    binormal = np.cross(tangent, normal)
    angle = np.arange(sides) * 2 * math.pi / sides
    if form.closed:
        rings = _sweep_points(points, normal, binormal, radii, angle)
        return _torus_mesh(rings)
    # A quarter round at each end, as many rings as keep the ends as smooth as the sides.
    caps = np.linspace(0, math.pi / 2, sides // 4 + 1)[1:-1]
    start = _cap_points(points[0], -tangent[0], normal[0], binormal[0], radii[0], caps[::-1], angle)
    end = _cap_points(points[-1], tangent[-1], normal[-1], binormal[-1], radii[-1], caps, angle)
    rings = np.concatenate([start, _sweep_points(points, normal, binormal, radii, angle), end])
    return _closed_rings(
        rings, points[0] - tangent[0] * radii[0], points[-1] + tangent[-1] * radii[-1]
    )


def _lies_on_itself(form: Chain) -> bool:
    """Return whether a rope touches itself: two of its rounds overlap although the path between them is
    longer than half a turn of its tightest possible bend."""
    points, radii = form.points, form.radii
    steps = np.linalg.norm(np.roll(points, -1, 0) - points, axis=1)
    way = np.concatenate([[0.0], np.cumsum(steps[:-1])])
    apart = np.abs(way[:, None] - way)
    if form.closed:
        apart = np.minimum(apart, steps.sum() - apart)
    reach = radii[:, None] + radii
    near = np.linalg.norm(points[:, None] - points, axis=2) < reach * (1 - 1e-6)
    return bool((near & (apart > reach * math.pi / 2)).any())


def _carried_normals(tangent: Array, closed: bool) -> Array:
    """Return normals carried along the curve without twisting; on a closed curve the last twist is
    distributed."""
    first = np.array([0.0, 0, 1]) if abs(tangent[0][2]) < 0.9 else np.array([0.0, 1, 0])
    out = np.empty_like(tangent)
    carried = first
    for i, t in enumerate(tangent):
        carried = carried - t * (carried @ t)
        carried = carried / np.linalg.norm(carried)
        out[i] = carried
    if closed:
        back = carried - tangent[0] * (carried @ tangent[0])
        twist = math.atan2(float(np.cross(out[0], back) @ tangent[0]), float(out[0] @ back))
        share = -twist * np.arange(len(out))[:, None] / len(out)
        out = out * np.cos(share) + np.cross(tangent, out) * np.sin(share)
    return out


def _sweep_points(
    points: Array, normal: Array, binormal: Array, radii: Array, angle: Array
) -> Array:
    spin = (
        np.cos(angle)[None, :, None] * normal[:, None]
        + np.sin(angle)[None, :, None] * binormal[:, None]
    )
    swept: Array = points[:, None] + radii[:, None, None] * spin
    return swept


def _cap_points(
    centre: Array,
    out: Array,
    normal: Array,
    binormal: Array,
    radius: float,
    caps: Array,
    angle: Array,
) -> Array:
    spin = np.cos(angle)[:, None] * normal + np.sin(angle)[:, None] * binormal
    cap: Array = centre + radius * (
        np.sin(caps)[:, None, None] * out + np.cos(caps)[:, None, None] * spin
    )
    return cap


def _torus_mesh(rings: Array) -> Mesh:
    k, sides, _ = rings.shape
    index = np.arange(k * sides).reshape(k, sides)
    a, b = index, np.roll(index, -1, 1)
    c, d = np.roll(index, -1, 0), np.roll(np.roll(index, -1, 0), -1, 1)
    faces = np.concatenate(
        [np.stack([a, b, d], -1).reshape(-1, 3), np.stack([a, d, c], -1).reshape(-1, 3)]
    )
    return Mesh(rings.reshape(-1, 3), faces)


@remembered(8)
def _unit_round(sides: int) -> Array:
    """Return vertices of a ball that holds the volume of the unit ball, poles on the y axis."""
    z = -np.cos(np.linspace(0, math.pi, sides // 2 + 1))
    girth = np.sqrt(np.maximum(0.0, 1 - z**2))
    mesh = _ring_mesh(Profile(z, girth, girth), sides, 1.0)
    grown: Array = mesh.vertices[:, [0, 2, 1]] * (4 / 3 * math.pi / mesh.volume) ** (1 / 3)
    return grown


def _union_of_hulls(form: Chain, sides: int) -> Mesh:
    """Return the union of the hulls of consecutive rounds."""
    size = float(form.radii.max())
    points, radii = (np.round(each / size, 6) for each in (form.points, form.radii))
    unit = _unit_hulls(points.tobytes(), radii.tobytes(), form.closed, sides)
    return Mesh(unit.vertices * size, unit.faces)


@remembered(256)
def _unit_hulls(points: bytes, radii: bytes, closed: bool, sides: int) -> Mesh:
    """Return that union scaled so that its stoutest round has radius one; cached for all sizes."""
    ball = _unit_round(sides)
    places = np.frombuffer(points).reshape(-1, 3)
    rounds = [p + r * ball for p, r in zip(places, np.frombuffer(radii), strict=True)]
    pairs = itertools.pairwise([*rounds, rounds[0]] if closed else rounds)
    hulls = [m3.Manifold.hull_points(np.vstack(pair).astype(np.float32)) for pair in pairs]
    return from_manifold(m3.Manifold.batch_boolean(hulls, m3.OpType.Add))


def _enclosed_area(run: Array) -> float:
    """Return the area inside a closed run of (n, 2) points."""
    x, z = run.T
    return abs(float((x * np.roll(z, -1) - np.roll(x, -1) * z).sum())) / 2


def _inset_levels(outline: Array, drawn: Array) -> list[list[Array]]:
    """Return the outline inset by each of ``drawn`` (outset if negative), as runs (n, 2) of corners, until
    nothing is left."""
    whole = m3.CrossSection([outline])
    levels = []
    for by in drawn:
        runs = [np.asarray(run) for run in whole.offset(-by, m3.JoinType.Miter, 4.0).to_polygons()]
        if not runs:
            break
        levels.append(runs)
    return levels


def _raised_mesh(levels: list[list[Array]], heights: Array) -> Mesh:
    """Return the closed sheet with outlines ``levels`` at ``heights`` to either side of its middle."""
    points, faces, start = [], [], [0]
    for runs, height in zip(levels, heights, strict=False):
        flat = np.vstack(runs)
        points.append(np.column_stack([flat[:, 0], np.full(len(flat), height), flat[:, 1]]))
        start.append(start[-1] + len(flat))
    for k, runs in enumerate(levels):
        inner = levels[k + 1] if k + 1 < len(levels) else []
        number = np.arange(start[k], start[min(k + 2, len(levels))])
        holes, at = [], start[k + 1]
        for run in inner:  # as holes they run the other way round
            holes.append(run[::-1])
            number[at - start[k] : at - start[k] + len(run)] = np.arange(at, at + len(run))[::-1]
            at += len(run)
        flat = m3.triangulate([run.astype(np.float32) for run in (*runs, *holes)], 1e-9)
        faces.append(number[np.asarray(flat, dtype=np.int64)])
    front = np.vstack(faces)
    # A tip so thin that it lies between the first two outlines would be a flap of no thickness.
    front = front[(front >= start[1]).any(axis=1)]
    top = np.vstack(points)
    # The outermost outline is the middle of the sheet, and both sides share it.
    back = np.where(front < start[1], front, front + len(top) - start[1])
    vertices = np.vstack([top, (top * [1, -1, 1])[start[1] :]])
    return Mesh(vertices, np.vstack([front[:, ::-1], back]))


def _leaf_mesh(shape: Leaf, fine: bool) -> Mesh:
    """Return a sheet with half-round edges: its outline inset by r - sqrt(r² - y²) at each depth y.

    The area between two insets is triangulated flat and then raised to their depths, so that points and
    narrow necks, which vanish in an inset, are covered once.
    """
    outline, r = leaf_outline(shape), shape.thickness / 2
    if not fine and len(outline) > 40:
        # Fewer corners hold less: the outline is widened until it holds what it did.
        few = outline[:: len(outline) // 30]
        middle = outline.mean(axis=0)
        outline = middle + (few - middle) * math.sqrt(_enclosed_area(outline) / _enclosed_area(few))
    steps = 9 if fine else 4
    angle = np.linspace(0, math.pi / 2, steps + 1)
    edge = min(r, 0.2 * shape.width, 0.2 * shape.length)
    # An edge of few facets holds less than the half round; moved out a little it holds the same.
    out = edge * (math.pi / 2 - steps * math.sin(math.pi / (2 * steps))) / 2
    levels = _inset_levels(outline, edge * (1 - np.cos(angle)) - out)
    sheet = _raised_mesh(levels, r * np.sin(angle))
    if not shape.is_bent:
        return sheet
    # The two faces are cut into few long triangles; they need more corners before they can bend.
    bend = max(shape.width / (8 if fine else 5), shape.length / 200, shape.thickness / 50)
    finer = from_manifold(to_manifold(sheet).refine_to_length(bend))
    return Mesh(curl_sheet(shape, finer.vertices), finer.faces)


@remembered(_SOLID_BYTES, _bytes_of)
def solid_of(shape: Shape, detail: Detail = Detail.UNION) -> m3.Manifold:
    """Return the solid of ``shape`` in its own axes."""
    return to_manifold(mesh_of(shape, detail))


def to_manifold(mesh: Mesh) -> m3.Manifold:
    """Return the solid of a mesh."""
    return m3.Manifold(m3.Mesh(mesh.vertices.astype(np.float32), mesh.faces.astype(np.uint32)))


def from_manifold(body: m3.Manifold) -> Mesh:
    """Return the mesh of a solid."""
    raw = body.to_mesh()
    return Mesh(
        np.asarray(raw.vert_properties, dtype=np.float64)[:, :3],
        np.asarray(raw.tri_verts, dtype=np.int64),
    )
