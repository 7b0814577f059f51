"""The numbers of a making as they were told when it was begun, whatever is learned since."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TypeVar

from pydantic import ValidationError

from bambola.core.bench import Bench, Making
from bambola.core.bench.making import KeptPart, KeptPlan
from bambola.core.bench.shelved import find_shelf_item, iterate_shelf, with_shelved
from bambola.core.book.costing import planned_use
from bambola.core.facts import Fact, RefusedError
from bambola.core.figure import Document
from bambola.core.figure.fields import MOST_NOTE
from bambola.core.plan import Plan
from bambola.core.plan.making.values import PartPlan

_T = TypeVar("_T", Document, Bench)


def kept_plan(plan: Plan, bench: Bench, version: str, say: Callable[[Fact], str]) -> KeptPlan:
    """Return the numbers of ``plan``, made for ``bench`` by this ``version`` of the program."""
    return KeptPlan(
        version=version,
        minutes=plan.minutes,
        parts={
            part.id: KeptPart(name=part.name, count=part.count, grams=part.grams, to_mm=part.to_mm)
            for part in plan.parts
        },
        uses={key: amount for key, _, amount in planned_use(plan, bench)},
        notices=tuple(f"{say(one.title)}: {say(one.text)}"[:MOST_NOTE] for one in plan.notices),
    )


def as_it_was_told(plan: Plan, kept: KeptPlan | None) -> Plan:
    """Return ``plan``, made anew of what a figure was begun with, with the sizes, weights and hours that were
    told then. A part that was none then, or is none now, is as it is."""
    if kept is None:
        return plan
    parts = tuple(_part_as_told(part, kept.parts.get(part.id)) for part in plan.parts)
    taken = {wool.wool: kept.uses.get(f"wool:{wool.wool}", 0.0) for wool in plan.wools}
    wools = tuple(
        replace(wool, taken_g=taken[wool.wool], grams=wool.grams * taken[wool.wool] / wool.taken_g)
        if wool.taken_g > 0
        else wool
        for wool in plan.wools
    )
    return replace(
        plan,
        minutes=kept.minutes,
        parts=parts,
        wools=wools,
        wool_g=sum(wool.grams for wool in wools),
    )


def _part_as_told(part: PartPlan, kept: KeptPart | None) -> PartPlan:
    if kept is None:
        return part
    share = kept.grams / part.grams if part.grams > 0 else 1.0
    portions = tuple(
        replace(p, grams=p.grams * share, take_g=p.take_g * share, keep_by_g=p.keep_by_g * share)
        for p in part.portions
    )
    sizes = {name: kept.to_mm.get(name, mm) for name, mm in part.to_mm.items()}
    return replace(part, to_mm=sizes, portions=portions)


def uses_as_told(plan: Plan, bench: Bench, kept: KeptPlan | None) -> dict[str, float]:
    """Return what a making was told to use, by key on the shelf: of what ``plan`` uses now and did not then,
    nothing. Empty where nothing was kept."""
    if kept is None:
        return {}
    return {key: 0.0 for key, *_ in planned_use(plan, bench)} | kept.uses


def design_then(making: Making) -> Document | None:
    """Return the design a making was begun with; None if unknown, or from another version."""
    return _read(Document, making.begun)


def bench_then(making: Making) -> Bench | None:
    """Return the bench that a making was told by; None if it was begun before that was kept, or it cannot be
    read any more."""
    return _read(Bench, making.bench)


def _read(kind: type[_T], text: str) -> _T | None:
    """Return what a making keeps as JSON; None if it keeps none, or cannot be read."""
    try:
        return kind.model_validate_json(text) if text else None
    except (ValidationError, RefusedError):
        return None


def with_prices_then(bench: Bench, then: Bench) -> Bench:
    """Return ``bench`` with the prices and the money of ``then``; of what had no price then, that of now."""
    for one in iterate_shelf(then):
        if one.price is not None and find_shelf_item(bench, one.key) is not None:
            bench = with_shelved(bench, one.key, price=one.price)
    return bench.replaced(money=then.money, currency=then.currency)
