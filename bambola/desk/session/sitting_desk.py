"""The calendar of what is still to be made of the figure in hand."""

from __future__ import annotations

from datetime import date

from bambola.core.bench import FreeTime
from bambola.core.order.sittings import Calendar, SittingError, calendar
from bambola.core.plan import Plan
from bambola.core.plan.counter.carry_on import place_in
from bambola.core.words import error_words
from bambola.desk.session.bench_desk import BenchDesk


class Sittings:
    """The calendar of the steps not yet done, from ``first_day`` on, computed on first use after a change."""

    def __init__(self, desk: BenchDesk) -> None:
        self.desk, self.studio = desk, desk.studio
        self.first_day = date.today()
        self._known: tuple[Plan, tuple[FreeTime, ...], date, int, tuple[int, ...]] | None = None
        self._found: Calendar | None = None
        self._trouble = ""

    @property
    def calendar(self) -> Calendar | None:
        """The sittings; None without a plan, or if none can be found."""
        self._schedule_sittings()
        return self._found

    @property
    def reason_for_none(self) -> str:
        """Why there are no sittings, in a sentence."""
        self._schedule_sittings()
        return self._trouble

    def _schedule_sittings(self) -> None:
        plan, free = self.studio.plan, self.studio.bench.free
        if plan is None:
            self._known, self._found, self._trouble = None, None, ""
            return
        done = place_in(plan.steps, self.desk.last_making)
        runs = self.desk.runs
        known = self._known
        if (
            known is not None
            and known[0] is plan
            and known[1:] == (free, self.first_day, done, runs)
        ):
            return
        self._known = plan, free, self.first_day, done, runs
        try:
            cure_min = self.studio.bench.cure_min
            self._found = calendar(plan.steps, free, self.first_day, cure_min, done, runs)
            self._trouble = ""
        except SittingError as error:
            self._found, self._trouble = None, error_words(error, self.studio.words)
