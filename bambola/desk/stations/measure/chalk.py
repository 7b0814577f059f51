"""Draws lines and labels on the board, readable on felt and on any picture."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

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
    """Paint a line through ``run``; on a picture with a paper-coloured line beneath, visible on any
    colour."""
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
    """Paint a label on a scrap of paper to the right of ``at``, kept within ``area``; return its box."""
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


def paint_names(
    painter: QPainter,
    area: QRectF,
    side: float,
    spots: Sequence[tuple[float, float, str]],
    lit: str,
    names: Mapping[str, str],
    theme: Theme,
) -> None:
    """Paint the names of what lies at ``spots`` (x, y, key) in columns ``side`` px wide on either side of
    ``area``, each with a line to its spot, sorted so that no lines cross."""
    d = theme.dyes
    painter.setFont(theme.text(14, bold=True))
    high = painter.fontMetrics().height() + theme.px(4)
    spots = sorted(spots)
    for is_right, half in enumerate((spots[: len(spots) // 2], spots[len(spots) // 2 :])):
        top = area.top()
        half = sorted(half, key=lambda spot: spot[1])
        for i, (x, y, key) in enumerate(half):
            rest = (len(half) - i) * high
            top = max(top, min(y - high / 2, area.bottom() - rest))
            left = area.right() - side if is_right else area.left()
            place = QRectF(left, top, side, high)
            painter.setPen(QPen(d.quiet, 1))
            near = place.left() if is_right else place.right()
            painter.drawLine(QPointF(near, place.center().y()), QPointF(x, y))
            painter.setBrush(d.madder)
            painter.drawEllipse(QPointF(x, y), 3.0, 3.0)
            painter.setPen(d.madder if key == lit else d.ink)
            align = Qt.AlignmentFlag.AlignLeft if is_right else Qt.AlignmentFlag.AlignRight
            words = painter.fontMetrics().elidedText(
                names[key], Qt.TextElideMode.ElideRight, round(side - 8)
            )
            inner = place.adjusted(6, 0, -6, 0)
            painter.drawText(inner, align | Qt.AlignmentFlag.AlignVCenter, words)
            top += high
