"""What a figure took off the shelf besides wool: counted eyes, cloth and glue; wire and its offcuts."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping

from bambola.core.armature import stock_called
from bambola.core.bench import Bench, WireStock
from bambola.core.bench.shelved import find_shelf_item, left_of, with_shelved
from bambola.core.book.costing import planned_use
from bambola.core.plan import Plan

OFFCUT = "offcut"
LEAST_OFFCUT_MM = 30.0
"""A shorter end of wire is no offcut that anything is made of. Judged. See craft.md, 3."""


def to_book(plan: Plan, bench: Bench, used: Mapping[str, float]) -> dict[str, float]:
    """Return what all figures of a plan took, by key on the shelf: as planned, or as really ``used``.

    Wool is booked separately, as weighed. Coils are booked in mm, stems and offcuts in pieces; a remainder
    goes back as an offcut (``offcut:stems:85``, a negative amount).
    """
    planned = {key: amount for key, _, amount in planned_use(plan, bench)}
    found = {
        key: amount
        for key, amount in {**planned, **used}.items()
        if key.partition(":")[0] not in ("wool", "wire")
    }
    return found | dict(_wire_used(plan, bench))


def _wire_used(plan: Plan, bench: Bench) -> Iterator[tuple[str, float]]:
    found: dict[str, float] = {}
    for cut in plan.cutting:
        stock = stock_called(cut.stock, bench.wire_stock) if not cut.to_buy else None
        alike = [s for s in bench.wire_stock if stock and _kind_key(s) == _kind_key(stock)]
        opened = next(
            (
                s
                for s in alike
                if s.form == cut.form and cut.form != "coil" and s.length == cut.length_mm
            ),
            next((s for s in alike if s.form == cut.form), None),
        )
        if opened is None:
            continue
        key = f"wire:{opened.id}"
        found[key] = found.get(key, 0.0) + (sum(cut.cuts) if cut.form == "coil" else 1)
        if cut.form != "coil" and cut.waste_mm >= LEAST_OFFCUT_MM:
            key = f"{OFFCUT}:{opened.id}:{math.floor(cut.waste_mm)}"
            found[key] = found.get(key, 0.0) - 1
    yield from found.items()


def _kind_key(stock: WireStock) -> tuple[str, float, int]:
    return stock.metal, stock.diameter, stock.cores


def booked_off(bench: Bench, wanted: Mapping[str, float]) -> tuple[Bench, dict[str, float]]:
    """Return the bench without what is ``wanted``, and what was really taken: no stock falls below 0, and
    nothing is taken of what is not counted."""
    taken = {}
    for key, amount in wanted.items():
        there_is = min(amount, left_of(bench, key)) if not key.startswith(OFFCUT) else amount
        if there_is:
            taken[key] = there_is
    return put_back(bench, {key: -amount for key, amount in taken.items()}), taken


def put_back(bench: Bench, taken: Mapping[str, float]) -> Bench:
    """Return the bench with what was ``taken`` returned to it."""
    for key, amount in taken.items():
        if key.startswith(OFFCUT):
            bench = _with_offcuts(bench, key, round(amount))
            continue
        known = find_shelf_item(bench, key)
        if known is not None and known.left is not None:
            bench = with_shelved(bench, key, left=max(0.0, known.left + amount))
    return bench


def _with_offcuts(bench: Bench, key: str, more: int) -> Bench:
    """Return the bench with ``more`` offcuts of a length added (taken away where negative, never below
    none)."""
    _, of, length = key.split(":") if key.count(":") == 2 else ("", "", "")
    if not length.isdecimal():
        return bench
    name = f"{of[:50]}-{length}"
    stock = next((s for s in bench.wire_stock if s.id == of), None)
    known = next((s for s in bench.wire_stock if s.id == name), None)
    if stock is None and known is None:
        return bench
    if known is None and stock is not None:
        told = {"id": name, "form": "offcut", "length": float(length), "count": 0, "price": None}
        known = WireStock.model_validate({**stock.model_dump(), **told})
    assert known is not None
    count = max(0, known.count + more)
    rows = tuple(s for s in bench.wire_stock if s.id != name)
    return bench.replaced(wire_stock=(*rows, *([known.replaced(count=count)] if count else [])))
