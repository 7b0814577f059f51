"""The page of a step at the pad: its widgets, layout and look."""

from __future__ import annotations

import re
import time
from collections.abc import Callable, Iterator
from datetime import date

from PyQt6.QtCore import QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Making
from bambola.core.bench.making import nth_of
from bambola.core.facts import Fact
from bambola.core.figure.fields import MOST_NOTE
from bambola.core.order import Step
from bambola.core.order.keys import TaskKey
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.step_picture import StepPicture
from bambola.desk.kit.step_words import StepSheets, StepWords
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.running.timers import at_most_every
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.lesson import Lesson
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.order.as_it_stands import StandingView
from bambola.desk.stations.order.begun import BegunSlip, LookingBack
from bambola.desk.stations.order.first_trial import FirstTrial
from bambola.desk.stations.order.kept_steps import KeptSteps
from bambola.language import tr

_KEY = re.compile(r" \([^()]*\)$")


class ButtonRow(QWidget):
    """Buttons side by side, the first taking the remaining width. A screen reader reads their full texts."""

    def __init__(self, *buttons: QPushButton) -> None:
        super().__init__()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSizeConstraint(QLayout.SizeConstraint.SetNoConstraint)
        self._told: dict[QPushButton, tuple[str, str]] = {}
        for at, button in enumerate(buttons):
            self._row.addWidget(button, 1 if at == 0 else 0)
            self._told[button] = (button.text(), button.text())
            button.setAccessibleName(button.text())

    def set_text(self, button: QPushButton, words: str, fewer: str) -> None:
        """Set a button's text, and a short one for lack of room."""
        self._told[button] = (words, fewer)
        button.setAccessibleName(words)
        button.setToolTip(words)
        self.fit()

    def fit(self) -> None:
        """Use the longest texts that fit."""
        shown = [button for button in self._told if not button.isHidden()]
        for which in range(3):
            for button in shown:
                words, fewer = self._told[button]
                # With no room at all its key is in its tool tip alone.
                said = (words, fewer, _KEY.sub("", fewer))[which]
                if button.text() != said:
                    button.setText(said)
            spacing = self._row.spacing() * (len(shown) - 1)
            if sum(b.sizeHint().width() for b in shown) + spacing <= self.width():
                return

    def minimumSizeHint(self) -> QSize:
        """Return the size with the shortest texts: the texts give way, not the window."""
        return QSize(0, super().minimumSizeHint().height())

    def resizeEvent(self, a0: QResizeEvent | None) -> None:
        self.fit()
        super().resizeEvent(a0)


class LastTimeSlip(QLabel):
    """A slip over the card with notes from earlier makings; hidden without any."""

    def __init__(self, desk: BenchDesk, theme: Theme) -> None:
        super().__init__()
        self.desk, self.theme = desk, theme
        self.setWordWrap(True)
        set_role(self, "banner")
        self.hide()

    def show_step(self, step: Step) -> None:
        """Show what is known of a step from before; at the first one also what was to be done differently."""
        before = [m for name, m in self.desk.of_design.items() if name != self.desk.in_hand]
        lines = list(
            dict.fromkeys(line for m in reversed(before) for line in _earlier_remarks(m, step))
        )
        self.setText("\n".join(lines))
        self.setVisible(bool(lines))


def _earlier_remarks(making: Making, step: Step) -> Iterator[str]:
    if step.n == 1 and making.next_time:
        yield tr("Last time you wanted: {what}", what=making.next_time)
    if note := making.notes.get(step.key):
        yield tr("Last time: “{note}”", note=note)
    failed = "failed" in making.checks.get(step.key, {}).values()
    helped = "; ".join(making.mended.get(step.key, ()))
    if helped:
        yield tr("Last time it went wrong. What helped: {how}", how=helped)
    elif failed:
        yield tr("Last time a check failed here.")
    loose = (join for join, held in making.held.items() if not held)
    if step.key.sort == "join" and any(join.rpartition(":")[0] == step.part for join in loose):
        yield tr("Last time this join came loose.")


class MakingPicker(QComboBox):
    """The makings of the open design, if there are several."""

    chosen = pyqtSignal(str)

    def __init__(self, desk: BenchDesk) -> None:
        super().__init__()
        self.desk = desk
        self.setAccessibleName(tr("Which figure of this design"))
        self.activated.connect(lambda at: self.chosen.emit(self.itemData(at)))

    def refresh(self) -> None:
        """Show the present makings."""
        known, in_hand = self.desk.of_design, self.desk.in_hand
        names = list(dict.fromkeys([*known, in_hand]))
        self.setVisible(len(names) > 1)
        self.clear()
        for name in names:
            n = nth_of(name)[1]
            runs = self.desk.studio.brief.runs
            told = tr("No. {n}", n=n)
            if len(runs) > 1:
                told = tr("the trial") if n == 1 else tr("the other {n}", n=runs[1])
            finished = name in known and known[name].finished
            self.addItem(tr("{which}, finished", which=told) if finished else told, name)
        self.setCurrentIndex(names.index(in_hand))


SEEN = 6
"""The share of the width that pictures have beside words, which have seven."""
KEEP_MS, NOTE_MS = 10_000, 1000
"""The clock is kept at least so often while it runs, and a note so soon after a key was pressed."""


class NoteLine(QLineEdit):
    """A field for a note: Enter and Escape end it and go no further."""

    ended = pyqtSignal()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        super().keyPressEvent(event)
        if event is not None:
            if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape):
                self.ended.emit()
            event.accept()


