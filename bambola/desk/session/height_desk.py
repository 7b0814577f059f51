"""What is known of other heights of the open figure, computed in the background."""

from __future__ import annotations

import threading
import time
from collections import deque
from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, Any, TypeAlias, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.heights.values import Sensible, Turn, sensible_about
from bambola.core.plan.making.made import known_as_made
from bambola.core.solids import Placement
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.running.worker_process import EndedError, WorkerProcess
from bambola.desk.session.changes import REFUSALS
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

# What sweeps is not loaded before anything is swept.
if TYPE_CHECKING:
    from bambola.core.heights.conditions import Answer, Condition
    from bambola.core.heights.whole import SizeSeries
    from bambola.desk.session.sweeping import Sweeping, Swept

SWEEPING = "bambola.desk.session.sweeping:sweep_process"
"""What a process that sweeps is to be made of."""
MOST_BY_ITSELF = 120
"""A figure of more parts is swept only where it is asked for: it takes minutes. Judged."""
BEHIND = 10
"""How much others go before it. Judged."""
REST_MS = 3000
"""So long nothing must have changed before heights are swept: pictures and what the hand does come first.
Judged."""
_WAIT_S, _MOST_KNOWN = 0.05, 6
"""What was swept last is known again: what is undone is marked at once."""
_Key: TypeAlias = tuple[Figure, Brief, Bench]
T = TypeVar("T")


