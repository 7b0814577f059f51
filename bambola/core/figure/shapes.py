"""The shapes a felted part can have, as plain frozen values.

Every shape stands on its own base: the origin is where it is seated on its parent and the local z
axis runs along it. Local x is width, local y is depth with the front at negative y. Measures are
named; :meth:`Shape.resized` gives the same shape with other measures. Lengths are millimetres.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal, Self

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

LIMIT_MM = 1_000_000.0
"""No length in a document is longer than this (1,000 m): anything above is a slip of the pen."""

LEAST_MM = 0.001
"""Nor shorter than a thousandth of a millimetre: no hair is as thin."""

Length = Annotated[float, Field(ge=LEAST_MM, le=LIMIT_MM, allow_inf_nan=False)]
Coordinate = Annotated[float, Field(ge=-LIMIT_MM, le=LIMIT_MM, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Point3 = tuple[Coordinate, Coordinate, Coordinate]


def few(most: int, least: int = 0) -> Any:
    """How many items a list may hold. The first bad item ends the check: a file of a million of them must
    not cost a million sentences."""
    return Field(min_length=least or None, max_length=most, fail_fast=True)


def _run(places: Sequence[Point3]) -> float:
    """Length of the way through ``places``, mm."""
    return sum(math.dist(a, b) for a, b in itertools.pairwise(places))


class Frozen(BaseModel):
    """A value of the figure: immutable, hashable, refusing fields it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def replaced(self, **changes: Any) -> Self:
        """A copy with ``changes`` (not validated again) and nothing remembered from the original."""
        # As model_copy does it, without the generality that a frame of pulling cannot afford.
        fields = dict(self.__dict__)
        if len(fields) > len(type(self).model_fields):
            fields = {name: fields[name] for name in type(self).model_fields}
        fields.update(changes)
        copy = type(self).__new__(type(self))
        object.__setattr__(copy, "__dict__", fields)
        object.__setattr__(
            copy, "__pydantic_fields_set__", self.__pydantic_fields_set__ | changes.keys()
        )
        object.__setattr__(copy, "__pydantic_extra__", None)
        object.__setattr__(copy, "__pydantic_private__", None)
        return copy


class ShapeBase(Frozen):
    """What all shapes share: named measures and the way back from measures to a shape."""

    measure_names: ClassVar[tuple[str, ...]]
    flat: ClassVar[bool] = False

    def measures(self) -> dict[str, float]:
        """Each named measure in mm."""
        return {name: float(getattr(self, name)) for name in self.measure_names}

    def least_length(self, measures: Mapping[str, float]) -> float:
        """The least length (mm) such a shape may have with its other ``measures``; nought if any will do."""
        return 0.0

    def resized(self, measures: Mapping[str, float]) -> Shape:
        """This shape with ``measures`` (mm) in place of its own."""
        return self.replaced(**measures)  # type: ignore[return-value]

    def scaled(self, s: float) -> Shape:
        """This shape with every length multiplied by ``s``."""
        return self.resized({name: mm * s for name, mm in self.measures().items()})

    @cached_property
    def smallest_mm(self) -> float:
        """The smallest direction where the part is fullest: decides how it can be made (mm)."""
        return min(self.measures().values())

    @property
    def thinnest_mm(self) -> float:
        """The thinnest place along the part, which decides whether a wire hides in it (mm)."""
        return self.smallest_mm


class Ball(ShapeBase):
    """A ball or egg. ``taper`` > 0 makes the upper half slimmer; 0 is an ellipsoid."""

    kind: Literal["ball"] = "ball"
    width: Length
    depth: Length
    height: Length
    taper: Annotated[float, Field(ge=-0.6, le=0.6)] = 0.0
    measure_names: ClassVar = ("width", "depth", "height")


class Sausage(ShapeBase):
    """A capsule: ``length`` over all, round ends of ``diameter``."""

    kind: Literal["sausage"] = "sausage"
    length: Length
    diameter: Length
    measure_names: ClassVar = ("length", "diameter")

    @model_validator(mode="after")
    def _long_enough(self) -> Sausage:
        if self.length < self.diameter * (1 - 1e-9):
            raise ValueError("a sausage must be at least as long as it is thick")
        return self

    def least_length(self, measures: Mapping[str, float]) -> float:
        return measures["diameter"]


class Cone(ShapeBase):
    """A cone with rounded ends: the hull of a ball ``base`` and a ball ``tip`` wide, ``length`` long."""

    kind: Literal["cone"] = "cone"
    length: Length
    base: Length
    tip: Length
    measure_names: ClassVar = ("length", "base", "tip")

    @model_validator(mode="after")
    def _tip_shows(self) -> Cone:
        if self.length <= max(self.base, self.tip) * (1 + 1e-9):
            raise ValueError("a cone must be longer than its thicker end is wide")
        return self

    def least_length(self, measures: Mapping[str, float]) -> float:
        return max(measures["base"], measures["tip"]) * (1 + _BARELY)

    @cached_property
    def smallest_mm(self) -> float:
        return max(self.base, self.tip)

    @property
    def thinnest_mm(self) -> float:
        return min(self.base, self.tip)


_BARELY = 1e-3
"""How much longer a shape must be than its round ends alone."""


class Joint(Frozen):
    """A round of a limb: where its centre lies (mm, local) and how thick the limb is there."""

    x: Coordinate
    y: Coordinate
    z: Coordinate
    diameter: Length


