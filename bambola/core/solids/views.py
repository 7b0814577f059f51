"""The four sides a figure is looked at from, and its outlines as seen from them."""

from __future__ import annotations

import manifold3d as m3
import numpy as np

from bambola.core.solids.forms import Array
from bambola.core.solids.meshes import Detail, detail_for, solid_of
from bambola.core.solids.placement import Copy, Placement

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
        (copy, _shadow(copy, view, _NOWHERE, detail))
        for copy in placement.copies
        if not copy.part.hollow
    ]
    whole = m3.CrossSection.batch_boolean([shadow for _, shadow in shadows], m3.OpType.Add)
    runs = [np.asarray(run, dtype=np.float64) for run in whole.to_polygons()]
    return runs, [(copy, _longest(shadow)) for copy, shadow in shadows]


def outline_of_copy(
    copy: Copy, view: str, origin: Array = _NOWHERE, detail: Detail = Detail.UNION
) -> Array:
    """Return the outline (n, 2) of one copy in a view, mm; ``origin`` (3,) is where the figure's own lies."""
    return _longest(_shadow(copy, view, origin, detail))


def _longest(shadow: m3.CrossSection) -> Array:
    runs = shadow.to_polygons()
    return np.asarray(max(runs, key=len), dtype=np.float64) if runs else np.zeros((0, 2))


def _shadow(copy: Copy, view: str, origin: Array, detail: Detail) -> m3.CrossSection:
    axes = AXES[view]
    rows = np.column_stack([axes @ copy.matrix[:3, :3], axes @ (copy.matrix[:3, 3] + origin)])
    close = min(detail, detail_for(copy.shape, _LINE_MM))
    return solid_of(copy.shape, close).transform(rows).project()
