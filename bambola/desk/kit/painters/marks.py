"""Marks on the figure: dimension lines, and the outline of the selected part."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import QPoint, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPainterPath, QPen, QPixmap

from bambola.core.quantities import MM_PER
from bambola.core.relief import Picture
from bambola.desk.kit.pictures import RenderResult, to_image
from bambola.desk.kit.theme import Theme


def paint_dimension(
    painter: QPainter,
    start: QPointF,
    end: QPointF,
    offset: QPointF,
    text: str,
    was: str,
    theme: Theme,
    inside: QRectF,
) -> None:
    """Paint a dimension line beside the thing it measures, moved out by ``offset``, its text in the
    middle."""
    d = theme.dyes
    a, b = start + offset, end + offset
    length = math.hypot(b.x() - a.x(), b.y() - a.y())
    if length < 6:
        return
    across = QPointF(-(b.y() - a.y()) / length, (b.x() - a.x()) / length) * theme.px(6)
    painter.setPen(QPen(d.madder, theme.px(1.6)))
    painter.drawLine(a, b)
    for end_point in (a, b):
        painter.drawLine(end_point - across, end_point + across)
    strong, light = theme.text(16, bold=True), theme.text(13)
    out = math.hypot(offset.x(), offset.y()) or 1.0
    away = QPointF(offset.x() / out, offset.y() / out)
    wide = max(
        QFontMetricsF(strong).horizontalAdvance(text), QFontMetricsF(light).horizontalAdvance(was)
    )
    high = theme.px(38)
    middle = (a + b) / 2 + away * theme.px(8)
    box = QRectF(
        middle.x() + (away.x() - 1) / 2 * wide,
        middle.y() + (away.y() - 1) / 2 * high,
        wide + 2,
        high,
    )
    box.moveLeft(min(max(box.left(), inside.left()), inside.right() - box.width()))
    box.moveTop(min(max(box.top(), inside.top()), inside.bottom() - box.height()))
    back = QColor(d.ground)
    back.setAlpha(215)
    painter.fillRect(box.adjusted(-4, -1, 4, 1), back)
    align = (
        Qt.AlignmentFlag.AlignRight
        if away.x() < -0.5
        else (Qt.AlignmentFlag.AlignLeft if away.x() > 0.5 else Qt.AlignmentFlag.AlignHCenter)
    )
    painter.setFont(strong)
    painter.setPen(d.madder)
    painter.drawText(box, align | Qt.AlignmentFlag.AlignTop, text)
    painter.setFont(light)
    painter.setPen(d.quiet)
    painter.drawText(box, align | Qt.AlignmentFlag.AlignBottom, was)


def paint_span(painter: QPainter, start: QPointF, end: QPointF, text: str, theme: Theme) -> None:
    """Paint a dimension over the part itself, its text on a slip in the middle; nothing if too narrow."""
    d, font = theme.dyes, theme.text(15, bold=True)
    wide = QFontMetricsF(font).horizontalAdvance(text) + theme.px(14)
    length = math.hypot(end.x() - start.x(), end.y() - start.y())
    upright = abs(end.y() - start.y()) > abs(end.x() - start.x())
    if length < (theme.px(80) if upright else wide * 0.75):
        return
    across = QPointF(-(end.y() - start.y()) / length, (end.x() - start.x()) / length) * theme.px(6)
    painter.setPen(QPen(d.slip, theme.px(2)))
    painter.drawLine(start, end)
    for point in (start, end):
        painter.drawLine(point - across, point + across)
    middle, high = (start + end) / 2, theme.px(24)
    box = QRectF(middle.x() - wide / 2, middle.y() - high / 2, wide, high)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(d.slip)
    painter.drawRoundedRect(box, high / 2, high / 2)
    painter.setPen(d.madder)
    painter.setFont(font)
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)


def paint_label(painter: QPainter, theme: Theme, at: QPointF, told: str) -> None:
    """Paint a number on a slip centred ``at`` a place."""
    painter.setFont(theme.text(15, bold=True))
    wide = painter.fontMetrics().horizontalAdvance(told) + theme.px(14)
    box = QRectF(at.x() - wide / 2, at.y() - theme.px(12), wide, theme.px(24))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.dyes.slip)
    painter.drawRoundedRect(box, theme.px(12), theme.px(12))
    painter.setPen(theme.dyes.madder)
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, told)


def paint_caption(painter: QPainter, theme: Theme, box: QRectF, told: str) -> None:
    """Paint a muted caption under a picture in ``box``."""
    painter.setFont(theme.text(13))
    painter.setPen(theme.dyes.quiet)
    line = QRectF(box.left(), box.bottom() - theme.px(4), box.width(), theme.px(18))
    words = painter.fontMetrics().elidedText(told, Qt.TextElideMode.ElideRight, int(line.width()))
    painter.drawText(line, Qt.AlignmentFlag.AlignHCenter, words)


def outline_of(
    picture: Picture, part: str, colour: QColor, width: int
) -> tuple[QPoint, QPixmap] | None:
    """Return the outline of ``part`` as a transparent pixmap of its own area, and its place in the
    picture."""
    if part not in picture.parts:
        return None
    mask = picture.owner == picture.parts.index(part)
    if not mask.any():
        return None
    # A part covers little of the picture: only its own field, with room for the line, is gone over.
    rows, columns = (np.flatnonzero(mask.any(axis=axis)) for axis in (1, 0))
    field = (
        slice(max(0, rows[0] - width), rows[-1] + width + 1),
        slice(max(0, columns[0] - width), columns[-1] + width + 1),
    )
    grown = mask[field].copy()
    for _ in range(width):
        wider = grown.copy()
        wider[1:] |= grown[:-1]
        wider[:-1] |= grown[1:]
        wider[:, 1:] |= grown[:, :-1]
        wider[:, :-1] |= grown[:, 1:]
        grown = wider
    pixels = np.zeros((*grown.shape, 4), dtype=np.uint8)
    pixels[grown & ~mask[field]] = (colour.red(), colour.green(), colour.blue(), 235)
    at = QPoint(int(field[1].start), int(field[0].start))
    return at, QPixmap.fromImage(to_image(pixels))


def outline_parts(
    made: RenderResult, parts: Sequence[tuple[str | None, QColor]], ratio: float
) -> QPixmap:
    """Return a figure's picture with lines round some of its parts; ``ratio`` is pixels a line's unit."""
    pixmap = QPixmap(made.pixmap)
    painter = QPainter(pixmap)
    for part, colour in parts:
        line = outline_of(made.picture, part, colour, max(2, round(ratio * 1.6))) if part else None
        if line is not None:
            painter.drawPixmap(*line)
    painter.end()
    return pixmap


_kept: list[tuple[object, QPixmap]] = []


def paint_tape(
    painter: QPainter, box: QRectF, mm_px: float, unit: str, theme: Theme, ratio: float
) -> None:
    """Paint a tape filling ``box``, zero at its foot, at ``mm_px`` pixels a millimetre. The last one is
    cached, since the tape stands still while the flag is dragged."""
    room = QRectF(0, theme.px(10), box.width(), box.height())
    asked = (room, mm_px, unit, theme.dark, theme.scale, ratio)
    if not _kept or _kept[0][0] != asked:
        whole = room.adjusted(0, -theme.px(10), 1, 1)
        pixmap = QPixmap((whole.size() * ratio).toSize())
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        brush = QPainter(pixmap)
        brush.setRenderHint(QPainter.RenderHint.Antialiasing)
        _draw_tape(brush, room, mm_px, unit, theme)
        brush.end()
        _kept[:] = [(asked, pixmap)]
    painter.drawPixmap(QPointF(box.left(), box.top() - theme.px(10)), _kept[0][1])


def _draw_tape(painter: QPainter, box: QRectF, mm_px: float, unit: str, theme: Theme) -> None:
    d = theme.dyes
    painter.fillRect(box, d.tape)
    painter.setPen(QPen(d.tape.darker(128), 1))
    painter.drawLine(box.topLeft(), box.bottomLeft())
    painter.drawLine(box.topRight(), box.bottomRight())
    cap = QRectF(box.left(), box.top() - theme.px(6), box.width(), theme.px(8))
    painter.fillRect(cap, QColor("#9A948E") if not theme.dark else QColor("#7A736E"))
    inch = unit == "in"
    minor, per_mid, per_major = (MM_PER["in"] / 8, 4, 8) if inch else (1.0, 5, 10)
    while minor * mm_px < 2.2:
        minor, per_mid, per_major = minor * per_mid, max(1, per_major // per_mid), per_major
        if per_mid <= 1:
            break
    painter.setFont(theme.text(11, bold=True))
    painter.setPen(QPen(d.tape_ink, 1))
    label_every = _label_every(mm_px, inch, theme)
    one = MM_PER["in"] if inch else 10.0
    n = 0
    while True:
        mm = n * minor
        y = box.bottom() - mm * mm_px
        if y < box.top():
            break
        in_units = mm / one
        whole = abs(in_units - round(in_units)) < 1e-6
        length = 0.5 if whole else 0.32 if n % per_mid == 0 else 0.18
        painter.drawLine(QPointF(box.right() - box.width() * length, y), QPointF(box.right(), y))
        if whole and n and round(in_units) % label_every == 0 and y > box.top() + theme.px(8):
            place = QRectF(box.left() + theme.px(3), y - theme.px(8), box.width(), theme.px(16))
            painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, f"{round(in_units)}")
        n += 1


def _label_every(mm_px: float, inch: bool, theme: Theme) -> int:
    one = MM_PER["in"] if inch else 10.0
    return next(
        (k for k in (1, 2, 5, 10, 20, 50, 100, 200, 500) if k * one * mm_px >= theme.px(20)), 1000
    )


def flag_box(tip: QPointF, width: float, theme: Theme) -> QRectF:
    """Return the rectangle of a flag with its point at ``tip``."""
    high = theme.px(30)
    return QRectF(tip.x(), tip.y() - high / 2, width, high)


def paint_flag(
    painter: QPainter, box: QRectF, text: str, filled: bool, focused: bool, theme: Theme
) -> None:
    """Paint a flag pointing left at the tape, with its height."""
    d = theme.dyes
    notch = box.height() * 0.42
    path = QPainterPath(QPointF(box.left(), box.center().y()))
    path.lineTo(box.left() + notch, box.top())
    path.lineTo(box.right(), box.top())
    path.lineTo(box.right(), box.bottom())
    path.lineTo(box.left() + notch, box.bottom())
    path.closeSubpath()
    painter.setPen(QPen(d.madder if filled else d.woad, theme.px(2)))
    painter.setBrush(d.madder if filled else d.paper)
    painter.drawPath(path)
    if focused:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(d.ink, theme.px(1.6), Qt.PenStyle.DotLine))
        painter.drawRect(box.adjusted(-4, -4, 5, 5))
    painter.setPen(d.on_dye if filled else d.woad)
    painter.setFont(theme.text(16, bold=True))
    painter.drawText(box.adjusted(notch, 0, 0, 0), Qt.AlignmentFlag.AlignCenter, text)
