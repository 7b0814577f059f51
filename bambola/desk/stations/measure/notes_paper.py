"""A text field for a list of parts, with the reading of each line beside it."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QResizeEvent, QTextCharFormat, QTextCursor
from PyQt6.QtWidgets import QPlainTextEdit, QTextEdit, QWidget

from bambola.core.figure import Figure
from bambola.core.relief import Camera
from bambola.core.solids import Placement, place
from bambola.desk.kit.painters.marks import outline_of
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.stations.measure.chalk import paint_names
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
        self.setAccessibleName(tr("The list: one line for each part"))
        self.setTabChangesFocus(True)
        self._beside = _Beside(self)
        self.updateRequest.connect(lambda *_: self._beside.update())
        self.cursorPositionChanged.connect(self._on_cursor_moved)
        set_role(self, "huge")
        theme.changed.connect(self._restyle)
        self._restyle()

    @property
    def line(self) -> int:
        """The number of the cursor's line, from 1."""
        return self.textCursor().blockNumber() + 1

    def show_readings(self, told: Mapping[int, str], wrong: frozenset[int]) -> None:
        """Show the readings by line number; ``wrong`` lines get a wavy underline."""
        self._told, self._wrong = told, wrong
        self._place_readings()
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

    def line_readings(self) -> list[tuple[QRect, str, QColor]]:
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

    def _on_cursor_moved(self) -> None:
        self.line_changed.emit(self.line)

    def _restyle(self) -> None:
        self._place_readings()

    def _place_readings(self) -> None:
        wide = round(self.width() * BESIDE_SHARE) if any(self._told.values()) else 0
        if (
            wide != self.viewportMargins().right()
        ):  # else a bar that comes and goes would ask for ever
            self.setViewportMargins(0, 0, wide, 0)
        box = self.contentsRect()
        self._beside.setGeometry(QRect(box.right() - wide + 1, box.top(), wide, box.height()))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place_readings()


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
        for box, words, colour in self.paper.line_readings():
            painter.setPen(colour)
            said = metrics.elidedText(words, Qt.TextElideMode.ElideRight, box.width() - 8)
            painter.drawText(box, left, said)


CAMERA = Camera(turn=28, tip=7)
NAME = "notes"
NAMES_SHARE = 0.22
"""The share of the width that names have on either side."""


class NotesFigure(QWidget):
    """The figure in felt, with names on both sides and a line from each to its part."""

    def __init__(self, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__()
        self.theme, self.darkroom = theme, darkroom
        self._placement: Placement | None = None
        self._made: RenderResult | None = None
        self._lit = ""
        self._soon = one_shot_timer(self, 60)
        self._soon.timeout.connect(self._request_picture)
        darkroom.developed.connect(self._developed)
        theme.changed.connect(self._soon.start)
        self.setMinimumSize(theme.px(300), theme.px(260))
        self.setAccessibleName(tr("The figure as it grows"))

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(560), self.theme.px(560))

    def show_figure(self, figure: Figure | None, lit: str = "") -> None:
        """Show a figure with one part outlined, or nothing."""
        self._lit = lit
        if figure is None:
            self._placement = self._made = None
            self.setAccessibleDescription("")
            self.update()
            return
        self._placement = place(figure)
        self.setAccessibleDescription(", ".join(part.name for part in figure.parts))
        self._soon.start()

    def light(self, part: str) -> None:
        """Outline one part."""
        self._lit = part
        self.update()

    def _request_picture(self) -> None:
        if self._placement is None or self.height() < 40:
            return
        high = max(1.0, self._placement.height)
        step = 1.25 * high / self.height() / self.devicePixelRatioF()
        self.darkroom.request(NAME, RenderRequest(self._placement, CAMERA, step, 2))

    def _developed(self, name: str, made: RenderResult) -> None:
        # While one types, the picture of a moment ago is better than none.
        if name == NAME and self._placement is not None:
            self._made = made
            self.update()

    def resizeEvent(self, event: object) -> None:
        self._soon.start()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        made = self._made
        if made is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        seen = made.picture
        rows, columns = seen.owner.shape
        side = self.width() * NAMES_SHARE
        share = min((self.width() - 2 * side) / columns, (self.height() - 12) / rows)
        box = QRectF(0, 0, columns * share, rows * share)
        box.moveCenter(QPointF(self.width() / 2, self.height() / 2))
        painter.drawPixmap(box, made.pixmap, QRectF(made.pixmap.rect()))
        line = outline_of(seen, self._lit, self.theme.dyes.madder, 2) if self._lit else None
        if line is not None:
            at, mark = line
            place_ = QRectF(
                box.left() + at.x() * share,
                box.top() + at.y() * share,
                mark.width() * share,
                mark.height() * share,
            )
            painter.drawPixmap(place_, mark, QRectF(mark.rect()))
        self._name_parts(painter, made, box, share, side)

    def _name_parts(
        self, painter: QPainter, made: RenderResult, box: QRectF, share: float, side: float
    ) -> None:
        """Paint the names, sorted on either side so that no lines cross."""
        seen = made.picture
        names = {part.id: part.name for part in made.shot.placement.figure.parts}
        spots: list[tuple[float, float, str]] = []
        for n, part in enumerate(seen.parts):
            rows, columns = np.nonzero(seen.owner == n)
            if part in names and rows.size:
                x, y = float(np.median(columns)), float(np.median(rows))
                spots.append((box.left() + x * share, box.top() + y * share, part))
        paint_names(painter, QRectF(self.rect()), side, spots, self._lit, names, self.theme)
