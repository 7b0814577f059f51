"""Totals by wool: what the whole order takes and what to buy."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from bambola.core.figure import Bench
from bambola.core.figure.bench import LOSS
from bambola.core.wool.portions import PartWool, band


@dataclass(frozen=True, slots=True)
class WoolTotal:
    """One wool over the whole order, g. ``buy_g`` is the 90th percentile with handling loss."""

    wool: str
    name: str
    colour: str
    grams: float
    taken_g: float
    buy_g: float
    packs: int


def wool_totals(
    parts: Mapping[str, PartWool], counts: Mapping[str, int], bench: Bench, figures: int = 1
) -> tuple[WoolTotal, ...]:
    """Totals over ``figures`` figures, heaviest first.

    What makes a weight uncertain (density, the maker's hand) is shared by all portions of a wool,
    so their 90th percentiles are added.
    """
    sums: dict[str, list[float]] = {}
    for part_id, part in parts.items():
        for portion in part.portions:
            wool = bench.wool_by_id[portion.wool]
            n = counts[part_id] * figures
            _, high = band(portion.grams, portion.role, wool.calibrated)
            row = sums.setdefault(wool.id, [0.0, 0.0, 0.0])
            row[0] += portion.grams * n
            row[1] += portion.grams * n / (1 - LOSS[portion.role])
            row[2] += high * n
    return tuple(sorted(_rows(sums, bench), key=lambda total: (-total.grams, total.wool)))


def _rows(sums: Mapping[str, list[float]], bench: Bench) -> Iterable[WoolTotal]:
    for wool_id, (grams, taken, buy) in sums.items():
        wool = bench.wool_by_id[wool_id]
        # However little it is, it comes in a pack.
        packs = max(math.ceil(buy / wool.pack_g - 1e-9), int(buy > 0))
        yield WoolTotal(wool_id, wool.name, wool.colour, grams, taken, buy, packs)