class MakePage(KeptSteps):
    """Labels, card, pictures, note and buttons; a subclass connects their actions."""

    note: NoteLine

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        desk: BenchDesk,
        true_size: TrueSize,
        lesson: Lesson,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.desk, self.clock = studio, theme, desk, clock
        self.lesson, self.true_size = lesson, true_size
        self.making = Making()
        self._turned_round: str | None = None
        self._opened = frozenset()
        self._is_mending = False
        self._cautioned: dict[Fact, TaskKey] = {}
        self._of = ""
        self._before_note: Making | None = None
        self._read = {}
        self._is_as_begun = False
        self._since: float | None = None
        self._was_tight = False
        self.today, self._past, self._sitting = date.today, [], (0.0, "", ())
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Make, step by step"))
        self.figure = StandingView(studio, theme, darkroom, "make")
        self.sheets = StepSheets(studio)
        self.picture, self.words = StepPicture(studio, theme, true_size), StepWords(theme)
        self.which = MakingPicker(desk)
        self._count, self._text, self._clock, self.welcome = (QLabel() for _ in range(4))
        for label in (self._text, self._count, self.welcome):
            label.setWordWrap(True)
        self.welcome.hide()
        self.last_time = LastTimeSlip(desk, theme)
        self.stop = QLabel()
        self.stop.setWordWrap(True)
        self.stop.hide()
        self.words.fitted.connect(self._show_stop)
        self.begun = BegunSlip(theme)
        self.trial = FirstTrial(desk, theme)
        self.looking_back = LookingBack(studio)
        self.note = NoteLine()
        self.note.setPlaceholderText(tr("a note to this step (N)"))
        self.note.setAccessibleName(tr("Note"))
        self.note.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.note.setMaxLength(MOST_NOTE)
        self._note_soon = at_most_every(self, NOTE_MS, self._save_minutes)
        self.done, self.back = QPushButton(), QPushButton(tr("Back"))
        self.leave, self.pause = QPushButton(tr("Leave")), QPushButton(tr("Pause (P)"))
        self.pause.setCheckable(True)
        self.wrong = QPushButton()
        self.hold = QPushButton(tr("1:1 (T)"))
        self.hold.setToolTip(tr("The part at actual size, to hold the work against"))
        self.fold, self.singly = QPushButton(), QPushButton()
        self.came_out = QPushButton()
        marks = self.wrong, self.came_out, self.hold
        buttons = self.done, self.fold, self.singly, *marks, self.back, self.pause, self.leave
        for button in buttons:
            button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.under = ButtonRow(*buttons)
        self.under.set_text(self.wrong, tr("Something is wrong (W)"), tr("Wrong (W)"))
        self.under.set_text(self.came_out, tr("How it came out (M)"), tr("Result (M)"))
        self._compose()
        self._tick = QTimer(self)
        self._tick.setInterval(1000)
        self._keeping = QTimer(self)
        self._keeping.setInterval(KEEP_MS)
        self._connect_signals()
        set_role(self._count, "amount")
        set_role(self._clock, "headline")
        set_role(self.welcome, "banner")
        set_role(self.note, "large")
        set_role(self.stop, "strong", "warning")
        set_role(self.done, "figure")
        set_spacing(self.theme, self._page, (20, 4, 28, 6), gap=9)
        set_spacing(self.theme, self._row, gap=28)
        set_spacing(self.theme, self._words, gap=9)
        self._restyle()

    def _show_stop(self) -> None:
        """Keep the stop visible under words that have to be scrolled."""
        if self.words.scrolls:
            self.stop.setText(self.words.stop)
        self.stop.setVisible(self.words.scrolls and bool(self.words.stop))

    def _show_lead(self) -> None:
        """Show the greeting where there is room for it."""
        self.welcome.setVisible(bool(self.welcome.text()) and not self._is_tight)

    def _connect_signals(self) -> None:
        """Connect buttons and fields."""
        raise NotImplementedError

    def _compose(self) -> None:
        words = QVBoxLayout()
        head = QHBoxLayout()
        head.addWidget(self._count, 1)
        head.addWidget(self.which)
        head.addWidget(self._clock)
        words.addLayout(head)
        words.addWidget(self.welcome)
        words.addWidget(self.last_time)
        words.addWidget(self.begun)
        words.addWidget(self.trial)
        words.addWidget(self._text)
        words.addWidget(self.words, 1)
        words.addWidget(self.stop)
        words.addWidget(self.note)
        words.addStretch()  # while what has changed is asked about, the card is hidden
        self._words = words
        seen = QVBoxLayout()
        seen.addWidget(self.picture, 5)
        seen.addWidget(self.figure, 3)
        row = self._row = QHBoxLayout()
        row.addLayout(seen, SEEN)
        row.addLayout(words, 7)
        self._page = QVBoxLayout(self)
        self._page.addLayout(row, 1)
        self._page.addWidget(self.under)

    def _restyle(self) -> None:
        px = self.theme.px
        tight = self._was_tight = self._is_tight
        set_role(self._text, "title" if tight else "display")
        self.figure.setVisible(not tight)
        self._show_lead()
        self.done.setMinimumHeight(px(38 if tight else 52))
        self.words.setMinimumHeight(px(20))  # it scrolls; the headline and the stop stay whole
        self.refresh()

    @property
    def _is_tight(self) -> bool:
        """Whether there is too little room for everything at its full size."""
        return self.height() < self.theme.px(500)

    def resizeEvent(self, event: object) -> None:
        if self._is_tight != self._was_tight:
            self._restyle()
