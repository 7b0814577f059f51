"""Where the loop of a hanging figure must be: above its centre of mass at the wished tilt."""

from __future__ import annotations

import math

import numpy as np

from bambola.core.solids import Placement, mesh_of


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
