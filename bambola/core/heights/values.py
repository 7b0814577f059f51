"""What is read off a plan at one height, and what comes of reading many."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterable, Mapping, Sequence
from typing import Literal, TypeAlias

from bambola.core.facts import Fact
from bambola.core.frozen import frozen

Sign: TypeAlias = tuple[str, str]
"""What may turn: of which kind, and about what (a part, a wire, a wool) by its id."""
State: TypeAlias = "str | int | bool | Fact"
Rank: TypeAlias = Literal["decide", "buy", "make", "note"]
"""What a turn asks of the maker: to decide, to buy or find room, to make it otherwise, or only to know."""


@frozen
class Told:
    """How one thing is at one height: its ``state``, how that is said, and on which ``part``.

    It turns where its ``amount`` passes one of ``edges``: where it ``counts``, there and nowhere else, so
    that the state is how many are passed; else about there. ``passed`` is what to say of the last that was
    passed, where that is not what is so from there on.
    """

    state: State
    text: Fact
    part: str | None = None
    amount: float | None = None
    edges: tuple[float, ...] = ()
    passed: Fact | None = None

    @property
    def counts(self) -> bool:
        """Whether its state is how many edges its amount has passed."""
        return self.amount is not None and self.state == self.n

    @property
    def n(self) -> int:
        """How many edges its amount has passed."""
        return 0 if self.amount is None else beyond(self.amount, self.edges)


def beyond(amount: float, edges: tuple[float, ...]) -> int:
    """How many of ``edges``, in rising order, an amount has passed."""
    return bisect_right(edges, amount)


@frozen
class Reading:
    """What is so at a ``height`` (mm): ``signs`` are what can turn, ``amounts`` what conditions are put to,
    by name."""

    height: float
    signs: Mapping[Sign, Told]
    amounts: Mapping[str, float]


@frozen
class Turn:
    """A height (mm) at which something turns: ``text`` is what is so, or begins, from there up, ``below``
    what is so under it."""

    height_mm: float
    kind: str
    about: str
    part: str | None
    rank: Rank
    text: Fact
    below: Fact


@frozen
class Band:
    """Heights from one to another (mm); an end that is open lies where nothing was looked at any more."""

    from_mm: float
    to_mm: float
    open_below: bool = False
    open_above: bool = False

    def holds(self, height: float) -> bool:
        """Whether a height lies in it."""
        return self.from_mm <= height <= self.to_mm

    def inner(self, step: float) -> Band:
        """The same in whole ``step`` (mm), within it; as it is where it holds none."""
        low = math.ceil(self.from_mm / step - 1e-9) * step
        high = math.floor(self.to_mm / step + 1e-9) * step
        return Band(low, high, self.open_below, self.open_above) if low <= high else self


@frozen
class Fit:
    """What can be had from one height to another only (mm)."""

    from_mm: float
    to_mm: float
    kind: str
    part: str | None
    text: Fact


def common(some: Iterable[Band], others: Sequence[Band]) -> tuple[Band, ...]:
    """The heights that lie in bands of both."""
    found = []
    for a in some:
        for b in others:
            lower, upper = max(a, b, key=lambda x: x.from_mm), min(a, b, key=lambda x: x.to_mm)
            if lower.from_mm <= upper.to_mm:
                ends = lower.from_mm, upper.to_mm
                found.append(Band(*ends, lower.open_below, upper.open_above))
    return tuple(found)
