"""Records: what went into a piece and how it came out. The maker's own numbers are learned from them."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field, StringConstraints

from bambola.core.bench.wools import Role
from bambola.core.figure.fields import Day, Firmness, Name, Note, Slug
from bambola.core.figure.shapes import Frozen, Length, StartForm

Size3 = tuple[Length, Length, Length]
"""Along, across and through, mm."""
SWATCH = "Swatch"
"""The part that a calibration is: rolled, measured, felted, measured."""


class Record(Frozen):
    """One piece as it was made. What was not measured is None.

    ``grams_in`` lay on the pan, ``grams_trimmed`` of it did not stay. ``volume_cm3`` is the finished net
    volume, ``area_cm2`` the skin that was covered and ``asked_cover`` (g/cm²) what the plan asked for.
    ``aside`` records are kept but nothing is learned from them.
    """

    n: int = 0
    day: Day
    figure: Name
    part: Name
    wool: Slug
    role: Role = "core"
    firmness: Firmness = "medium"
    form: StartForm | None = None
    grams_in: Annotated[float, Field(gt=0, le=1_000_000)]
    grams_trimmed: Annotated[float, Field(ge=0, le=1_000_000)] | None = None
    loose_mm: Size3 | None = None
    finished_mm: Size3 | None = None
    volume_cm3: Annotated[float, Field(gt=0, le=1e9)] | None = None
    area_cm2: Annotated[float, Field(gt=0, le=1e9)] | None = None
    asked_cover: Annotated[float, Field(gt=0, le=1)] | None = None
    minutes: Annotated[float, Field(gt=0, le=100_000)] | None = None
    needle: Annotated[int, Field(ge=20, le=50)] | None = None
    note: Note = ""
    picture: Annotated[str, StringConstraints(max_length=1000)] | None = None
    aside: bool = False

    @property
    def grams(self) -> float:
        """What stayed in the piece, g."""
        return max(0.0, self.grams_in - (self.grams_trimmed or 0.0))


def volume_of(form: StartForm, size: Size3) -> float:
    """Return the volume (cm³) of a bundle by its three sizes in mm.

    A ball is an ellipsoid, a sausage a cylinder with half balls at its ends (or an ellipsoid, if it is
    as short as it is thick), a cone a third of its cylinder, a sheet a slab.
    """
    along, across, through = size
    slab = along * across * through / 1000.0
    if form == "sheet":
        return slab
    if form == "cone":
        return math.pi / 12 * slab
    if form == "ball" or along <= (thick := math.sqrt(across * through)):
        return math.pi / 6 * slab
    return math.pi / 4 * (slab - thick**3 / 3 / 1000.0)
