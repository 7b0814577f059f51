"""Whether the figure stands: its centre of mass over the polygon of its ground contacts."""

from __future__ import annotations

import math
from collections.abc import Sequence

import manifold3d as m3
import numpy as np

from bambola.core.balance.remedies import Remedy
from bambola.core.frozen import frozen
from bambola.core.solids import Mesh, Placement, mesh_of


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
            points = _crossing(mesh_of(copy.shape), copy.matrix, level)
            if len(points):
                found.append((i, points))
    return found


def _crossing(mesh: Mesh, matrix: np.ndarray, level: float) -> np.ndarray:
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
