"""A form turned on an axis."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.shapes.base import (
    LIMIT_MM,
    Frozen,
    Length,
    ShapeBase,
    Share,
    at_most,
    on_grid,
)
from bambola.core.figure.shapes.profile import Array, Profile, ProfileShape

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
    def like(cls, was: ShapeBase) -> Turned:
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
