"""The extent of a figure in a view."""

from __future__ import annotations

import numpy as np

from bambola.core.relief import Camera
from bambola.core.solids import Placement


def base_of(placement: Placement, camera: Camera) -> float:
    """Return the height (mm, in the view) that stands on the ground line."""
    _, up, _ = camera.axes()
    if camera.tip <= 60:
        return placement.ground * float(up[2])
    return -max(copy.reach(-up) for copy in placement.copies)


def extent_in_view(placement: Placement, camera: Camera) -> tuple[float, float, float]:
    """Return left, right and top of a figure in a view (mm), its top above the ground line."""
    right, up, _ = camera.axes()
    ways = np.stack([-right, right, up])
    left, most, top = np.max([copy.reaches(ways) for copy in placement.copies], axis=0)
    return -float(left), float(most), float(top) - base_of(placement, camera)
