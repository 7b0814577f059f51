"""A pad."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

import numpy as np

from bambola.core.figure.shapes.base import Length, ShapeBase
from bambola.core.figure.shapes.profile import Profile, ProfileShape


class Pad(ProfileShape):
    """A flattened dome: half an ellipsoid lying on its flat side."""

    kind: Literal["pad"] = "pad"
    width: Length
    depth: Length
    height: Length
    measure_names: ClassVar = ("width", "depth", "height")
    axes: ClassVar = ("height", "width", "depth")
    start_form: ClassVar = "ball"
    fullest_at: ClassVar = 0.0

    @classmethod
    def like(cls, was: ShapeBase) -> Pad:
        along, across, through = was.extents()
        return cls(width=across, depth=through, height=along)

    def profile(self, sections: int) -> Profile:
        rise = np.linspace(0.0, math.pi / 2, sections * 3 // 4 + 1)
        return Profile(
            self.height * np.sin(rise),
            self.width / 2 * np.cos(rise),
            self.depth / 2 * np.cos(rise),
        )
