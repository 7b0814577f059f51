"""Shows a piece as it should be and as it was measured, one over the other."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from bambola.core.methods.drawing import rod
from bambola.desk.kit.theme import Theme


class Outlines(QWidget):
    """The piece as it should be, dashed, and as measured over it, at one scale."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._wanted: tuple[float, float] | None = None
        self._now: tuple[float, float] | None = None
        self._seen: NDArray[np.float64] | None = None
        self.setFixedHeight(theme.px(84))

    def show_sizes(
        self, wanted: tuple[float, float] | None, now: tuple[float, float] | None
    ) -> None:
        """Show length and thickness (mm) of both; None if unknown."""
        self._wanted, self._now = wanted, now
        if now is None:
            self._seen = None
        self.setVisible(wanted is not None)
        self.update()

    def show_seen(self, outline: NDArray[np.float64]) -> None:
        """Show the outline (n, 2) of a piece from its picture over the wanted one."""
        own = outline - outline.mean(axis=0)
        _, _, axes = np.linalg.svd(own, full_matrices=False)
        own = own @ axes.T
        self._seen = own / float(np.ptp(own[:, 0]))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._wanted is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, d = self.theme.px, self.theme.dyes
        both = [size for size in (self._wanted, self._now) if size]
        scale = min(
            (self.width() - px(20)) / max(long for long, _ in both),
            (self.height() - px(10)) / max(thick for _, thick in both),
        )
        middle = QPointF(self.width() / 2, self.height() / 2)
        for size, pen, fill in (
            (self._now, QPen(d.madder, px(2)), d.shade),
            (self._wanted, QPen(d.woad, px(2), Qt.PenStyle.DashLine), None),
        ):
            if size is None:
                continue
            run = rod(size[0] * scale, size[1] * scale)
            if size is self._now and self._seen is not None:
                run = self._seen * size[0] * scale
            painter.setPen(pen)
            painter.setBrush(fill or Qt.BrushStyle.NoBrush)
            painter.drawPolygon(QPolygonF([QPointF(x, y) + middle for x, y in run.tolist()]))
