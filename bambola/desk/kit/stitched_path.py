"""A path of stations or steps, stitched like a seam."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bambola.desk.kit.theme import Theme


class StitchedPath(QWidget):
    """The stations as stitches on a seam; the one in hand is a knot."""

    chosen = pyqtSignal(int)

    def __init__(self, names: tuple[str, ...], theme: Theme) -> None:
        super().__init__()
        self.names, self.theme, self.at = names, theme, 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Stations")
        self.setAccessibleDescription(names[0])
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(98) * len(self.names), self.theme.px(54))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(64) * len(self.names), self.theme.px(54))

    def set_current(self, index: int) -> None:
        """Show ``index`` as the station in hand."""
        self.at = index
        self.setAccessibleDescription(self.names[index])
        self.update()

    def _dot(self, i: int) -> QPointF:
        each = self.width() / len(self.names)
        return QPointF(each * (i + 0.5), self.theme.px(16))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        painter.setPen(QPen(d.woad, px(2), Qt.PenStyle.CustomDashLine))
        pen = painter.pen()
        pen.setDashPattern([4, 3])
        painter.setPen(pen)
        painter.drawLine(self._dot(0), self._dot(len(self.names) - 1))
        for i, name in enumerate(self.names):
            dot = self._dot(i)
            here = i == self.at
            painter.setPen(QPen(d.ink, px(2)) if here and self.hasFocus() else Qt.PenStyle.NoPen)
            painter.setBrush(d.madder if here else d.woad if i < self.at else d.quiet)
            painter.drawEllipse(dot, px(9) if here else px(5.5), px(9) if here else px(5.5))
            painter.setFont(self.theme.text(15, bold=here))
            painter.setPen(d.ink if here else d.quiet)
            wide = QFontMetricsF(painter.font()).horizontalAdvance(name) + 4
            painter.drawText(
                QRectF(dot.x() - wide / 2, px(28), wide, px(24)), Qt.AlignmentFlag.AlignCenter, name
            )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        each = self.width() / len(self.names)
        self.chosen.emit(min(len(self.names) - 1, int(event.position().x() / each)))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        else:
            self.chosen.emit(max(0, min(len(self.names) - 1, self.at + step)))

    def focusInEvent(self, event: object) -> None:
        self.update()

    def focusOutEvent(self, event: object) -> None:
        self.update()
