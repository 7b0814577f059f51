"""What is kept of a look somebody has had, held against what is made now."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from typing import Any

from tests.core.kept_plans import kept

NUMBER = re.compile(r"\d+(?:\.\d+)?")
PLANS, SEEN, PAPER, PICTURES = (1e-3, 2e-3), (1e-3, 0.02), (2e-5, 0.3), (2e-5, 1.0)
"""How much numbers may be off that are the same: as a share, and in themselves. What is seen is kept to a
hundredth, of paper sums are kept, in which a line that moved is to be found, and of pictures how light they
are, from 0 to 255."""


def differing(
    was: Any, is_: Any, off: tuple[float, float] = PLANS, where: str = ""
) -> Iterator[str]:
    """Where two values differ. Numbers are the same within ``off``, and those in sentences, which are
    rounded, within one step of their last figure: other processors add up in another order."""
    if isinstance(was, dict) and isinstance(is_, dict) and was.keys() == is_.keys():
        for name in was:
            yield from differing(was[name], is_[name], off, f"{where}.{name}")
    elif isinstance(was, list) and isinstance(is_, list) and len(was) == len(is_):
        for n, (one, other) in enumerate(zip(was, is_, strict=True)):
            yield from differing(one, other, off, f"{where}[{n}]")
    elif isinstance(was, str) and isinstance(is_, str):
        if NUMBER.sub("#", was) != NUMBER.sub("#", is_) or not all(
            map(_near, NUMBER.findall(was), NUMBER.findall(is_))
        ):
            yield f"{where}: “{was}” is now “{is_}”"
    elif isinstance(was, int | float) and isinstance(is_, int | float):
        if not math.isclose(was, is_, rel_tol=off[0], abs_tol=off[1]):
            yield f"{where}: {was} is now {is_}"
    elif was != is_:
        yield f"{where}: {was!r:.80} is now {is_!r:.80}"


def _near(one: str, other: str) -> bool:
    step = 10.0 ** -max(len(text.partition(".")[2]) for text in (one, other))
    return one == other or (step < 1 and abs(float(one) - float(other)) < 1.01 * step)


def assert_as_kept(name: str, made: Any, off: tuple[float, float] = PLANS) -> None:
    """What is made now is what was kept under ``name``; says what is not, and how to keep it."""
    told = list(differing(kept(name), made, off))
    assert not told, "\n".join(
        ["look at what changed; if it is meant, `make snapshots`", *told[:40]]
    )
