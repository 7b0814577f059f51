"""How much is tried: an eighth of it in every run, all of it with ``THOROUGH=1``, before a release."""

from __future__ import annotations

import os
from collections.abc import Sequence
from typing import TypeVar

import pytest
from hypothesis import settings

T = TypeVar("T")

THOROUGH = bool(os.environ.get("THOROUGH"))
thorough = pytest.mark.skipif(not THOROUGH, reason="a walk for before a release: THOROUGH=1")


def tries(most: int) -> int:
    """So many of ``most`` random cases."""
    return most if THOROUGH else max(3, most // 8)


def examples(most: int) -> settings:
    """A property is tried on so many of ``most`` examples."""
    return settings(max_examples=tries(most))


def some(things: Sequence[T], few: int) -> list[T]:
    """``few`` of ``things``, spread evenly: the first, and from two on the last as well."""
    if THOROUGH or few >= len(things):
        return list(things)
    return [things[round(n * (len(things) - 1) / max(1, few - 1))] for n in range(few)]
