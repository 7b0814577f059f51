"""The bench: what the maker has and knows. The defaults are the craft's starting values."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from functools import cached_property
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints, ValidationError, model_validator

from bambola.core.bench.materials import COMMON, CURE_MIN, Glue, Material
from bambola.core.bench.money import Money, exact_decimal
from bambola.core.bench.wools import KERATIN, ShelfItem, Wool
from bambola.core.facts import Fact, RefusedError, fact
from bambola.core.figure.document import describe_fault, fault_in, read_json
from bambola.core.figure.fields import Firmness, Metal, Name, Slug
from bambola.core.figure.model import MOST_STRANDS, Part
from bambola.core.figure.shapes import Frozen, Length, at_most
from bambola.core.figure.whole import Figure
from bambola.core.quantities import Units, show_money


class WireStock(ShelfItem):
    """Wire on the shelf: ``count`` pieces, each ``length`` mm long.

    A coil is cut from until it is used up, stems come in one length, an offcut is what an earlier
    cut left. Of coils that were cut from there are ``left`` mm all together (None: they are whole). A
    chenille stem has ``cores`` wires twisted into it and grips the wool by itself. ``price`` is that of one
    piece.
    """

    id: Slug
    name: Name
    metal: Metal
    diameter: Annotated[float, Field(gt=0, le=20)]
    form: Literal["coil", "stem", "offcut"] = "coil"
    cores: Annotated[int, Field(ge=1, le=MOST_STRANDS)] = 1
    length: Length
    count: Annotated[int, Field(ge=0, le=10_000)] = 1
    left: Annotated[float, Field(ge=0, le=1e9)] | None = None

    @property
    def metres_mm(self) -> float:
        """The total length of all pieces, mm."""
        return self.length * self.count if self.left is None else self.left


class Pace(Frozen):
    """How fast the maker works: starting values, to be replaced by logged hours.

    A part takes ``setup`` minutes and ``per_gram`` minutes per gram to the power 0.8, times the
    factor of its firmness; a join of 10 cm round ``join`` minutes besides its wool, of which a quarter is
    setting up and the rest goes with its length; each of cutting and bending a wire ``wire`` minutes.
    Smoothing takes ``smooth`` minutes per cm² of skin, but no more than a tenth of all the rest. Judged by us
    so that a small soft ball takes 5 minutes, one of 3.5 g to medium half an hour, a simple wired animal
    80 to 100 mm high an hour to an hour and a half, a sheep of 82 mm with its fleece an hour and a quarter,
    and one of 130 mm, coated on its wire, five, all within a quarter. See craft.md, 5.
    """

    setup: Annotated[float, Field(ge=0, le=600)] = 1.5
    per_gram: Annotated[float, Field(gt=0, le=600)] = 8.0
    join: Annotated[float, Field(ge=0, le=600)] = 5.0
    wire: Annotated[float, Field(ge=0, le=600)] = 2.0
    smooth: Annotated[float, Field(ge=0, le=600)] = 0.15
    firmness: dict[Firmness, Annotated[float, Field(gt=0, le=20)]] = {
        "soft": 0.7,
        "medium": 1.0,
        "firm": 1.4,
        "hard": 2.0,
    }
    sorts: Annotated[
        dict[str, Annotated[float, Field(gt=0, le=100)]],
        Field(description="how many times as long each sort of work takes, where that is learned"),
    ] = {}

    def of_sort(self, sort: str) -> float:
        """Return the factor for a sort of work: by its firmness and size, such as ``core:firm:large``, if
        known, else for the whole sort."""
        known = self.sorts.get(sort)
        return self.sorts.get(sort.partition(":")[0], 1.0) if known is None else known

    def times(self, slower: float) -> Pace:
        """Return the pace of a maker who takes ``slower`` times as long for everything."""
        names = ("setup", "per_gram", "join", "wire", "smooth")
        return self.replaced(**{name: getattr(self, name) * slower for name in names})

    def core_minutes(self, grams: float, rounds: int, firmness: Firmness) -> float:
        """Return minutes for a core of so many grams, built in rounds."""
        each = max(0.0, grams) / rounds
        felting: float = self.per_gram * each**0.8 * self.firmness[firmness]
        return rounds * (self.setup + felting)


def nearest_needle(gauge: int, owned: tuple[int, ...]) -> int:
    """Return the gauge in ``owned`` nearest to ``gauge``; of two equally near the finer, which marks less."""
    return min(owned, key=lambda own: (abs(own - gauge), -own))


class Weights(Frozen):
    """What the maker minds in an order, against one another: a change of needle, a change of colour on
    the pad, dark before light, leaving a piece of work for another, and each wait for glue."""

    needle: Annotated[float, Field(ge=0, le=100)] = 2.0
    colour: Annotated[float, Field(ge=0, le=100)] = 2.0
    dark_to_light: Annotated[float, Field(ge=0, le=100)] = 1.0
    leaving: Annotated[float, Field(ge=0, le=100)] = 3.0
    glue: Annotated[float, Field(ge=0, le=100)] = 2.0

    def for_batch(self, figures: int) -> Weights:
        """Return the weights for several figures at once, where dark hairs on the pad would get into the pale
        wool of all."""
        return self.replaced(dark_to_light=self.dark_to_light * figures) if figures > 1 else self


class FreeTime(Frozen):
    """A regular free time: a weekday (0 Monday), a time of day, and minutes."""

    weekday: Annotated[int, Field(ge=0, le=6)]
    start: Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]
    minutes: Annotated[int, Field(ge=10, le=960)]


class Counted(ShelfItem):
    """Eyes of one size (mm), or needles of one gauge: their number (None: not counted) and the ``price`` of
    one."""

    size: Annotated[float, Field(gt=0, le=100)]
    count: Annotated[int, Field(ge=0, le=100_000)] | None = None

    @property
    def is_kept(self) -> bool:
        """Whether anything is recorded."""
        known = self.count is not None or self.price is not None
        return known or bool(self.shop or self.lot)


class GlueBottle(ShelfItem):
    """A glue: a bottle ``holds`` so many g, there are ``left`` g of it (None: not weighed); the ``price`` is
    that of a full bottle."""

    glue: Glue
    holds: Annotated[float, Field(gt=0, le=100_000)] = 20.0
    left: Annotated[float, Field(ge=0, le=100_000)] | None = None


class Niche(Frozen):
    """Where a finished figure is to stand or to be sent in: so high (mm), and so wide and deep where it is
    closed there, as a box or a dome is."""

    name: Name
    height: Length
    width: Length | None = None
    depth: Length | None = None

    @property
    def sides(self) -> dict[str, float]:
        """The room there (mm), by the figure's extents."""
        sides = {"high": self.height, "wide": self.width, "deep": self.depth}
        return {name: room for name, room in sides.items() if room is not None}


