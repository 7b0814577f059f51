"""Wools: their learned properties, and their stock on the shelf. Starting values are the craft's."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, StringConstraints, model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.fields import Colour, Day, Firmness, Name, Note, Slug
from bambola.core.figure.shapes import Frozen, Length, StartForm, at_most

KERATIN = 1.31
"""Density of wool fibre itself, g/cm³: the ceiling. See craft.md, 1."""
Density = Annotated[float, Field(gt=0, lt=KERATIN)]
"""g/cm³."""

PACKED_DENSITY: dict[Firmness, float] = {"soft": 0.07, "medium": 0.11, "firm": 0.15, "hard": 0.20}
"""g/cm³ of felted wool at each firmness. See craft.md, 1."""

HIDE_MM = 2.5
"""Wool needed on each side of wire, or of another hard thing, so that it is neither seen nor felt.
See craft.md, 1."""
START_DENSITY = 0.035
"""g/cm³ of a hand-rolled bundle before felting. See craft.md, 1."""

COVER = {"like": 0.012, "over": 0.016, "contrast": 0.024}
"""g/cm² of coat: like over like; colour over white; pale over dark or a strong contrast.
See craft.md, 1."""

FUR_COVER = {"locks": 0.15, "fleece": 0.10, "pile": 0.06}
"""g of fur per cm² of covered skin: curly locks, straight fleece, trimmed pile. See craft.md, 1."""

Role = Literal["core", "coat", "inset", "seam", "fur", "fringe"]

LOSS: dict[Role, float] = {
    "core": 0.04, "coat": 0.08, "inset": 0.08, "seam": 0.08, "fur": 0.15, "fringe": 0.04,
}  # fmt: skip
"""Share of the wool taken that is pulled off, trimmed or left in the pad (insets, seams as coat, a loose end
as the core it is of).
See craft.md, 1."""

SPREAD = 0.20
SPREAD_CALIBRATED = 0.07
"""One standard deviation, in log, of a weight before and after the maker's own calibration.
See craft.md, 1."""

SHRINK_ALONG: dict[StartForm, float] = {"ball": 1 / 3, "sausage": 0.22, "cone": 0.28, "sheet": 0.20}
"""Share of the shrinkage (in log) taken along a start form. Across and through share the rest; a sheet
shrinks across as it does along. See craft.md, 1."""

ShortText = Annotated[str, StringConstraints(max_length=80)]
Spread = Annotated[float, Field(gt=0, le=2)]
"""A standard deviation in log."""


class ShelfItem(Frozen):
    """Something on the shelf: its ``price``, and the ``shop`` and ``lot`` it came from, to buy the same
    again."""

    price: Annotated[float, Field(ge=0, le=1_000_000)] | None = None
    shop: ShortText = ""
    lot: ShortText = ""


class Ingredient(Frozen):
    """One wool of a blend and its parts by weight."""

    wool: Slug
    share: Annotated[float, Field(gt=0, le=1000)]


class Wool(ShelfItem):
    """A wool: its form and colour, what the maker has measured of it, and what lies on the shelf.

    ``densities`` (g/cm³) and ``spreads`` (of a weight, in log) are by firmness; ``along`` is how it
    shrinks, by start form; ``cover`` how many times the asked cover the maker lays; ``loss`` the share
    lost, by role. ``known_from`` counts the records behind each of these: ``density:medium``,
    ``along:sausage``, ``cover``, ``loss:core``. ``metre_g`` is what a metre of a
    top weighs (None: not weighed yet); ``grams`` is what is left (None: not counted), ``price`` that of
    one pack. ``recipe`` is what a blend is mixed of; ``scraps`` are leftovers of mixed colours,
    and what does not ``felts`` is of no use in a core.
    """

    id: Slug
    name: Name
    form: Literal["batt", "top", "core", "locks", "blend"] = "batt"
    colour: Colour
    densities: dict[Firmness, Density] = {}
    spreads: dict[Firmness, Spread] = {}
    start_density: Density = START_DENSITY
    along: dict[StartForm, Annotated[float, Field(gt=0, lt=0.5)]] = {}
    cover: Annotated[float, Field(gt=0.1, lt=10)] = 1.0
    cover_spread: Spread | None = None
    loss: dict[Role, Annotated[float, Field(ge=0, lt=0.9)]] = {}
    known_from: dict[str, Annotated[int, Field(ge=0)]] = {}
    calibrated: bool = False
    pack_g: Annotated[float, Field(gt=0, le=100_000)] = 25.0
    metre_g: Annotated[float, Field(gt=0, le=10_000)] | None = None
    grams: Annotated[float, Field(ge=0, le=1_000_000)] | None = None
    recipe: Annotated[tuple[Ingredient, ...], at_most(20)] = ()
    scraps: bool = False
    felts: bool = True

    @model_validator(mode="after")
    def _mixed_once(self) -> Wool:
        names = [part.wool for part in self.recipe]
        if len(set(names)) < len(names):
            raise RefusedError(Fact("fault.blend-twice"))
        return self

    def density(self, firmness: Firmness) -> float:
        """Return the packed density at ``firmness``, g/cm³."""
        return self.densities.get(firmness, PACKED_DENSITY[firmness])

    def spread(self, role: Role, firmness: Firmness) -> float:
        """Return the uncertainty of a weight: one standard deviation in log. Wool laid by cover is as certain
        as the maker's cover, a core as its density."""
        known = self.spreads.get(firmness) if role == "core" else self.cover_spread
        return known or (SPREAD_CALIBRATED if self.calibrated else SPREAD)

    def lost_share(self, role: Role) -> float:
        """Return the share of the taken wool that does not stay in the figure."""
        return self.loss.get(role, LOSS[role])

    def shrink_weights(self, form: StartForm) -> tuple[float, float, float]:
        """Return shares of the shrinkage along, across and through; they sum to 1."""
        along = self.along.get(form, SHRINK_ALONG[form])
        if form == "sheet":
            return along, along, 1 - 2 * along
        return along, (1 - along) / 2, (1 - along) / 2

    def pieces(self, role: Role, firmness: Firmness) -> int:
        """Return the number of records behind the weight of such a portion."""
        return self.known_from.get(f"density:{firmness}" if role == "core" else "cover", 0)


Size3 = tuple[Length, Length, Length]
"""Along, across and through, mm."""
SWATCH = "Swatch"
"""The part that a calibration is: rolled, measured, felted, measured."""


class Record(Frozen):
    """One piece as it was made. What was not measured is None.

    ``grams_in`` lay on the pan, ``grams_trimmed`` of it did not stay. ``volume_cm3`` is the finished net
    volume, ``area_cm2`` the skin that was covered and ``asked_cover`` (g/cm²) what the plan asked for.
    ``aside`` records are kept but nothing is learned from them. One that was made for a figure names its
    ``making``, and teaches when that one does.
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
    making: Annotated[str, StringConstraints(max_length=200)] = ""
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
