"""Weighing a portion on a pan: the target, how the reading compares, and when the portion is recorded.

There is no clock or scale here: each reading comes with its time, and the state after it is a new value.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from bambola.core.bench.wools import PACKED_DENSITY, Size3
from bambola.core.frozen import frozen
from bambola.core.wool.portion import Portion

HARD = PACKED_DENSITY["hard"]
"""g/cm³: the practical maximum by hand. What is felted as hard as this does not get smaller."""
CLOSE_SHARE, CLOSE_MM = 0.03, 0.5
"""A size is reached within 3 per cent or half a millimetre. Judged. See craft.md, 7."""
PAIR_SIZE = 0.06
PAIR_WEIGHT = 0.08
"""The two of a pair may differ by so much in size and weight. See craft.md, 7."""

Repair = Literal["right", "felt on", "add", "take off"]


@frozen
class Mending:
    """What to do with a piece: ``grams`` to add or take off (else 0). ``density_now`` and the density to end
    at, g/cm³; ``too_big`` is its excess size as a share."""

    action: Repair
    grams: float
    density_now: float
    density_then: float
    too_big: float


def right_size_range(mm: float) -> tuple[float, float]:
    """Return the range of a size that counts as right."""
    off = max(CLOSE_SHARE * mm, CLOSE_MM)
    return max(0.0, mm - off), mm + off


def is_right_size(now_mm: Sequence[float], wanted_mm: Sequence[float]) -> bool:
    """Return whether all sizes count as right."""
    ranges = zip(now_mm, map(right_size_range, wanted_mm), strict=True)
    return all(low <= mm <= high for mm, (low, high) in ranges)


def mend(grams_in: float, now_mm: Size3, wanted_mm: Size3, wanted_cm3: float) -> Mending:
    """Return what to do with a piece of ``grams_in`` that measures ``now_mm`` and should be ``wanted_mm``.
    ``wanted_cm3`` is its finished net volume; its present volume follows from its three measures."""
    grown = math.prod(now_mm) / math.prod(wanted_mm)
    volume = wanted_cm3 * grown
    now, off = grams_in / volume, grown ** (1 / 3) - 1
    if is_right_size(now_mm, wanted_mm):
        return Mending("right", 0.0, now, now, off)
    if off < 0:
        return Mending("add", (wanted_cm3 - volume) * now, now, now, off)
    then = grams_in / wanted_cm3
    if then <= HARD * (1 + 1e-9):
        return Mending("felt on", 0.0, now, then, off)
    if now >= HARD:
        return Mending("take off", grams_in - now * wanted_cm3, now, now, off)
    return Mending("take off", grams_in - HARD * wanted_cm3, now, HARD, off)


HOLD_S = 1.0
"""A weight steady within its band for so long is taken down. Judged. See craft.md, 7."""
ZERO_STEPS = 1.0
"""An empty pan that shows no more than so many steps has drifted, and that is taken for nought: no more,
since a first tuft may be as light. Judged. See craft.md, 7."""
LIFTED_STEPS = 3.0
"""What a pan may show that was just lifted clear, and be taken for nought: it may have drifted all the while
it was laden. Judged. See craft.md, 7."""
EMPTY_SHARE = 0.2
"""A pan is lifted clear when less than this share of what was taken down lies on it. Judged.
See craft.md, 7."""

Standing = Literal["lift off", "empty", "more", "hold still", "right", "less", "over"]


@frozen
class WeighingTarget:
    """The target of a weighing: between ``least`` and ``most``, at best ``best`` (g). ``parts`` > 1 is a lump
    torn into that many equal parts, since the scale cannot show one."""

    least: float
    most: float
    best: float
    parts: int = 1

    def standing(self, grams: float, step: float) -> Standing:
        """Return how ``grams`` compare to the target on a scale with steps of ``step`` g, allowing half a
        step."""
        slack = step / 2 * 1.001
        if grams < max(step, EMPTY_SHARE * self.least):
            return "empty"
        if grams < self.least - slack:
            return "more"
        return "less" if grams > self.most + slack else "right"


def aim_for(portion: Portion, step: float, twin_g: float | None = None) -> WeighingTarget:
    """Return the target for ``portion``: its band; a lump to tear; or for a twin the weight of the first.
    ``twin_g`` is the weight of the first of the pair, from which the other may differ by 8 %."""
    most = portion.take_g + portion.keep_by_g
    if portion.tear is not None:
        lump = portion.tear.weigh_g
        return WeighingTarget(lump, lump, lump, portion.tear.parts)
    if twin_g is not None:
        return WeighingTarget(twin_g * (1 - PAIR_WEIGHT), twin_g * (1 + PAIR_WEIGHT), twin_g)
    best = min(max(portion.take_g, round(portion.take_g / step) * step), most)
    return WeighingTarget(portion.take_g, most, best)


@frozen
class PanState:
    """The pan between two readings. ``zero`` is the reading of the empty pan, ``grams`` the net weight,
    ``since`` the time (s) it became steady in its band, ``lying`` a recorded portion not yet lifted off (g).
    ``taken`` is the weight recorded by this reading, otherwise None."""

    zero: float = 0.0
    grams: float = 0.0
    standing: Standing = "empty"
    since: float | None = None
    lying: float = 0.0
    taken: float | None = None

    def tared(self) -> PanState:
        """Return the pan tared: what lies on it now (a bowl, or drift) counts for nothing."""
        return replace(self, zero=self.zero + self.grams, grams=0.0, since=None)

    def lifted(self) -> PanState:
        """Return the pan after a portion was recorded: it must be lifted off before the next."""
        return replace(self, lying=max(self.grams, 0.0), since=None, taken=None)

    @property
    def clear(self) -> bool:
        """Whether the last portion was lifted off."""
        return self.lying == 0.0


def after_reading(
    state: PanState, shown: float, kind: str, at: float, aim: WeighingTarget, step: float
) -> PanState:
    """Return the pan after the scale showed ``shown`` g at time ``at`` (s); ``kind`` steady, moving or
    over."""
    grams = shown - state.zero
    if kind == "over":
        return replace(state, grams=grams, standing="over", since=None, taken=None)
    if not state.clear:
        if grams > max(step, EMPTY_SHARE * state.lying):
            return replace(state, grams=grams, standing="lift off", since=None, taken=None)
        state = replace(state, grams=grams, standing="lift off", since=None, taken=None)
        if kind == "steady":
            drifted = abs(grams) <= LIFTED_STEPS * step * 1.001
            zero = shown if drifted else state.zero
            return replace(state, zero=zero, grams=shown - zero, lying=0.0, standing="empty")
        return state
    standing = aim.standing(grams, step)
    if kind != "steady":
        return replace(
            state,
            grams=grams,
            standing="hold still" if standing == "right" else standing,
            since=None,
            taken=None,
        )
    settled = abs(grams - state.grams) < step / 2
    if standing == "empty" and settled and abs(grams) <= ZERO_STEPS * step * 1.001:
        return replace(state, zero=shown, grams=0.0, standing="empty", since=None, taken=None)
    if standing != "right":
        return replace(state, grams=grams, standing=standing, since=None, taken=None)
    since = at if state.since is None else state.since
    if at - since < HOLD_S:
        return replace(state, grams=grams, standing="hold still", since=since, taken=None)
    return replace(state, grams=grams, standing="right", since=since, taken=grams)
