"""Plane geometry of what a figure stands on."""

from __future__ import annotations

import math
from collections.abc import Sequence

import manifold3d as m3
import numpy as np


def hull_of(outlines: Sequence[np.ndarray]) -> np.ndarray:
    """Convex hull (n, 2), counter-clockwise, of points in outlines of (k, 2)."""
    if not outlines:
        return np.zeros((0, 2))
    hull = m3.CrossSection.hull_points(np.vstack(outlines)).to_polygons()
    return np.asarray(hull[0], dtype=np.float64) if hull else np.zeros((0, 2))


def nearest_edge(polygon: np.ndarray, point: np.ndarray) -> tuple[float, np.ndarray]:
    """Distance (mm) from ``point`` to the nearest edge, negative outside, and that edge (2, 2)."""
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
