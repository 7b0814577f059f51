"""Finds the heights at which something turns: plans are read at many heights, and intervals with a difference
are bisected.

Whatever turns at one height may change others (stouter wire asks for a stouter limb), so readings are
compared as a whole; between two equal readings nothing is searched.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterable, Iterator, Mapping

import numpy as np

from bambola.core.facts import Fact, fact
from bambola.core.heights.kinds import KIND_BY_ID
from bambola.core.heights.values import (
    REFUSED,
    HeightBand,
    HeightReading,
    Sign,
    StateAtHeight,
    Turn,
    turn_tolerance,
)

SPAN = (0.2, 6.0)
"""So many times as large as it was made a figure is looked at. Within what the laws are trusted over. See
craft.md, 11."""
STEP = 1.06
"""Each height that is read first is so many times the one before. Judged by us: what turns and turns back
between two, and moves nothing else, is not found; a sweep in millimetres found none that was missed."""
Read = Callable[[float], HeightReading | None]
Margin = Callable[[HeightReading], float]
"""How much there is to spare of something at a height, below nought where it is missed."""


def geometric_heights(low: float, high: float, step: float) -> list[float]:
    """Return heights (mm) from one to another, each ``step`` times the one before."""
    n = max(2, math.ceil(math.log(high / low) / math.log(step)) + 1)
    return [float(height) for height in np.geomspace(low, high, n)]


def sweep_intervals(
    low: float, high: float, about: float | None = None
) -> list[tuple[float, float]]:
    """Return intervals (mm) to sweep one at a time, those nearest to ``about`` first."""
    first = low if about is None else about
    between = itertools.pairwise(geometric_heights(low, high, STEP))
    return sorted(between, key=lambda ends: max(ends[0] - first, first - ends[1]))


class Readings:
    """The readings so far, by height. ``read`` is called once for each."""

    def __init__(self, read: Read) -> None:
        self._read = read
        self._of: dict[float, HeightReading | None] = {}

    def at_height(self, height: float) -> HeightReading | None:
        """Return the reading at a height (mm); None if it cannot be met."""
        if height not in self._of:
            self._of[height] = self._read(height)
        return self._of[height]

    @property
    def known(self) -> list[HeightReading]:
        """All readings, from the lowest height up."""
        return [found for _, found in sorted(self._of.items()) if found is not None]

    def learn(self, read: Mapping[float, HeightReading | None]) -> None:
        """Merge readings computed in another process, keyed by height."""
        self._of.update(read)

    def known_at(self, heights: Iterable[float]) -> dict[float, HeightReading | None]:
        """Return the known readings at these heights."""
        return {height: self._of[height] for height in heights if height in self._of}

    def within(self, below: float, above: float) -> dict[float, HeightReading | None]:
        """Return the readings between two heights."""
        return {height: read for height, read in self._of.items() if below <= height <= above}

    def sweep(self, low: float, high: float) -> Iterator[Turn]:
        """Yield the turns between two heights (mm)."""
        for below, above in sweep_intervals(low, high):
            for turns in self.between(below, above):
                yield from turns

    def between(self, below: float, above: float) -> Iterator[tuple[Turn, ...]]:
        """Yield the turns of one span (mm) at its end; yields None after each reading."""
        a, b = self.at_height(below), self.at_height(above)
        yield ()
        found: list[Turn] = []
        if a is not None and b is not None:
            for _ in self._bisect(a, b, found):
                yield ()
        yield tuple(found)

    def _bisect(self, a: HeightReading, b: HeightReading, turns: list[Turn]) -> Iterator[None]:
        """Find the turns between two readings by bisection; yields after each reading."""
        waiting = [(a, b, 0)]
        while waiting:
            a, b, deep = waiting.pop()
            differ = _differing_signs(a, b)
            if not differ:
                continue
            if b.height - a.height <= turn_tolerance(a.height):
                middle = (a.height + b.height) / 2
                turns += (_make_turn(a, b, sign, middle) for sign in differ)
            elif all(_crosses_edge(a, b, sign) for sign in differ):
                turns += (
                    _make_turn(a, b, sign, next(_predicted_crossings(a, b, sign)))
                    for sign in differ
                )
            else:
                between = self.at_height(_step_clear_of(a, b, _expected_turn(a, b, differ), deep))
                yield
                if between is not None:
                    waiting += [(between, b, deep + 1), (a, between, deep + 1)]

    def read_between(self, low: float, high: float, step: float) -> None:
        """Read at heights (mm) from one to another, each ``step`` times the one before."""
        for height in geometric_heights(low, high, step):
            self.at_height(height)

    def aim(self, off: Margin, low: float, high: float, within: float) -> None:
        """Read where ``off`` changes sign, to ``within``: a condition of equality holds only at such
        points."""
        known = [reading for reading in self.known if low <= reading.height <= high]
        for a, b in itertools.pairwise(one for one in known if not one.is_refused):
            while off(a) * off(b) < 0 and min(abs(off(a)), abs(off(b))) > within:
                if b.height - a.height <= within:
                    break  # it jumps here, and is never just so
                at = _interpolate_crossing(a.height, b.height, off(a), off(b), 0.0)
                middle = self.at_height(at) if a.height < at < b.height else None
                if middle is None or middle.is_refused:
                    break
                a, b = (middle, b) if off(middle) * off(a) > 0 else (a, middle)

    def bands(self, margin: Margin, low: float, high: float) -> tuple[HeightBand, ...]:
        """Return the intervals (mm), between heights that were read, in which ``margin`` is not negative."""
        known = [reading for reading in self.known if low <= reading.height <= high]
        found: list[HeightBand] = []

        def sure(reading: HeightReading) -> float:
            return -1.0 if reading.is_refused else margin(reading)

        begun: tuple[float, bool] | None = None
        for before, here in itertools.pairwise((None, *known, None)):
            was, holds = (each is not None and sure(each) >= 0 for each in (before, here))
            if holds and not was:
                assert here is not None
                begun = (
                    (self._last_height_met(before, here, sure) if before else here.height),
                    not before,
                )
            elif was and begun is not None and not holds:
                assert before is not None
                end = self._last_height_met(before, here, sure) if here else before.height
                found.append(HeightBand(begun[0], end, begun[1], here is None))
                begun = None
        return tuple(found)

    def _last_height_met(self, a: HeightReading, b: HeightReading, margin: Margin) -> float:
        """Return the last height between two at which the condition holds, seen from where it does."""
        deep = 0
        while b.height - a.height > turn_tolerance(a.height):
            at = _interpolate_crossing(a.height, b.height, margin(a), margin(b), 0.0)
            middle = self.at_height(_step_clear_of(a, b, at, deep))
            if middle is None:
                break
            a, b = (middle, b) if (margin(middle) >= 0) == (margin(a) >= 0) else (a, middle)
            deep += 1
        return a.height if margin(a) >= 0 else b.height


def _differing_signs(a: HeightReading, b: HeightReading) -> list[Sign]:
    """Return what differs between two readings; for one that is refused, only that."""
    if a.is_refused or b.is_refused:
        return [] if a.is_refused and b.is_refused else [REFUSED]
    signs = a.signs.keys() | b.signs.keys()
    return sorted(s for s in signs if _state_of(a.signs.get(s)) != _state_of(b.signs.get(s)))


def _state_of(told: StateAtHeight | None) -> object:
    return None if told is None else told.state


def _crosses_edge(a: HeightReading, b: HeightReading, sign: Sign) -> bool:
    """Return whether the difference is an amount that crosses an edge between two readings, and surely does
    so where predicted: a smooth amount, or a prediction close to one of the readings."""
    one, other = a.signs.get(sign), b.signs.get(sign)
    if one is None or other is None or not (one.counts and other.counts) or other.n - one.n != 1:
        return False
    at = next(_predicted_crossings(a, b, sign))
    return one.smooth or min(at - a.height, b.height - at) <= turn_tolerance(a.height) / 2


def _predicted_crossings(a: HeightReading, b: HeightReading, sign: Sign) -> Iterator[float]:
    """Return the predicted heights at which an amount crosses its edges between two readings, if known at
    both."""
    one, other = a.signs.get(sign), b.signs.get(sign)
    if one is None or other is None or one.amount is None or other.amount is None:
        return
    for edge in other.edges[min(one.n, other.n) : max(one.n, other.n)]:
        yield _interpolate_crossing(a.height, b.height, one.amount, other.amount, edge)


def _predicted_approaches(a: HeightReading, b: HeightReading, sign: Sign) -> Iterator[float]:
    """Return the predicted heights at which an amount comes near to the edge of another of its part."""
    one, other = a.signs.get(sign), b.signs.get(sign)
    if one is None or other is None or one.amount is None or other.amount is None:
        return
    for edge in one.near:
        if (one.amount <= edge) != (other.amount <= edge):
            yield _interpolate_crossing(a.height, b.height, one.amount, other.amount, edge)


def _expected_turn(a: HeightReading, b: HeightReading, differ: Iterable[Sign]) -> float:
    """Return where the first uncertain difference is likely to turn, predicted from its own amount or another
    of its part; NaN without any."""
    unsure = [sign for sign in differ if not _crosses_edge(a, b, sign)]
    own = [at for sign in unsure for at in _predicted_crossings(a, b, sign)]
    if own:
        return min(own)
    parts = {(a.signs.get(sign) or b.signs[sign]).part for sign in unsure} - {None}
    beside = (sign for sign, told in a.signs.items() if told.part in parts)
    return min(
        (at for sign in beside for at in _predicted_approaches(a, b, sign)), default=math.nan
    )


def _interpolate_crossing(low: float, high: float, a: float, b: float, edge: float) -> float:
    """Return where an amount that is ``a`` at one height and ``b`` at another crosses ``edge``, interpolated
    as a power of the height, or else linearly."""
    if a > 0 and b > 0 and edge > 0 and a != b:
        share = math.log(edge / a) / math.log(b / a)
        return float(low * (high / low) ** share)
    return low + (high - low) * ((edge - a) / (b - a) if b != a else 0.5)


def _step_clear_of(a: HeightReading, b: HeightReading, at: float, deep: int) -> float:
    """Return a height close to a predicted turn and clear of both ends, so that two readings soon enclose it;
    every third one is midway, since jumps are not where they are predicted."""
    close = turn_tolerance(a.height)
    if deep % 3 == 2 or not math.isfinite(at):
        return (a.height + b.height) / 2
    aside = at - 0.4 * close if at - a.height > close else at + 0.4 * close
    return min(max(aside, a.height + 0.4 * close), b.height - 0.4 * close)


def _make_turn(a: HeightReading, b: HeightReading, sign: Sign, at: float) -> Turn:
    kind, about = sign
    under, over = a.signs.get(sign), b.signs.get(sign)
    known = over or under
    assert known is not None
    text = _ended_fact(under) if over is None else over.text
    if over is not None and over.passed is not None and under is not None:
        text = over.passed if over.n > under.n else over.text
    below = _ended_fact(over) if under is None else under.text
    return Turn(round(at, 2), kind, about, known.part, KIND_BY_ID[kind].rank, text, below)


def _ended_fact(told: StateAtHeight | None) -> Fact:
    """Return the fact that something no longer holds."""
    assert told is not None
    return fact("turn.not", what=told.text)
