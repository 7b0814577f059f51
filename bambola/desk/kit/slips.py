"""Slips of paper with questions that need the maker's judgement, answered in place."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.facts import Fact
from bambola.core.plan import Notice
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.session.studio import EditorSession
from bambola.language import tr, trn

_HAND_MOVES = (
    QEvent.Type.Enter,
    QEvent.Type.Leave,
    QEvent.Type.FocusIn,
    QEvent.Type.FocusOut,
)


class SlipTray(QWidget):
    """Shows one slip at a time with a way to page through the others; open questions come first."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.setAccessibleName(tr("Questions"))
        self._at = 0
        self._folded = False
        self._shown: Notice | None = None
        self._box = QVBoxLayout(self)
        head = QHBoxLayout()
        self._title = QLabel()
        self._title.setWordWrap(True)
        head.addWidget(self._title, 1)
        self.marks = NoticeMarks(theme, self.slips, studio.say)
        self.marks.taken.connect(self._on_row_changed)
        head.addWidget(self.marks)
        self._box.addLayout(head)
        self._text = QLabel()
        self._text.setWordWrap(True)
        self._box.addWidget(self._text)
        self._holder = QFrame()
        self._options = FlowLayout(self._holder)
        self._box.addWidget(self._holder)
        self.effect = QLabel()
        """What becomes of the answer under the hand: of the one given, or the first, where there is none."""
        self.effect.setWordWrap(True)
        self.effect.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self._box.addWidget(self.effect)
        studio.plan_changed.connect(self.refresh)
        studio.figure_changed.connect(self._show_first)
        studio.units_changed.connect(self._said_anew)
        set_role(self._title, "amount")
        set_role(self._text, "note")
        set_role(self.effect, "note")
        set_spacing(self.theme, self._box, (16, 10, 12, 12), gap=5)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _said_anew(self) -> None:
        """Show the same slip in other units."""
        self._shown = None
        self.refresh()

    def _show_first(self) -> None:
        self._at = 0

    def _restyle(self) -> None:
        px = self.theme.px
        self._options.set_gap(px(8))
        # Two lines are kept free, so that nothing jumps under the hand.
        self.effect.setMinimumHeight(2 * self.effect.fontMetrics().lineSpacing())
        self._shown = None
        self.refresh()

    def slips(self) -> list[Notice]:
        """Return all notices, unanswered ones first."""
        plan = self.studio.plan
        notices = plan.notices if plan else ()
        return sorted(notices, key=lambda n: (n.level != "stop", not n.is_open, n.level == "note"))

    def _on_row_changed(self, row: int, _: str) -> None:
        self._at = row
        self.refresh()

    def fold(self, folded: bool) -> None:
        """Show only the title if there is little room; a click on it unfolds the slip."""
        if folded != self._folded:
            self._folded = folded
            self._shown = None
            self.refresh()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.fold(not self._folded)

    def show_open(self) -> None:
        """Show the first open question and focus its options."""
        self._at = 0
        self.fold(False)
        self.refresh()
        buttons = self._holder.findChildren(QPushButton)
        if buttons:
            buttons[0].setFocus()

    def refresh(self) -> None:
        """Show the slip that is due."""
        slips = self.slips()
        if self.parent() is not None:  # alone it would be a window of its own
            self.setVisible(bool(slips))
        if not slips:
            self._shown = None
            return
        self._at %= len(slips)
        notice = slips[self._at]
        self.marks.lay_slips(self._at)
        if notice != self._shown:
            self._show_notice(notice)

    def _show_notice(self, notice: Notice) -> None:
        same = self._shown and [o.id for o in self._shown.options] == [o.id for o in notice.options]
        same = same and self._shown is not None and self._shown.code == notice.code
        self._shown = notice
        self._title.setText(self.studio.say(notice.title))
        self._text.setText(self.studio.say(notice.text))
        if not same:
            self._options.clear()
            for option in notice.options:
                button = QPushButton()
                make_switch(
                    button,
                    lambda _, code=notice.code, option=option.id: self._toggle_answer(code, option),
                )
                button.installEventFilter(self)
                self._options.addWidget(button)
        for shown in (self._holder, self.effect):
            shown.setVisible(bool(notice.options) and not self._folded)
        self._text.setVisible(not self._folded)
        for button, option in zip(
            self._holder.findChildren(QPushButton), notice.options, strict=False
        ):
            button.setText(self.studio.say(option.label))
            effect = self.studio.say(option.effect)
            button.setAccessibleDescription(effect)
            show_switch(button, option.id == notice.answer)
        self._tell_effect()
        self.update()

    def eventFilter(self, button: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() in _HAND_MOVES:
            self._tell_effect()
        return super().eventFilter(button, event)

    def _tell_effect(self) -> None:
        buttons = self._holder.findChildren(QPushButton)
        if self._shown is None or not buttons:
            return
        under = next((b for b in buttons if b.underMouse()), None)
        focused = next((b for b in buttons if b.hasFocus()), None)
        given = next((b for b in buttons if b.isChecked()), None)
        told = under or focused or given or buttons[0]
        effect = told.accessibleDescription()
        self.effect.setText(tr("{answer}: {effect}", answer=told.text(), effect=effect))

    def _toggle_answer(self, code: str, option: str) -> None:
        again = self.studio.brief.answers.get(code) == option
        self.studio.answer(code, None if again else option)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._shown is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d = self.theme.dyes
        waiting = self._shown.waits
        painter.setPen(
            QPen(d.madder if self._shown.level == "stop" else d.weld if waiting else d.edge, 1.4)
        )
        painter.setBrush(d.slip if waiting else d.paper)
        corner = self.theme.px(10)
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), corner, corner)


