"""What is read from a plan at one height, and what follows from many readings."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Literal, TypeAlias

import numpy as np

from bambola.core.bench import Bench
from bambola.core.book.costing import cost_of
from bambola.core.facts import Fact
from bambola.core.figure import Figure
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.plan import Plan
from bambola.core.solids import Placement, place

Sign: TypeAlias = tuple[str, str]
"""What may turn: of which kind, and about what (a part, a wire, a wool) by its id."""
REFUSED: Sign = ("refused", "")
"""That a figure cannot be made at a height."""
State: TypeAlias = "str | int | bool | Fact"
Rank: TypeAlias = Literal["decide", "buy", "make", "note"]
"""What a turn asks of the maker: to decide, to buy or find room, to make it otherwise, or only to know."""


FINE_MM, FINE, COARSE_MM = 0.3, 1e-3, 0.8
"""A turn lies between two readings so many mm apart, or so much of the height where that is more, up to the
last of these, and is told midway. Judged: a hand works to half a millimetre. See
craft.md, 11."""


def turn_tolerance(height: float) -> float:
    """Return how close (mm) two heights must be for a turn between them not to be searched any further."""
    return min(max(FINE_MM, FINE * height), COARSE_MM)


MOST_BESIDE = 5
"""No more sizes are laid beside each other: more are not compared at a glance. Judged. See craft.md, 11."""


@frozen
class StateAtHeight:
    """How one thing is at one height: its ``state``, how that is said, and on which ``part``.

    It turns where its ``amount`` passes one of ``edges``: where it ``counts``, there and nowhere else, so
    that the state is how many are passed; else about there. One that is not
    ``smooth`` may jump besides. ``passed`` is what to say of the last that was
    passed, where that is not what is so from there on. Where its amount passes one of ``near``, something
    else of its part is likely to turn.
    """

    state: State
    text: Fact
    part: str | None = None
    amount: float | None = None
    edges: tuple[float, ...] = ()
    passed: Fact | None = None
    smooth: bool = True
    near: tuple[float, ...] = ()

    @property
    def counts(self) -> bool:
        """Whether its state is the number of edges its amount has passed."""
        return self.amount is not None and self.state == self.n

    @property
    def n(self) -> int:
        """The number of edges its amount has passed."""
        return 0 if self.amount is None else edges_passed(self.amount, self.edges)


def edges_passed(amount: float, edges: tuple[float, ...]) -> int:
    """Return how many of ``edges``, in rising order, an amount has passed."""
    return bisect_right(edges, amount)


@frozen
class HeightReading:
    """The reading at a ``height`` (mm): ``signs`` can turn, ``amounts`` by name are used by conditions."""

    height: float
    signs: Mapping[Sign, StateAtHeight]
    amounts: Mapping[str, float]

    @property
    def is_refused(self) -> bool:
        """Whether the figure cannot be made at that height."""
        return REFUSED in self.signs


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
class HeightBand:
    """An interval of heights (mm); an open end is where reading stopped."""

    from_mm: float
    to_mm: float
    open_below: bool = False
    open_above: bool = False

    def contains(self, height: float) -> bool:
        """Return whether it contains a height."""
        return self.from_mm <= height <= self.to_mm

    def inner(self, step: float) -> HeightBand:
        """Return the interval shrunk to multiples of ``step`` (mm), or unchanged if it contains none."""
        low = math.ceil(self.from_mm / step - 1e-9) * step
        high = math.floor(self.to_mm / step + 1e-9) * step
        return HeightBand(low, high, self.open_below, self.open_above) if low <= high else self


@frozen
class HeightWindow:
    """The interval of heights (mm) at which something is available."""

    from_mm: float
    to_mm: float
    kind: str
    part: str | None
    text: Fact


def intersect_bands(
    some: Iterable[HeightBand], others: Sequence[HeightBand]
) -> tuple[HeightBand, ...]:
    """Return the intersection of two lists of bands."""
    found = []
    for a in some:
        for b in others:
            lower, upper = max(a, b, key=lambda x: x.from_mm), min(a, b, key=lambda x: x.to_mm)
            if lower.from_mm <= upper.to_mm:
                ends = lower.from_mm, upper.to_mm
                found.append(HeightBand(*ends, lower.open_below, upper.open_above))
    return tuple(found)


@frozen
class Sensible:
    """The heights without decisions, and the first question beyond each end; None where nothing was read
    beyond."""

    band: HeightBand
    below: Fact | None
    above: Fact | None


def sensible_about(
    height: float, bands: Sequence[HeightBand], turns: Sequence[Turn]
) -> Sensible | None:
    """Return the band without decisions that contains a height (mm), or is nearest to it, with the questions
    beyond its ends; None if there are no bands."""
    if not bands:
        return None
    band = min(bands, key=lambda b: max(b.from_mm - height, height - b.to_mm, 0.0))
    asked = [turn for turn in turns if turn.kind == "question"]

    def at(end: float, is_open: bool) -> Turn | None:
        near = [t for t in asked if abs(t.height_mm - end) <= 1.5 * turn_tolerance(end)]
        return None if is_open else min(near, key=lambda t: abs(t.height_mm - end), default=None)

    below, above = at(band.from_mm, band.open_below), at(band.to_mm, band.open_above)
    return Sensible(band, below.below if below else None, above.text if above else None)


_ACROSS = {"wide": np.array([1.0, 0.0, 0.0]), "deep": np.array([0.0, 1.0, 0.0])}


def amounts_of(plan: Plan, bench: Bench) -> dict[str, float]:
    """Return all amounts of a plan by name."""
    return dict(_amounts_of(plan, bench))


def _amounts_of(plan: Plan, bench: Bench) -> Iterator[tuple[str, float]]:
    yield "minutes", plan.minutes
    yield "grams", plan.balance.mass_g
    yield "cost", float(cost_of(plan, bench).total)
    yield "questions", float(len(plan.waiting))
    for total in plan.wools:
        have = bench.wool_by_id[total.wool].grams or 0.0
        yield f"short:{total.wool}", total.own_g - have
    yield "wire", sum((sum(cut.cuts) for cut in plan.cutting if cut.to_buy), 0.0)
    for row in plan.fittings:
        yield f"eyes:{row.id}", row.wanted_mm
    for part in plan.parts:
        for measure, mm in part.to_mm.items():
            yield f"size:{part.id}.{measure}", mm
    if plan.resized.figure.stance != "hanging":
        yield "tip", plan.balance.tip_angle_deg
    yield from overall_size(plan).items()


def overall_size(plan: Plan) -> dict[str, float]:
    """Return how far a figure reaches in height, width and depth (mm), ears and all."""
    if not plan.resized.even:
        return _reaches_of(plan.solids.placement)
    return {name: mm * plan.scale for name, mm in _as_made(plan.resized.was).items()}


@remembered(4)
def _as_made(figure: Figure) -> dict[str, float]:
    return _reaches_of(place(figure))


def _reaches_of(placement: Placement) -> dict[str, float]:
    found = {"high": float(placement.down_up[:, 1].max()) - placement.ground}
    for name, way in _ACROSS.items():
        far = max(copy.reach(way) for copy in placement.copies)
        found[name] = far + max(copy.reach(-way) for copy in placement.copies)
    return found
