"""The bench: what the maker has and knows. The defaults are CRAFT's starting values."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, model_validator

from bambola.core.figure.model import (
    MOST_STRANDS,
    Colour,
    Figure,
    Firmness,
    Metal,
    Name,
    Part,
    Slug,
)
from bambola.core.figure.shapes import Frozen, Length

KERATIN = 1.31
"""Density of wool fibre itself, g/cm³: the ceiling."""
Density = Annotated[float, Field(gt=0, lt=KERATIN)]
"""g/cm³."""

PACKED_DENSITY: dict[Firmness, float] = {"soft": 0.07, "medium": 0.11, "firm": 0.15, "hard": 0.20}
"""g/cm³ of felted wool at each firmness."""

START_DENSITY = 0.035
"""g/cm³ of a hand-rolled bundle before felting."""

COVER = {"like": 0.012, "over": 0.016, "contrast": 0.024}
"""g/cm² of coat: like over like; colour over white; pale over dark or a strong contrast."""

FUR_COVER = {"locks": 0.15, "fleece": 0.10, "pile": 0.06}
"""g of fur per cm² of covered skin: curly locks, straight fleece, trimmed pile."""

LOSS = {"core": 0.04, "coat": 0.08, "inset": 0.08, "seam": 0.08, "fur": 0.15}
"""Share of the wool taken that is pulled off, trimmed or left in the pad (insets, seams as coat)."""


class Wool(Frozen):
    """A wool on the shelf. ``densities`` are the maker's own, where they have been measured."""

    id: Slug
    name: Name
    form: Literal["batt", "top", "core", "locks", "blend"] = "batt"
    colour: Colour
    densities: dict[Firmness, Density] = {}
    start_density: Density = START_DENSITY
    calibrated: bool = False
    pack_g: Annotated[float, Field(gt=0, le=100_000)] = 25.0

    def density(self, firmness: Firmness) -> float:
        """Packed density at ``firmness``, g/cm³."""
        return self.densities.get(firmness, PACKED_DENSITY[firmness])


class WireStock(Frozen):
    """Wire on the shelf: ``count`` pieces, each ``length`` mm long.

    A coil is cut from until it is used up, stems come in one length, an offcut is what an earlier
    cut left. A chenille stem has ``cores`` wires twisted into it and grips the wool by itself.
    """

    id: Slug
    name: Name
    metal: Metal
    diameter: Annotated[float, Field(gt=0, le=20)]
    form: Literal["coil", "stem", "offcut"] = "coil"
    cores: Annotated[int, Field(ge=1, le=MOST_STRANDS)] = 1
    length: Length
    count: Annotated[int, Field(ge=0, le=10_000)] = 1


class Pace(Frozen):
    """How fast the maker works: starting values, to be replaced by logged hours.

    A part takes ``setup`` minutes and ``per_gram`` minutes per gram to the power 0.8, times the
    factor of its firmness.
    """

    setup: Annotated[float, Field(ge=0, le=600)] = 3.0
    per_gram: Annotated[float, Field(gt=0, le=600)] = 6.0
    firmness: dict[Firmness, Annotated[float, Field(gt=0, le=20)]] = {
        "soft": 0.7, "medium": 1.0, "firm": 1.4, "hard": 2.0,
    }  # fmt: skip

    def core_minutes(self, grams: float, rounds: int, firmness: Firmness) -> float:
        """Minutes for a core of so many grams, built in rounds."""
        each = max(0.0, grams) / rounds
        return float(rounds * (self.setup + self.per_gram * each**0.8 * self.firmness[firmness]))


class Bench(Frozen):
    """Everything the maker has. The shipped default makes every command work without a store.

    ``scale_g`` is the step of the maker's scale: 1 g, 0.1 g or 0.01 g.
    """

    wools: tuple[Wool, ...]
    eye_sizes: tuple[float, ...] = (2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16, 18)
    wire_sizes: tuple[float, ...] = (0.4, 0.5, 0.6, 0.8, 1.0, 1.2, 1.5, 2.0, 2.5, 3.0)
    wire_stock: tuple[WireStock, ...] = ()
    scale_g: Annotated[float, Field(gt=0, le=100)] = 0.1
    beginner: bool = False
    pace: Pace = Pace()

    @model_validator(mode="after")
    def _sizes_in_order(self) -> Bench:
        for field in ("eye_sizes", "wire_sizes"):
            sizes = getattr(self, field)
            if not sizes or list(sizes) != sorted(sizes) or sizes[0] <= 0:
                raise ValueError(f"{field}: sizes must be above zero and rise")
        return self

    @model_validator(mode="after")
    def _stock_named_once(self) -> Bench:
        ids = [stock.id for stock in self.wire_stock]
        twice = next((name for name in ids if ids.count(name) > 1), None)
        if twice:
            raise ValueError(
                f"wire_stock: the id “{twice}” is used twice; every id must be its own"
            )
        return self

    @cached_property
    def chenille(self) -> WireStock | None:
        """The chenille stems on the shelf, if there are any."""
        return next((s for s in self.wire_stock if s.cores > 1 and s.form == "stem"), None)

    @cached_property
    def wool_by_id(self) -> dict[str, Wool]:
        """The wools by id."""
        return {wool.id: wool for wool in self.wools}

    def packed_density(self, figure: Figure, part: Part) -> float:
        """Packed density (g/cm³) of a part's core: its wool at its firmness, as this figure packs it."""
        return min(KERATIN, self.wool_by_id[part.core].density(part.firmness) * figure.packing)

    @property
    def apart_mm(self) -> float:
        """The smallest direction a part made apart needs (mm): 8, or 10 for a beginner."""
        return 10.0 if self.beginner else 8.0
