"""Whether the figure stands: centre of mass over the polygon of its ground contacts."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import manifold3d as m3
import numpy as np

from bambola.core.solids import Placement, solid_of

WARN_DEG = 8.0
"""A figure that tips at less than this is warned about."""
SOLE_SHARE = 0.02
"""Felt gives where it stands: what lies within this share of the height above the ground bears.
Judged, not measured; a maker's tip test corrects it."""


@dataclass(frozen=True, slots=True)
class Balance:
    """Centre of mass (mm), the polygon it must stay over, and how far the figure may lean.

    ``tip_angle_deg`` is negative when the centre falls outside the polygon. ``contact_mm`` is the
    hull of the contacts seen from above. ``mass_g`` is everything: wool, wire, fittings.
    """

    centre_mm: tuple[float, float, float]
    tip_angle_deg: float
    stands: bool
    mass_g: float
    contact_mm: tuple[tuple[float, float], ...]


def balance(
    placement: Placement,
    masses: Sequence[tuple[float, tuple[float, float, float]]],
    polygon: np.ndarray | None = None,
) -> Balance:
    """Balance of the placed figure with ``masses`` of (g, centre (3,) mm). Heights from the ground.

    ``polygon`` (n, 2) are its :func:`contacts` if they are known.
    """
    grams = sum(mass for mass, _ in masses)
    centre = np.array([sum(m * at[k] for m, at in masses) / max(grams, 1e-12) for k in range(3)])
    polygon = contacts(placement) if polygon is None else polygon
    high = float(centre[2]) - placement.ground
    inside = _distance_inside(polygon, centre[:2])
    angle = math.degrees(math.atan2(inside, high))
    hanging = placement.figure.stance == "hanging"
    return Balance(
        (float(centre[0]), float(centre[1]), high), angle, hanging or inside > 0, grams,
        tuple((float(x), float(y)) for x, y in polygon),
    )  # fmt: skip


def contacts(placement: Placement) -> np.ndarray:
    """Convex hull (n, 2), counter-clockwise, of what bears on the ground."""
    level = placement.ground + SOLE_SHARE * placement.height
    down = np.array([0.0, 0.0, -1.0])
    corners = []
    for copy in placement.copies:
        if -copy.reach(down) < level:
            cut = solid_of(copy.shape).transform(copy.matrix[:3]).slice(level)
            corners += [np.asarray(run) for run in cut.to_polygons()]
    if not corners:
        return np.zeros((0, 2))
    hull = m3.CrossSection.hull_points(np.vstack(corners)).to_polygons()
    return np.asarray(hull[0], dtype=np.float64) if hull else np.zeros((0, 2))


def _distance_inside(polygon: np.ndarray, point: np.ndarray) -> float:
    """Distance (mm) from ``point`` to the nearest edge; negative outside."""
    if len(polygon) < 3:
        return (
            -math.inf if not len(polygon) else -float(np.linalg.norm(polygon - point, axis=1).min())
        )
    edge = np.roll(polygon, -1, axis=0) - polygon
    away = point - polygon
    inward = (edge[:, 0] * away[:, 1] - edge[:, 1] * away[:, 0]) / np.linalg.norm(edge, axis=1)
    return float(inward.min())
