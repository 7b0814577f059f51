"""A cone."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import ClassVar, Literal

from pydantic import model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.shapes.base import BARELY, Length, ShapeBase
from bambola.core.figure.shapes.profile import Profile, ProfileShape, two_rounds


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
    def like(cls, was: ShapeBase) -> Cone:
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
