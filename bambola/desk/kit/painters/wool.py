"""Paints wool and wire: bundles, heaps, swatches, wire laid straight."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPixmap, QPolygonF

from bambola.core.armature import CutWire
from bambola.core.order import Step
from bambola.core.relief import bundle_picture
from bambola.desk.kit.pictures import to_image
from bambola.desk.kit.theme import Theme

_NEAR_GROUND = 34
"""Wool nearer to the ground in lightness than this (of 255) would not be seen on it."""


@lru_cache(maxsize=128)
def bundle(colour: str, loose: bool) -> QPixmap:
    """Return a picture of a bundle of wool of this colour."""
    return QPixmap.fromImage(to_image(bundle_picture(colour, loose)))


@lru_cache(maxsize=512)
def _fitted_pixmap(colour: str, loose: bool, wide: int, tall: int) -> QPixmap:
    keep, smooth = Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
    return bundle(colour, loose).scaled(wide, tall, keep, smooth)


def paint_bundle(
    painter: QPainter, box: QRectF, colour: str, loose: bool, theme: Theme | None = None
) -> None:
    """Paint a bundle stretched to ``box``, from a cache by whole pixels. On the ground of ``theme``, if it is
    as dark, it gets a rim."""
    if theme is not None and _is_lost_on(colour, theme):
        painter.save()
        painter.setPen(QPen(theme.dyes.quiet, theme.px(1.2)))
        painter.setBrush(theme.dyes.edge)
        painter.drawEllipse(box.adjusted(1, 1, -1, -1))
        painter.restore()
    device = painter.device()
    ratio = device.devicePixelRatioF() if device else 1.0
    wide, tall = max(1, round(box.width() * ratio)), max(1, round(box.height() * ratio))
    pixmap = _fitted_pixmap(colour, loose, wide, tall)
    painter.drawPixmap(box, pixmap, QRectF(pixmap.rect()))


def paint_heap(painter: QPainter, box: QRectF, colour: str, theme: Theme) -> None:
    """Paint loose wool on the table; dark wool on a dark table gets an outline."""
    paint_bundle(painter, box, colour, True, theme)


def _is_lost_on(colour: str, theme: Theme) -> bool:
    """Return whether wool of this colour would be invisible on the table."""
    near = abs(QColor(colour).lightness() - theme.dyes.ground.lightness()) < _NEAR_GROUND
    return theme.dark and near


def paint_arrow(painter: QPainter, start: QPointF, end: QPointF, theme: Theme) -> None:
    """Paint an arrow from left to right."""
    painter.setPen(QPen(theme.dyes.quiet, theme.px(2)))
    painter.drawLine(start, end)
    head = theme.px(6)
    painter.drawLine(end, QPointF(end.x() - head, end.y() - head * 0.8))
    painter.drawLine(end, QPointF(end.x() - head, end.y() + head * 0.8))


def paint_straight_wire(painter: QPainter, box: QRectF, wire: CutWire, theme: Theme) -> None:
    """Paint a wire laid straight across ``box``, with its bends marked."""
    d = theme.dyes
    y = box.center().y()
    painter.setPen(QPen(d.quiet, theme.px(3), Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
    painter.setPen(QPen(d.madder, theme.px(2)))
    for bend in wire.bends:
        x = box.left() + box.width() * bend.at_mm / wire.cut_mm
        painter.drawLine(QPointF(x, y - theme.px(7)), QPointF(x, y + theme.px(7)))


_DIAMOND = ("join", "pre-join", "blend")
_BAR = ("cut wire", "bend and bind")
_RING = ("mark", "check", "fit", "wait")


def paint_bead(
    painter: QPainter, at: QPointF, radius: float, step: Step, colour: QColor, theme: Theme
) -> None:
    """Paint one bead: round for wool, diamond for a join, bar for wire, ring for a step without wool."""
    d = theme.dyes
    painter.setPen(QPen(d.ink if colour.lightness() > 90 else d.quiet, 1.2))
    painter.setBrush(colour)
    if step.kind in _DIAMOND:
        r = radius * 1.15
        painter.drawPolygon(
            QPolygonF(
                [at + QPointF(0, -r), at + QPointF(r, 0), at + QPointF(0, r), at + QPointF(-r, 0)]
            )
        )
    elif step.kind in _BAR:
        painter.drawRoundedRect(
            QRectF(at.x() - radius, at.y() - radius * 0.55, 2 * radius, radius * 1.1), 3, 3
        )
    elif step.kind in _RING:
        painter.setBrush(d.paper)
        painter.setPen(QPen(d.woad, max(2.0, radius * 0.34)))
        painter.drawEllipse(at, radius * 0.78, radius * 0.78)
    elif step.kind in ("coat", "inset"):
        painter.drawEllipse(at, radius, radius)
        painter.setPen(QPen(d.paper if colour.lightness() < 128 else d.ink, 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawArc(
            QRectF(at.x() - radius * 0.55, at.y() - radius * 0.55, radius * 1.1, radius * 1.1),
            20 * 16,
            140 * 16,
        )
    else:
        painter.drawEllipse(at, radius, radius)
