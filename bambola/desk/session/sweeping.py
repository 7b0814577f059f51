"""The heights of a figure as they are swept in a process of their own, a moment's work for each call."""

from __future__ import annotations

import gc
import time
from collections.abc import Generator, Sequence

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.frozen import frozen
from bambola.core.heights.conditions import Answer, Condition, Met
from bambola.core.heights.sizes import Sizes, sizes_of
from bambola.core.heights.values import Fit, Turn
from bambola.core.heights.whole import Heights
from bambola.core.plan import draft_plan
from bambola.core.plan.making.made import as_made
from bambola.core.solids import CopySolid, Placement

SLICE_S = 0.2
"""So long at most is swept for one call: who called may have no more use for it. Judged."""
_MADE_AT_ONCE = 50_000
"""So many values are made before it is looked for those that hang on themselves: a draft makes thousands, and
none of them do."""


@frozen
class Swept:
    """What came of a sweep besides what turns: between which heights (mm), what can be had where, and at
    which heights what is wished of any figure holds; the first of these is that nothing is to be decided."""

    low: float
    high: float
    fits: tuple[Fit, ...]
    usual: tuple[Met, ...]


class Sweeping:
    """Sweeps the heights of the figure that it was last given, and answers out of what it read."""

    def __init__(self) -> None:
        self._heights: Heights | None = None
        self._sweep: Generator[tuple[float, tuple[Turn, ...]], None, None] | None = None

    def __call__(self, what: str, *given: object) -> object:
        """What is asked, by the name of it: ``begin``, ``sweep_on``, ``found``, ``answer``, ``beside``."""
        return getattr(self, f"_{what}")(*given)

    def _begin(
        self, figure: Figure, brief: Brief, bench: Bench, known: tuple[CopySolid, ...] | None
    ) -> None:
        as_made(figure, bench, before=known)
        self._heights = Heights(figure, brief, bench)
        self._sweep = self._heights.sweep()

    def _sweep_on(self) -> tuple[float, tuple[Turn, ...]]:
        """Sweep on for a moment: the share that is done, and what was found."""
        assert self._sweep is not None
        until = time.monotonic() + SLICE_S
        new: list[Turn] = []
        for share, turns in self._sweep:
            new += turns
            if time.monotonic() > until:
                return share, tuple(new)
        return 1.0, tuple(new)

    def _found(self) -> Swept:
        """What came of a sweep that is done, besides what turns."""
        heights = self._heights
        assert heights is not None
        fits, usual = tuple(heights.fits()), tuple(map(heights.met, heights.usual()))
        return Swept(heights.low, heights.high, fits, usual)

    def _answer(self, conditions: Sequence[Condition]) -> Answer:
        assert self._heights is not None and self._sweep is not None
        for _ in self._sweep:
            pass  # there is nothing left of it, but where another process has swept
        return self._heights.answer(conditions)

    def _beside(self, heights: Sequence[float]) -> tuple[Sizes, tuple[Placement, ...]]:
        assert self._heights is not None
        figure, brief, bench = (getattr(self._heights, n) for n in ("figure", "brief", "bench"))
        plans = [draft_plan(figure, brief.at(mm), bench) for mm in sorted(heights)]
        return sizes_of(plans, bench), tuple(plan.solids.placement for plan in plans)


def sweeping() -> Sweeping:
    """What a process of its own is made of: it keeps what it was started with."""
    import scipy.optimize  # noqa: F401 - else it is loaded in the midst of the first sweep

    gc.freeze()
    gc.set_threshold(_MADE_AT_ONCE)
    return Sweeping()
