"""A bar for what something bears, with a mark for what it needs."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bambola.desk.kit.theme import Theme


def paint_load(painter: QPainter, room: QRectF, bears: float, needs: float, theme: Theme) -> None:
    """Paint the bar in ``room``; its colour, and a mark beyond its end, show if it is not enough."""
    d, px = theme.dyes, theme.px
    most = max(bears, needs, 1e-9) * 1.12
    round_ = room.height() / 2
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(d.shade)
    painter.drawRoundedRect(room, round_, round_)
    painter.setBrush(d.lichen if bears >= needs * 0.997 else d.madder)
    bar = QRectF(room.left(), room.top(), room.width() * bears / most, room.height())
    painter.drawRoundedRect(bar, round_, round_)
    x = room.left() + room.width() * needs / most
    painter.setPen(QPen(d.ink, px(2.4)))
    painter.drawLine(QPointF(x, room.top() - px(5)), QPointF(x, room.bottom() + px(4)))


class LoadBar(QWidget):
    """One such bar."""

    def __init__(self, theme: Theme, told: str) -> None:
        super().__init__()
        self.theme = theme
        self._load = (0.0, 0.0)
        self.setAccessibleName(told)

    def sizeHint(self) -> QSize:
        return QSize(200, self.theme.px(26))

    minimumSizeHint = sizeHint

    def show_load(self, bears: float, needs: float) -> None:
        """Show a capacity and a load."""
        self._load = (bears, needs)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px = self.theme.px
        paint_load(painter, QRectF(1, px(8), self.width() - 2, px(12)), *self._load, self.theme)
