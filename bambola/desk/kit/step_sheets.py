"""The sheets of a plan's steps, made on demand and, in a quiet moment, for the next step."""

from __future__ import annotations

from bambola.core.methods import SlotError, StepSheet, sheet_for
from bambola.core.methods.alike import alike_steps
from bambola.core.order import Step
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession

KEPT = 6
"""As many sheets are kept: some back, the one in hand and the next."""
AHEAD_MS = 250


class StepSheets:
    """The sheets of the present plan. The next one is made while the maker works on this one."""

    def __init__(self, studio: EditorSession) -> None:
        self.studio = studio
        self._kept: list[StepSheet] = []
        self._next: Step | None = None
        self._alike: tuple[object, object, tuple[tuple[Step, ...], ...]] = (None, None, ())
        self._rest = one_shot_timer(studio, AHEAD_MS)
        self._rest.timeout.connect(self._make_next)

    def of(self, step: Step) -> StepSheet | None:
        """Return the sheet of a step of the present plan; if it has none, a sentence that says why."""
        plan, bench = self.studio.plan, self.studio.bench
        if plan is None:
            return None
        kept = self._found(step)
        if kept is not None:
            return kept
        try:
            made = sheet_for(plan, step, bench)
        except SlotError as error:
            self.studio.refuse(error)
            return None
        self._kept = [made, *self._kept[: KEPT - 1]]
        return made

    def sharing(self, step: Step) -> tuple[Step, ...]:
        """Return the steps that share the card of ``step``, including itself."""
        plan, bench = self.studio.plan, self.studio.bench
        if plan is None:
            return (step,)
        if self._alike[0] is not plan or self._alike[1] is not bench:
            try:
                self._alike = plan, bench, alike_steps(plan, bench)
            except SlotError:
                return (step,)  # it is told where its own card is asked for
        return next((s for s in self._alike[2] if s[0].n <= step.n <= s[-1].n), (step,))

    def has(self, step: Step) -> bool:
        """Return whether a step's sheet is ready."""
        return self._found(step) is not None

    def _found(self, step: Step) -> StepSheet | None:
        plan, bench = self.studio.plan, self.studio.bench
        return next(
            (
                s
                for s in self._kept
                if s.at.step is step and s.at.plan is plan and s.at.bench is bench
            ),
            None,
        )

    def ahead(self, step: Step | None) -> None:
        """Prepare a step's sheet soon."""
        self._next = step
        self._rest.start()

    def _make_next(self) -> None:
        plan = self.studio.plan
        if self._next is not None and plan is not None and self._next in plan.steps:
            self.of(self._next)
