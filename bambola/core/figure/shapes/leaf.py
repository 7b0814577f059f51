"""A flat part. Every sheet is a leaf with an outline of its own."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.shapes.base import Length, ShapeBase, at_most


class Leaf(ShapeBase):
    """A flat part cut to an outline: ears, fins, collars.

    ``outline`` is a closed run of points, x from -0.5 to 0.5 of the width and z from 0 (base) to 1
    (tip) of the length, smoothed on the way. ``curl`` bends the sheet round its length, in degrees
    of arc over the whole width, hollow side to the front. ``cup`` bends its base so much more, and fades to
    nothing at its tip: an ear pinched where it is set on; bent by a half turn it is folded. At its base it is
    ``foot`` times as thick, fading to its tip.
    """

    kind: Literal["leaf"] = "leaf"
    length: Length
    width: Length
    thickness: Length
    outline: Annotated[tuple[tuple[float, float], ...], at_most(200, 4)] = (
        (-0.28, 0.0),
        (0.28, 0.0),
        (0.46, 0.3),
        (0.5, 0.55),
        (0.36, 0.85),
        (0.0, 1.0),
        (-0.36, 0.85),
        (-0.5, 0.55),
        (-0.46, 0.3),
    )
    curl: Annotated[float, Field(ge=-300, le=300)] = 0.0
    cup: Annotated[float, Field(ge=-300, le=300)] = 0.0
    foot: Annotated[float, Field(ge=1, le=3)] = 1.0
    measure_names: ClassVar = ("length", "width", "thickness")
    axes: ClassVar = ("length", "width", "thickness")
    start_form: ClassVar = "sheet"
    flat: ClassVar[bool] = True

    @model_validator(mode="after")
    def _inside_its_box(self) -> Leaf:
        if any(abs(x) > 0.5 or not 0 <= z <= 1 for x, z in self.outline):
            raise RefusedError(Fact("fault.leaf-outline"))
        if abs(self.curl + self.cup) > 300:
            raise RefusedError(Fact("fault.leaf-cup"))
        return self

    @property
    def is_bent(self) -> bool:
        """Whether it is anything but a plane sheet of even thickness."""
        return abs(self.curl) > 1e-9 or abs(self.cup) > 1e-9 or self.foot > 1.0

    def thickness_ratio(self, z: NDArray[np.float64]) -> NDArray[np.float64]:
        """Return its thickness at heights ``z`` (mm) as a multiple of that at the tip."""
        fades = 1.0 - np.clip(z / self.length, 0.0, 1.0)
        found: NDArray[np.float64] = 1.0 + (self.foot - 1.0) * fades
        return found

    @classmethod
    def sized_like(cls, was: ShapeBase) -> Leaf:
        along, across, through = was.extents()
        return cls(length=along, width=across, thickness=min(through, 0.25 * min(along, across)))
