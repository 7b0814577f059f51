"""Closed outlines in a plane, (n, 2) corners: which points lie within, and how far from the edge.

Every side is compared with every point, in blocks small enough for the processor's cache.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import manifold3d as m3
import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes import ProfileShape
from bambola.core.solids.forms import Array, profile
from bambola.core.solids.meshes import Detail, detail_for, solid_of
from bambola.core.solids.placement import Copy, Placement

_AT_A_TIME = 30_000
"""So many pairs of a side and a point are held against each other at a time: what stays near a processor."""


def encloses(outline: Array, points: Array) -> NDArray[np.bool_]:
    """Return which of ``points`` (n, 2) lie within, by the even-odd rule."""
    (x1, y1), (x2, y2) = outline.T[:, :, None], np.roll(outline, -1, axis=0).T[:, :, None]
    low, high = np.minimum(y1, y2), np.maximum(y1, y2)
    run = (x2 - x1) / np.where(y1 == y2, 1.0, y2 - y1)
    inside = np.empty(len(points), dtype=bool)
    for here, (u, v) in _blocks_of_points(outline, points):
        crossed = (low <= v) & (v < high) & (u < run * (v - y1) + x1)
        inside[here] = np.count_nonzero(crossed, axis=0) % 2 == 1
    return inside


def distance(outline: Array, points: Array, most: float = math.inf) -> Array:
    """Return the distance of ``points`` (n, 2) from the outline, on either side of it; infinite beyond
    ``most``."""
    (a, b), (c, d) = outline.T[:, :, None], np.roll(outline, -1, axis=0).T[:, :, None]
    along, up = c - a, d - b
    square = np.maximum(along * along + up * up, 1e-18)
    found = np.empty(len(points))
    for here, (u, v) in _blocks_of_points(outline, points):
        x, y = u - a, v - b
        share = np.clip((x * along + y * up) / square, 0.0, 1.0)
        x -= share * along
        y -= share * up
        found[here] = np.sqrt((x * x + y * y).min(axis=0))
    found[found > most] = np.inf
    return found


def _blocks_of_points(outline: Array, points: Array) -> Iterator[tuple[slice, Array]]:
    """Yield the points in blocks, with their indices."""
    each = max(1, _AT_A_TIME // max(1, len(outline)))
    for start in range(0, len(points), each):
        here = slice(start, start + each)
        yield here, np.ascontiguousarray(points[here].T)


def signed_distance(outline: Array, points: Array, most: float = math.inf) -> Array:
    """Return the signed distance of ``points`` (n, 2) from the outline, negative outside; infinite beyond
    ``most``."""
    far = distance(outline, points, most)
    found: Array = np.where(encloses(outline, points), far, -far)
    return found


_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(40)


def level_halves(shape: ProfileShape, along: float) -> tuple[float, float]:
    """Return the half width and half depth (mm) of the section at ``along`` (0 to 1)."""
    form = profile(shape)
    z = along * float(form.z[-1])
    wide = float(np.interp(z, form.z, form.half_width))
    return wide, float(np.interp(z, form.z, form.half_depth))


def level_arc(shape: ProfileShape, along: float, around: float) -> float:
    """Return the length (mm) of a level thread from the front round to ``around`` degrees: an ellipse's arc,
    by Gauss-Legendre quadrature, accurate to 1e-7 with this many points."""
    wide, deep = level_halves(shape, along)
    if wide <= 0:
        return 0.0
    half = math.radians(abs(around)) / 2
    a = half * (1 + _NODES)
    return float(half * (_WEIGHTS * np.hypot(wide * np.cos(a), deep * np.sin(a))).sum())


def around_at(shape: ProfileShape, along: float, arc: float) -> float:
    """Return the degrees round from the front at which a level thread is ``arc`` mm long, at most 180."""
    steps = np.linspace(0.0, 180.0, 721)
    wide, deep = level_halves(shape, along)
    a = np.radians(steps)
    points = np.column_stack([wide * np.sin(a), -deep * np.cos(a)])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    return float(np.interp(arc, run, steps))


AXES: dict[str, Array] = {
    "front": np.array([(1, 0, 0), (0, 0, 1), (0, -1, 0)], dtype=float),
    "side": np.array([(0, 1, 0), (0, 0, 1), (1, 0, 0)], dtype=float),
    "back": np.array([(-1, 0, 0), (0, 0, 1), (0, 1, 0)], dtype=float),
    "top": np.array([(1, 0, 0), (0, 1, 0), (0, 0, 1)], dtype=float),
}
"""For each view: right as seen, up as seen, towards the viewer. From the side is from its left."""
_NOWHERE = np.zeros(3)
_LINE_MM = 1.0
"""No outline is closer than under a line as thick: its facets stand off by a fortieth of that, which no pen
draws. Derived."""


def outlines(
    placement: Placement, view: str = "front", detail: Detail = Detail.UNION
) -> list[Array]:
    """Return the figure's outline as closed runs of (n, 2) mm points; comparing with it needs a fine
    ``detail``. Axes: to the right as seen, and up (for the top view, away from the viewer)."""
    return outlines_and_parts(placement, view, detail)[0]


def outlines_and_parts(
    placement: Placement, view: str, detail: Detail
) -> tuple[list[Array], list[tuple[Copy, Array]]]:
    """Return the figure's outline, and the outline of every copy that is not hollow."""
    shadows = [
        (copy, _shadow_of(copy, view, _NOWHERE, detail))
        for copy in placement.copies
        if not copy.part.hollow
    ]
    whole = m3.CrossSection.batch_boolean([shadow for _, shadow in shadows], m3.OpType.Add)
    runs = [np.asarray(run, dtype=np.float64) for run in whole.to_polygons()]
    return runs, [(copy, _longest_outline(shadow)) for copy, shadow in shadows]


def outline_of_copy(
    copy: Copy, view: str, origin: Array = _NOWHERE, detail: Detail = Detail.UNION
) -> Array:
    """Return the outline (n, 2) of one copy in a view, mm; ``origin`` (3,) is where the figure's own lies."""
    return _longest_outline(_shadow_of(copy, view, origin, detail))


def _longest_outline(shadow: m3.CrossSection) -> Array:
    runs = shadow.to_polygons()
    return np.asarray(max(runs, key=len), dtype=np.float64) if runs else np.zeros((0, 2))


def _shadow_of(copy: Copy, view: str, origin: Array, detail: Detail) -> m3.CrossSection:
    axes = AXES[view]
    rows = np.column_stack([axes @ copy.matrix[:3, :3], axes @ (copy.matrix[:3, 3] + origin)])
    close = min(detail, detail_for(copy.shape, _LINE_MM))
    return solid_of(copy.shape, close).transform(rows).project()
