"""The sides a figure can be seen from."""

from __future__ import annotations

import numpy as np

from bambola.core.figure import Sight
from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.language import N_

VIEWS: tuple[tuple[Sight, str, Camera], ...] = (
    ("front", N_("From the front"), Camera()),
    ("side", N_("From its left side"), Camera(turn=90)),
    ("back", N_("From the back"), Camera(turn=180)),
    ("top", N_("From above"), Camera(tip=90)),
)
"""Name, words and camera."""
VIEW_WORDS = {name: words for name, words, _ in VIEWS}


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
