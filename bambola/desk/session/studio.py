"""The studio: the one mutable object of the desk. It holds figure, brief and plan. Widgets read it and
listen; every change goes through its undo stack."""

from __future__ import annotations

import itertools
from collections import deque
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QUndoStack

from bambola.core.bench import Bench
from bambola.core.facts import Fact
from bambola.core.figure import Brief, Document, Figure, Survey
from bambola.core.plan import Plan, draft_plan, make_plan
from bambola.core.plan.making.made import as_made
from bambola.core.quantities import Units
from bambola.core.solids import Placement, place
from bambola.core.words import Words, error_words
from bambola.desk.running.crash_log import log_error
from bambola.desk.running.timers import BusyCursor, Throttle
from bambola.desk.running.worker_process import WorkerProcess
from bambola.desk.session.asking import Asking
from bambola.desk.session.changes import (
    REFUSALS,
    DocumentState,
    EditRequest,
    UnderWay,
    UndoableChange,
)
from bambola.desk.session.planner import Planner
from bambola.desk.session.selection import Selection
from bambola.language import N_, current_catalogue, tr
from bambola.shipped import default_bench
from bambola.store import KeptMeasures, fingerprint, new_design, save_design

FOLLOW_MS = 33
"""While the flag is pulled the plan follows no more often than this: quicker numbers cannot be read.
Judged."""
_HEIGHT = N_("Change the height")
MOST_UNDONE = 1000
"""So many changes can be undone; a day of work has three times as many. Judged."""
_AS_MADE_KEPT = 20
"""So many figures on the table before are known as they were made. Judged."""
KEPT_PLANS = 20
"""Of so many changes the plans are kept, to be undone at once; older ones are planned again. Judged."""


def _do_at_once(work: Callable[[], None]) -> None:
    work()


def _ignore_result(well: bool) -> None:
    """Do nothing."""


