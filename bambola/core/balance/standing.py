"""Whether the figure stands: its centre of mass over the polygon of its ground contacts."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

import manifold3d as m3
import numpy as np

from bambola.core.frozen import frozen
from bambola.core.solids import Mesh, Placement, mesh_of

MOST_GROWTH = 4.0
"""Feet are not proposed larger than so many times their size, nor ballast heavier than the figure
times this. See craft.md, 4."""
_TURNS = np.radians(np.arange(0, 360, 1.0))
WAYS = np.column_stack([np.cos(_TURNS), np.sin(_TURNS)])
"""Ways on the ground that are looked along, a degree apart, (360, 2). Between two of them a hull
reaches less by under a five thousandth."""
BISECTIONS = 14
"""Halvings of a search: a sixteen thousandth of its range."""
BALLAST_HEIGHT = 0.12
"""Ballast lies this share of the height above the ground, in the lowest wool that has room. Judged.
See craft.md, 4."""


@frozen
class Remedy:
    """One way to make a figure steady. ``value`` is a factor for feet, or its underside where there are none,
    g for ballast, mm otherwise.

    ``at_mm`` is where on the ground (x, y) it goes, for a contact or a stand.
    """

    kind: Literal["feet", "underside", "ballast", "contact", "stand"]
    value: float
    at_mm: tuple[float, float] | None = None


def remedies(
    prints: Sequence[np.ndarray],
    centre: tuple[float, float, float],
    grams: float,
    height: float,
    wished_deg: float,
    footed: bool = True,
) -> tuple[Remedy, ...]:
    """Return the least of each remedy by which the figure bears a lean of ``wished_deg`` every way.

    ``prints`` are the outlines (n, 2) of what bears on the ground, ``centre`` that of its ``grams``
    (mm, from the ground), ``height`` the figure's own; one that is not ``footed`` sits on itself. A remedy
    that cannot do it is left out.

    A figure bears the lean if a circle of radius ``need`` about its plumb point lies within the hull of
    its contacts, that is, if the hull reaches that far every way.
    """
    point, high = np.array(centre[:2]), centre[2]
    need = high * math.tan(math.radians(wished_deg))
    found: list[Remedy | None] = []
    if prints:
        middles = np.array([(outline.min(axis=0) + outline.max(axis=0)) / 2 for outline in prints])
        # How far each contact reaches along every way: from the plumb point and from its own middle.
        own = np.stack(
            [((o - m) @ WAYS.T).max(axis=0) for o, m in zip(prints, middles, strict=True)]
        )
        apart = (middles - point) @ WAYS.T
        reach = (apart + own).max(axis=0)
        found += [
            _larger_contacts(own, apart, need, footed),
            _ballast_remedy(reach, middles.mean(axis=0) - point, need, high, height, grams),
            _third_contact(reach, need, height),
        ]
    # A round base under the plumb point does it whatever the feet are; the feet must stand on it.
    far = max((float(np.linalg.norm(o - point, axis=1).max()) for o in prints), default=0.0)
    found.append(Remedy("stand", 2 * max(need, far), (0.0, 0.0)))
    x, y = centre[0], centre[1]
    return tuple(
        replace(r, at_mm=(r.at_mm[0] + x, r.at_mm[1] + y)) if r.at_mm else r for r in found if r
    )


def _larger_contacts(
    own: np.ndarray, apart: np.ndarray, need: float, footed: bool
) -> Remedy | None:
    """Return the factor by which all contacts must grow about their middle for one of them to reach far
    enough in every direction."""
    with np.errstate(divide="ignore", invalid="ignore"):
        factor = np.where(own > 1e-9, (need - apart) / own, np.inf).min(axis=0).max()
    kind: Literal["feet", "underside"] = "feet" if footed else "underside"
    return Remedy(kind, max(1.0, float(factor))) if factor <= MOST_GROWTH else None


def _ballast_remedy(
    reach: np.ndarray, over: np.ndarray, need: float, high: float, height: float, grams: float
) -> Remedy | None:
    """Return the grams at the bottom, over the middle of the feet, that move the centre down and inwards
    enough."""
    low, along = height * BALLAST_HEIGHT, WAYS @ over

    def steady(extra: float) -> bool:
        share = extra / (grams + extra)
        lowered = 1 + (low - high) / high * share
        return bool((reach - share * along >= need * lowered).all())

    least, most = 0.0, MOST_GROWTH * grams
    if not steady(most):
        return None
    for _ in range(BISECTIONS):
        middle = (least + most) / 2
        least, most = (least, middle) if steady(middle) else (middle, most)
    return Remedy("ballast", most, (float(over[0]), float(over[1])))


def _third_contact(reach: np.ndarray, need: float, height: float) -> Remedy | None:
    """Return the nearest sufficient place for one more contact.

    A contact at distance t and heading θ reaches t cos(φ - θ) along φ, so its distance is set by the worst
    direction in which the feet alone fall short.
    """
    short = WAYS[reach < need]
    if not len(short):
        return None
    facing = WAYS[::3] @ short.T
    with np.errstate(divide="ignore"):
        far = np.where(facing > 1e-9, need / facing, np.inf).max(axis=1)
    best = int(far.argmin())
    if far[best] > 2 * height:
        return None
    x, y = (WAYS[::3][best] * far[best]).tolist()
    return Remedy("contact", float(far[best]), (x, y))


def hull_of(outlines: Sequence[np.ndarray]) -> np.ndarray:
    """Return the convex hull (n, 2), counter-clockwise, of points in outlines of (k, 2)."""
    if not outlines:
        return np.zeros((0, 2))
    hull = m3.CrossSection.hull_points(np.vstack(outlines)).to_polygons()
    return np.asarray(hull[0], dtype=np.float64) if hull else np.zeros((0, 2))


def nearest_edge(polygon: np.ndarray, point: np.ndarray) -> tuple[float, np.ndarray]:
    """Return the distance (mm) from ``point`` to the nearest edge, negative outside, and that edge (2, 2)."""
    polygon = polygon[np.any(polygon != np.roll(polygon, -1, axis=0), axis=1)]
    if len(polygon) < 3:
        away = np.linalg.norm(polygon - point, axis=1).min() if len(polygon) else math.inf
        return -float(away), polygon
    following = np.roll(polygon, -1, axis=0)
    edge = following - polygon
    away = point - polygon
    inward = (edge[:, 0] * away[:, 1] - edge[:, 1] * away[:, 0]) / np.linalg.norm(edge, axis=1)
    i = int(inward.argmin())
    return float(inward[i]), np.stack([polygon[i], following[i]])


WARN_DEG = 8.0
"""A figure that tips at less than this is warned about. See craft.md, 4."""
SOLE_SHARE = 0.02
"""Felt gives where it stands: what lies within this share of the height above the ground bears.
Judged, not measured; a maker's tip test corrects it. See craft.md, 4."""


