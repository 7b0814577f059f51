"""Slips: questions that need the maker's judgement, answered where they stand."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.plan import Notice
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import Studio


class SlipTray(QWidget):
    """One slip at a time, with a way to leaf through the others; open questions come first."""

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.setAccessibleName("Questions")
        self._at = 0
        self._folded = False
        self._shown: Notice | None = None
        self._box = QVBoxLayout(self)
        head = QHBoxLayout()
        self._title = QLabel()
        self._title.setWordWrap(True)
        head.addWidget(self._title, 1)
        self._count = QLabel()
        head.addWidget(self._count)
        self._before, self._next = QToolButton(), QToolButton()
        for button, glyph, name, step in (
            (self._before, "‹", "Previous question", -1),
            (self._next, "›", "Next question", 1),
        ):
            button.setText(glyph)
            button.setAccessibleName(name)
            button.clicked.connect(lambda _=False, step=step: self.leaf(step))
            head.addWidget(button)
        self._box.addLayout(head)
        self._text = QLabel()
        self._text.setWordWrap(True)
        for label in (self._title, self._text):
            label.setTextFormat(Qt.TextFormat.PlainText)
        self._box.addWidget(self._text)
        self._holder = QFrame()
        self._options = FlowLayout(self._holder)
        self._box.addWidget(self._holder)
        studio.plan_changed.connect(self.refresh)
        studio.figure_changed.connect(self._first)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _first(self) -> None:
        self._at = 0

    def _restyle(self) -> None:
        px = self.theme.px
        self._box.setContentsMargins(px(16), px(10), px(12), px(12))
        self._box.setSpacing(px(5))
        self._options.set_gap(px(8))
        self._title.setFont(self.theme.text(16, bold=True))
        self._text.setFont(self.theme.text(14))
        self._count.setFont(self.theme.text(13))
        self._count.setStyleSheet(f"color: {self.theme.dyes.quiet.name()};")
        self._shown = None
        self.refresh()

    def slips(self) -> list[Notice]:
        """All notices, those that wait for an answer first."""
        plan = self.studio.plan
        notices = plan.notices if plan else ()
        return sorted(notices, key=lambda n: (n.level != "stop", not n.is_open, n.level == "note"))

    def leaf(self, step: int) -> None:
        """Show the next or the previous slip."""
        self._at += step
        self.refresh()

    def fold(self, folded: bool) -> None:
        """Show only the title where there is little room; a press on it unfolds the slip."""
        if folded != self._folded:
            self._folded = folded
            self._shown = None
            self.refresh()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.fold(not self._folded)

    def show_open(self) -> None:
        """Bring the first open question forward and move to its options."""
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
        self._count.setText(f"{self._at + 1} of {len(slips)}" if len(slips) > 1 else "")
        for button in (self._before, self._next):
            button.setVisible(len(slips) > 1)
        if notice != self._shown:
            self._show(notice)

    def _show(self, notice: Notice) -> None:
        same = self._shown and [o.id for o in self._shown.options] == [o.id for o in notice.options]
        same = same and self._shown is not None and self._shown.code == notice.code
        self._shown = notice
        self._title.setText(notice.title)
        self._text.setText(notice.text)
        if not same:
            self._options.clear()
            for option in notice.options:
                button = QPushButton(option.label)
                button.setCheckable(True)
                button.clicked.connect(
                    lambda _=False, code=notice.code, option=option.id: self._answer(code, option)
                )
                self._options.addWidget(button)
        self._holder.setVisible(bool(notice.options) and not self._folded)
        self._text.setVisible(not self._folded)
        for button, option in zip(
            self._holder.findChildren(QPushButton), notice.options, strict=False
        ):
            button.setToolTip(option.effect)
            button.setAccessibleDescription(option.effect)
            button.setChecked(option.id == notice.answer)
        self.update()

    def _answer(self, code: str, option: str) -> None:
        again = self.studio.brief.answers.get(code) == option
        self.studio.answer(code, None if again else option)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._shown is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d = self.theme.dyes
        waiting = self._shown.is_open or self._shown.level == "stop"
        painter.setPen(
            QPen(d.madder if self._shown.level == "stop" else d.weld if waiting else d.edge, 1.4)
        )
        painter.setBrush(d.slip if waiting else d.paper)
        corner = self.theme.px(10)
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), corner, corner)


class QuestionBadge(QPushButton):
    """How many questions are open; pressing it brings the first one to hand."""

    asked = pyqtSignal()

    def __init__(self, studio: Studio, theme: Theme) -> None:
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
        n = len(plan.open_questions) if plan else 0
        shown = (n, plan is not None, self.theme.dark)
        if shown == self._shown:
            return
        self._shown = shown
        self.setVisible(plan is not None)
        self.setText(
            "nothing to decide"
            if n == 0
            else "1 thing to decide"
            if n == 1
            else f"{n} things to decide"
        )
        d = self.theme.dyes
        colour, back = (d.ink, d.slip) if n else (d.quiet, d.paper)
        edge = d.weld if n else d.edge
        self.setStyleSheet(
            f"QPushButton {{ color: {colour.name()}; background: {back.name()};"
            f" border-color: {edge.name()}; }}"
            f"QPushButton:focus {{ border-color: {d.madder.name()}; }}"
        )
        self.setEnabled(bool(n))
