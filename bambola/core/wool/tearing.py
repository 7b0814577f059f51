"""Portions too small for the maker's scale: a larger lump is weighed and torn into equal parts."""

from __future__ import annotations

from bambola.core.frozen import frozen
from bambola.core.memo import remembered

BLUR = 0.20
"""A portion is too small for a scale when half of its step is more than this share of it: then the
reading adds as much doubt as an uncalibrated weight already has. See craft.md, 7."""
STEPS = 10
"""The lump to weigh shows at least so many steps, so that half a step is no more than 5 % of it.
See craft.md, 7."""
MOST_PARTS = 1024
"""Nobody halves a lump more than ten times. Judged. See craft.md, 7."""


@frozen
class Tear:
    """A lump of ``weigh_g`` to tear into ``parts`` equal parts, by halves and thirds."""

    weigh_g: float
    parts: int


def tear_of(grams: float, step: float) -> Tear | None:
    """Return how to make ``grams`` on a scale with steps of ``step`` g; None if it can be weighed, or if even
    1,024 of it would not move the scale."""
    if grams <= 0 or grams >= step / 2 / BLUR:
        return None
    for parts in _halves_and_thirds():
        steps = round(grams * parts / step)
        if steps >= STEPS:
            return Tear(steps * step, parts)
    return None


@remembered(1)
def _halves_and_thirds() -> tuple[int, ...]:
    """Return the numbers of equal parts that halving and dividing in three lead to, rising from two."""
    return tuple(
        sorted(2**a * 3**b for a in range(11) for b in range(7) if 2 <= 2**a * 3**b <= MOST_PARTS)
    )
