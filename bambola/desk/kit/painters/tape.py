"""The standing measuring tape and the flags on it."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPixmap

from bambola.core.quantities import MM_PER
from bambola.desk.kit.theme import Theme

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