class AsBegun(Frozen):
    """A part of the figure in hand that was begun, and the wools it was told with then."""

    part: Slug
    wools: tuple[Wool, ...]


class Bench(Frozen):
    """Everything the maker has. The shipped default makes every command work without a store.

    ``scale_g`` is the step of the maker's scale: 1 g, 0.1 g or 0.01 g. ``currency`` is what prices are in.
    ``needles`` are the gauges that are owned, and ``holder`` how many the largest holder takes at once, 1
    where there is none; ``needle_box`` counts those that lie ready. ``glue`` is what eyes and pegs are set
    with, of which there are ``bottles``; ``eyes`` are those there are, and ``materials`` all that is not
    wool. ``niches`` are the places that figures are made for. ``money`` is how a price is reckoned.
    ``as_begun`` are parts in the making whose amounts stay what they were told.
    """

    wools: tuple[Wool, ...]
    materials: Annotated[tuple[Material, ...], at_most(200)] = COMMON
    eye_sizes: tuple[float, ...] = (2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16, 18)
    eyes: Annotated[tuple[Counted, ...], at_most(100)] = ()
    needle_box: Annotated[tuple[Counted, ...], at_most(100)] = ()
    bottles: Annotated[tuple[GlueBottle, ...], at_most(20)] = ()
    wire_sizes: tuple[float, ...] = (0.4, 0.5, 0.6, 0.8, 1.0, 1.2, 1.5, 2.0, 2.5, 3.0)
    wire_stock: tuple[WireStock, ...] = ()
    scale_g: Annotated[float, Field(gt=0, le=100)] = 0.1
    needles: Annotated[tuple[Annotated[int, Field(ge=20, le=50)], ...], at_most(20, 1)] = (
        36,
        38,
        40,
    )
    holder: Annotated[int, Field(ge=1, le=20)] = 6
    glue: Glue = "white"
    beginner: bool = False
    pace: Pace = Pace()
    weights: Weights = Weights()
    free: Annotated[tuple[FreeTime, ...], at_most(60)] = (
        FreeTime(weekday=1, start="19:30", minutes=90),
        FreeTime(weekday=3, start="19:30", minutes=90),
        FreeTime(weekday=5, start="14:00", minutes=150),
    )
    niches: Annotated[tuple[Niche, ...], at_most(20)] = ()
    currency: Annotated[str, StringConstraints(max_length=4)] = "€"
    money: Money = Money()
    as_begun: Annotated[tuple[AsBegun, ...], at_most(500)] = ()

    @model_validator(mode="after")
    def _sizes_in_order(self) -> Bench:
        for field in ("eye_sizes", "wire_sizes"):
            sizes = getattr(self, field)
            if not sizes or list(sizes) != sorted(sizes) or sizes[0] <= 0:
                raise RefusedError(fact("fault.sizes", field=field))
        return self

    @model_validator(mode="after")
    def _stock_named_once(self) -> Bench:
        for field in ("wire_stock", "materials"):
            ids = [stock.id for stock in getattr(self, field)]
            twice = next((name for name in ids if ids.count(name) > 1), None)
            if twice:
                raise RefusedError(fact("fault.stock-twice", field=field, id=twice))
        return self

    @model_validator(mode="after")
    def _blends_of_wools(self) -> Bench:
        known = {wool.id: wool for wool in self.wools}
        for wool in self.wools:
            for part in wool.recipe:
                if part.wool not in known:
                    raise RefusedError(fact("fault.blend-unknown", blend=wool.id, wool=part.wool))
                if known[part.wool].recipe:
                    raise RefusedError(fact("fault.blend-of-blend", blend=wool.id, wool=part.wool))
        return self

    def eyes_of(self, size: float) -> int:
        """Return the number of eyes of a size (mm)."""
        return next((eyes.count or 0 for eyes in self.eyes if abs(eyes.size - size) < 1e-6), 0)

    def for_part(self, part_id: str) -> Bench:
        """Return the bench that a part is told by: with the wools as they were where it was begun."""
        known = next((one for one in self.as_begun if one.part == part_id), None)
        if known is None:
            return self
        then = {wool.id: wool for wool in known.wools}
        return self.replaced(wools=tuple(then.get(wool.id, wool) for wool in self.wools))

    def with_wool(self, wool: Wool) -> Bench:
        """Return a copy with ``wool`` added, or replacing the one with its id."""
        if wool.id not in self.wool_by_id:
            return self.replaced(wools=(*self.wools, wool))
        return self.replaced(wools=tuple(wool if w.id == wool.id else w for w in self.wools))

    @property
    def cure_min(self) -> float:
        """Return the minutes a glued place is left alone."""
        return CURE_MIN[self.glue]

    def money_text(self, amount: Decimal | float, units: Units | None = None) -> str:
        """Return a sum of money as text."""
        exactly = amount if isinstance(amount, Decimal) else exact_decimal(amount)
        return show_money(exactly, self.currency, self.money.coin, units)

    @cached_property
    def chenille(self) -> WireStock | None:
        """The chenille stems on the shelf, if there are any."""
        return next((s for s in self.wire_stock if s.cores > 1 and s.form == "stem"), None)

    @cached_property
    def wool_by_id(self) -> dict[str, Wool]:
        """The wools by id."""
        return {wool.id: wool for wool in self.wools}

    @cached_property
    def colours(self) -> dict[str, str]:
        """The colours of wools and materials, by id."""
        others = {one.id: one.colour for one in (*COMMON, *self.materials)}
        return others | {wool.id: wool.colour for wool in self.wools}

    @cached_property
    def material_by_id(self) -> dict[str, Material]:
        """The materials other than wool, by id."""
        return {material.id: material for material in self.materials}

    def material_of(self, part: Part) -> Material | None:
        """Return the material of a part not of wool: the bench's own, or a common one of its kind."""
        if part.stuff is None:
            return None
        known = self.material_by_id.get(part.core)
        if known is not None and known.kind == part.stuff.kind:
            return known
        alike = (m for m in (*self.materials, *COMMON) if m.kind == part.stuff.kind)
        return next(alike)

    def packed_density(self, figure: Figure, part: Part) -> float:
        """Return the packed density (g/cm³) of a part's core: its wool at its firmness, as this figure packs
        it. What is not wool is not packed."""
        if part.stuff is not None:
            return KERATIN
        return min(KERATIN, self.wool_by_id[part.core].density(part.firmness) * figure.packing)

    def needle(self, gauge: int) -> int:
        """Return the owned needle nearest to ``gauge``."""
        return nearest_needle(gauge, self.needles)

    @property
    def apart_mm(self) -> float:
        """The smallest extent of a part made apart (mm): 8, or 10 for a beginner."""
        return 10.0 if self.beginner else 8.0


