"""Shapes that are a round swept through places."""

from __future__ import annotations

import itertools
import math
from abc import abstractmethod
from collections.abc import Mapping, Sequence
from functools import cached_property
from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.shapes.base import (
    BARELY,
    Coordinate,
    Frozen,
    Length,
    Point3,
    ShapeBase,
    at_most,
    on_grid,
)
from bambola.core.frozen import frozen

Array = NDArray[np.float64]


@frozen
class Chain:
    """Round sections of ``radii`` (n,) centred on ``points`` (n, 3), all mm."""

    points: Array
    radii: Array
    closed: bool


class ChainShape(ShapeBase):
    """A shape whose length runs through its places and includes its round ends."""

    smooth: ClassVar[bool]
    """Whether it is a smooth curve, or straight from round to round."""

    @abstractmethod
    def chain(self) -> Chain:
        """Return its rounds."""


def way_through(places: Sequence[Point3]) -> float:
    """Return the length of the path through ``places``, mm."""
    return sum(math.dist(a, b) for a, b in itertools.pairwise(places))


def smooth(points: Array, closed: bool, steps: int) -> Array:
    """Return a Catmull-Rom curve through ``points`` (n, d), with its ends doubled unless ``closed``."""
    if len(points) == 2 and not closed:
        straight: Array = points[0] + np.linspace(0, 1, steps + 1)[:, None] * (
            points[1] - points[0]
        )
        return straight
    padded = (
        np.vstack([points[-1:], points, points[:2]])
        if closed
        else np.vstack([2 * points[0] - points[1], points, 2 * points[-1] - points[-2]])
    )
    t = np.linspace(0, 1, steps, endpoint=False)[None, :, None]
    p0, p1, p2, p3 = (padded[i : len(padded) - 3 + i, None, :] for i in range(4))
    run = 0.5 * (
        2 * p1
        + (p2 - p0) * t
        + (2 * p0 - 5 * p1 + 4 * p2 - p3) * t**2
        + (3 * p1 - p0 - 3 * p2 + p3) * t**3
    ).reshape(-1, points.shape[1])
    return run if closed else np.vstack([run, points[-1:]])


ROPE_TIP = 0.6
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
        if self._run_mm <= 0:
            raise RefusedError(Fact("fault.rope-points"))
        if self.closed and len(self.points) < 3:
            raise RefusedError(Fact("fault.rope-ring"))
        return self

    @property
    def _run_mm(self) -> float:
        return way_through((*self.points, self.points[0]) if self.closed else self.points)

    def _ends_mm(self, thickness: float) -> float:
        return 0.0 if self.closed else thickness * (1 + self.tip) / 2

    @classmethod
    def sized_like(cls, was: ShapeBase) -> Rope:
        along, across, _ = was.extents()
        run = max(along - (1 + ROPE_TIP) / 2 * across, 0.1 * across)
        return cls(points=was.places(run), thickness=across, tip=ROPE_TIP)

    def places(self, run: float) -> tuple[Point3, ...]:
        return self.points

    def least_length(self, measures: Mapping[str, float]) -> float:
        return self._ends_mm(measures["thickness"]) * (1 + BARELY)

    def measures(self) -> dict[str, float]:
        return {"length": self._run_mm + self._ends_mm(self.thickness), "thickness": self.thickness}

    def resized(self, measures: Mapping[str, float]) -> Rope:
        thickness = measures.get("thickness", self.thickness)
        length = measures.get("length", self.measures()["length"])
        along = (length - self._ends_mm(thickness)) / self._run_mm
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


TIP = 0.8
"""The share of its thickness that a new limb has left at its tip."""


class Joint(Frozen):
    """A round of a limb: where its centre lies (mm, local) and how thick the limb is there."""

    x: Coordinate
    y: Coordinate
    z: Coordinate
    diameter: Length


class Limb(ChainShape):
    """A tapered chain of rounds along bones: arms, legs, necks.

    ``length`` is over all, round ends and the run through the joint centres; ``thickness`` the stoutest
    diameter.
    """

    kind: Literal["limb"] = "limb"
    joints: Annotated[tuple[Joint, ...], at_most(40, 2)]
    measure_names: ClassVar = ("length", "thickness")
    axes: ClassVar = ("length", "thickness", "thickness")
    start_form: ClassVar = "sausage"
    smooth: ClassVar = False

    @model_validator(mode="after")
    def _has_length(self) -> Limb:
        if self._run_mm <= 0:
            raise RefusedError(Fact("fault.limb-joints"))
        return self

    @property
    def _run_mm(self) -> float:
        return way_through([(j.x, j.y, j.z) for j in self.joints])

    @property
    def _ends_mm(self) -> float:
        return (self.joints[0].diameter + self.joints[-1].diameter) / 2

    @classmethod
    def sized_like(cls, was: ShapeBase) -> Limb:
        if isinstance(was, Limb):
            return cls(joints=was.joints)
        along, across, _ = was.extents()
        places = was.places(max(along - (1 + TIP) / 2 * across, 0.1 * across))
        shares = np.linspace(1.0, was.tip if isinstance(was, Rope) else TIP, len(places))
        return cls(
            joints=tuple(
                Joint(x=x, y=y, z=z, diameter=float(across * share))
                for (x, y, z), share in zip(places, shares, strict=True)
            )
        )

    def places(self, run: float) -> tuple[Point3, ...]:
        return tuple((j.x, j.y, j.z) for j in self.joints)

    def least_length(self, measures: Mapping[str, float]) -> float:
        stout = measures["thickness"] / max(j.diameter for j in self.joints)
        return self._ends_mm * stout * (1 + BARELY)

    def centres(self) -> Array:
        """Joint centres, shape (n, 3)."""
        return np.array([(j.x, j.y, j.z) for j in self.joints])

    def measures(self) -> dict[str, float]:
        return {
            "length": self._run_mm + self._ends_mm,
            "thickness": max(j.diameter for j in self.joints),
        }

    @cached_property
    def smallest_mm(self) -> float:
        return max(j.diameter for j in self.joints)

    def resized(self, measures: Mapping[str, float]) -> Limb:
        old = self.measures()
        stout = measures.get("thickness", old["thickness"]) / old["thickness"]
        along = (measures.get("length", old["length"]) - self._ends_mm * stout) / self._run_mm
        return self.replaced(
            joints=tuple(
                Joint.model_construct(
                    x=j.x * along, y=j.y * along, z=j.z * along, diameter=j.diameter * stout
                )
                for j in self.joints
            )
        )

    def snapped(self, grid: float) -> Limb:
        return self.replaced(
            joints=tuple(
                j.replaced(**{n: on_grid(getattr(j, n), grid) for n in ("x", "y", "z", "diameter")})
                for j in self.joints
            )
        )

    @property
    def thinnest_mm(self) -> float:
        return min(j.diameter for j in self.joints)

    def chain(self) -> Chain:
        return Chain(self.centres(), np.array([j.diameter / 2 for j in self.joints]), False)
