"""Distances over the surface of one part: geodesics on its own solid.

On a part with elliptical sections a path of straight pieces is laid over the surface and pulled tight:
Gauss-Newton minimises the sum of squared lengths with every point kept on the surface, which gives equal
pieces along a geodesic. Limbs and ropes are unrolled along and round. A flat part is a plane. On a disc less
than half as high as wide a straight piece cuts through the rim, so distances there are slightly too short.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

import numpy as np

from bambola.core.figure.shapes import ChainShape, Leaf, ProfileShape, Shape
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.forms import Array, chain, profile, seat_point
from bambola.core.solids.inside import Mask

PIECES = 12
"""Straight pieces of a path. They are shorter than the path by its bend; from as many and half as many the
rest is reckoned (Richardson), which leaves less than 1 in 20,000 over half a ball. See craft.md, 9."""
_ROUNDS, _CLOSE = 40, 1e-3
# A path that still moves by so small a share of the part is as long as the tight one but for its square.
_ASTRIDE = 2.4
# Ends farther apart than this, in radians seen from the middle, may have several tight ways between them of
# which the section need not be the shortest: over the crown, or round either side. From an end of the part
# it goes where it was laid: a strip from the crown to the chin down the front.
_END = 1e-3
_SECTIONS = 512
_LAYING, _NEAR, _CELLS, _CUTS = (0.0, 4.0), (0.8, 1.25), 16, 3

Place = tuple[float, float]
"""Where on the skin of a part: along it (0 to 1) and around it (degrees), as a seat has it."""


@frozen
class _Round:
    """A part with elliptical sections by the angle τ (0 to π) of z = h/2 (1 − cos τ), in which its half
    widths are smooth even where it closes."""

    height: float
    tau: Array
    wide: Array
    deep: Array

    @property
    def middle(self) -> Array:
        """The middle of its axis (3,), mm."""
        return np.array([0.0, 0.0, self.height / 2])

    def at(self, place: Place) -> Array:
        """Return a place as a point (3,), mm."""
        tau = math.acos(max(-1.0, min(1.0, 1 - 2 * place[0])))
        a = math.radians(place[1])
        w, d = np.interp(tau, self.tau, self.wide), np.interp(tau, self.tau, self.deep)
        return np.array([w * math.sin(a), -d * math.cos(a), place[0] * self.height])

    def halves(self, z: Array) -> tuple[Array, Array]:
        """Return the half width and half depth at heights ``z``."""
        tau = np.arccos(np.clip(1 - 2 * z / self.height, -1.0, 1.0))
        return np.interp(tau, self.tau, self.wide), np.interp(tau, self.tau, self.deep)

    def project(self, points: Array, between: tuple[float, float] = _NEAR) -> Array:
        """Return points (…, 3) moved along the ray from the middle on to the surface: by dividing ``between``
        (shares of their distance) into cells at once, and once more within the cell where the ray leaves the
        part."""
        middle = self.middle
        ray = (points - middle)[..., None, :]
        low, cell = np.full((*points.shape[:-1], 1), between[0]), between[1] - between[0]
        for _ in range(_CUTS):
            cell /= _CELLS
            shares = low + cell * np.arange(1, _CELLS)
            inside = self._is_inside(middle + ray * shares[..., None])
            low = low + cell * np.logical_and.accumulate(inside, axis=-1).sum(
                axis=-1, keepdims=True
            )
        found: Array = middle + ray[..., 0, :] * (low + cell / 2)
        return found

    def _is_inside(self, p: Array) -> Mask:
        w, d = self.halves(p[..., 2])
        least = 1e-9 * self.height
        within = (p[..., 0] / np.maximum(w, least)) ** 2 + (p[..., 1] / np.maximum(d, least)) ** 2
        found: Mask = (within < 1) & (p[..., 2] > 0) & (p[..., 2] < self.height)
        return found

    def tangents(self, p: Array) -> Array:
        """Return two unit tangents (…, 3, 2) at points (…, 3) of the surface: square to the gradient of
        (x/w)² + (y/d)²."""
        step = 1e-4 * self.height
        z = np.clip(p[..., 2], step, self.height - step)
        w, d = self.halves(z)
        (w0, d0), (w1, d1) = self.halves(z - step), self.halves(z + step)
        x, y = p[..., 0], p[..., 1]
        least = 1e-6 * self.height
        w, d = np.maximum(w, least), np.maximum(d, least)
        rise = -(x**2 / w**3 * (w1 - w0) + y**2 / d**3 * (d1 - d0)) / (2 * step)
        normal = np.stack([x / w**2, y / d**2, rise], axis=-1)
        normal /= np.maximum(np.linalg.norm(normal, axis=-1, keepdims=True), 1e-12)
        normal[..., 2] += np.linalg.norm(normal, axis=-1) < 0.5  # where it closes there is no side
        least_axis = np.abs(normal).argmin(axis=-1)
        first = np.cross(normal, np.eye(3)[least_axis])
        first /= np.linalg.norm(first, axis=-1, keepdims=True)
        return np.stack([first, np.cross(normal, first)], axis=-1)


@remembered(64)
def _round_of(shape: ProfileShape) -> _Round:
    cut = profile(shape, _SECTIONS)
    height = float(cut.z[-1])
    tau = np.arccos(np.clip(1 - 2 * cut.z / height, -1.0, 1.0))
    return _Round(height, tau, cut.half_width, cut.half_depth)


def over_surface(shape: Shape, pairs: Iterable[tuple[Place, Place]]) -> Array:
    """Return the distance over the surface of ``shape`` between the two places of each pair: (n,) mm."""
    return _over_surface(shape, tuple(pairs))


@remembered(64)
def _over_surface(shape: Shape, pairs: tuple[tuple[Place, Place], ...]) -> Array:
    if not pairs:
        return np.zeros(0)
    if isinstance(shape, ChainShape):
        return np.array([_unrolled_distance(shape, a, b) for a, b in pairs])
    if isinstance(shape, Leaf):
        return np.array([math.dist(_laid_flat(shape, a), _laid_flat(shape, b)) for a, b in pairs])
    body = _round_of(shape)
    ends = np.array([[body.at(a), body.at(b)] for a, b in pairs])
    turn = _turn_between(body, ends)
    ended = np.array([min(a[0], b[0], 1 - a[0], 1 - b[0]) < _END for a, b in pairs])
    far = np.flatnonzero((turn > _ASTRIDE) & ~ended)
    paths, of = [_section_path(body, ends, turn)], [np.arange(len(pairs))]
    for n in far:
        paths.append(_ways_round(body, ends[n]))
        of.append(np.full(len(paths[-1]), n))
    found = np.full(len(pairs), np.inf)
    np.minimum.at(found, np.concatenate(of), _tighten_paths(body, np.concatenate(paths)))
    return found


def _tighten_paths(body: _Round, x: Array) -> Array:
    """Return the lengths (n,) of paths (n, pieces + 1, 3), which are tightened in place."""
    moving = np.arange(len(x))
    for _ in range(_ROUNDS):
        path = x[moving]
        inner = path[:, 1:-1]
        basis = body.tangents(inner)
        pull = path[:, 2:] - 2 * inner + path[:, :-2]
        right = np.einsum("bikc,bik->bic", basis, pull)
        step = _newton_step(basis, right.reshape(len(path), -1)).reshape(right.shape)
        moved = np.einsum("bikc,bic->bik", basis, step)
        # Far from tight a whole step could leave the surface: none is longer than a piece.
        long = np.linalg.norm(moved, axis=-1, keepdims=True)
        most = np.linalg.norm(np.diff(path, axis=1), axis=-1).mean(axis=1)[:, None, None]
        moved *= np.minimum(1.0, most / np.maximum(long, 1e-12))
        x[moving, 1:-1] = body.project(inner + moved)
        moving = moving[long.max(axis=(1, 2)) >= _CLOSE * body.height]
        if not len(moving):
            break
    long, short = (np.linalg.norm(np.diff(p, axis=1), axis=-1).sum(axis=1) for p in (x, x[:, ::2]))
    found: Array = long + (long - short) / 3
    return found


def _turn_between(body: _Round, ends: Array) -> Array:
    """Return the angles (n,) between ends (n, 2, 3) as seen from the middle, radians."""
    rays = ends - body.middle
    unit = rays / np.linalg.norm(rays, axis=-1, keepdims=True)
    turn: Array = np.arccos(np.clip((unit[:, 0] * unit[:, 1]).sum(axis=-1), -1, 1))
    return turn


def _ways_round(body: _Round, ends: Array) -> Array:
    """Return starting paths (3, pieces + 1, 3) between ``ends`` (2, 3): the shortest three of those by front,
    back, either side, crown and chin."""
    half = PIECES // 2
    by = np.concatenate([np.eye(3), -np.eye(3)]) * body.height + body.middle
    legs = []
    for a, b in (
        (np.broadcast_to(ends[0], by.shape), by),
        (by, np.broadcast_to(ends[1], by.shape)),
    ):
        pair = np.stack([a, b], axis=1)
        legs.append(_section_path(body, pair, _turn_between(body, pair), half))
    ways = np.concatenate([legs[0][:, :-1], legs[1]], axis=1)
    ways[:, half] = body.project(ways[:, half], _LAYING)
    long = np.linalg.norm(np.diff(ways, axis=1), axis=-1).sum(axis=1)
    shortest: Array = ways[np.argsort(long)[:3]]
    return shortest


def _section_path(body: _Round, ends: Array, turn: Array, pieces: int = PIECES) -> Array:
    """Return a starting path (n, pieces + 1, 3): the section by the plane through both ends and the middle,
    by the front if the ends are opposite. ``turn`` (n,) is its angle round the middle."""
    rays = ends - body.middle
    unit = rays / np.linalg.norm(rays, axis=-1, keepdims=True)
    a, b = unit[:, 0], unit[:, 1]
    opposite = np.linalg.norm(a + b, axis=-1, keepdims=True) < 1e-3
    ahead = np.where(opposite, np.array([0.0, -1.0, 1e-3]), b)
    ahead = ahead - a * (a * ahead).sum(axis=-1, keepdims=True)
    ahead /= np.maximum(np.linalg.norm(ahead, axis=-1, keepdims=True), 1e-12)
    angle = np.linspace(0, 1, pieces + 1)[None, :, None] * turn[:, None, None]
    way = np.cos(angle) * a[:, None] + np.sin(angle) * ahead[:, None]
    path = body.project(body.middle + np.linalg.norm(rays, axis=-1).max() * way, _LAYING)
    path[:, 0], path[:, -1] = ends[:, 0], ends[:, 1]
    return path


def _newton_step(basis: Array, right: Array) -> Array:
    """Return the step (n, 2 (pieces − 1)) of the Gauss-Newton method: a block tridiagonal system (2 × 2) for
    every path."""
    n, inner = basis.shape[:2]
    system = np.zeros((n, inner, 2, inner, 2))
    here = np.arange(inner)
    system[:, here, :, here, :] = 2 * np.eye(2)
    beside = -np.einsum("bikc,bikd->bicd", basis[:, :-1], basis[:, 1:])
    system[:, here[:-1], :, here[1:], :] = beside.transpose(1, 0, 2, 3)
    system[:, here[1:], :, here[:-1], :] = beside.transpose(1, 0, 3, 2)
    every = system.reshape(n, 2 * inner, 2 * inner)
    return np.linalg.solve(every, right[..., None])[..., 0].astype(np.float64)


def _unrolled_distance(shape: ChainShape, a: Place, b: Place) -> float:
    """Return coordinates on the unrolled tube: along its run and round it."""
    form = chain(shape)
    runs = np.linalg.norm(np.diff(form.points, axis=0), axis=1)
    at = np.concatenate([[0.0], np.cumsum(runs)]) / max(float(runs.sum()), 1e-12)
    radius = float(np.interp((a[0] + b[0]) / 2, at, form.radii[: len(at)]))
    return math.hypot((a[0] - b[0]) * float(runs.sum()), radius * math.radians(a[1] - b[1]))


def _laid_flat(shape: Leaf, at: Place) -> tuple[float, float]:
    return at[0] * shape.length, math.sin(math.radians(at[1])) * shape.width / 2


def seat_at(shape: Shape, crown: Place, down: float, aside: float) -> Place | None:
    """Return the place ``down`` mm from the crown and ``aside`` mm from the midline, both over the surface,
    on the left half of the front; None where there is none."""

    def miss(place: Place) -> tuple[float, float]:
        far, off = _surface_distances(shape, crown, place)
        return far - down, off - aside

    size = max(shape.extents())
    along = max(0.05, min(0.95, 1 - down / size / 1.5))
    return _solved_place(miss, (along, math.degrees(min(1.5, 2 * aside / size))))


def seat_by_caliper(
    shape: Shape, crown: Place, now: Place, down: float | None = None, apart: float | None = None
) -> Place | None:
    """Return the seat of a mark, now at ``now``, by a caliper: ``down`` mm straight from the crown, or
    ``apart`` mm straight from its twin. The other coordinate stays, over the surface. None if there is no
    such place."""
    kept = _surface_distances(shape, crown, now)
    top = seat_point(shape, *crown, 1.0)

    def miss(place: Place) -> tuple[float, float]:
        point = seat_point(shape, *place, 1.0)
        far, off = (
            _surface_distances(shape, crown, place) if down is None or apart is None else kept
        )
        return (
            far - kept[0] if down is None else float(np.linalg.norm(point - top)) - down,
            off - kept[1] if apart is None else 2 * abs(float(point[0])) - apart,
        )

    return _solved_place(miss, (min(0.95, max(0.05, now[0])), max(1.0, abs(now[1]))))


def _surface_distances(shape: Shape, crown: Place, place: Place) -> tuple[float, float]:
    """Return the distances of a place from the crown and from the midline, over the surface, mm. The latter
    is half the distance from its mirror image."""
    down, across = over_surface(shape, [(crown, place), (place, (place[0], -place[1]))])
    return float(down), float(across) / 2


_LOW, _HIGH, _SCALE = np.array([1e-4, 0.0]), np.array([1 - 1e-4, 1.79]), np.array([1.0, 100.0])
"""Between which places, along and around in hundreds of degrees, a mark is looked for on the left half."""
_BEYOND_MM = 100.0
"""So much more is amiss for each of these that a place lies beyond. Judged."""


def _solved_place(miss: Callable[[Place], tuple[float, float]], start: Place) -> Place | None:
    """Return the place on the left half with zero residual, searched from ``start``; None if there is
    none."""
    from scipy.optimize import root  # only where marks are measured

    def amiss(at: Array) -> Array:
        within = np.clip(at, _LOW, _HIGH)
        along, around = (within * _SCALE).tolist()
        return np.array(miss((along, around))) + _BEYOND_MM * (at - within)

    found = root(amiss, start / _SCALE, options={"xtol": 1e-4, "eps": 1e-4, "maxfev": 60})
    along, around = (np.clip(found.x, _LOW, _HIGH) * _SCALE).tolist()
    return (along, around) if np.abs(miss((along, around))).max() < 0.05 else None
