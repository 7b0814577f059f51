"""The base of all widgets that paint themselves: focus, keys, and a description in words."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QFocusEvent, QPainter, QPen
from PyQt6.QtWidgets import QWidget

from bambola.desk.kit.theme import Theme


def ring_pens(theme: Theme, focused: bool) -> tuple[QPen, QPen | None]:
    """Return the pens of the line round the current item, and of a second inner one while the widget has the
    focus: the number of lines shows even without colours."""
    px, d = theme.px, theme.dyes
    if not focused:
        return QPen(d.weld, px(2)), None
    return QPen(d.madder, px(2.2)), QPen(d.madder, px(1.2))


def paint_ring(painter: QPainter, box: QRectF, theme: Theme, focused: bool) -> None:
    """Paint paper under the current item with a ring round it, or two rings with the focus."""
    outer, inner = ring_pens(theme, focused)
    corner, inset = theme.px(12), theme.px(3.4)
    painter.setPen(outer)
    painter.setBrush(theme.dyes.paper)
    painter.drawRoundedRect(box, corner, corner)
    if inner is not None:
        painter.setPen(inner)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        inside = box.adjusted(inset, inset, -inset, -inset)
        painter.drawRoundedRect(inside, corner - inset / 2, corner - inset / 2)


def paint_round_ring(
    painter: QPainter, at: QPointF, radius: float, theme: Theme, focused: bool
) -> None:
    """Paint the same round a bead: ground under it, with one ring or two."""
    outer, inner = ring_pens(theme, focused)
    painter.setPen(outer)
    painter.setBrush(theme.dyes.ground)
    painter.drawEllipse(at, radius, radius)
    if inner is not None:
        painter.setPen(inner)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(at, radius + theme.px(3), radius + theme.px(3))


class Painted(QWidget):
    """A widget that paints itself: it takes the focus, repaints when it gets or loses it, and describes
    itself in words."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self.theme = theme
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)

    def describe(self) -> str:
        """Return a description of what it shows."""
        return ""

    def show_changed(self, where: QRectF | None = None) -> None:
        """Repaint and update the description; only the area ``where`` something changed, if known."""
        self.setAccessibleDescription(self.describe())
        self.update(self.rect() if where is None else where.toAlignedRect())

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self.update()