class HeightDesk(QObject):
    """Sweeps the heights of the open figure, and keeps the result until the figure, the bench, or anything in
    the brief besides the height changes."""

    changed = pyqtSignal()
    """What is known, or how far it is."""
    _came_on = pyqtSignal(int, float, tuple)
    _went_alone = pyqtSignal()

    def __init__(self, studio: EditorSession, apart: WorkerProcess | None) -> None:
        """``apart`` is the process to sweep in; without one, sweeps run only on request."""
        super().__init__()
        self.studio = studio
        self.swept: Swept | None = None
        self.share = 0.0
        """How much is swept."""
        self.turns: tuple[Turn, ...] = ()
        """All that turns, as far as it is swept, from the lowest up."""
        self._apart = apart
        self._here: Sweeping | None = None
        self._of: _Key | None = None
        self._begun: _Key | None = None
        self._known: deque[tuple[_Key | None, tuple[Turn, ...], Swept | None]]
        self._known = deque(maxlen=_MOST_KNOWN)
        self._process: int | None = None
        self._background = Background("heights")
        self._job: BackgroundJob | None = None
        self._number = 0
        self._about: float | None = None
        self._held = threading.Event()
        self._is_wanted = False
        self._free = one_shot_timer(self, REST_MS)
        self._free.timeout.connect(self._held.clear)
        self._rest = one_shot_timer(self, REST_MS)
        self._rest.timeout.connect(self.sweep)
        self._came_on.connect(self._come_on)
        self._went_alone.connect(self._tell_alone)
        studio.plan_changed.connect(self._sweep_if_changed)
        studio.bench_changed.connect(self._sweep_if_changed)
        studio.height_pulled.connect(self._pause_for_drag)

    def want(self, wanted: bool) -> None:
        """Whether any view needs the result; nothing is started otherwise."""
        self._is_wanted = wanted
        if wanted:
            self._sweep_if_changed()

    @property
    def is_sweeping(self) -> bool:
        """Whether a sweep is running."""
        return self._job is not None

    def _current_key(self) -> _Key | None:
        if (figure := self.studio.figure) is None:
            return None
        return figure, self.studio.brief.replaced(height=None), self.studio.bench

    def _sweep_if_changed(self) -> None:
        key = self._current_key()
        if key != self._of:
            self.call_off()
            known = next((k for k in self._known if k[0] == key), (key, (), None))
            self._of, self.turns, self.swept = known
            self.share = 0.0 if self.swept is None else 1.0
            self.changed.emit()
        by_itself = self._apart is not None and key and len(key[0].parts) <= MOST_BY_ITSELF
        if self._is_wanted and by_itself and self.swept is None and not self._job:
            self._rest.start()

    def _pause_for_drag(self) -> None:
        """Pause while the maker drags the height."""
        self._held.set()
        self._free.start()

    def sweep(self) -> None:
        """Sweep the open figure, unless that is done or running."""
        if self.swept is not None or self._job is not None or self._of is None:
            return
        key, number, self._about = self._of, self._number, self.studio.brief.height
        stop = threading.Event()
        self.share, self.turns = 0.0, ()

        def work() -> Swept:
            self._begun = None  # from its beginning
            self._send_figure(key, stop)
            while True:
                while self._held.is_set() and not stop.is_set():
                    time.sleep(_WAIT_S)
                share, turns = self._ask_process(stop, "sweep_on")
                self._came_on.emit(number, share, turns)
                if share >= 1.0:
                    found: Swept = self._ask_process(stop, "sweep_result")
                    return found

        self._job = self._background.do(
            lambda: self._call_with_retry(work), self._finish_sweep, self._fail_sweep, stop
        )

    def call_off(self) -> None:
        """Cancel the sweep."""
        self._rest.stop()
        self._number += 1
        if self._job is not None:
            self._job.stop.set()
            self._job = None

    def close(self) -> None:
        """Cancel everything and end the process."""
        self.call_off()
        self._background.close()
        if self._apart is not None:
            self._apart.end()

    def _come_on(self, number: int, share: float, turns: tuple[Turn, ...]) -> None:
        if number == self._number:
            known = self.turns if share >= self.share else ()  # else it is swept once more
            self.share = share
            self.turns = tuple(sorted((*known, *turns), key=lambda turn: turn.height_mm))
            self.changed.emit()

    def _tell_alone(self) -> None:
        self.studio.refused.emit(
            tr(
                "The helper that works out other heights stopped twice. Bambola continues "
                "without it, only more slowly."
            )
        )

    def _finish_sweep(self, swept: Swept) -> None:
        self._job, self.swept = None, swept
        assert self._of is not None
        self._known.appendleft((self._of, self.turns, swept))
        self.changed.emit()

    def _fail_sweep(self, error: Exception) -> None:
        self._job = None
        if not isinstance(error, (CalledOffError, EndedError, *REFUSALS)):
            self.studio.refused.emit(log_error(error))
        self.changed.emit()

    # On the thread that works

    def _send_figure(self, key: _Key, stop: threading.Event) -> None:
        """Send the figure to the process, if it does not have it."""
        if self._apart is not None:
            self._apart.wake()
            while not self._apart.is_up and not stop.is_set():
                if self._apart.has_ended:
                    raise EndedError
                time.sleep(_WAIT_S)
        if self._begun is key and self._process == self._apart_number:
            return
        known, brief = known_as_made(key[0], key[2]), key[1].replaced(height=self._about)
        self._ask_process(
            stop, "begin_figure", key[0], brief, key[2], known.solids.measured if known else None
        )
        self._begun, self._process = key, self._apart_number

    @property
    def _apart_number(self) -> int | None:
        return None if self._apart is None else self._apart.number

    def _ask_process(self, stop: threading.Event, what: str, *given: object) -> Any:
        if stop.is_set():
            raise CalledOffError
        if self._apart is None:
            from bambola.desk.session.sweeping import Sweeping

            self._here = self._here or Sweeping()
            return self._here(what, *given)
        return self._apart(what, *given)

    def _call_with_retry(self, do: Callable[[], T]) -> T:
        """Run a call, again if the process has died meanwhile, and in this process if it dies a second
        time."""
        for _ in range(2):
            try:
                return do()
            except EndedError:
                self._begun = None
                if self._apart is not None:
                    self._apart.end()  # it may be about to end only
        self._apart = None
        self._went_alone.emit()
        return do()

    # Asked for

    def answer(
        self,
        conditions: Sequence[Condition],
        then: Callable[[Answer], None],
        fail: Callable[[Exception], None],
    ) -> BackgroundJob | None:
        """Return the heights that meet ``conditions``, from what has been swept."""
        return self._run_in_background("answer_conditions", (tuple(conditions),), then, fail)

    def compare_sizes(
        self,
        heights: Sequence[float],
        then: Callable[[tuple[SizeSeries, tuple[Placement, ...]]], None],
        fail: Callable[[Exception], None],
    ) -> BackgroundJob | None:
        """Return several sizes side by side, the smallest first, with the figure at each."""
        return self._run_in_background("compare_heights", (tuple(heights),), then, fail)

    def _run_in_background(
        self,
        what: str,
        given: tuple[object, ...],
        then: Callable[[T], None],
        fail: Callable[[Exception], None],
    ) -> BackgroundJob | None:
        key, stop = self._of, threading.Event()
        if key is None:
            return None

        def work() -> Any:
            self._send_figure(key, stop)
            return self._ask_process(stop, what, *given)

        return self._background.do(lambda: self._call_with_retry(work), then, fail, stop)

    # What is known

    def sensible(self, height: float) -> Sensible | None:
        """Return the heights around a given one (mm) at which no question arises."""
        return sensible_about(height, self.swept.usual[0].bands, self.turns) if self.swept else None
