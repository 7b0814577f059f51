"""Shapes with elliptical sections along a straight axis."""

from __future__ import annotations

import itertools
import math
from abc import abstractmethod
from collections.abc import Mapping
from functools import cached_property
from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.shapes.base import (
    BARELY,
    LIMIT_MM,
    Frozen,
    Length,
    ShapeBase,
    Share,
    at_most,
    on_grid,
)
from bambola.core.frozen import frozen

Array = NDArray[np.float64]


@frozen
class Profile:
    """Half width and half depth (mm) at rising heights ``z`` (mm); all arrays of shape (n,)."""

    z: Array
    half_width: Array
    half_depth: Array

    @property
    def volume(self) -> float:
        """Volume in mm³, sections taken as ellipses and interpolated linearly."""
        a, b, dz = self.half_width, self.half_depth, np.diff(self.z)
        mean = (2 * a[1:] * b[1:] + 2 * a[:-1] * b[:-1] + a[1:] * b[:-1] + a[:-1] * b[1:]) / 6
        return float(math.pi * (mean * dz).sum())


class ProfileShape(ShapeBase):
    """A mirror-symmetric shape given by its sections."""

    @abstractmethod
    def profile(self, sections: int) -> Profile:
        """Return its profile, cut into about ``sections`` slices."""


