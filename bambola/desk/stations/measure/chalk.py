"""Lines and labels drawn on the board, readable on felt and on any picture."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen

from bambola.desk.kit.theme import Theme


def paint_run(
    painter: QPainter,
    run: Sequence[QPointF],
    pen: QPen,
    theme: Theme,
    closed: bool,
    on_picture: bool,
) -> None:
    """A line through ``run``; on a picture with paper beneath, so that it is seen on any colour."""
    if len(run) < 2:
        return
    path = QPainterPath(run[0])
    for point in run[1:]:
        path.lineTo(point)
    if closed:
        path.closeSubpath()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if on_picture:
        under = QColor(theme.dyes.paper)
        under.setAlpha(170)
        painter.setPen(QPen(under, pen.widthF() + 2.4))
        painter.drawPath(path)
    painter.setPen(pen)
    painter.drawPath(path)


def paint_tag(
    painter: QPainter, area: QRectF, at: QPointF, text: str, colour: QColor | None, theme: Theme
) -> QRectF:
    """A label on a scrap of paper to the right of ``at``, kept within ``area``; returns its box."""
    d, px = theme.dyes, theme.px
    painter.setFont(theme.text(15, bold=True))
    wide, high = painter.fontMetrics().horizontalAdvance(text) + px(14), px(25)
    x = min(max(at.x() + px(10), area.left() + 4), area.right() - wide - 4)
    y = min(max(at.y() - high / 2, area.top() + 4), area.bottom() - high - 4)
    box = QRectF(x, y, wide, high)
    painter.setPen(QPen(colour or d.madder, 1.4))
    painter.setBrush(d.paper)
    painter.drawRoundedRect(box, px(6), px(6))
    painter.setPen(d.ink)
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
    return box
