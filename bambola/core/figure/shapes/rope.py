"""A rope."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.shapes.base import BARELY, Length, Point3, ShapeBase, at_most, on_grid
from bambola.core.figure.shapes.chain import Chain, ChainShape, smooth, way_through

TIP = 0.6
"""The share of its thickness that a new rope has left at its tip."""


class Rope(ChainShape):
    """A round section along a smooth curve: tails, brims, rolled collars.

    ``thickness`` is the diameter at the base and ``tip`` the share of it left at the far end. ``length`` is
    over all: the run through its points and its round ends, or once round a closed one.
    """

    kind: Literal["rope"] = "rope"
    points: Annotated[tuple[Point3, ...], at_most(100, 2)]
    thickness: Length
    tip: Annotated[float, Field(gt=0, le=1)] = 1.0
    closed: bool = False
    measure_names: ClassVar = ("length", "thickness")
    axes: ClassVar = ("length", "thickness", "thickness")
    start_form: ClassVar = "sausage"
    straight: ClassVar = False
    smooth: ClassVar = True

    @model_validator(mode="after")
    def _has_length(self) -> Rope:
        if self._run <= 0:
            raise RefusedError(Fact("fault.rope-points"))
        if self.closed and len(self.points) < 3:
            raise RefusedError(Fact("fault.rope-ring"))
        return self

    @property
    def _run(self) -> float:
        return way_through((*self.points, self.points[0]) if self.closed else self.points)

    def _ends(self, thickness: float) -> float:
        return 0.0 if self.closed else thickness * (1 + self.tip) / 2

    @classmethod
    def like(cls, was: ShapeBase) -> Rope:
        along, across, _ = was.extents()
        run = max(along - (1 + TIP) / 2 * across, 0.1 * across)
        return cls(points=was.places(run), thickness=across, tip=TIP)

    def places(self, run: float) -> tuple[Point3, ...]:
        return self.points

    def least_length(self, measures: Mapping[str, float]) -> float:
        return self._ends(measures["thickness"]) * (1 + BARELY)

    def measures(self) -> dict[str, float]:
        return {"length": self._run + self._ends(self.thickness), "thickness": self.thickness}

    def resized(self, measures: Mapping[str, float]) -> Rope:
        thickness = measures.get("thickness", self.thickness)
        length = measures.get("length", self.measures()["length"])
        along = (length - self._ends(thickness)) / self._run
        return self.replaced(
            points=tuple((x * along, y * along, z * along) for x, y, z in self.points),
            thickness=thickness,
        )

    def snapped(self, grid: float) -> Rope:
        points = tuple(tuple(on_grid(v, grid) for v in point) for point in self.points)
        return self.replaced(points=points, thickness=on_grid(self.thickness, grid))

    @cached_property
    def smallest_mm(self) -> float:
        return self.thickness

    @property
    def thinnest_mm(self) -> float:
        return self.thickness * self.tip

    def chain(self) -> Chain:
        """Return the rounds of its smooth curve, twelve steps a span."""
        points = smooth(np.array(self.points), self.closed, 12)
        share = np.linspace(1.0, self.tip, len(points))
        return Chain(points, self.thickness / 2 * share, self.closed)
