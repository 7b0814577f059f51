"""A path of stations or steps, stitched like a seam."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen

from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.theme import Theme

_NARROW_PX = 620
"""In a narrower window (before scaling) only the stitches have room beside the name of the figure."""


class StitchedPath(PaintedList):
    """The stations as stitches on a seam, the current one a knot."""

    def __init__(self, names: tuple[str, ...], theme: Theme, name: str) -> None:
        super().__init__(theme, name, ListModel(str))
        self.names = names
        self.rows.set_keys(names)
        self.show_row(0)
        self.cloth.setCursor(Qt.CursorShape.PointingHandCursor)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        window = self.window()
        narrow = window is not None and window.width() < self.theme.px(_NARROW_PX)
        return QSize(self.theme.px(44 if narrow else 98) * len(self.names), self.theme.px(54))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(22) * len(self.names), self.theme.px(54))

    def box(self, row: int) -> QRectF:
        each = self.width() / len(self.names)
        return QRectF(row * each, 0, each, self.height())

    def _dot_position(self, i: int) -> QPointF:
        each = self.width() / len(self.names)
        return QPointF(each * (i + 0.5), self.theme.px(16))

    def _has_room(self) -> bool:
        """Return whether all names fit side by side; if not, only the current one is written."""
        fine = QFontMetricsF(self.theme.text(15, bold=True))
        each = self.width() / len(self.names)
        return all(fine.horizontalAdvance(name) + 4 <= each for name in self.names)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        painter.setPen(QPen(d.woad, px(2), Qt.PenStyle.CustomDashLine))
        pen = painter.pen()
        pen.setDashPattern([4, 3])
        painter.setPen(pen)
        painter.drawLine(self._dot_position(0), self._dot_position(len(self.names) - 1))
        roomy = self._has_room()
        for i, name in enumerate(self.names):
            dot = self._dot_position(i)
            here = i == self.current_row
            if here and self.hasFocus():
                painter.setPen(QPen(d.ink, px(1.6)))
                painter.setBrush(d.ground)
                painter.drawEllipse(dot, px(13), px(13))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(d.madder if here else d.woad if i < self.current_row else d.quiet)
            painter.drawEllipse(dot, px(9) if here else px(5.5), px(9) if here else px(5.5))
            if not (roomy or here):
                continue
            painter.setFont(self.theme.text(15, bold=here))
            painter.setPen(d.ink if here else d.quiet)
            wide = QFontMetricsF(painter.font()).horizontalAdvance(name) + 4
            left = min(max(0.0, dot.x() - wide / 2), self.width() - wide)
            painter.drawText(QRectF(left, px(28), wide, px(24)), Qt.AlignmentFlag.AlignCenter, name)
