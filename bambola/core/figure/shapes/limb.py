"""A limb."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import model_validator

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
from bambola.core.figure.shapes.chain import Array, Chain, ChainShape, way_through
from bambola.core.figure.shapes.rope import Rope

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
        if self._run <= 0:
            raise RefusedError(Fact("fault.limb-joints"))
        return self

    @property
    def _run(self) -> float:
        return way_through([(j.x, j.y, j.z) for j in self.joints])

    @property
    def _ends(self) -> float:
        return (self.joints[0].diameter + self.joints[-1].diameter) / 2

    @classmethod
    def like(cls, was: ShapeBase) -> Limb:
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
        return self._ends * stout * (1 + BARELY)

    def centres(self) -> Array:
        """Joint centres, shape (n, 3)."""
        return np.array([(j.x, j.y, j.z) for j in self.joints])

    def measures(self) -> dict[str, float]:
        return {
            "length": self._run + self._ends,
            "thickness": max(j.diameter for j in self.joints),
        }

    @cached_property
    def smallest_mm(self) -> float:
        return max(j.diameter for j in self.joints)

    def resized(self, measures: Mapping[str, float]) -> Limb:
        old = self.measures()
        stout = measures.get("thickness", old["thickness"]) / old["thickness"]
        along = (measures.get("length", old["length"]) - self._ends * stout) / self._run
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
