"""The dialog *What height?*: conditions on the left, the tape with the answer in the middle, sizes on the
right."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractSpinBox,
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.book.costing import cost_of
from bambola.core.heights.values import MOST_BESIDE, HeightBand
from bambola.core.quantities import show_length, show_mass
from bambola.core.words import error_words
from bambola.desk.kit.buttons import lead_label, make_switch, show_switch
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.flow import FlowLayout, scroll_area
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.background import BackgroundJob, CalledOffError
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.height_desk import HeightDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.resize.beside import SizesBeside
from bambola.desk.stations.resize.conditions import ConditionRows
from bambola.desk.stations.resize.marks import marks_of, sensible_words
from bambola.desk.stations.resize.span_tape import ConditionBar, SpanTape
from bambola.language import tr, trn

if TYPE_CHECKING:
    from bambola.core.heights.conditions import Answer
    from bambola.core.heights.whole import SizeSeries
    from bambola.core.solids import Placement

_SHARE = 0.85
"""Of a large window the dialog takes so much. Judged."""
_SOON_MS = 250
"""What is ticked or typed is asked for when the hand has rested so long. Judged."""
_ROOMY_PX = 290
"""Where conditions have less room than this (before scaling) their fields stand under them."""
_SAME_MM = 0.05
"""Sizes no further apart are one: they are told alike."""


class HeightDialog(FittedDialog):
    """Finds heights that meet conditions, and shows sizes side by side. Enter accepts the selected height."""

    set_printed = pyqtSignal(tuple)
    """Sizes (mm) are to be printed as one pattern."""
    set_made = pyqtSignal(tuple)
    """One of each of these sizes (mm) is to be made."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        heights: HeightDesk,
        desk: BenchDesk,
    ) -> None:
        super().__init__(parent)
        assert studio.plan is not None
        self.studio, self.theme, self.heights = studio, theme, heights
        self.setWindowTitle(tr("What height?"))
        self._job: BackgroundJob | None = None
        self._laying: BackgroundJob | None = None
        plan = studio.plan
        self.laid = [plan.from_height_mm]
        if abs(plan.to_height_mm - plan.from_height_mm) > _SAME_MM:
            self.laid.append(plan.to_height_mm)
        self.rows = ConditionRows(studio, plan, theme, desk)
        self.tape = SpanTape(studio, theme, plan.to_height_mm)
        self.tape.least = max(self.laid)
        self.beside = SizesBeside(studio, theme, darkroom)
        self.sensible, self.answer = QLabel(), QLabel()
        self.changes, self.turns, self.holding = QListWidget(), QListWidget(), QListWidget()
        self.take, self.lay = QPushButton(), QPushButton(tr("Add this size for &comparison"))
        self.drop, self.make = QPushButton(tr("&Remove it")), QPushButton(tr("&One of each…"))
        self.print_, self.close_ = QPushButton(tr("&Print the set…")), QPushButton(tr("Close"))
        self.faces: list[QToolButton] = []
        self._compose()
        self._connect_signals()
        whole = (parent.window() or parent).size()
        wished = QSize(theme.px(1180), theme.px(720)).expandedTo(whole * _SHARE)
        self.resize(wished.boundedTo(whole))
        self._soon = one_shot_timer(self, _SOON_MS)
        self._soon.timeout.connect(self._ask_for_heights)
        self._heights_changed()
        self._lay_beside()
        self._show_take()
        heights.sweep()

    def _compose(self) -> None:
        px = self.theme.px
        for label in (self.sensible, self.answer):
            label.setWordWrap(True)
        self.answer.setAccessibleName(tr("Answer"))
        self.changes.setAccessibleName(tr("What changes from size to size"))
        self.turns.setAccessibleName(tr("All changes"))
        self.holding.setAccessibleName(tr("What fits at this height"))
        for rows in (self.changes, self.turns, self.holding):
            rows.setWordWrap(True)
        asking = QWidget()
        column = QVBoxLayout(asking)
        column.setContentsMargins(0, 0, px(6), 0)
        column.addWidget(lead_label(tr("Highest size with …")))
        column.addWidget(self.rows)
        column.addWidget(self.answer)
        column.addStretch(1)
        left = QVBoxLayout()
        area = scroll_area(asking)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        left.addWidget(area, 1)
        left.addWidget(self.sensible)
        left.addWidget(self.take)
        self.stack = QStackedWidget()
        for page in (self.beside, self.changes, self.holding, self.turns):
            self.stack.addWidget(page)
        faces = QWidget()
        heads = FlowLayout(faces)
        faces_ = (tr("Sizes"), tr("What changes"), tr("What fits"), tr("All changes"))
        for i, words in enumerate(faces_):
            face = QToolButton()
            face.setText(words)
            make_switch(face, lambda _, i=i: self.show_face(i))
            self.faces.append(face)
            heads.addWidget(face)
        foot = QWidget()
        flow = FlowLayout(foot)
        for button in (self.lay, self.drop, self.make, self.print_, self.close_):
            flow.addWidget(button)
        right = QVBoxLayout()
        right.addWidget(faces)
        right.addWidget(self.stack, 1)
        right.addWidget(foot)
        row = QHBoxLayout(self)
        self.side = QWidget()
        self.side.setLayout(left)
        left.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.side)
        row.addWidget(self.tape, 5)
        row.addLayout(right, 6)
        self.take.setDefault(True)
        set_role(self.take, tone="take")
        self.show_face(0)

    def _connect_signals(self) -> None:
        self.rows.changed.connect(lambda: self._soon.start())
        self.tape.picked.connect(lambda _: self._show_take())
        self.beside.chosen.connect(self.tape.pick)
        self.beside.dropped.connect(self._remove_beside)
        self.heights.changed.connect(self._heights_changed)
        for button, do in (
            (self.take, self._accept_height),
            (self.lay, self._add_beside),
            (self.drop, self._drop_chosen),
            (self.make, lambda: self.set_made.emit(tuple(sorted(self.laid)))),
            (self.print_, lambda: self.set_printed.emit(tuple(sorted(self.laid)))),
            (self.close_, self.reject),
        ):
            button.setAutoDefault(button is self.take)
            button.clicked.connect(lambda _=False, do=do: do())
        self.finished.connect(self._let_go)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        px = self.theme.px
        wide = min(px(330), max(px(236), round(self.width() * 0.28)))
        self.side.setFixedWidth(wide)
        self.rows.stack(wide < px(_ROOMY_PX))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        typing = self.focusWidget()
        enters = event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if enters and isinstance(typing, (QLineEdit, QAbstractSpinBox, QComboBox)):
            self._ask_for_heights()  # what was typed is asked; to take what comes of it is another Enter
            self.take.setFocus()
        else:
            super().keyPressEvent(event)

    def show_face(self, i: int) -> None:
        """Show the sizes, the differences between them, or all turns."""
        self.stack.setCurrentIndex(i)
        for n, face in enumerate(self.faces):
            show_switch(face, n == i)

    # What is known

    def _heights_changed(self) -> None:
        heights, units = self.heights, self.studio.units
        self.tape.marks = marks_of(heights.turns)
        if heights.swept is None:
            share = tr("Looking at other heights: {share:.0%}", share=heights.share)
            self.sensible.setText(share)
            self.tape.show_changed()
            return
        self.tape.reach = heights.swept.low, heights.swept.high
        self.tape.show_changed()
        self.sensible.setText(self._told_sensible())
        self.turns.clear()
        for mark in self.tape.marks:
            for turn in mark.turns:
                height, text = show_length(turn.height_mm, units), self.studio.say(turn.text)
                item = QListWidgetItem(f"{height}  {text}")
                item.setToolTip(tr("below: {below}", below=self.studio.say(turn.below)))
                self.turns.addItem(item)
        self._show_holding()
        self._ask_for_heights()

    def _told_sensible(self) -> str:
        return sensible_words(self.heights.sensible(self.tape.mm), self.studio.words)

    def _show_holding(self) -> None:
        """Show which conditions hold at the selected height, and how far from their limits."""
        swept, mm, say = self.heights.swept, self.tape.mm, self.studio.say
        self.holding.clear()
        if swept is None:
            return
        for met in swept.usual:
            band = next((band for band in met.bands if band.contains(mm)), None)
            if band is None:
                told = tr(
                    "not: {what} ({spans})", what=say(met.told), spans=self.tape.spans(met.bands)
                )
                self.holding.addItem(told)
            else:
                self.holding.addItem(self._band_text(say(met.told), band))
        for fit in swept.fits:
            if fit.from_mm <= mm <= fit.to_mm:
                self.holding.addItem(
                    self._band_text(say(fit.text), HeightBand(fit.from_mm, fit.to_mm))
                )

    def _band_text(self, what: str, band: HeightBand) -> str:
        units, mm = self.studio.units, self.tape.mm
        above, below = (show_length(away, units) for away in (band.to_mm - mm, mm - band.from_mm))
        told = tr("{what}: for {above} more, {below} less", what=what, above=above, below=below)
        return tr("{what}: for {below} less", what=what, below=below) if band.open_above else told

    # What is asked

    def _ask_for_heights(self) -> None:
        asked = self.rows.ticked_conditions()
        d = self.theme.dyes
        colours = (d.woad, d.madder, d.weld, d.lichen, d.quiet)
        dyed = {name: colours[i % len(colours)] for i, (name, _) in enumerate(asked)}
        self.rows.colour(dyed)
        if self._job is not None:
            self._job.stop.set()
        if not asked or self.heights.swept is None:
            self.tape.show_answer((), ())
            self.answer.setText(self.rows.fault)
            return
        self.answer.setText(tr("looking …"))
        self._job = self.heights.answer(
            [condition for _, condition in asked],
            lambda answer: self._show_answer(answer, list(dyed.values())),
            self._show_failure,
        )

    def _show_answer(self, answer: Answer, colours: Sequence[QColor]) -> None:
        say = self.studio.say
        bars = [
            ConditionBar(say(met.told), colour, met.bands)
            for met, colour in zip(answer.each, colours, strict=True)
        ]
        together = [band.inner(self.studio.units.grain_mm) for band in answer.together]
        self.tape.show_answer(bars, together)
        rows = [f"{bar.told}: {self.tape.spans(bar.bands)}" for bar in bars]
        if together:
            rows.append(tr("All of it: {spans}.", spans=self.tape.spans(together)))
            self.tape.pick(together[-1].to_mm)
        else:
            rows.append(say(answer.why))
        if self.rows.rows["cost"].box.isChecked() and self._is_unpriced():
            rows.append(
                tr(
                    "Things without a price are not counted: enter prices for wool, eyes, wire and "
                    "your hour."
                )
            )
        self.answer.setText("\n".join(filter(None, (self.rows.fault, *rows))))

    def _is_unpriced(self) -> bool:
        plan = self.studio.plan
        return plan is not None and bool(cost_of(plan, self.studio.bench).unpriced)

    def _show_failure(self, error: Exception) -> None:
        if not isinstance(error, CalledOffError):
            self.answer.setText(error_words(error, self.studio.words))

    # Sizes

    def _add_beside(self) -> None:
        if len(self.laid) < MOST_BESIDE and all(
            abs(mm - self.tape.mm) > _SAME_MM for mm in self.laid
        ):
            self.laid.append(self.tape.mm)
            self._lay_beside()

    def _drop_chosen(self) -> None:
        if self.beside.in_hand is not None:
            self._remove_beside(self.beside.in_hand.height_mm)

    def _remove_beside(self, mm: float) -> None:
        kept = [each for each in self.laid if abs(each - mm) > _SAME_MM]
        if kept:
            self.laid = kept
            self._lay_beside()

    def _lay_beside(self) -> None:
        if self._laying is not None:
            self._laying.stop.set()
        self.tape.least = max(*self.laid, self.tape.mm)
        self._laying = self.heights.compare_sizes(self.laid, self._show_beside, self._show_failure)
        self._enable_buttons()

    def _show_beside(self, came: tuple[SizeSeries, tuple[Placement, ...]]) -> None:
        sizes, placements = came
        self.beside.show_sizes(sizes, placements, self.tape.mm)
        say, units = self.studio.say, self.studio.units
        self.changes.clear()
        for i, row in enumerate(sizes.rows):
            head = QListWidgetItem(show_length(row.height_mm, units))
            head.setFont(self.theme.text(15, bold=True))
            self.changes.addItem(head)
            rows = [say(fact) for fact in (*row.questions, *row.differs)]
            self.changes.addItems(rows or ([tr("made the same way")] if i else []))
        if len(sizes.rows) > 1:
            head = QListWidgetItem(tr("one of each"))
            head.setFont(self.theme.text(15, bold=True))
            self.changes.addItem(head)
            for total in sizes.wools:
                told = tr("{wool}: {grams}", wool=total.name, grams=show_mass(total.grams, units))
                n = total.packs
                buys = trn("{told}, {n} pack to buy", "{told}, {n} packs to buy", n, told=told)
                self.changes.addItem(buys if n else told)
        self._enable_buttons()

    def _enable_buttons(self) -> None:
        several = len(self.laid) > 1
        for button in (self.make, self.print_, self.drop):
            button.setEnabled(several)
        self.lay.setEnabled(len(self.laid) < MOST_BESIDE)

    def _show_take(self) -> None:
        self.take.setText(tr("&Use {height}", height=show_length(self.tape.mm, self.studio.units)))
        if self.heights.swept is not None:
            self.sensible.setText(self._told_sensible())
            self._show_holding()

    def _accept_height(self) -> None:
        if self.studio.set_height(self.tape.mm, self.studio.new_gesture()):
            self.accept()

    def _let_go(self, _: int) -> None:
        for job in (self._job, self._laying):
            if job is not None:
                job.stop.set()
        self.heights.changed.disconnect(self._heights_changed)
