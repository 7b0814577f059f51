"""The wools as swatches under the board, to lay on parts."""

from __future__ import annotations

from PyQt6.QtCore import QMimeData, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QDrag, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap

from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.painters.wool import paint_bundle
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.board import WOOL_MIME
from bambola.language import tr


class Swatches(PaintedList):
    """Drag a swatch onto a part, or choose one and press Enter: it becomes the part's coat.

    With Shift it becomes the core. Delete takes the coat off.
    """

    laid = pyqtSignal(str, str)
    chosen = pyqtSignal(str)

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__(theme, tr("Wools"), ListModel(self._wool_name))
        self.studio = studio
        self._press: QPointF | None = None
        studio.selection.part_changed.connect(self.redraw)
        studio.survey_changed.connect(self.redraw)
        studio.bench_changed.connect(self._lay_out)
        theme.changed.connect(self.updateGeometry)
        self.taken.connect(self._take_wool)
        studio.selection.wool_changed.connect(self._show_in_hand)
        self._lay_out()

    def _lay_out(self) -> None:
        self.rows.set_keys([wool for wool, _, _ in self.wools])
        self._show_in_hand()

    def _show_in_hand(self) -> None:
        self.show_row(max(0, self.rows.row_of(self.studio.selection.wool)) if self.wools else -1)

    def _take_wool(self, _: int, wool: str) -> None:
        self.studio.selection.select_wool(wool)
        self.chosen.emit(wool)

    def _wool_name(self, wool: str) -> str:
        return next((name for known, name, _ in self.wools if known == wool), "")

    @property
    def wools(self) -> list[tuple[str, str, str]]:
        """Id, name and colour of every wool on the bench."""
        return [(w.id, w.name, w.colour) for w in self.studio.bench.wools]

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(46) * len(self.wools), self.theme.px(58))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(200), self.theme.px(58))

    def box(self, row: int) -> QRectF:
        each = min(self.theme.px(50), self.width() / max(1, len(self.wools)))
        return QRectF(row * each + 2, 2, each - 4, self.theme.px(36))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        worn = self._worn_wools()
        for i, (wool, _name, colour) in enumerate(self.wools):
            box = self.box(i)
            paint_bundle(
                painter, box.adjusted(px(3), px(3), -px(3), -px(3)), colour, False, self.theme
            )
            if wool in worn:
                painter.setPen(QPen(d.madder, px(2)))
                painter.drawLine(
                    QPointF(box.left() + px(6), box.bottom() + px(1)),
                    QPointF(box.right() - px(6), box.bottom() + px(1)),
                )
            if i == self.current_row:
                painter.setPen(QPen(d.ink, px(2.6)) if self.hasFocus() else QPen(d.edge, px(1.6)))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRoundedRect(box, px(8), px(8))
        painter.setFont(self.theme.text(13))
        painter.setPen(d.quiet)
        if self.wools and self.height() >= px(54):
            told = tr(
                "{wools}: drag it onto a part, or Enter for the selected part",
                wools=self.wools[self.current_row][1],
            )
            line = QRectF(0, px(39), self.width(), px(19))
            painter.drawText(line, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, told)

    def _worn_wools(self) -> set[str]:
        figure, selected = self.studio.figure, self.studio.selection.part
        part = figure.by_id.get(selected or "") if figure else None
        return {part.core, *((part.coat.wool,) if part.coat else ())} if part else set()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        row = self.row_at(event.position())
        if row >= 0:
            self.select_row(row)
            self._press = event.position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._press is not None and (event.position() - self._press).manhattanLength() > 10:
            self._press = None
            self._start_drag()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._press = None

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self._lay_on_part()

    def _start_drag(self) -> None:
        wool, _, colour = self.wools[self.current_row]
        mime = QMimeData()
        mime.setData(WOOL_MIME, wool.encode())
        side = self.theme.px(40)
        lump = QPixmap(side, side)
        lump.fill(Qt.GlobalColor.transparent)
        painter = QPainter(lump)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_bundle(painter, QRectF(2, 2, side - 4, side - 4), colour, False)
        painter.end()
        drag = QDrag(self)
        drag.setMimeData(mime)
        drag.setPixmap(lump)
        drag.exec(Qt.DropAction.CopyAction)

    def _lay_on_part(self, role: str = "coat") -> None:
        if self.wools:
            self.laid.emit(self.wools[self.current_row][0], role)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            shifted = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self._lay_on_part("core" if shifted else "coat")
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self._lay_on_part("bare")
        else:
            super().keyPressEvent(event)