@frozen
class Balance:
    """Centre of mass (mm), the polygon it must stay over, and how far the figure may lean.

    ``tip_angle_deg`` is negative when the centre falls outside the polygon. ``contact_mm`` is the
    hull of the contacts seen from above. ``mass_g`` is everything: wool, wire, fittings. It tips over
    the edge ``edge_mm``, ``towards`` which side in words. ``loop_mm`` is where the loop of a hanging
    figure must be for the tilt that is wished.
    """

    centre_mm: tuple[float, float, float]
    tip_angle_deg: float
    stands: bool
    mass_g: float
    contact_mm: tuple[tuple[float, float], ...]
    edge_mm: tuple[tuple[float, float], ...] = ()
    towards: str = ""
    loop_mm: tuple[float, float, float] | None = None
    remedies: tuple[Remedy, ...] = ()


def balance(
    placement: Placement,
    masses: Sequence[tuple[float, tuple[float, float, float]]],
    polygon: np.ndarray | None = None,
) -> Balance:
    """Return the balance of the placed figure with ``masses`` of (g, centre (3,) mm). Heights are from the
    ground. ``polygon`` (n, 2) are its :func:`contacts` if known."""
    weights = np.array([mass for mass, _ in masses])
    grams = float(weights.sum())
    centre = weights @ np.array([at for _, at in masses]) / max(grams, 1e-12)
    polygon = contacts(footprints(placement)) if polygon is None else polygon
    high = float(centre[2]) - placement.ground
    inside, edge = nearest_edge(polygon, centre[:2])
    angle = math.degrees(math.atan2(inside, high))
    hanging = placement.figure.stance == "hanging"
    tips = tuple((float(x), float(y)) for x, y in edge)
    return Balance(
        (float(centre[0]), float(centre[1]), high),
        angle,
        hanging or inside > 0,
        grams,
        tuple((float(x), float(y)) for x, y in polygon),
        tips,
        _side_of(edge.mean(axis=0) - polygon.mean(axis=0)) if len(edge) else "",
    )


