"""Amounts a hand can take: grams if the maker's scale shows them, else balls, strips, pinches, hairs."""

from __future__ import annotations

import math

from bambola.core.bench import Wool
from bambola.core.facts import NOTHING, Fact, Grams, Mm, fact
from bambola.core.wool.amounts import pinch_mm

LEADS = 3.0
"""Grams lead from so many steps of the scale on. Judged. See craft.md, 10."""
TOP_G_M = 25.0
"""What a metre of top weighs, g, until the maker has weighed one. Judged. See craft.md, 10."""
PAPER_G_M2 = 80.0
"""Writing paper, whose squares balance a pinch on a ruler. See craft.md, 10."""
STRIP_G, PINCH_G, WISP_G = 0.2, 0.05, 0.01
"""From here on a strip, from here a pinch with its paper, from here a pinch alone; less is hairs. Judged.
See craft.md, 10."""
HAIRS_MG = 25.0
"""Hairs in a milligram, about. Judged. See craft.md, 10."""


def ball_mm(grams: float, density: float) -> float:
    """Return the diameter (mm) of a loose ball of ``grams`` at ``density`` g/cm³."""
    return 10 * math.cbrt(6 * grams / (math.pi * density))


def paper_mm(grams: float) -> float:
    """Return the side (mm) of the square of paper that weighs as much."""
    return math.sqrt(grams / PAPER_G_M2) * 1000


def quartered_mm(grams: float, wool: Wool) -> float:
    """Return the length (mm) of a quartered top that weighs ``grams``, from the weight of a metre."""
    return 4000 * grams / (wool.metre_g or TOP_G_M)


def round_grams(grams: float) -> float:
    """Return a weight rounded as hands and scales allow: half grams from 5 g, tenths from 1 g, twentieths
    below."""
    step = 0.5 if grams >= 5 else 0.1 if grams >= 1 else 0.05 if grams >= STRIP_G else 0.01
    return max(step, round(grams / step) * step)


def by_hand(grams: float, wool: Wool, scale_g: float, least_mm: float = 0.0) -> Fact:
    """Return how to take ``grams`` of a wool: the first way, and an alternative. A length of top shorter than
    ``least_mm``, the length it covers, is not offered."""
    if grams <= 0:
        return NOTHING
    ball = Mm(ball_mm(grams, wool.start_density))
    is_strip = wool.form == "top" and quartered_mm(grams, wool) >= least_mm
    if grams >= LEADS * scale_g:
        weight = Grams(round_grams(grams))
        if is_strip and grams < 1:
            return fact("by-hand.weight-strip", weight=weight, long=Mm(quartered_mm(grams, wool)))
        return fact("by-hand.weight", weight=weight, ball=ball)
    if grams >= STRIP_G:
        if is_strip:
            return fact("by-hand.strip", long=Mm(quartered_mm(grams, wool)), ball=ball)
        return fact("by-hand.ball", ball=ball)
    pinch = Mm(pinch_mm(grams))
    if grams >= PINCH_G:
        return fact("by-hand.pinch-paper", pinch=pinch, paper=Mm(paper_mm(grams)))
    if grams >= WISP_G:
        return fact("by-hand.pinch", pinch=pinch)
    low, high = (_hairs(1000 * grams * HAIRS_MG * share) for share in (0.6, 1.6))
    return fact("by-hand.hairs", low=low, high=high, pinch=pinch)


def pinch_of(amount: Fact) -> float:
    """Return the diameter (mm) that the pinch of an amount is rolled to; 0 if it is none."""
    for name, value in amount.slots:
        if name == "pinch" and isinstance(value, Mm):
            return value.value
        if isinstance(value, Fact) and (found := pinch_of(value)):
            return found
    return 0.0


def _hairs(count: float) -> int:
    step = 10 if count >= 30 else 5 if count >= 10 else 1
    return max(1, round(count / step) * step)