class EditorSession(Asking):
    """Figure, brief, bench, plan and selection, announcing their changes."""

    figure_changed = pyqtSignal()
    survey_changed = pyqtSignal()
    plan_changed = pyqtSignal()
    height_pulled = pyqtSignal()
    bench_changed = pyqtSignal()
    units_changed = pyqtSignal()
    file_changed = pyqtSignal()
    design_copied = pyqtSignal(str)
    """Saved under another name, it is another design; what it was called before."""
    refused = pyqtSignal(str)
    planning_slowly = pyqtSignal(bool)
    """A change takes a while to be planned (true), or is planned at last."""

    def __init__(self, bench: Bench | None = None, apart: WorkerProcess | None = None) -> None:
        """``apart`` is the process that makes plans during a drag, if there is one."""
        super().__init__()
        self.bench = bench or default_bench()
        self._next_bench = self.bench
        """What is used once it is planned by."""
        self.measures = KeptMeasures()
        self.figure: Figure | None = None
        self.brief = Brief()
        self.survey = Survey()
        self.plan: Plan | None = None
        self.path: Path | None = None
        self.design = ""
        """What tells the design from every other."""
        self.seen: str | None = None
        self.units = Units()
        self.selection = Selection()
        self._as_made: Placement | None = None
        self._made_plans: deque[tuple[Figure, Brief, Plan]] = deque(maxlen=_AS_MADE_KEPT)
        self._gestures = itertools.count(1)
        self._follow = Throttle(self, FOLLOW_MS, self.follow_hand)
        self._planner = Planner(self._show_plan, self._not_planned, apart)
        self.do_writing: Callable[[Callable[[], None]], None] = _do_at_once
        """Does what waits for the disk; raises what it raises."""
        self.has_process = apart is not None
        """Whether long work is done in processes of their own."""
        self._pulled_mm: float | None = None
        self._pulled_by = 0
        self._takes_plan = False
        self._under_way = UnderWay(self.settle, self.planning_slowly.emit)
        self.undo_stack = QUndoStack(self)
        self.undo_stack.setUndoLimit(MOST_UNDONE)
        self._recent: deque[UndoableChange] = deque()
        self._planning = BusyCursor()
        self.undo_stack.cleanChanged.connect(self._clean_changed)
        self.undo_stack.indexChanged.connect(self._done_or_undone)

    def _clean_changed(self, clean: bool) -> None:
        self.file_changed.emit()

    # What is open

    def planned(
        self, document: Document, bench: Bench, told: Callable[[float], bool] | None = None
    ) -> Plan:
        """Return the plan of a checked document, measuring it first unless an earlier session did; raises if
        it cannot be planned. ``told`` gets the share measured, and may cancel. May run on any thread."""
        figure = document.figure
        before = self.measures.find(figure)
        made = as_made(figure, bench, told, before=before)
        if before is None:
            self.measures.add(figure, made.solids.measured)
        return make_plan(figure, document.brief, bench)

    def open_document(
        self,
        document: Document,
        path: Path | None,
        seen: str | None = None,
        told: tuple[Plan, Bench] | None = None,
    ) -> None:
        """Open a checked document, with its plan and the bench that was for if it is ``told``; raises if it
        cannot be planned. ``seen`` identifies the version of its file."""
        plan, bench = told or (self.planned(document, self.bench), self.bench)
        self._stop_pulling()
        is_other, self.bench, self._next_bench = bench is not self.bench, bench, bench
        self.figure, self.brief, self.plan = document.figure, document.brief, plan
        self.survey, self.path, self.seen = document.survey, path, seen
        self.design = document.design or document.figure.id
        root = document.figure.parts[0].id
        self.selection.begin(max(plan.parts, key=lambda part: part.net_cm3 * (part.id != root)).id)
        self.undo_stack.clear()
        self._recent.clear()
        self.figure_changed.emit()
        if is_other:
            self._made_plans.clear()
            self.bench_changed.emit()
        self.survey_changed.emit()
        self.plan_changed.emit()
        self.selection.announce()
        self.file_changed.emit()

    def use_bench(self, bench: Bench) -> None:
        """Switch to another bench and plan again. Wools of the open design that the new bench lacks stay
        known."""
        if self.figure is not None:
            for wool in self.bench.wools:
                bench = bench if wool.id in bench.wool_by_id else bench.with_wool(wool)
        if bench == self.bench:
            self._next_bench = self.bench
            return
        self.let_go()
        self._next_bench, plan = bench, None
        if self.figure is not None:
            plan = self._planned_on(bench)
            if plan is None:
                return
        self._made_plans.clear()
        self.bench = bench
        self.bench_changed.emit()
        if plan is not None:
            self.plan = plan
            self.plan_changed.emit()

    def _planned_on(self, bench: Bench) -> Plan | None:
        """Return the plan of the open design on another bench; None once a later bench is to be used."""
        while self._next_bench is bench and not self._planner.is_closed:
            figure, brief = self.figure, self.brief
            assert figure is not None
            # It is made of other wools, maybe, but is as large as it was.
            made = as_made(figure, self.bench)
            as_made(figure, bench, before=made.solids.measured)
            if not self.has_process:
                return make_plan(figure, brief, bench)
            plan = self._planner.make(figure, brief, bench)
            if plan is not None and (figure, brief) == (self.figure, self.brief):
                return plan
        return None

    def save(self, path: Path) -> bool:
        """Save to ``path``; on failure say why and stay unsaved."""
        assert self.figure is not None
        self.let_go()
        # Under another name it is another design, and so is one that began as somebody else's.
        is_other = (path != self.path and self.path is not None) or self.design == self.figure.id
        before, design = self.design, new_design(self.figure) if is_other else self.design
        figure, brief, survey = self.figure, self.brief, self.survey
        try:
            self.do_writing(lambda: save_design(path, figure, brief, survey, design))
        except OSError as error:
            self.refuse(error)
            return False
        self.path, self.seen, self.design = path, fingerprint(path), design
        if is_other:
            self.design_copied.emit(before)
        if (figure, brief, survey) == (self.figure, self.brief, self.survey):
            self.undo_stack.setClean()  # else a device has changed it while it was written
        self.file_changed.emit()
        return True

    @property
    def was_changed_elsewhere(self) -> bool:
        """Whether the design's file differs from what was opened or saved here. A missing file does not
        count: saving writes it again."""
        now = fingerprint(self.path) if self.path is not None else None
        return now is not None and now != self.seen

    @property
    def is_saved(self) -> bool:
        """Whether closing would lose nothing."""
        return self.figure is None or self.undo_stack.isClean()

    def placement_as_made(self) -> Placement:
        """Return the placement of the figure as made; cached for each figure."""
        assert self.figure is not None
        if self._as_made is None or self._as_made.figure is not self.figure:
            self._as_made = place(self.figure)
        return self._as_made

    def plan_as_made(self) -> Plan:
        """Return the plan of the figure as made, without an order."""
        figure, brief = self.figure, self.brief.as_made()
        assert figure is not None
        for known, by, plan in self._made_plans:
            if known is figure and by == brief:
                return plan
        plan = draft_plan(figure, brief, self.bench)
        self._made_plans.appendleft((figure, brief, plan))
        return plan

    # What it is

    def edit(
        self,
        words: str,
        figure: Figure | None = None,
        survey: Survey | None = None,
        gesture: int = 0,
        waits: bool = True,
        then: Callable[[bool], None] = _ignore_result,
    ) -> bool:
        """Change the figure, the survey, or both; a change that cannot be made is refused in words.

        Without ``waits`` it returns while it is being planned: True then only says that it has begun, and
        ``then`` gets the outcome.
        """
        if self.figure is None:
            return False
        self.let_go()
        figure = figure if figure is not None else self.figure
        survey = survey if survey is not None else self.survey
        if figure is self.figure and survey == self.survey:
            then(True)
            return True
        brief = self.brief.fitted_to(figure)
        return self._make_change(DocumentState(figure, brief, survey), words, gesture, waits, then)

    def bring_back(self, words: str, figure: Figure, brief: Brief) -> None:
        """Restore a figure and its brief as one change."""
        self.let_go()
        self._make_change(DocumentState(figure, brief, self.survey), words, 0, waits=True)

    def edit_by(self, words: str, do: Callable[[Figure], Figure], gesture: int = 0) -> bool:
        """Change the figure by ``do``, whose ``ValueError`` is a refusal in one sentence. Outside a gesture
        it may be planned in the background."""
        if self.figure is None:
            return False
        self.let_go()
        try:
            figure = do(self.figure)
        except ValueError as error:
            self.refuse(error)
            return False
        return self.edit(words, figure, gesture=gesture, waits=bool(gesture))

    # What is asked

    @property
    def height_mm(self) -> float:
        """The height requested at present; during a drag the plan may lag behind."""
        assert self.plan is not None
        return self.plan.to_height_mm if self._pulled_mm is None else self._pulled_mm

    @property
    def is_behind(self) -> bool:
        """Whether the plan lags behind the drag."""
        return self._pulled_mm is not None

    def pull_height(self, mm: float, gesture: int) -> None:
        """Request another height during a drag. The plan follows as often as it can be read or made."""
        if self.figure is None or self.plan is None:
            return
        self._pulled_mm, self._pulled_by = mm, gesture
        self._planner.wake()
        self._follow.ask()
        self.height_pulled.emit()

    def follow_hand(self) -> None:
        """Plan the dragged height: in the background, except for even scaling before the process runs."""
        if self._pulled_mm is None or self.figure is None or self.plan is None:
            return
        if self.plan.resized.even and not self._planner.is_apart:
            self.let_go()
        else:
            self._planner.want(self.figure, self.brief.at_height(self._pulled_mm), self.bench)

    @property
    def is_planning(self) -> bool:
        """Whether a change is being planned that is not shown yet."""
        return self._under_way.asked is not None

    def settle(self) -> None:
        """Wait for the change being planned, if there is one; the window is painted meanwhile."""
        if self.is_planning:
            self._planner.wait()

    def let_go(self) -> None:
        """Plan the dragged height at once, and wait for a change being planned."""
        self.settle()
        if self._pulled_mm is not None:
            mm = self._pulled_mm
            self._stop_pulling()
            if not self.set_height(mm, self._pulled_by):
                self.height_pulled.emit()  # back to where a plan is

    def _show_plan(self, figure: Figure, brief: Brief, plan: Plan, as_it_was: Plan | None) -> None:
        if as_it_was is not None:
            self._made_plans.appendleft((figure, brief.as_made(), as_it_was))
        if not plan.resized.even:  # it may have been measured by another process
            as_made(figure, self.bench).add(plan.solids)
        asked = self._under_way.end()
        if asked is not None:
            self._push_change(UndoableChange(self, asked.held, plan, asked.words, asked.gesture))
            asked.is_made = True
            asked.then(True)
            return
        behind = self._pulled_mm if self._pulled_mm != brief.height else None
        self._pulled_mm, self._takes_plan = behind, True
        self._push_change(
            UndoableChange(
                self, DocumentState(figure, brief, self.survey), plan, tr(_HEIGHT), self._pulled_by
            )
        )
        self._takes_plan = False

    def _not_planned(self, error: Exception) -> None:
        asked = self._under_way.end()
        self._pulled_mm = None
        self.refused.emit(
            error_words(error, self.words) if isinstance(error, REFUSALS) else log_error(error)
        )
        self.height_pulled.emit()
        if asked is not None:  # whoever has shown it as done shows again what is
            self.survey_changed.emit()
            self.plan_changed.emit()
            asked.then(False)

    def _done_or_undone(self, _: int) -> None:
        if not self._takes_plan:
            self._stop_pulling()

    def _stop_pulling(self) -> None:
        """Drop the dragged height, since something was done, undone or opened meanwhile."""
        self._under_way.end()
        self._planner.call_off()
        self._pulled_mm = None

    def close(self) -> None:
        """Stop planning in the background."""
        self._planner.close()

    def set_height(self, mm: float, gesture: int = 0) -> bool:
        """Set the finished height; one ``gesture`` is one step of undo."""
        self.settle()
        self._stop_pulling()
        return self._change_brief(lambda b: b.at_height(mm), tr(_HEIGHT), gesture, waits=True)

    @property
    def wished(self) -> Brief:
        """The brief as last requested, even if its plan is not finished."""
        asked = self._under_way.asked
        return self.brief if asked is None else asked.held.brief

    def _change_brief(
        self,
        change: Callable[[Brief], Brief],
        words: str,
        gesture: int = 0,
        waits: bool = False,
    ) -> bool:
        self.let_go()
        brief = change(self.brief)
        if self.figure is None or brief == self.brief:
            return self.figure is not None
        held = DocumentState(self.figure, brief, self.survey)
        return self._make_change(held, words, gesture, waits or bool(gesture))

    def _make_change(
        self,
        held: DocumentState,
        words: str,
        gesture: int,
        waits: bool,
        then: Callable[[bool], None] = _ignore_result,
    ) -> bool:
        is_other = held.figure is not self.figure or held.brief is not self.brief
        # What the hand is pulling is planned here: its next movement begins from there.
        is_pulled = bool(gesture) and held.figure is not self.figure
        self._planner.wake()
        if is_other and self.has_process and not is_pulled:
            asked = EditRequest(held, words, gesture, then)
            self._under_way.begin(asked)
            self._planner.want(held.figure, held.brief, self.bench)
            if waits:
                self.settle()
            return not waits or asked.is_made
        try:
            plan = self.plan
            if is_other or plan is None:
                with self._planning.work():
                    plan = make_plan(held.figure, held.brief, self.bench)
        except REFUSALS as error:
            self.refuse(error)
            then(False)
            return False
        self._push_change(UndoableChange(self, held, plan, words, gesture))
        then(True)
        return True

    def _push_change(self, change: UndoableChange) -> None:
        self.undo_stack.push(change)
        if not change.is_merged:
            self._recent.append(change)
        if len(self._recent) > KEPT_PLANS:
            self._recent.popleft().let_plans_go()

    def current_state(self) -> DocumentState:
        """Return the present state."""
        assert self.figure is not None
        return DocumentState(self.figure, self.brief, self.survey)

    def show(self, held: DocumentState, plan: Plan) -> None:
        """Show figure, brief, survey and plan; for undo commands only."""
        new_figure, new_survey = held.figure is not self.figure, held.survey != self.survey
        new_plan = plan is not self.plan
        self.figure, self.brief, self.survey, self.plan = held.figure, held.brief, held.survey, plan
        if new_figure and self.selection.part not in held.figure.by_id:
            self.selection.select_part(held.figure.parts[0].id)
        if new_figure or new_survey:
            self.survey_changed.emit()
        if new_plan:
            self.plan_changed.emit()

    def new_gesture(self) -> int:
        """Return a number for a gesture, all of whose changes are one step of undo."""
        return next(self._gestures)

    # How it is looked at

    def set_units(self, units: Units) -> None:
        """Show lengths and weights in other units."""
        self.units = units
        self.units_changed.emit()

    @property
    def words(self) -> Words:
        """The formatter of facts in the maker's units."""
        return Words(self.units, current_catalogue())

    def say(self, fact: Fact) -> str:
        """Return a fact in words."""
        return self.words.say(fact)

    def refuse(self, error: Exception) -> None:
        """Tell the maker in one sentence what cannot be done."""
        self.refused.emit(error_words(error, self.words))