class NoticeMarks(PaintedList):
    """A mark for every slip: square for one that stops the plan, round and full for a question, an empty ring
    for one that is answered or a note. Arrow keys page through them."""

    def __init__(
        self, theme: Theme, slips: Callable[[], list[Notice]], say: Callable[[Fact], str]
    ) -> None:
        super().__init__(theme, tr("Questions and notes"), ListModel(self._notice_text))
        self._slips, self._say = slips, say
        self._shown: list[Notice] = []
        theme.changed.connect(self.updateGeometry)

    def lay_slips(self, at: int) -> None:
        """Set the marks, one for each slip; the one at ``at`` is current."""
        count = len(self._shown)
        self._shown = self._slips()
        self.rows.set_keys([notice.code for notice in self._shown])
        self.setVisible(bool(self._shown))
        if len(self._shown) != count:
            self.updateGeometry()
        self.show_row(at)

    def _notice_text(self, code: str) -> str:
        notice = next((notice for notice in self._shown if notice.code == code), None)
        if notice is None:
            return ""
        title = self._say(notice.title)
        if notice.waits:
            return tr("Open: {question}", question=title)
        return tr("Answered: {question}", question=title) if notice.answer else title

    def sizeHint(self) -> QSize:
        most = self.theme.px(180)
        return QSize(min(most, self.theme.px(20) * len(self._shown)), self.theme.px(26))

    minimumSizeHint = sizeHint

    def box(self, row: int) -> QRectF:
        wide = self.width() / max(1, len(self._shown))
        return QRectF(row * wide, 0, wide, self.height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        for row, notice in enumerate(self._shown):
            at = self.box(row).center()
            if row == self.current_row:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(d.ink, px(2.2 if self.hasFocus() else 1.2)))
                painter.drawEllipse(at, px(9), px(9))
            side = px(5)
            colour = d.madder if notice.level == "stop" else d.weld if notice.waits else d.quiet
            painter.setPen(QPen(colour, px(1.6)))
            painter.setBrush(colour if notice.waits else Qt.BrushStyle.NoBrush)
            if notice.level == "stop":
                painter.drawRect(QRectF(at.x() - side, at.y() - side, 2 * side, 2 * side))
            else:
                painter.drawEllipse(at, side, side)


class QuestionBadge(QPushButton):
    """The number of things to decide or mend; clicking it goes to the first one."""

    asked = pyqtSignal()

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(self.asked)
        self._shown: tuple[int, bool, bool] | None = None
        studio.plan_changed.connect(self.refresh)
        theme.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Count again."""
        plan = self.studio.plan
        n = len(plan.waiting) if plan else 0
        shown = (n, plan is not None, self.theme.dark)
        if shown == self._shown:
            return
        self._shown = shown
        self.setVisible(plan is not None)
        self.setText(
            tr("nothing to decide")
            if n == 0
            else trn("{n} thing to decide", "{n} things to decide", n)
        )
        set_role(self, "questions", "open" if n else "quiet")
        self.setEnabled(bool(n))
