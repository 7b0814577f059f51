"""A sausage."""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar, Literal

from pydantic import model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.shapes.base import Length, ShapeBase
from bambola.core.figure.shapes.profile import Profile, ProfileShape, two_rounds


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
    def like(cls, was: ShapeBase) -> Sausage:
        along, across, _ = was.extents()
        return cls(length=max(along, across), diameter=across)

    def least_length(self, measures: Mapping[str, float]) -> float:
        return measures["diameter"]

    def profile(self, sections: int) -> Profile:
        return two_rounds(self.diameter / 2, self.diameter / 2, self.length, sections)
