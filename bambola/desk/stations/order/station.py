"""The station *Order*: the thread of beads through the sittings, the figure as it stands, and *Make it*."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from bambola.core.order import CHOICES, Refusal
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.lessons_box import LessonsBox
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.step_picture import StepPicture
from bambola.desk.kit.theme import Theme, set_spacing
from bambola.desk.kit.thread import place_in_hand
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.lesson import Lesson
from bambola.desk.session.sitting_desk import Sittings
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.order.as_it_stands import StandingView
from bambola.desk.stations.order.lesson_boxes import EndBox, lesson_sentences
from bambola.desk.stations.order.long_thread import LongThread
from bambola.desk.stations.order.make_view import MakeView
from bambola.desk.stations.order.ready_by import ReadyButton
from bambola.desk.stations.order.reasons import Reasons
from bambola.desk.stations.order.tools import Minding, Tools
from bambola.desk.stations.order.ways_sheet import WaysSheet
from bambola.desk.stations.order.week import WeekDialog
from bambola.desk.stations.page import Page
from bambola.language import tr
from bambola.shipped import LESSONS


class OrderStation(Page):
    """Two pages: the order to look at and change, and the same steps to make by."""

    has_thread = False  # It lies along the page itself.

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        desk: BenchDesk,
        sittings: Sittings,
        true_size: TrueSize,
        lesson: Lesson,
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.desk = studio, theme, desk
        self.sittings = sittings
        self.darkroom = darkroom
        self.ways = QPushButton()
        self.ways.clicked.connect(lambda _=False: self.ask_ways())
        self.figure = StandingView(studio, theme, darkroom, "order")
        self.long = LongThread(studio, theme, sittings)
        self.make = MakeView(studio, theme, darkroom, desk, true_size, lesson)
        self.picture = StepPicture(studio, theme, true_size)
        self.reasons = Reasons(studio, theme, sittings, self.make.sheets)
        self.start_making = QPushButton(tr("Make it"))
        self.start_making.setToolTip(tr("One step at a time, in large type (M)"))
        self.start_making.clicked.connect(lambda _=False: self.show_make(True))
        self.free = QPushButton(tr("Free times…"))
        self.free.setToolTip(tr("Enter when you have time to work: the sittings follow"))
        self.free.clicked.connect(lambda _=False: self.ask_free())
        self.wheel_over(self.picture, self.figure, self.make.picture)
        self.ready = ReadyButton(desk, theme)
        self.minding = QPushButton(tr("What matters…"))
        self.minding.setToolTip(
            tr("How much you mind changing needles, colours and pieces of work")
        )
        self.minding.clicked.connect(lambda _=False: self.ask_weights())
        self.teaches = QPushButton(tr("What it teaches so far…"))
        self.teaches.setToolTip(tr("What your measured pieces and hours would change of the rest"))
        self.teaches.clicked.connect(lambda _=False: self.ask_lessons())
        self._compose()
        beads = self.long.beads
        beads.refused.connect(self._show_refusal)
        beads.moved.connect(self._show_selected_step)
        self.reasons.along_asked.connect(beads.put_along)
        self.reasons.unmove_asked.connect(self._undo_moves)
        self.make.left.connect(lambda: self.show_make(False))
        self.make.lesson_ended.connect(self._lesson_ended)
        self.make.finished.connect(self._on_finished)
        studio.selection.step_changed.connect(self._show_selected_step)
        studio.plan_changed.connect(self._show_selected_step)
        desk.changed.connect(self._desk_changed)
        set_spacing(self.theme, self._column, (20, 2, 24, 4), gap=6)
        set_spacing(self.theme, self._row, gap=14)

    def _compose(self) -> None:
        look = QWidget()
        column = self._column = QVBoxLayout(look)
        bar = FlowLayout()
        bar.addWidget(self.ways)
        bar.set_end(1)
        for button in (self.teaches, self.minding, self.ready, self.free, self.start_making):
            bar.addWidget(button)
        column.addLayout(bar)
        row = self._row = QHBoxLayout()
        seen = QVBoxLayout()
        seen.addWidget(self.picture, 4)
        seen.addWidget(self.figure, 5)
        row.addLayout(seen, 4)
        row.addWidget(self.long, 7)
        row.addWidget(self.reasons, 4)
        column.addLayout(row, 1)
        self.pages = QStackedWidget()
        self.pages.addWidget(look)
        self.pages.addWidget(self.make)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self.pages)

    def at_true_size(self, on: bool | None) -> bool:
        making = self.pages.currentWidget() is self.make
        if making and on is not False:
            self.make.hold_here()
        return making

    def showEvent(self, event: object) -> None:
        self._show_selected_step()

    def _desk_changed(self) -> None:
        """Update after another making was chosen, or another window has gone on."""
        if self.isVisible() and not self.is_making:
            self.long.beads.relay()
            self._show_selected_step()

    def _show_selected_step(self) -> None:
        """Show the selected step everywhere."""
        plan = self.studio.plan
        if plan is None or not plan.steps or not self.isVisible():
            return
        self._tell_ways()
        self.ready.refresh()
        self.teaches.setVisible(self.desk.teaches_so_far)
        step = plan.steps[place_in_hand(self.studio)]
        self.figure.show_step(step.n)
        self.picture.show_sheet(self.make.sheets.sheet_of(step))
        self.reasons.show_step(step)

    def _tell_ways(self) -> None:
        """Show on the button what the maker does differently than usual."""
        plan, say = self.studio.plan, self.studio.say
        others = [
            say(choice.school_name(self.studio.brief.schools[choice.id]))
            for choice in CHOICES
            if plan
            and choice.id in plan.choices
            and self.studio.brief.schools.get(choice.id) in choice.schools[1:]
        ]
        ways = tr(", ").join(others)
        self.ways.setText(tr("How you work: {ways}", ways=ways) if others else tr("How you work…"))
        self.ways.setToolTip(tr("Ways of working, and what they change"))

    def _show_refusal(self, no: Refusal, to: int) -> None:
        self.reasons.show_refusal(no, to)

    def _undo_moves(self) -> None:
        plan = self.studio.plan
        if plan is not None and plan.steps:
            self.studio.unmove(plan.steps[place_in_hand(self.studio)].key)

    def close_down(self) -> None:
        """Stop planning what makings were begun with."""
        self.make.looking_back.close()

    def take_keys(self) -> None:
        (self.make if self.is_making else self.long).setFocus()

    @property
    def guide(self) -> str | None:
        """The page of the guide: one for *Make it*, another for the thread."""
        return "making" if self.is_making else None

    def show_make(self, on: bool) -> None:
        """Show *Make it*, or the order again."""
        self.pages.setCurrentIndex(int(on))
        self._show_selected_step()
        if on:
            self.make.setFocus()
        else:
            self.long.setFocus()

    def _on_finished(self, making: str) -> None:
        self.show_make(False)
        self.book_asked.emit(making)
        self._lay_lessons(making, lambda: None)

    def _lay_lessons(self, making: str, then: Callable[[], None]) -> None:
        """Lay what a finished making teaches before its maker, if it teaches anything; ``then`` goes on."""
        if not self.desk.lessons(making):
            then()
            return
        box = LessonsBox(self.window() or self, self.theme, self.desk, making, is_done=True)
        box.finished.connect(lambda _: then())
        box.open()

    def ask_lessons(self) -> None:
        """Ask whether what the making has taught so far is to be used for the rest of it."""
        box = LessonsBox(self, self.theme, self.desk, self.desk.in_hand, is_done=False)
        box.accepted.connect(self.make.take_lessons)
        box.open()

    def _lesson_ended(self, making: str) -> None:
        """Lay before the maker what the hands have taught, then say it and offer what comes next."""
        self._lay_lessons(making, self._end_lesson)

    def _end_lesson(self) -> None:
        designs = [path.name.partition(".")[0] for path in LESSONS]
        figure = self.studio.figure
        at = designs.index(figure.id) if figure and figure.id in designs else len(designs)
        wools = {wool.id: wool.name for wool in self.desk.base.wools}
        known = len(self.make.lesson.known)
        lines = lesson_sentences(self.desk.estimates, self.studio.words, wools, known)
        following = tr("Now a first figure") if at + 1 < len(designs) else None
        box = EndBox(self, self.theme, lines, following)
        box.accepted.connect(lambda: self.lesson_asked.emit(at + 1))
        box.rejected.connect(lambda: self.show_make(False))
        box.open()

    @property
    def is_making(self) -> bool:
        """Whether the make view is shown."""
        return self.pages.currentIndex() == 1

    def ask_ways(self) -> None:
        """Open *How you work*; the steps follow."""
        WaysSheet(self, self.studio, self.theme, self.darkroom).exec()

    def ask_free(self) -> None:
        """Ask for the maker's free times; the sittings follow."""
        dialog = WeekDialog(self, self.theme, self.desk.base.free)
        if dialog.exec():
            self.desk.set_free(dialog.week.free)
            self.long.beads.relay()
            self._show_selected_step()

    def ask_weights(self) -> None:
        """Ask how much the maker minds each change."""
        dialog = Minding(self, self.studio)
        if dialog.exec():
            self.desk.set_weights(dialog.weights)

    def ask_tools(self) -> None:
        """Ask for the maker's needles and glue; the steps follow."""
        dialog = Tools(self, self.desk.base)
        if dialog.exec():
            self.desk.set_tools(
                dialog.needles, dialog.at_once, dialog.chosen_glue, dialog.beginner.isChecked()
            )

    def begin_on(self, day: date) -> None:
        """Lay out the sittings from ``day`` on."""
        self.sittings.first_day = day
        self.long.beads.relay()
        self._show_selected_step()
