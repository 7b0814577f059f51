"""The base of all shapes: a frozen value with named measures. Lengths are millimetres."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping
from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import BaseModel, ConfigDict, Field

LIMIT_MM = 1_000_000.0
"""No length in a document is longer than this (1,000 m): anything above is a slip of the pen."""

LEAST_MM = 0.001
"""Nor shorter than a thousandth of a millimetre: no hair is as thin."""

BARELY = 1e-3
"""How much longer a shape must be than its round ends alone."""

Length = Annotated[float, Field(ge=LEAST_MM, le=LIMIT_MM, allow_inf_nan=False)]
Coordinate = Annotated[float, Field(ge=-LIMIT_MM, le=LIMIT_MM, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Point3 = tuple[Coordinate, Coordinate, Coordinate]

StartForm = Literal["ball", "sausage", "cone", "sheet"]
"""What wool is rolled or laid into before felting."""


def at_most(most: int, least: int = 0) -> Any:
    """Return a limit for the length of a list. The first bad item ends the check, so that a million bad items
    do not yield a million messages."""
    return Field(min_length=least or None, max_length=most, fail_fast=True)


class Frozen(BaseModel):
    """A value of the figure: immutable, hashable, refusing fields it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def replaced(self, **changes: Any) -> Self:
        """Return a copy with ``changes`` (not validated again) and nothing remembered from the original."""
        # As model_copy does it, without the generality that a frame of pulling cannot afford.
        fields, own = dict(self.__dict__), type(self).__pydantic_fields__
        if len(fields) > len(own):
            fields = {name: fields[name] for name in own}
        fields.update(changes)
        copy = type(self).__new__(type(self))
        object.__setattr__(copy, "__dict__", fields)
        object.__setattr__(
            copy, "__pydantic_fields_set__", self.__pydantic_fields_set__ | changes.keys()
        )
        object.__setattr__(copy, "__pydantic_extra__", None)
        object.__setattr__(copy, "__pydantic_private__", self.__pydantic_private__)
        return copy


class ShapeBase(Frozen):
    """The base of all shapes: named measures, and the way back from measures to a shape.

    A kind answers here what the rest of the core asks of it; its family (:mod:`.profile`, :mod:`.chain`, or
    the sheet :class:`.leaf.Leaf`) says how it lies in space.
    """

    measure_names: ClassVar[tuple[str, ...]]
    axes: ClassVar[tuple[str, str, str]]
    """The measures along, across and through the wool it is started from."""
    start_form: ClassVar[StartForm]
    flat: ClassVar[bool] = False
    straight: ClassVar[bool] = True
    """Whether its length is the way from its base to its tip."""
    fullest_at: ClassVar[float] = 0.5
    """Where along its axis (0..1) its width is measured."""

    def measures(self) -> dict[str, float]:
        """Return each named measure in mm."""
        return {name: float(getattr(self, name)) for name in self.measure_names}

    def extents(self) -> tuple[float, float, float]:
        """Return the finished size along, across and through (mm), as its start form counts them."""
        m = self.measures()
        along, across, through = self.axes
        return m[along], m[across], m[through]

    @classmethod
    @abstractmethod
    def sized_like(cls, was: ShapeBase) -> Self:
        """Return this kind of shape with the length, width and depth of ``was``."""

    def places(self, run: float) -> tuple[Point3, ...]:
        """Return the places its axis goes through; where it is straight, ``run`` mm from first to last."""
        return ((0.0, 0.0, 0.0), (0.0, 0.0, run / 2), (0.0, 0.0, run))

    def least_length(self, measures: Mapping[str, float]) -> float:
        """Return the least length (mm) the shape may have with its other ``measures``; 0 if any is
        allowed."""
        return 0.0

    def resized(self, measures: Mapping[str, float]) -> Self:
        """Return this shape with ``measures`` (mm) replacing its own."""
        return self.replaced(**measures)

    def scaled(self, s: float) -> Self:
        """Return this shape with every length multiplied by ``s``."""
        return self.resized({name: mm * s for name, mm in self.measures().items()})

    def snapped(self, grid: float) -> Self:
        """Return this shape with every length on a grid (mm), so that values differing by rounding become
        equal."""
        return self.replaced(**{name: on_grid(mm, grid) for name, mm in self.measures().items()})

    @cached_property
    def smallest_mm(self) -> float:
        """The smallest extent at the fullest place (mm), which decides how the part can be made."""
        return min(self.measures().values())

    @property
    def thinnest_mm(self) -> float:
        """The thinnest place along the part, which decides whether a wire hides in it (mm)."""
        return self.smallest_mm


def on_grid(value: float, grid: float) -> float:
    """Return the point of a grid nearest to ``value``."""
    return round(value / grid) * grid
