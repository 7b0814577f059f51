"""Mending while making: what to do with a piece, from the grams in it and its present size."""

from __future__ import annotations

import math
from typing import Literal

from bambola.core.bench.records import Size3
from bambola.core.bench.wools import PACKED_DENSITY
from bambola.core.frozen import frozen

HARD = PACKED_DENSITY["hard"]
"""g/cm³: the practical maximum by hand. What is felted as hard as this does not get smaller."""
CLOSE_SHARE, CLOSE_MM = 0.03, 0.5
"""A size is reached within 3 per cent or half a millimetre. Judged. See craft.md, 7."""
PAIR_SIZE = 0.06
PAIR_WEIGHT = 0.08
"""The two of a pair may differ by so much in size and weight. See craft.md, 7."""

Repair = Literal["right", "felt on", "add", "take off"]


@frozen
class Mending:
    """What to do with a piece: ``grams`` to add or take off (else 0). ``density_now`` and the density to end
    at, g/cm³; ``too_big`` is its excess size as a share."""

    action: Repair
    grams: float
    density_now: float
    density_then: float
    too_big: float


def right_size_range(mm: float) -> tuple[float, float]:
    """Return the range of a size that counts as right."""
    off = max(CLOSE_SHARE * mm, CLOSE_MM)
    return max(0.0, mm - off), mm + off


def mend(grams_in: float, now_mm: Size3, wanted_mm: Size3, wanted_cm3: float) -> Mending:
    """Return what to do with a piece of ``grams_in`` that measures ``now_mm`` and should be ``wanted_mm``.
    ``wanted_cm3`` is its finished net volume; its present volume follows from its three measures."""
    grown = math.prod(now_mm) / math.prod(wanted_mm)
    volume = wanted_cm3 * grown
    now, off = grams_in / volume, grown ** (1 / 3) - 1
    ranges = zip(now_mm, map(right_size_range, wanted_mm), strict=True)
    if all(low <= mm <= high for mm, (low, high) in ranges):
        return Mending("right", 0.0, now, now, off)
    if off < 0:
        return Mending("add", (wanted_cm3 - volume) * now, now, now, off)
    then = grams_in / wanted_cm3
    if then <= HARD * (1 + 1e-9):
        return Mending("felt on", 0.0, now, then, off)
    if now >= HARD:
        return Mending("take off", grams_in - now * wanted_cm3, now, now, off)
    return Mending("take off", grams_in - HARD * wanted_cm3, now, HARD, off)
