"""A text field for a list of parts, with the reading of each line beside it."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QRect, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QTextCharFormat,
    QTextCursor,
)
from PyQt6.QtWidgets import QPlainTextEdit, QTextEdit, QWidget

from bambola.desk.kit.theme import Theme
from bambola.language import tr

BESIDE_SHARE = 0.4
"""The share of the width that what is read has beside the lines."""


class NotesPaper(QPlainTextEdit):
    """The typed lines with their readings; questions are in red."""

    line_changed = pyqtSignal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._told: Mapping[int, str] = {}
        self._wrong: frozenset[int] = frozenset()
        self.setLineWrapMode(QPlainTextEdit.LineWrapMode.NoWrap)
        self.setAccessibleName(tr("The list: a line a part"))
        self.setTabChangesFocus(True)
        self._beside = _Beside(self)
        self.updateRequest.connect(lambda *_: self._beside.update())
        self.cursorPositionChanged.connect(self._moved)
        theme.changed.connect(self._restyle)
        self._restyle()

    @property
    def line(self) -> int:
        """The number of the cursor's line, from 1."""
        return self.textCursor().blockNumber() + 1

    def tell(self, told: Mapping[int, str], wrong: frozenset[int]) -> None:
        """Show the readings by line number; ``wrong`` lines get a wavy underline."""
        self._told, self._wrong = told, wrong
        self._lay()
        marks = []
        for n in sorted(wrong):
            block = self.document().findBlockByNumber(n - 1)  # type: ignore[union-attr]
            if not block.isValid():
                continue
            mark = QTextEdit.ExtraSelection()
            style = QTextCharFormat()
            style.setUnderlineStyle(QTextCharFormat.UnderlineStyle.WaveUnderline)
            style.setUnderlineColor(self.theme.dyes.madder)
            mark.format = style
            cursor = QTextCursor(block)
            cursor.movePosition(
                QTextCursor.MoveOperation.EndOfBlock, QTextCursor.MoveMode.KeepAnchor
            )
            mark.cursor = cursor
            marks.append(mark)
        self.setExtraSelections(marks)
        self._beside.update()

    def replace_line(self, n: int, text: str) -> None:
        """Replace a line as one step of undo."""
        block = self.document().findBlockByNumber(n - 1)  # type: ignore[union-attr]
        cursor = QTextCursor(block)
        cursor.movePosition(QTextCursor.MoveOperation.EndOfBlock, QTextCursor.MoveMode.KeepAnchor)
        cursor.insertText(text)

    def beside(self) -> list[tuple[QRect, str, QColor]]:
        """Return place, text and colour of the readings of all visible lines."""
        found = []
        block = self.firstVisibleBlock()
        wide = self._beside.width()
        while block.isValid():
            box = self.blockBoundingGeometry(block).translated(self.contentOffset())
            if box.top() > self.height():
                break
            n = block.blockNumber() + 1
            if n in self._told:
                colour = self.theme.dyes.madder if n in self._wrong else self.theme.dyes.quiet
                place = QRect(0, round(box.top()), wide, round(box.height()))
                found.append((place, self._told[n], colour))
            block = block.next()
        return found

    def _moved(self) -> None:
        self.line_changed.emit(self.line)

    def _restyle(self) -> None:
        self.setFont(self.theme.text(18))
        paper = self.theme.dyes.paper.name()
        self.setStyleSheet(f"QPlainTextEdit {{ background: {paper}; }}")
        self._lay()

    def _lay(self) -> None:
        wide = round(self.width() * BESIDE_SHARE) if any(self._told.values()) else 0
        self.setViewportMargins(0, 0, wide, 0)
        box = self.contentsRect()
        self._beside.setGeometry(QRect(box.right() - wide + 1, box.top(), wide, box.height()))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._lay()


class _Beside(QWidget):
    """The margin that shows the readings."""

    def __init__(self, paper: NotesPaper) -> None:
        super().__init__(paper)
        self.paper = paper
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.paper.theme.dyes.paper)
        painter.setFont(self.paper.theme.text(14))
        metrics = painter.fontMetrics()
        left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        for box, words, colour in self.paper.beside():
            painter.setPen(colour)
            said = metrics.elidedText(words, Qt.TextElideMode.ElideRight, box.width() - 8)
            painter.drawText(box, left, said)
