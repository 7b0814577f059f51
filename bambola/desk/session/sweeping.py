"""Sweeps the heights of a figure in a process of its own, a short piece of work for each call."""

from __future__ import annotations

import gc
import os
import time
from collections import deque
from collections.abc import Iterator, Sequence
from typing import Any, TypeAlias

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.frozen import frozen
from bambola.core.heights.conditions import Answer, Condition, MetCondition
from bambola.core.heights.search import Readings
from bambola.core.heights.values import HeightReading, HeightWindow, Turn
from bambola.core.heights.whole import Heights, SizeSeries, sizes_of
from bambola.core.plan import draft_plan
from bambola.core.plan.making.made import as_made
from bambola.core.solids import CopySolid, Placement
from bambola.desk.running.worker_process import EndedError, WorkerProcess

SLICE_S = 0.2
"""So long at most is swept for one call: who called may have no more use for it. Judged."""
_MADE_AT_ONCE = 50_000
"""So many values are made before it is looked for those that hang on themselves: a draft makes thousands, and
none of them do."""
PARTNER = "bambola.desk.session.sweeping:second_sweep_process"
"""What the second process is to be made of."""
_Span: TypeAlias = tuple[float, float]
_Read: TypeAlias = dict[float, HeightReading | None]


@frozen
class Swept:
    """The result of a sweep besides the turns: the range of heights (mm), what is available where, and the
    heights at which general conditions hold, the first being that no question arises."""

    low: float
    high: float
    fits: tuple[HeightWindow, ...]
    usual: tuple[MetCondition, ...]


class Partner:
    """Sweeps spans of heights of the figure it was last given."""

    def __init__(self) -> None:
        self._heights: Heights | None = None

    def __call__(self, what: str, *given: object) -> Any:
        """Call the method named in the request, and return its result."""
        return getattr(self, f"_{what}")(*given)

    def _begin_figure(
        self, figure: Figure, brief: Brief, bench: Bench, known: tuple[CopySolid, ...] | None
    ) -> None:
        as_made(figure, bench, before=known)
        self._heights = Heights(figure, brief, bench)

    def _sweep_span(self, span: _Span, known: _Read) -> tuple[list[Turn], _Read]:
        """Return the turns of a span and the readings behind them; ``known`` readings are reused."""
        assert self._heights is not None
        readings = self._heights.readings
        readings.learn(known)
        found = [turn for turns in readings.between(*span) for turn in turns]
        return found, readings.within(*span)


class Sweeping(Partner):
    """Sweeps all heights, and answers from the readings. A partner process takes the next span whenever it is
    free; if it dies, its span is swept here."""

    def __init__(self, partner: WorkerProcess | None = None) -> None:
        super().__init__()
        self._partner = partner
        self._to_tell: tuple[object, ...] | None = None
        """What the partner must be told before it sweeps."""
        self._asked: int | None = None
        """The number of the process that has still to answer."""
        self._partners: _Span | None = None
        """The span that the partner is at."""
        self._own: Iterator[tuple[Turn, ...]] | None = None
        self._waiting: deque[_Span] = deque()
        self._done = 0

    def _begin_figure(
        self, figure: Figure, brief: Brief, bench: Bench, known: tuple[CopySolid, ...] | None
    ) -> None:
        super()._begin_figure(figure, brief, bench, known)
        assert self._heights is not None
        self._waiting, self._done = deque(self._heights.spans), 0
        self._own = self._partners = None
        self._to_tell = ("begin_figure", figure, brief, bench, known)
        if self._partner is not None:
            self._partner.wake()

    def _sweep_on(self) -> tuple[float, tuple[Turn, ...]]:
        """Sweep for a moment; return the share done and the findings."""
        until = time.monotonic() + SLICE_S
        new: list[Turn] = []
        while (self._own or self._waiting or self._partners) and time.monotonic() < until:
            new += self._from_partner()
            if self._own is None and self._waiting:
                self._own = self._readings_so_far.between(*self._waiting.popleft())
            if self._own is None:
                assert self._partner is not None
                self._partner.has_answered(until - time.monotonic())
            elif (turns := next(self._own, None)) is not None:
                new += turns
            else:
                self._own = None
                self._done += 1
        left = len(self._waiting) + (self._own is not None) + (self._partners is not None)
        return self._done / (self._done + left), tuple(new)

    def _from_partner(self) -> Sequence[Turn]:
        """Return the partner's findings, and give it the next span if it is free."""
        partner = self._partner
        if partner is None or not partner.is_up:
            return ()
        found: Sequence[Turn] = ()
        try:
            if self._asked == partner.number:
                if not partner.has_answered():
                    return ()
                self._asked = None
                came = partner.answer()
                if self._partners is not None:  # else it was asked of another figure
                    found, read = came
                    self._readings_so_far.learn(read)
                    self._partners = None
                    self._done += 1
            if self._to_tell is not None:
                partner.send(*self._to_tell)
                self._asked, self._to_tell = partner.number, None
            elif self._waiting:
                self._partners = span = self._waiting.popleft()
                partner.send("sweep_span", span, self._readings_so_far.known_at(span))
                self._asked = partner.number
        except EndedError:
            partner.end()
            if self._partners is not None:
                self._waiting.appendleft(self._partners)
                self._partners = None
        return found

    @property
    def _readings_so_far(self) -> Readings:
        assert self._heights is not None
        return self._heights.readings

    def _sweep_result(self) -> Swept:
        """Return the result of a finished sweep besides the turns."""
        heights = self._heights
        assert heights is not None
        fits, usual = tuple(heights.fits()), tuple(map(heights.met_at, heights.usual()))
        return Swept(heights.low, heights.high, fits, usual)

    def _answer_conditions(self, conditions: Sequence[Condition]) -> Answer:
        assert self._heights is not None
        while self._sweep_on()[0] < 1.0:
            pass  # there is nothing left of it, but where another process has swept
        return self._heights.answer(conditions)

    def _compare_heights(
        self, heights: Sequence[float]
    ) -> tuple[SizeSeries, tuple[Placement, ...]]:
        whole = self._heights
        assert whole is not None
        plans = [
            draft_plan(whole.figure, whole.brief.at_height(mm), whole.bench)
            for mm in sorted(heights)
        ]
        return sizes_of(plans, whole.bench), tuple(plan.solids.placement for plan in plans)


def sweep_process() -> Sweeping:
    """Return the reader of heights for a process of its own, with a second process where there is a core for
    it."""
    partner = WorkerProcess(PARTNER) if len(os.sched_getaffinity(0)) > 1 else None
    if partner is not None:
        partner.wake()
    _get_ready()
    return Sweeping(partner)


def second_sweep_process() -> Partner:
    """Return the reader of heights for the second process."""
    _get_ready()
    return Partner()


def _get_ready() -> None:
    import scipy.optimize  # noqa: F401 - else it is loaded in the midst of the first sweep

    gc.freeze()
    gc.set_threshold(_MADE_AT_ONCE)