def footprints(placement: Placement) -> list[tuple[int, np.ndarray]]:
    """Return the contacts with the ground: the number of each touching copy, and points (n, 2) of its outline
    there."""
    level = placement.ground + SOLE_SHARE * placement.height
    down = np.array([0.0, 0.0, -1.0])
    found = []
    for i, copy in enumerate(placement.copies):
        if not copy.part.hollow and -copy.reach(down) < level:
            points = _level_crossings(mesh_of(copy.shape), copy.matrix, level)
            if len(points):
                found.append((i, points))
    return found


def _level_crossings(mesh: Mesh, matrix: np.ndarray, level: float) -> np.ndarray:
    """Return the points (n, 2), mm, where the edges of a mesh cross a level."""
    corners = mesh.vertices @ matrix[:3, :3].T + matrix[:3, 3]
    over = corners[:, 2] - level
    above = (over > 0)[mesh.faces]
    faces = mesh.faces[above.any(axis=1) & ~above.all(axis=1)]
    edges = np.vstack([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]])
    a, b = edges[(over[edges] > 0).sum(axis=1) == 1].T
    share = over[a] / (over[a] - over[b])
    points: np.ndarray = corners[a, :2] + share[:, None] * (corners[b, :2] - corners[a, :2])
    return points


def contacts(prints: Sequence[tuple[int, np.ndarray]]) -> np.ndarray:
    """Return the convex hull (n, 2), counter-clockwise, of the contacts with the ground."""
    return hull_of([outline for _, outline in prints])


def _side_of(way: np.ndarray) -> str:
    """Return a direction on the ground as words: the face looks to -y, the figure's own left is +x."""
    names = (
        "left",
        "back left",
        "back",
        "back right",
        "right",
        "front right",
        "front",
        "front left",
    )
    return names[round(math.degrees(math.atan2(way[1], way[0])) / 45) % 8]


def loop_point(
    placement: Placement, centre: np.ndarray, tilt_deg: float
) -> tuple[tuple[float, float, float], int] | None:
    """Return the place (mm) on the figure's skin for its loop, and the number of the copy it is on.

    A body hangs with its centre of mass plumb under the loop. Nodding forwards by ``tilt_deg`` turns
    what is plumb within the figure: the line from the centre leans back by that angle. The loop goes
    where the line leaves the figure for the last time. None if it meets no skin.
    """
    nod = math.radians(tilt_deg)
    way = np.array([0.0, math.sin(nod), math.cos(nod)])
    best: tuple[float, int] | None = None
    for i, copy in enumerate(placement.copies):
        if copy.part.hollow:
            continue
        mesh = mesh_of(copy.shape)
        points = mesh.vertices @ copy.matrix[:3, :3].T + copy.matrix[:3, 3]
        far = _furthest_hit(points[mesh.faces], centre, way)
        if far is not None and (best is None or far > best[0]):
            best = (far, i)
    if best is None:
        return None
    x, y, z = (centre + way * best[0]).tolist()
    return (x, y, z), best[1]


def _furthest_hit(triangles: np.ndarray, origin: np.ndarray, way: np.ndarray) -> float | None:
    """Return the furthest crossing (mm along ``way``) of a ray with triangles (n, 3, 3), by
    Möller-Trumbore."""
    a, ab, ac = (
        triangles[:, 0],
        triangles[:, 1] - triangles[:, 0],
        triangles[:, 2] - triangles[:, 0],
    )
    p = np.cross(way, ac)
    det = (ab * p).sum(axis=1)
    facing = np.abs(det) > 1e-12
    inverse = np.divide(1.0, det, out=np.zeros_like(det), where=facing)
    t = origin - a
    u = (t * p).sum(axis=1) * inverse
    q = np.cross(t, ab)
    v = (q @ way) * inverse
    far = (ac * q).sum(axis=1) * inverse
    hit = facing & (u >= -1e-9) & (v >= -1e-9) & (u + v <= 1 + 1e-9) & (far > 0)
    return float(far[hit].max()) if hit.any() else None
