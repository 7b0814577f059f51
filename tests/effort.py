"""How much is tried: a part of it in ``make test``, all of it in ``make thorough``."""

from __future__ import annotations

import math
import os
from collections.abc import Sequence
from typing import TypeVar

import pytest
from hypothesis import settings

T = TypeVar("T")

THOROUGH = bool(os.environ.get("THOROUGH"))
thorough = pytest.mark.skipif(not THOROUGH, reason="a walk for before a release: make thorough")


def tries(most: int, few: int | None = None) -> int:
    """Return how many of ``most`` random cases to try: ``few``, or a sixteenth, in an ordinary run."""
    return most if THOROUGH else few or max(3, most // 16)


def examples(most: int, few: int | None = None) -> settings:
    """Return the settings of a property that is tried on so many of ``most`` examples."""
    return settings(max_examples=tries(most, few))


def as_often_as(rate: float, held: int, told: int, within: float = 0.03) -> bool:
    """Return whether what should hold with ``rate`` was ``held`` so often out of ``told``: ``within`` that
    or, of few, three standard deviations (of a binomial)."""
    return abs(held / told - rate) <= max(within, 3 * math.sqrt(rate * (1 - rate) / told))


def some(things: Sequence[T], few: int) -> list[T]:
    """``few`` of ``things``, spread evenly: the first, and from two on the last as well."""
    if THOROUGH or few >= len(things):
        return list(things)
    return [things[round(n * (len(things) - 1) / max(1, few - 1))] for n in range(few)]
