"""The queue of portions: done, current and to come."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen

from bambola.core.quantities import show_mass
from bambola.desk.kit.painted import paint_ring
from bambola.desk.kit.painters.wool import paint_heap
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wool.hand import WoolHand, in_few_signs


class PortionQueue:
    """The layout and painting of the queue."""

    def __init__(self, studio: EditorSession, theme: Theme, hand: WoolHand) -> None:
        self.studio, self.theme, self.hand = studio, theme, hand

    def cells(self, box: QRectF) -> list[tuple[int, QRectF]]:
        """Return the visible portions and their places, the current one a third along."""
        every, px = self.hand.every, self.theme.px
        each = px(86)
        fit = max(1, int(box.width() // each))
        first = max(0, min(self.hand.at - fit // 3, len(every) - fit))
        left = box.left() + (box.width() - min(fit, len(every)) * each) / 2
        return [
            (i, QRectF(left + (i - first) * each, box.top(), each, box.height()))
            for i in range(first, min(first + fit, len(every)))
        ]

    def paint(self, painter: QPainter, box: QRectF, has_focus: bool) -> None:
        """Paint each portion as wool, with its name and its weight or target."""
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        painter.setPen(QPen(d.edge, 1))
        painter.drawLine(QPointF(box.left(), box.top()), QPointF(box.right(), box.top()))
        for i, cell in self.cells(box):
            w = self.hand.every[i]
            done = self.hand.done.get(w.key)
            here = i == self.hand.at
            if here:
                ring = cell.adjusted(px(3), px(5), -px(3), 0)
                paint_ring(painter, ring, self.theme, has_focus)
            side = px(30)
            bead = QRectF(cell.center().x() - side / 2, cell.top() + px(9), side, side)
            painter.setOpacity(0.45 if done and not here else 1.0)
            paint_heap(
                painter, bead, self.studio.bench.wool_by_id[w.portion.wool].colour, self.theme
            )
            painter.setOpacity(1.0)
            painter.setFont(self.theme.text(12, bold=here))
            painter.setPen(d.ink if here else d.quiet)
            name = w.part_name + (f" {w.copy + 1}" if w.copies > 1 else "")
            line = QRectF(cell.left() + px(5), cell.top() + px(42), cell.width() - px(10), px(17))
            painter.drawText(
                line,
                Qt.AlignmentFlag.AlignCenter,
                painter.fontMetrics().elidedText(
                    name, Qt.TextElideMode.ElideRight, int(line.width())
                ),
            )
            painter.setFont(self.theme.text(13, bold=True))
            painter.setPen(d.lichen if done else d.madder)
            told = (
                f"✓ {show_mass(done.grams, units)}"
                if done
                else in_few_signs(w.portion, w.least_g, units)
            )
            painter.drawText(line.translated(0, px(18)), Qt.AlignmentFlag.AlignCenter, told)