class Limb(ShapeBase):
    """A tapered chain of rounds along bones: arms, legs, necks.

    ``length`` is over all, round ends and the run through the joint centres; ``thickness`` the stoutest
    diameter.
    """

    kind: Literal["limb"] = "limb"
    joints: Annotated[tuple[Joint, ...], few(40, 2)]
    measure_names: ClassVar = ("length", "thickness")

    @model_validator(mode="after")
    def _has_length(self) -> Limb:
        if self._run <= 0:
            raise ValueError("a limb needs joints at different places")
        return self

    @property
    def _run(self) -> float:
        return _run([(j.x, j.y, j.z) for j in self.joints])

    @property
    def _ends(self) -> float:
        return (self.joints[0].diameter + self.joints[-1].diameter) / 2

    def least_length(self, measures: Mapping[str, float]) -> float:
        stout = measures["thickness"] / max(j.diameter for j in self.joints)
        return self._ends * stout * (1 + _BARELY)

    def centres(self) -> np.ndarray:
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

    @property
    def thinnest_mm(self) -> float:
        return min(j.diameter for j in self.joints)


class Pad(ShapeBase):
    """A flattened dome: half an ellipsoid lying on its flat side."""

    kind: Literal["pad"] = "pad"
    width: Length
    depth: Length
    height: Length
    measure_names: ClassVar = ("width", "depth", "height")


class Leaf(ShapeBase):
    """A flat part cut to an outline: ears, fins, collars.

    ``outline`` is a closed run of points, x from -0.5 to 0.5 of the width and z from 0 (base) to 1
    (tip) of the length, smoothed on the way. ``curl`` bends the sheet round its length, in degrees
    of arc over the whole width, hollow side to the front.
    """

    kind: Literal["leaf"] = "leaf"
    length: Length
    width: Length
    thickness: Length
    outline: Annotated[tuple[tuple[float, float], ...], few(200, 4)] = (
        (-0.28, 0.0), (0.28, 0.0), (0.46, 0.3), (0.5, 0.55), (0.36, 0.85),
        (0.0, 1.0), (-0.36, 0.85), (-0.5, 0.55), (-0.46, 0.3),
    )  # fmt: skip
    curl: Annotated[float, Field(ge=-300, le=300)] = 0.0
    measure_names: ClassVar = ("length", "width", "thickness")
    flat: ClassVar[bool] = True

    @model_validator(mode="after")
    def _inside_its_box(self) -> Leaf:
        if any(abs(x) > 0.5 or not 0 <= z <= 1 for x, z in self.outline):
            raise ValueError("outline points must lie within -0.5..0.5 across and 0..1 along")
        return self


class Rope(ShapeBase):
    """A round section along a smooth curve: tails, brims, rolled collars.

    ``thickness`` is the diameter at the base and ``tip`` the share of it left at the far end. ``length`` is
    over all: the run through its points and its round ends, or once round a closed one.
    """

    kind: Literal["rope"] = "rope"
    points: Annotated[tuple[Point3, ...], few(100, 2)]
    thickness: Length
    tip: Annotated[float, Field(gt=0, le=1)] = 1.0
    closed: bool = False
    measure_names: ClassVar = ("length", "thickness")

    @model_validator(mode="after")
    def _has_length(self) -> Rope:
        if self._run <= 0:
            raise ValueError("a rope needs points at different places")
        if self.closed and len(self.points) < 3:
            raise ValueError("a closed rope needs at least three points")
        return self

    @property
    def _run(self) -> float:
        return _run((*self.points, self.points[0]) if self.closed else self.points)

    def _ends(self, thickness: float) -> float:
        return 0.0 if self.closed else thickness * (1 + self.tip) / 2

    def least_length(self, measures: Mapping[str, float]) -> float:
        return self._ends(measures["thickness"]) * (1 + _BARELY)

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

    @cached_property
    def smallest_mm(self) -> float:
        return self.thickness

    @property
    def thinnest_mm(self) -> float:
        return self.thickness * self.tip


class Station(Frozen):
    """One cut through a turned form: its place along the axis (0..1), width and depth (mm)."""

    along: Share
    width: Annotated[float, Field(ge=0, le=LIMIT_MM)]
    depth: Annotated[float, Field(ge=0, le=LIMIT_MM)]


class Turned(ShapeBase):
    """A form turned on an axis: what a width profile read off a picture becomes."""

    kind: Literal["turned"] = "turned"
    length: Length
    stations: Annotated[tuple[Station, ...], few(200, 2)]
    measure_names: ClassVar = ("length", "width", "depth")

    @model_validator(mode="after")
    def _in_order(self) -> Turned:
        along = [st.along for st in self.stations]
        if along[0] != 0 or along[-1] != 1 or any(b <= a for a, b in itertools.pairwise(along)):
            raise ValueError("stations must run from along 0 to along 1, each beyond the last")
        if min(self.measures().values()) <= 0:
            raise ValueError("a turned form needs some width and depth")
        return self

    def measures(self) -> dict[str, float]:
        return {
            "length": self.length,
            "width": max(st.width for st in self.stations),
            "depth": max(st.depth for st in self.stations),
        }

    def resized(self, measures: Mapping[str, float]) -> Turned:
        old = self.measures()
        wide = measures.get("width", old["width"]) / old["width"]
        deep = measures.get("depth", old["depth"]) / old["depth"]
        return self.replaced(
            length=measures.get("length", self.length),
            stations=tuple(
                Station.model_construct(
                    along=st.along, width=st.width * wide, depth=st.depth * deep
                )
                for st in self.stations
            ),
        )


Shape = Annotated[
    Ball | Sausage | Cone | Limb | Pad | Leaf | Rope | Turned, Field(discriminator="kind")
]