def two_rounds(base: float, tip: float, length: float, sections: int) -> Profile:
    """Return the hull of two spheres on the axis, radii ``base`` and ``tip``, ``length`` over all."""
    gap = length - base - tip
    slope = math.asin(max(-1.0, min(1.0, (base - tip) / gap))) if gap > 0 else 0.0
    low = np.linspace(-math.pi / 2, slope, sections // 2 + 1)
    high = np.linspace(slope, math.pi / 2, sections // 2 + 1)
    z = np.concatenate([base + base * np.sin(low), length - tip + tip * np.sin(high)])
    radius = np.concatenate([base * np.cos(low), tip * np.cos(high)])
    keep = np.concatenate([[True], np.diff(z) > 1e-12 * length])
    return Profile(z[keep], radius[keep], radius[keep])


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
    def sized_like(cls, was: ShapeBase) -> Ball:
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


class Cone(ProfileShape):
    """A cone with rounded ends: the hull of a ball ``base`` and a ball ``tip`` wide, ``length`` long."""

    kind: Literal["cone"] = "cone"
    length: Length
    base: Length
    tip: Length
    measure_names: ClassVar = ("length", "base", "tip")
    axes: ClassVar = ("length", "base", "base")
    start_form: ClassVar = "cone"

    @model_validator(mode="after")
    def _tip_shows(self) -> Cone:
        if self.length <= max(self.base, self.tip) * (1 + 1e-9):
            raise RefusedError(Fact("fault.cone-short"))
        return self

    @classmethod
    def sized_like(cls, was: ShapeBase) -> Cone:
        along, across, _ = was.extents()
        return cls(length=max(along, 1.01 * across), base=across, tip=0.4 * across)

    def least_length(self, measures: Mapping[str, float]) -> float:
        return max(measures["base"], measures["tip"]) * (1 + BARELY)

    @cached_property
    def smallest_mm(self) -> float:
        return max(self.base, self.tip)

    @property
    def thinnest_mm(self) -> float:
        return min(self.base, self.tip)

    def profile(self, sections: int) -> Profile:
        return two_rounds(self.base / 2, self.tip / 2, self.length, sections)


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
    def sized_like(cls, was: ShapeBase) -> Pad:
        along, across, through = was.extents()
        return cls(width=across, depth=through, height=along)

    def profile(self, sections: int) -> Profile:
        rise = np.linspace(0.0, math.pi / 2, sections * 3 // 4 + 1)
        return Profile(
            self.height * np.sin(rise),
            self.width / 2 * np.cos(rise),
            self.depth / 2 * np.cos(rise),
        )


class Sausage(ProfileShape):
    """A capsule: ``length`` over all, round ends of ``diameter``."""

    kind: Literal["sausage"] = "sausage"
    length: Length
    diameter: Length
    measure_names: ClassVar = ("length", "diameter")
    axes: ClassVar = ("length", "diameter", "diameter")
    start_form: ClassVar = "sausage"

    @model_validator(mode="after")
    def _long_enough(self) -> Sausage:
        if self.length < self.diameter * (1 - 1e-9):
            raise RefusedError(Fact("fault.sausage-short"))
        return self

    @classmethod
    def sized_like(cls, was: ShapeBase) -> Sausage:
        along, across, _ = was.extents()
        return cls(length=max(along, across), diameter=across)

    def least_length(self, measures: Mapping[str, float]) -> float:
        return measures["diameter"]

    def profile(self, sections: int) -> Profile:
        return two_rounds(self.diameter / 2, self.diameter / 2, self.length, sections)


EGG_AT = (0.0, 0.1, 0.3, 0.5, 0.7, 0.9, 1.0)
"""Where a new turned form is cut: the outline of an egg, to be pulled into another."""


class Station(Frozen):
    """One cut through a turned form: its place along the axis (0..1), width and depth (mm)."""

    along: Share
    width: Annotated[float, Field(ge=0, le=LIMIT_MM)]
    depth: Annotated[float, Field(ge=0, le=LIMIT_MM)]


class Turned(ProfileShape):
    """A form turned on an axis, such as one built from a width profile of a picture."""

    kind: Literal["turned"] = "turned"
    length: Length
    stations: Annotated[tuple[Station, ...], at_most(200, 2)]
    measure_names: ClassVar = ("length", "width", "depth")
    axes: ClassVar = ("length", "width", "depth")
    start_form: ClassVar = "ball"

    @model_validator(mode="after")
    def _in_order(self) -> Turned:
        along = [st.along for st in self.stations]
        if along[0] != 0 or along[-1] != 1 or any(b <= a for a, b in itertools.pairwise(along)):
            raise RefusedError(Fact("fault.stations"))
        if min(self.measures().values()) <= 0:
            raise RefusedError(Fact("fault.turned-flat"))
        return self

    @classmethod
    def sized_like(cls, was: ShapeBase) -> Turned:
        along, across, through = was.extents()
        round_ = [(t, 2 * (t * (1 - t)) ** 0.5) for t in EGG_AT]
        stations = tuple(
            Station(along=t, width=across * share, depth=through * share) for t, share in round_
        )
        return cls(length=along, stations=stations)

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

    def snapped(self, grid: float) -> Turned:
        stations = tuple(
            st.replaced(width=on_grid(st.width, grid), depth=on_grid(st.depth, grid))
            for st in self.stations
        )
        return self.replaced(length=on_grid(self.length, grid), stations=stations)

    def profile(self, sections: int) -> Profile:
        """Return a monotone cubic through the *squared* widths, so that a width of 0 gives a round end."""
        at = np.array([st.along for st in self.stations])
        t = (1 - np.cos(np.linspace(0.0, math.pi, sections + 1))) / 2
        sides = [
            np.array([getattr(st, side) for st in self.stations]) for side in ("width", "depth")
        ]
        wide, deep = (np.sqrt(np.maximum(0.0, monotone_cubic(at, w**2, t))) / 2 for w in sides)
        return Profile(t * self.length, wide, deep)


def monotone_cubic(x: Array, y: Array, at: Array) -> Array:
    """Return piecewise cubic Hermite values at ``at`` that never overshoot (Fritsch and Carlson 1980).

    Written out because the library that has it takes longer to load than the window may; the
    tests hold it against that library.
    """
    h, slope = np.diff(x), np.diff(y) / np.diff(x)
    d = np.zeros_like(y)
    if len(x) == 2:
        d[:] = slope[0]
    else:
        w1, w2 = 2 * h[1:] + h[:-1], h[1:] + 2 * h[:-1]
        same = slope[1:] * slope[:-1] > 0
        with np.errstate(divide="ignore", invalid="ignore"):
            mean = (w1 + w2) / (w1 / slope[:-1] + w2 / slope[1:])
        d[1:-1] = np.where(same, mean, 0.0)
        d[0] = _end_slope(h[0], h[1], slope[0], slope[1])
        d[-1] = _end_slope(h[-1], h[-2], slope[-1], slope[-2])
    i = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(h) - 1)
    t = (at - x[i]) / h[i]
    return (
        y[i] * (1 + 2 * t) * (1 - t) ** 2
        + h[i] * d[i] * t * (1 - t) ** 2
        + y[i + 1] * t**2 * (3 - 2 * t)
        + h[i] * d[i + 1] * t**2 * (t - 1)
    )


def _end_slope(h0: float, h1: float, m0: float, m1: float) -> float:
    d = ((2 * h0 + h1) * m0 - h0 * m1) / (h0 + h1)
    if d * m0 <= 0:
        return 0.0
    return 3 * m0 if m0 * m1 <= 0 and abs(d) > 3 * abs(m0) else float(d)
