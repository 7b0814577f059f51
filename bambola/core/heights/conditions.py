"""Conditions on a height, one class each, and the heights that meet them.

A condition computes a margin from a reading: how much is to spare, negative if it is not met, in its own
unit.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import ClassVar, Protocol

from bambola.core.bench import Bench, Niche
from bambola.core.facts import NOTHING, Exact, Fact, Grams, SoldSize, fact
from bambola.core.figure import Figure
from bambola.core.figure.questions import BoughtGarment
from bambola.core.frozen import frozen
from bambola.core.heights.values import HeightBand, HeightReading, intersect_bands
from bambola.core.resize import EYE_TOLERANCE
from bambola.core.resize.laws import measure_fact

WITHIN_MM = 0.25
"""A part is of the size that is asked for within half of what a hand works to, mm. Judged. See craft.md,
11."""


class Condition(Protocol):
    """A condition on a height. ``told`` is its text."""

    @property
    def told(self) -> Fact:
        """The condition as a fact."""

    def margin(self, reading: HeightReading) -> float:
        """Return the margin, negative if the condition is not met."""


@frozen
class WoolOnShelf:
    """No wool is to be bought."""

    told: ClassVar[Fact] = Fact("asked.wool")

    def margin(self, reading: HeightReading) -> float:
        """Return what would be left of the scarcest wool, g."""
        amounts = reading.amounts.items()
        short = (amount for name, amount in amounts if name.startswith("short:"))
        return -max(short, default=0.0) + 1e-9


@frozen
class WireOnShelf:
    """No wire is to be bought."""

    told: ClassVar[Fact] = Fact("asked.wire")

    def margin(self, reading: HeightReading) -> float:
        """Return minus the missing length, mm."""
        return -reading.amounts["wire"]


@frozen
class EyesOf:
    """Eyes of a ``size`` (mm) are right for the fittings with these ids."""

    size: float
    fittings: tuple[str, ...]

    @property
    def told(self) -> Fact:
        return fact("asked.eyes", size=SoldSize(self.size))

    def margin(self, reading: HeightReading) -> float:
        """Return the allowed minus the actual deviation, as a share of the wanted size."""
        wanted = [reading.amounts.get(f"eyes:{one}") for one in self.fittings]
        off = (abs(self.size / mm - 1) if mm else 1.0 for mm in wanted)
        return EYE_TOLERANCE - max(off, default=1.0)


@frozen
class AtMost:
    """An ``amount`` (:mod:`bambola.core.heights.values`) is at most ``most``; ``told`` is its text."""

    amount: str
    most: float
    told: Fact

    def margin(self, reading: HeightReading) -> float:
        """Return the rest up to the limit."""
        return self.most - reading.amounts[self.amount] + 1e-9


@frozen
class SizeOf:
    """A measure of a part (``PART.MEASURE``) has this size, mm."""

    measure: str
    mm: float
    told: Fact

    def excess_mm(self, reading: HeightReading) -> float:
        """Return by how much it is larger, mm."""
        return reading.amounts.get(f"size:{self.measure}", 0.0) - self.mm

    def margin(self, reading: HeightReading) -> float:
        """Return the allowed minus the actual deviation, mm."""
        return WITHIN_MM - abs(self.excess_mm(reading))


@frozen
class FitsPlace:
    """The figure fits the place it is for."""

    niche: Niche

    @property
    def told(self) -> Fact:
        return fact("asked.niche", where=self.niche.name)

    def margin(self, reading: HeightReading) -> float:
        """Return the room left at the tightest place, mm."""
        return min(float(room) - reading.amounts[side] for side, room in self.niche.sides.items())


@frozen
class ReadyBy:
    """The figure is ready by a ``day``, begun on the ``first``, with a day to dry, a day to mend and a
    reserve."""

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
    """The bought garment of the part with this id fits."""

    part: str
    name: str

    @property
    def told(self) -> Fact:
        return fact("asked.garment", part=self.name)

    def margin(self, reading: HeightReading) -> float:
        """Return a negative number if it does not fit."""
        return -float(("question", BoughtGarment(self.part).code) in reading.signs)


@frozen
class StandsUpright:
    """The figure stands."""

    told: ClassVar[Fact] = Fact("asked.stands")

    def margin(self, reading: HeightReading) -> float:
        """Return the lean that it bears, degrees; a hanging figure need not stand."""
        return reading.amounts.get("tip", 0.0)


@frozen
class NoQuestions:
    """Nothing has to be decided or mended."""

    told: ClassVar[Fact] = Fact("asked.nothing-to-decide")

    def margin(self, reading: HeightReading) -> float:
        """Return minus the number of questions."""
        return -reading.amounts["questions"]


@frozen
class MetCondition:
    """A condition, and the heights at which it is met."""

    told: Fact
    bands: tuple[HeightBand, ...]


@frozen
class Answer:
    """Conditions one by one and the heights that meet ``together`` all of them; where there are none,
    ``why`` says which cannot be met. ``best`` is the tallest."""

    each: tuple[MetCondition, ...]
    together: tuple[HeightBand, ...]
    why: Fact

    @property
    def best(self) -> float | None:
        """The tallest height that meets all (mm); None if none does."""
        return self.together[-1].to_mm if self.together else None


def answer_of(each: tuple[MetCondition, ...], all_of_it: HeightBand) -> Answer:
    """Return the heights that meet all of several conditions, out of all heights examined."""
    together: tuple[HeightBand, ...] = (all_of_it,)
    for met in each:
        together = intersect_bands(together, met.bands)
    return Answer(each, together, NOTHING if together else _why_none(each))


def _why_none(each: Sequence[MetCondition]) -> Fact:
    """Return why no height meets all: one that none meets, two that exclude each other, or all of them
    together."""
    for met in each:
        if not met.bands:
            return fact("asked.never", what=met.told)
    for i, one in enumerate(each):
        for other in each[:i]:
            if not intersect_bands(one.bands, other.bands):
                return fact("asked.both", one=_reached_heights(other), other=_reached_heights(one))
    return Fact("asked.not-all")


def _reached_heights(met: MetCondition) -> Fact:
    band = met.bands[-1]
    return fact("asked.reach", what=met.told, low=Exact(band.from_mm), high=Exact(band.to_mm))


def hours_at_most(hours: float) -> AtMost:
    """Return the condition to take at most so many hours."""
    return AtMost("minutes", hours * 60, fact("asked.hours", hours=hours))


def grams_at_most(grams: float) -> AtMost:
    """Return the condition to weigh at most so many g when finished."""
    return AtMost("grams", grams, fact("asked.grams", grams=Grams(grams)))


def size_is(part: str, named: str, mm: float) -> SizeOf:
    """Return the condition that a measure (``named`` by ``PART.MEASURE``) of the part called ``part`` has
    this size, mm."""
    measure = measure_fact(named.partition(".")[2])
    return SizeOf(named, mm, fact("asked.size", part=part, measure=measure, size=Exact(mm)))


def sized_eyes(figure: Figure) -> tuple[str, ...]:
    """Return the ids of fittings that come in fixed sizes."""
    return tuple(one.id for one in figure.fittings if one.follows == "ready-made")


def cost_at_most(money: float, bench: Bench) -> AtMost:
    """Return the condition to cost at most so much."""
    return AtMost("cost", money, fact("asked.cost", money=bench.money_text(money)))
