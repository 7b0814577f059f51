"""What a figure took off the shelf besides wool: eyes from the box, cloth and the like that are counted."""

from __future__ import annotations

from collections.abc import Mapping

from bambola.core.bench import Bench
from bambola.core.book.costing import eyes_of
from bambola.core.plan import Plan

EYES, STUFF = "eyes", "stuff"


def used(plan: Plan) -> dict[str, float]:
    """What all figures of a plan use: ``eyes:8`` pieces of a size (mm), ``stuff:cotton`` mm of its width, or
    g of clay."""
    found = {f"{EYES}:{size:g}": float(n * plan.count) for size, n in eyes_of(plan).items()}
    return found | {f"{STUFF}:{row.material}": row.uses for row in plan.materials}


def booked_off(bench: Bench, wanted: Mapping[str, float]) -> tuple[Bench, dict[str, float]]:
    """The bench without what is ``wanted``, and what was really there to be taken: nothing falls below
    nothing, and of what is not counted nothing is taken."""
    taken = {key: min(amount, there(bench, key)) for key, amount in wanted.items()}
    taken = {key: amount for key, amount in taken.items() if amount > 0}
    return put_back(bench, {key: -amount for key, amount in taken.items()}), taken


def put_back(bench: Bench, taken: Mapping[str, float]) -> Bench:
    """The bench with what was ``taken`` laid back."""
    for key, amount in taken.items():
        sort, _, name = key.partition(":")
        if sort == EYES:
            bench = bench.with_eyes(float(name), max(0, bench.eyes_of(float(name)) + round(amount)))
            continue
        rows = tuple(
            one.replaced(left=max(0.0, one.left + amount))
            if one.id == name and one.left is not None
            else one
            for one in bench.materials
        )
        bench = bench.replaced(materials=rows)
    return bench


def there(bench: Bench, key: str) -> float:
    """How much there is of something that is counted."""
    sort, _, name = key.partition(":")
    if sort == EYES:
        return float(bench.eyes_of(float(name)))
    known = bench.material_by_id.get(name)
    return known.left or 0.0 if known else 0.0
