"""A common view of everything on the shelf: stock, price, shop and lot."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Any, Literal, cast

from bambola.core.bench.materials import COMMON, Glue, Material
from bambola.core.bench.model import Bench, Counted, GlueBottle, WireStock
from bambola.core.bench.money import exact_decimal
from bambola.core.bench.wools import Wool
from bambola.core.facts import Fact, SoldSize, fact
from bambola.core.frozen import frozen

Unit = Literal["g", "mm", "pieces"]
_ROWS: dict[str, tuple[str, str]] = {
    "wool": ("wools", "id"),
    "eyes": ("eyes", "size"),
    "wire": ("wire_stock", "id"),
    "stuff": ("materials", "id"),
    "needle": ("needle_box", "size"),
    "glue": ("bottles", "glue"),
}
"""Where the bench has each sort, and the field that names one of it."""
SORTS = tuple(_ROWS)
_METRE_MM, _CLAY_G = 1000, 100
"""What the price of cloth and the like, and of clay, is for."""

TableThing = Wool | Counted | WireStock | Material | GlueBottle


@frozen
class Shelved:
    """One thing: how it is called, what is ``left`` of it in its ``unit`` (None: not counted), and what
    ``per`` of it costs ``price``. Its ``key`` is such as ``wool:woad``, ``eyes:8``, ``needle:38``."""

    key: str
    what: Fact
    unit: Unit
    left: float | None
    per: float
    price: float | None
    shop: str
    lot: str

    @property
    def unit_price(self) -> Decimal | None:
        """The price of one unit, if known."""
        return None if self.price is None else exact_decimal(self.price) / exact_decimal(self.per)


def iterate_shelf(bench: Bench) -> Iterator[Shelved]:
    """Yield every shelf item, grouped by sort."""
    for sort, (field, name) in _ROWS.items():
        for thing in getattr(bench, field):
            yield _shelf_item(f"{sort}:{_number_name(getattr(thing, name))}", thing)


def find_shelf_item(bench: Bench, key: str) -> Shelved | None:
    """Return the shelf item with this ``key``, at least a common one; None if there is none."""
    thing = _find_thing(bench, key)
    return None if thing is None else _shelf_item(key, thing)


def with_shelved(bench: Bench, key: str, **changes: Any) -> Bench:
    """Return the bench with another ``left``, ``price``, ``shop`` or ``lot`` of an item; unchanged if there
    can be no such item. Raises ValidationError for invalid values."""
    sort, _, name = key.partition(":")
    thing = _find_thing(bench, key)
    if thing is None:
        return bench
    if "left" in changes:
        left = changes.pop("left")
        changes |= _with_left(thing, left)
    field, of = _ROWS[sort]
    changed = type(thing).model_validate({**thing.model_dump(), **changes})
    rows: list[Any] = list(getattr(bench, field))
    at = next(
        (i for i, row in enumerate(rows) if _number_name(getattr(row, of)) == name), len(rows)
    )
    rows[at : at + 1] = [changed]
    if sort in ("eyes", "needle"):
        rows = sorted((row for row in rows if row.is_kept), key=lambda row: row.size)
    return bench.replaced(**{field: tuple(rows)})


def left_of(bench: Bench, key: str) -> float:
    """Return the counted stock of an item; 0 if it is not counted."""
    found = find_shelf_item(bench, key)
    return found.left or 0.0 if found else 0.0


def _number_name(value: object) -> str:
    return f"{value:g}" if isinstance(value, int | float) else str(value)


def _find_thing(bench: Bench, key: str) -> TableThing | None:
    """Return the bench's entry for ``key``, or the one it would have; None for an unknown key."""
    sort, _, name = key.partition(":")
    if sort not in _ROWS:
        return None
    field, of = _ROWS[sort]
    rows: tuple[TableThing, ...] = getattr(bench, field)
    known = next((row for row in rows if _number_name(getattr(row, of)) == name), None)
    if known is not None:
        return known
    try:
        if sort in ("eyes", "needle"):
            return Counted(size=float(name))
        if sort == "glue":
            return GlueBottle(glue=cast(Glue, name))
    except ValueError:
        return None
    if sort == "stuff":
        return next((one for one in COMMON if one.id == name), None)
    return None


def _shelf_item(key: str, thing: TableThing) -> Shelved:
    what, unit, left, per = _amount_on_shelf(key, thing)
    return Shelved(key, what, unit, left, per, thing.price, thing.shop, thing.lot)


def _amount_on_shelf(key: str, thing: TableThing) -> tuple[Fact, Unit, float | None, float]:
    """Return an item's name, unit, stock, and the amount its price is for."""
    match thing:
        case Wool():
            return fact("named", name=thing.name), "g", thing.grams, thing.pack_g
        case WireStock() if thing.form == "coil":
            return fact("named", name=thing.name), "mm", thing.metres_mm, thing.length
        case WireStock():
            return fact("named", name=thing.name), "pieces", thing.count, 1
        case Material():
            clay = thing.kind == "clay"
            return (
                thing.display_name,
                "g" if clay else "mm",
                thing.left,
                _CLAY_G if clay else _METRE_MM,
            )
        case GlueBottle():
            return Fact(f"glue.{thing.glue}"), "g", thing.left, thing.holds
        case Counted() if key.startswith("needle"):
            return fact("cost.needles", gauge=f"{thing.size:g}"), "pieces", thing.count, 1
        case _:
            return fact("cost.eyes", size=SoldSize(thing.size)), "pieces", thing.count, 1


def _with_left(thing: TableThing, left: float | None) -> dict[str, object]:
    match thing:
        case Wool():
            return {"grams": left}
        case WireStock() if thing.form == "coil":
            return {"left": None if left == thing.length * thing.count else left}
        case WireStock():
            return {"count": max(0, round(left or 0.0))}
        case Counted():
            return {"count": max(0, round(left)) if left is not None else None}
        case _:
            return {"left": left}
