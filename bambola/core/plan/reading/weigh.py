"""The original on the scale: what its weight says about how firmly it is felted."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from bambola.core.bench import Bench
from bambola.core.bench.wools import PACKED_DENSITY
from bambola.core.facts import Fact, Grams, fact
from bambola.core.figure import Brief, Figure, Firmness
from bambola.core.plan.make import make_plan
from bambola.core.plan.making.loose_ends import end_of
from bambola.core.plan.making.masses import hidden_in_parts
from bambola.core.plan.making.values import Plan
from bambola.core.wool import part_wool

MARGIN = 0.05
"""A density this share beyond soft or hard is still taken for soft or hard: nobody weighs better.
See craft.md, 9."""


@dataclass(frozen=True)
class WeightFinding:
    """What a weight says. ``density`` (g/cm³) is the mean packed density the wool must have,
    ``firmness`` the nearest there is, ``expected_g`` what the figure would weigh as it is drawn, and
    ``figure`` the figure with that firmness; None where no wool can be packed like that.
    """

    weight_g: float
    other_g: float
    expected_g: float
    density: float
    firmness: Firmness
    believable: bool
    figure: Figure | None

    @property
    def told(self) -> Fact:
        """What it says of the wool."""
        weighs, other = Grams(self.weight_g), Grams(self.other_g)
        if self.figure is None and self.weight_g > self.expected_g:
            return fact("weight.horn", weighs=weighs)
        if self.figure is None:
            return fact("weight.too-light", other=other, weighs=weighs)
        if self.believable:
            return fact("weight.firmness", firmness=Fact(f"firmness.{self.firmness}"))
        looser = self.density < PACKED_DENSITY["soft"]
        return Fact("weight.looser" if looser else "weight.harder")


def nearest_firmness(density: float) -> Firmness:
    """Return the firmness whose packed density is nearest by ratio."""
    return min(PACKED_DENSITY, key=lambda f: abs(math.log(density / PACKED_DENSITY[f])))


def weigh_original(
    figure: Figure, grams: float, bench: Bench, plan: Plan | None = None
) -> WeightFinding:
    """Return what an original of ``grams`` says of its wool. ``plan`` is the plan as made, if known.

    Skin, patches, joins and loose ends keep their cover; the core takes what is left of the weight once wire
    and fittings are off.
    """
    plan = plan or make_plan(figure, Brief(), bench)
    other = sum(wire.grams for wire in plan.wires)
    other += sum(row.count * row.mass_g for row in plan.fittings)
    ends = ((part.count, end_of(part.portions)) for part in plan.parts)
    loose = sum(count * end.grams for count, end in ends if end is not None)
    hidden = hidden_in_parts(plan.solids.placement, plan.gauges)

    def wool(packing: float, drawn: Figure) -> float:
        parts = part_wool(drawn.replaced(packing=packing), plan.solids, bench, hidden)
        return loose + sum(part.count * parts[part.id].grams for part in plan.parts)

    expected = wool(figure.packing, figure) + other
    packing = _packing(lambda x: wool(x, figure) + other - grams)
    if packing is None:
        return WeightFinding(grams, other, expected, 0.0, "soft", False, None)
    density = _mean_density(figure.replaced(packing=packing), plan, bench)
    firmed = _firmed(figure, packing, bench)
    again = _packing(lambda x: wool(x, firmed) + other - grams) or packing
    low, high = PACKED_DENSITY["soft"] * (1 - MARGIN), PACKED_DENSITY["hard"] * (1 + MARGIN)
    return WeightFinding(
        grams,
        other,
        expected,
        density,
        nearest_firmness(density),
        low <= density <= high,
        firmed.replaced(packing=again),
    )


def _packing(miss: Callable[[float], float]) -> float | None:
    from scipy.optimize import brentq

    low, high = 0.06, 19.0
    if miss(low) > 0 or miss(high) < 0:
        return None
    return float(brentq(miss, low, high, xtol=1e-9))


def _mean_density(figure: Figure, plan: Plan, bench: Bench) -> float:
    volumes = {part.id: part.count * part.net_cm3 for part in plan.parts if part.is_felted}
    total = sum(volumes.values())
    grams = sum(bench.packed_density(figure, p) * volumes.get(p.id, 0.0) for p in figure.parts)
    return grams / total if total else 0.0


def _firmed(figure: Figure, packing: float, bench: Bench) -> Figure:
    """Return every part called by the firmness nearest to what it must have."""
    heavier = figure.replaced(packing=packing)
    return figure.replaced(
        parts=tuple(
            part.replaced(firmness=nearest_firmness(bench.packed_density(heavier, part)))
            for part in figure.parts
        )
    )
