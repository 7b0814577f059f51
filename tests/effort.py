"""How much is tried: a fifth of it in every run, all of it with ``THOROUGH=1``, before a release."""

from __future__ import annotations

import os

from hypothesis import settings

THOROUGH = bool(os.environ.get("THOROUGH"))


def tries(most: int) -> int:
    """So many of ``most`` random cases."""
    return most if THOROUGH else max(4, most // 5)


def examples(most: int) -> settings:
    """A property is tried on so many of ``most`` examples."""
    return settings(max_examples=tries(most))
