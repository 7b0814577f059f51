"""A ball or egg."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from bambola.core.figure.shapes.base import Length, ShapeBase
from bambola.core.figure.shapes.profile import Profile, ProfileShape


class Ball(ProfileShape):
    """A ball or egg. ``taper`` > 0 makes the upper half slimmer; 0 is an ellipsoid."""

    kind: Literal["ball"] = "ball"
    width: Length
    depth: Length
    height: Length
    taper: Annotated[float, Field(ge=-0.6, le=0.6)] = 0.0
    measure_names: ClassVar = ("width", "depth", "height")
    axes: ClassVar = ("height", "width", "depth")
    start_form: ClassVar = "ball"

    @classmethod
    def like(cls, was: ShapeBase) -> Ball:
        along, across, through = was.extents()
        return cls(width=across, depth=through, height=along)

    def profile(self, sections: int) -> Profile:
        zeta = -np.cos(np.linspace(0.0, math.pi, sections + 1))
        girth = np.sqrt(np.maximum(0.0, 1 - zeta**2)) * (1 - self.taper * zeta)
        girth = girth / fullest_section(self.taper)
        return Profile(self.height / 2 * (1 + zeta), self.width / 2 * girth, self.depth / 2 * girth)


def fullest_section(taper: float) -> float:
    """Return the largest of sqrt(1 - ζ²)(1 - tζ): where the derivative's 2tζ² - ζ - t is nought."""
    if abs(taper) < 1e-9:
        return 1.0
    zeta = (1 - math.sqrt(1 + 8 * taper * taper)) / (4 * taper)
    return math.sqrt(1 - zeta * zeta) * (1 - taper * zeta)