def bench_schema() -> dict[str, Any]:
    """Return the published JSON Schema of a bench's file."""
    return Bench.model_json_schema()


def load_bench(data: str | bytes, file: str) -> Bench:
    """Return the bench in ``data``. Raises :class:`DocumentError`."""
    found = read_json(data, file, Fact("document.bench"))
    try:
        return Bench.model_validate(found)
    except ValidationError as error:
        raise fault_in(file, describe_fault(error, found)) from None


def wools_of(part: Part) -> Iterator[tuple[str, str]]:
    """Yield the wools that a part names, each with the field that names it. What is not wool is not among
    them: where the bench lacks it, it is told as what is common of its kind."""
    if part.stuff is None:
        yield "core", part.core
    if part.coat:
        yield "coat", part.coat.wool
    yield from ((f"places › {place.id}", place.wool) for place in part.places if place.wool)
    yield from ((f"places › {p.id} › fur", p.fur.wool) for p in part.places if p.fur)
    if part.seam_wool:
        yield "seam_wool", part.seam_wool


def check_wools(figure: Figure, bench: Bench, file: str) -> None:
    """Raise :class:`DocumentError` for the first wool of ``figure`` that the bench does not have."""
    known = bench.wool_by_id
    for part in figure.parts:
        for field, wool in wools_of(part):
            if wool not in known:
                raise fault_in(
                    file,
                    fact(
                        "fault.no-wool",
                        id=part.id,
                        field=field,
                        wool=wool,
                        known=", ".join(sorted(known)),
                    ),
                )


def with_wools_of(figure: Figure, bench: Bench) -> Figure:
    """Return ``figure`` in wools the bench has: a missing one is replaced by the bench's first."""
    known, first = bench.wool_by_id, bench.wools[0].id

    def has(wool: str) -> str:
        return wool if wool in known else first

    parts = []
    for part in figure.parts:
        other = bench.material_of(part)
        changes: dict[str, object] = {"core": other.id if other else has(part.core)}
        if part.coat:
            changes["coat"] = part.coat.replaced(wool=has(part.coat.wool))
        if part.seam_wool:
            changes["seam_wool"] = has(part.seam_wool)
        changes["places"] = tuple(place.dyed(has) for place in part.places)
        parts.append(part.replaced(**changes))
    return figure.replaced(parts=tuple(parts))
