"""Picks things on a figure in a view: places on the skin, axes to snap to, outlines of patches."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bambola.core.figure.fields import View
from bambola.core.solids.forms import Array, box_of, chain, seat_point
from bambola.core.solids.meshes import Detail, mesh_of
from bambola.core.solids.placement import Copy, Placement
from bambola.core.solids.regions import VIEWS
from bambola.core.solids.seating import nearest_seat


def skin_seat(copy: Copy, axes: Array, u: float, v: float) -> tuple[float, float] | None:
    """Return where (along, around) the line of sight through (u, v) first meets a copy's skin, if it does.

    ``axes`` are right, up and towards the viewer (3, 3); u, v in mm of the figure's own origin.
    """
    mesh = mesh_of(copy.shape, Detail.DRAWN)
    placed = mesh.vertices @ copy.matrix[:3, :3].T + copy.matrix[:3, 3]
    seen = placed @ axes.T
    a, b, c = (seen[mesh.faces[:, i]] for i in range(3))
    p = np.array([u, v])
    e1, e2, off = b[:, :2] - a[:, :2], c[:, :2] - a[:, :2], p - a[:, :2]
    whole = e1[:, 0] * e2[:, 1] - e1[:, 1] * e2[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        s = (off[:, 0] * e2[:, 1] - off[:, 1] * e2[:, 0]) / whole
        t = (e1[:, 0] * off[:, 1] - e1[:, 1] * off[:, 0]) / whole
        met = (s >= -1e-9) & (t >= -1e-9) & (s + t <= 1 + 1e-9)
    hit = np.flatnonzero(met)
    if not len(hit):
        return None
    depth = a[hit, 2] + s[hit] * (b[hit, 2] - a[hit, 2]) + t[hit] * (c[hit, 2] - a[hit, 2])
    point = np.array([u, v, depth.max()]) @ axes
    own = np.linalg.inv(copy.matrix)
    along, around, _ = nearest_seat(copy.shape, own[:3, :3] @ point + own[:3, 3])
    return along, around


def nearest_axis(
    placement: Placement, axes: Array, u: float, v: float, reach: float
) -> tuple[Copy, float] | None:
    """Return the part and the share along its axis nearest to (u, v) as seen, within ``reach`` mm."""
    best: tuple[float, Copy, float] | None = None
    for copy in placement.copies:
        for share in np.linspace(0, 1, 41):
            place = axes[:2] @ copy.point(float(share))
            far = float(np.hypot(place[0] - u, place[1] - v))
            # Joints draw a little: a bone's end belongs where a part begins, bends or ends.
            pulled = far - (0.25 * reach if _is_joint(copy, float(share)) else 0.0)
            if far <= reach and (best is None or pulled < best[0]):
                best = (pulled, copy, float(share))
    return (best[1], best[2]) if best else None


def _is_joint(copy: Copy, share: float) -> bool:
    if share in (0.0, 1.0):
        return True
    if copy.shape.kind != "limb":
        return False
    points = chain(copy.shape).points
    runs = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    return bool((np.abs(runs / runs[-1] - share) < 0.0125).any())


def patch_outline(
    copy: Copy, axes: Array, drawn: Sequence[tuple[float, float]]
) -> tuple[View, tuple[tuple[float, float], ...]]:
    """Return the view of a part's own box that faces the viewer, and ``drawn`` (mm as seen) as an outline on
    it.

    Outlines run from -1 to 1 across and up the box (see :class:`bambola.core.figure.places.Outline`).
    """
    turn = copy.matrix[:3, :3]
    toward = turn.T @ axes[2]
    view = max(VIEWS, key=lambda name: float(toward[VIEWS[name][2][0]] * VIEWS[name][2][1]))
    (across, right), (up, rise), (facing, sense) = VIEWS[view]
    centre, half = box_of(copy.shape)
    own = np.linalg.inv(copy.matrix)
    middle = (
        copy.matrix[:3, :3] @ (centre + 0.5 * half * sense * np.eye(3)[facing]) + copy.matrix[:3, 3]
    )
    depth = float(axes[2] @ middle)
    outline = []
    for u, v in drawn:
        point = np.array([u, v, depth]) @ axes
        local = (own[:3, :3] @ point + own[:3, 3] - centre) / half
        outline.append((float(local[across] * right), float(local[up] * rise)))
    return view, tuple(outline)  # type: ignore[return-value]


def skin_point(copy: Copy, along: float, around: float) -> Array:
    """Return a seat on the skin as a point (3,) of the figure, mm."""
    placed: Array = copy.matrix[:3, :3] @ seat_point(copy.shape, along, around, 1.0)
    return placed + copy.matrix[:3, 3]
