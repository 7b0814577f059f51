"""Conditions that a height is to meet, one class each, and the heights that meet them.

A condition has a margin on a reading: how much is to spare, below nought where it is not met. Its unit is
its own.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import ClassVar, Protocol

from bambola.core.bench import Bench, Niche
from bambola.core.facts import NOTHING, Bought, Exact, Fact, Grams, fact
from bambola.core.figure import Figure
from bambola.core.figure.questions import BoughtGarment
from bambola.core.frozen import frozen
from bambola.core.heights.values import HeightBand, HeightReading, common
from bambola.core.resize import EYE_TOLERANCE
from bambola.core.resize.laws import measure_fact

WITHIN_MM = 0.25
"""A part is of the size that is asked for within half of what a hand works to, mm. Judged. See craft.md,
11."""


class Condition(Protocol):
    """What a height is to meet. ``told`` is how it is said."""

    @property
    def told(self) -> Fact:
        """What is asked for."""

    def margin(self, reading: HeightReading) -> float:
        """Return how much there is to spare, below nought where it is not met."""


@frozen
class WoolOnShelf:
    """No wool is to be bought."""

    told: ClassVar[Fact] = Fact("asked.wool")

    def margin(self, reading: HeightReading) -> float:
        """Return what is left over of the wool that is scarcest, g."""
        amounts = reading.amounts.items()
        short = (amount for name, amount in amounts if name.startswith("short:"))
        return -max(short, default=0.0) + 1e-9


@frozen
class WireOnShelf:
    """No wire is to be bought."""

    told: ClassVar[Fact] = Fact("asked.wire")

    def margin(self, reading: HeightReading) -> float:
        """Return what is missing, below nought, mm."""
        return -reading.amounts["wire"]


@frozen
class EyesOf:
    """Eyes of a ``size`` (mm) are right, for the fittings of these ids."""

    size: float
    fittings: tuple[str, ...]

    @property
    def told(self) -> Fact:
        return fact("asked.eyes", size=Bought(self.size))

    def margin(self, reading: HeightReading) -> float:
        """Return how much further off than it is they may be, as a share of the wanted size."""
        wanted = [reading.amounts.get(f"eyes:{one}") for one in self.fittings]
        off = (abs(self.size / mm - 1) if mm else 1.0 for mm in wanted)
        return EYE_TOLERANCE - max(off, default=1.0)


@frozen
class AtMost:
    """Of an ``amount`` (:mod:`bambola.core.heights.amounts`) no more than ``most``; ``told`` says so."""

    amount: str
    most: float
    told: Fact

    def margin(self, reading: HeightReading) -> float:
        """Return what is to spare of it."""
        return self.most - reading.amounts[self.amount] + 1e-9


@frozen
class SizeOf:
    """A measure of a part, by ``PART.MEASURE``, is so many mm."""

    measure: str
    mm: float
    told: Fact

    def off(self, reading: HeightReading) -> float:
        """By how much it is larger, mm."""
        return reading.amounts.get(f"size:{self.measure}", 0.0) - self.mm

    def margin(self, reading: HeightReading) -> float:
        """Return how much further off than it is it may be, mm."""
        return WITHIN_MM - abs(self.off(reading))


@frozen
class Fits:
    """It goes where it is to stand."""

    niche: Niche

    @property
    def told(self) -> Fact:
        return fact("asked.niche", where=self.niche.name)

    def margin(self, reading: HeightReading) -> float:
        """Return the room that is left where it is tightest, mm."""
        return min(float(room) - reading.amounts[side] for side, room in self.niche.sides.items())


@frozen
class ReadyBy:
    """To be ready by a ``day``, with a day to dry and a day to mend and a reserve, begun on the ``first``."""

    day: date
    first: date

    @property
    def told(self) -> Fact:
        return fact("asked.ready", day=self.day.isoformat())

    def margin(self, reading: HeightReading) -> float:
        """Return the days to spare."""
        return self.day.toordinal() - reading.amounts["ready"]


@frozen
class GarmentFits:
    """A bought garment fits, of the part of this id."""

    part: str
    name: str

    @property
    def told(self) -> Fact:
        return fact("asked.garment", part=self.name)

    def margin(self, reading: HeightReading) -> float:
        """Below nought where it is asked about."""
        return -float(("question", BoughtGarment(self.part).code) in reading.signs)


@frozen
class Stands:
    """It stands."""

    told: ClassVar[Fact] = Fact("asked.stands")

    def margin(self, reading: HeightReading) -> float:
        """Return the lean that it bears, degrees; a figure that hangs need not stand."""
        return reading.amounts.get("tip", 0.0)


@frozen
class NoQuestions:
    """Nothing is to be decided or mended."""

    told: ClassVar[Fact] = Fact("asked.nothing-to-decide")

    def margin(self, reading: HeightReading) -> float:
        """Minus the number of questions."""
        return -reading.amounts["questions"]


@frozen
class Met:
    """A condition, and the heights at which it is met."""

    told: Fact
    bands: tuple[HeightBand, ...]


@frozen
class Answer:
    """Conditions one by one and the heights that meet ``together`` all of them; where there are none,
    ``why`` says which cannot be met. ``best`` is the tallest."""

    each: tuple[Met, ...]
    together: tuple[HeightBand, ...]
    why: Fact

    @property
    def best(self) -> float | None:
        """The tallest height that meets all (mm); None if none does."""
        return self.together[-1].to_mm if self.together else None


def answer_of(each: tuple[Met, ...], all_of_it: HeightBand) -> Answer:
    """Return what conditions that were met one by one come to together, of all heights that were looked
    at."""
    together: tuple[HeightBand, ...] = (all_of_it,)
    for met in each:
        together = common(together, met.bands)
    return Answer(each, together, NOTHING if together else _why(each))


def _why(each: Sequence[Met]) -> Fact:
    """Return why no height meets all: one that none meets, two that exclude each other, or all of them
    together."""
    for met in each:
        if not met.bands:
            return fact("asked.never", what=met.told)
    for i, one in enumerate(each):
        for other in each[:i]:
            if not common(one.bands, other.bands):
                return fact("asked.both", one=_reach(other), other=_reach(one))
    return Fact("asked.not-all")


def _reach(met: Met) -> Fact:
    band = met.bands[-1]
    return fact("asked.reach", what=met.told, low=Exact(band.from_mm), high=Exact(band.to_mm))


def hours_at_most(hours: float) -> AtMost:
    """To be made in so many hours."""
    return AtMost("minutes", hours * 60, fact("asked.hours", hours=hours))


def grams_at_most(grams: float) -> AtMost:
    """To weigh no more than so many g when it is finished."""
    return AtMost("grams", grams, fact("asked.grams", grams=Grams(grams)))


def size_is(part: str, named: str, mm: float) -> SizeOf:
    """Return a measure, ``named`` by ``PART.MEASURE``, of the part that is called ``part`` to be so many
    mm."""
    measure = measure_fact(named.partition(".")[2])
    return SizeOf(named, mm, fact("asked.size", part=part, measure=measure, size=Exact(mm)))


def sized_eyes(figure: Figure) -> tuple[str, ...]:
    """Return the fittings of a figure that come in sizes of their own, by their ids."""
    return tuple(one.id for one in figure.fittings if one.follows == "ready-made")


def cost_at_most(money: float, bench: Bench) -> AtMost:
    """To cost no more than so much."""
    return AtMost("cost", money, fact("asked.cost", money=bench.told(money)))
