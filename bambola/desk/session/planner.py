"""Makes plans off the interface thread; only the newest request is followed.

They are made in a process of their own once it runs, before that (or without one) on a thread.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.making.made import as_made, known_as_made
from bambola.desk.running.aside import wait_for_event
from bambola.desk.running.background import Background, BackgroundJob
from bambola.desk.running.worker_process import EndedError, WorkerProcess

PLANNING = "bambola.desk.session.planning:Planning"
"""What a process that plans is to be made of."""


class Planner:
    """Plans one request after the other; of those that arrive meanwhile only the last is planned next. For a
    figure new to the process, ``planned`` also gets its plan as made."""

    def __init__(
        self,
        planned: Callable[[Figure, Brief, Plan, Plan | None], None],
        refused: Callable[[Exception], None],
        apart: WorkerProcess | None = None,
    ) -> None:
        self._planned, self._refused, self._apart = planned, refused, apart
        self._sent: tuple[Figure, Bench, int | None] | None = None
        self._background = Background("planner")
        self._job: BackgroundJob | None = None
        self._next: tuple[Figure, Brief, Bench] | None = None

    @property
    def is_apart(self) -> bool:
        """Whether the request is planned in another process, and so delays no frame."""
        return self._apart is not None and self._apart.is_up

    def wake(self) -> None:
        """Start the process when a drag begins, unless it is running."""
        if self._apart is not None:
            self._apart.wake()

    def want(self, figure: Figure, brief: Brief, bench: Bench) -> None:
        """Request a plan, replacing an earlier request that has not begun."""
        self._next = figure, brief, bench
        self._start_next()

    def wait(self) -> None:
        """Wait until nothing is being planned. The window is painted meanwhile; what the hand does comes
        after it."""
        while self._job is not None:
            wait_for_event()

    @property
    def is_closed(self) -> bool:
        """Whether nothing is planned any more."""
        return self._background.is_closed

    def make(self, figure: Figure, brief: Brief, bench: Bench) -> Plan | None:
        """Return a plan, or None if it was called off; the window is painted meanwhile. Raises if it cannot
        be planned."""
        self.call_off()
        self._job = job = self._background.do(
            lambda: self._make_plan_pair(figure, brief, bench),
            lambda _: self._drop(job),
            lambda _: self._drop(job),
        )
        while not job.is_done.is_set() and not job.stop.is_set():
            wait_for_event()
        self._drop(job)
        if job.stop.is_set():
            return None
        if not job.well:
            raise job.came_of_it
        plan: Plan = job.came_of_it[0]
        return plan

    def _drop(self, job: BackgroundJob) -> None:
        if self._job is job:
            self._job = None
            self._start_next()

    def call_off(self) -> None:
        """Cancel the request and discard the plan being made."""
        self._next = None
        if self._job is not None:
            self._job.stop.set()
            self._job = None

    def close(self) -> None:
        """Cancel everything, stop planning and end the process."""
        self.call_off()
        self._background.close()
        if self._apart is not None:
            self._apart.end()

    def _start_next(self) -> None:
        if self._job is not None or self._next is None:
            return
        (figure, brief, bench), self._next = self._next, None

        def done(plans: tuple[Plan, Plan | None]) -> None:
            self._job = None
            self._planned(figure, brief, *plans)
            self._start_next()

        def failed(error: Exception) -> None:
            if self._job is not job:
                return  # called off, and long forgotten
            self._job = None
            self._refused(error)
            self._start_next()

        job = self._background.do(lambda: self._make_plan_pair(figure, brief, bench), done, failed)
        self._job = job

    def _make_plan_pair(
        self, figure: Figure, brief: Brief, bench: Bench
    ) -> tuple[Plan, Plan | None]:
        """Return the plan, from the process if it runs. Called on the planner's thread."""
        if self._apart is not None and self._apart.is_up:
            with contextlib.suppress(EndedError):
                return self._plan_apart(self._apart, figure, brief, bench)
        return make_plan(figure, brief, bench), None

    def _plan_apart(
        self, apart: WorkerProcess, figure: Figure, brief: Brief, bench: Bench
    ) -> tuple[Plan, Plan | None]:
        sent, start = self._sent, None
        if sent is None or sent[0] is not figure or sent[1] is not bench or sent[2] != apart.number:
            known = known_as_made(figure, bench)
            start = figure, bench, known.solids.measured if known else None
            self._sent = None  # a figure that is refused was not taken there
        measured, *_, as_it_was, plan = apart(brief, start)
        if start is not None:
            self._sent = figure, bench, apart.number
            if measured is not None:
                as_made(figure, bench, before=measured)
        return plan, as_it_was
