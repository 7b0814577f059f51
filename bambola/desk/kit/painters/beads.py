"""Beads on the thread of the order: colour is the wool, shape is the kind of step."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

from bambola.core.order import Step
from bambola.desk.kit.theme import Theme

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
