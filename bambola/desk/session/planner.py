"""Plans made while the hand goes on: off the interface thread, only the newest wish followed."""

from __future__ import annotations

from collections.abc import Callable

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.plan import Plan, make_plan
from bambola.desk.running.background import Background, Job


class Planner:
    """Plans one wish after the other; of those that come meanwhile only the last is planned next."""

    def __init__(
        self,
        planned: Callable[[Figure, Brief, Plan], None],
        refused: Callable[[Exception], None],
    ) -> None:
        self._planned, self._refused = planned, refused
        self._background = Background("planner")
        self._job: Job | None = None
        self._next: tuple[Figure, Brief, Bench] | None = None

    def want(self, figure: Figure, brief: Brief, bench: Bench) -> None:
        """Plan this, as soon as what is being planned is done."""
        self._next = figure, brief, bench
        self._begin()

    def call_off(self) -> None:
        """Want nothing any more: what is being planned comes to nothing."""
        self._next = None
        if self._job is not None:
            self._job.stop.set()
            self._job = None

    def close(self) -> None:
        """Call everything off and plan no more."""
        self.call_off()
        self._background.close()

    def _begin(self) -> None:
        if self._job is not None or self._next is None:
            return
        (figure, brief, bench), self._next = self._next, None

        def done(plan: Plan) -> None:
            self._job = None
            self._planned(figure, brief, plan)
            self._begin()

        def failed(error: Exception) -> None:
            if self._job is not job:
                return  # called off, and long forgotten
            self._job = None
            self._refused(error)
            self._begin()

        job = self._background.do(lambda: make_plan(figure, brief, bench), done, failed)
        self._job = job
