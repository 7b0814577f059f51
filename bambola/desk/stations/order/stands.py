"""The whole figure as it will stand either way, over how it was planned, at one scale and on one ground."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from bambola.core.solids.forms import Array
from bambola.desk.kit.theme import Theme

Runs = list[Array]
"""Outlines of a figure seen from the front: closed runs of (n, 2) mm, up from the ground."""


class Stands(QWidget):
    """Dashed as planned, drawn out as it will be, and under each what it is."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._planned: Runs = []
        self._ways: list[tuple[str, Runs]] = []
        self.setFixedHeight(theme.px(136))
        self.setAccessibleName("")

    def show_ways(self, planned: Runs, ways: Sequence[tuple[str, Runs]]) -> None:
        """Show the ways on, each with its words, over what was planned; none: nothing is shown."""
        self._planned, self._ways = planned, list(ways)
        self.setAccessibleName("; ".join(words for words, _ in ways))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._ways:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, d = self.theme.px, self.theme.dyes
        every = np.vstack([run for _, runs in self._ways for run in runs] + self._planned)
        low, high = every.min(axis=0), every.max(axis=0)
        foot, each = px(26), self.width() / len(self._ways)
        size = np.maximum(high - low, 1e-6)
        scale = min((each - px(24)) / size[0], (self.height() - foot - px(8)) / size[1])
        painter.setFont(self.theme.text(15, bold=True))
        for i, (words, runs) in enumerate(self._ways):
            origin = QPointF(
                each * (i + 0.5) - scale * float(low[0] + high[0]) / 2,
                self.height() - foot + scale * float(low[1]),
            )
            painter.setBrush(d.shade)
            painter.setPen(QPen(d.madder, px(2)))
            painter.drawPath(_path(runs, origin, scale))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(d.woad, px(1.6), Qt.PenStyle.DashLine))
            painter.drawPath(_path(self._planned, origin, scale))
            painter.setPen(d.ink)
            line = QRectF(each * i, self.height() - px(22), each, px(22))
            painter.drawText(line, Qt.AlignmentFlag.AlignCenter, words)


def _path(runs: Runs, origin: QPointF, scale: float) -> QPainterPath:
    path = QPainterPath()
    for run in runs:
        points = [QPointF(origin.x() + x * scale, origin.y() - y * scale) for x, y in run.tolist()]
        path.addPolygon(QPolygonF(points))
        path.closeSubpath()
    return path
