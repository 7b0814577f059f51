"""A label that ends in dots if there is no room, with the full text as its tool tip."""

from __future__ import annotations

from html import escape

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QLabel

_LEAST_LETTERS = 10


class ElidedLabel(QLabel):
    """A label as wide as its text if possible, and elided if not."""

    def __init__(self) -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)

    def setText(self, text: str | None) -> None:
        super().setText(text)
        self.setToolTip(escape(text or ""))

    def minimumSizeHint(self) -> QSize:
        wide = self.fontMetrics().averageCharWidth() * _LEAST_LETTERS
        return QSize(min(wide, self.sizeHint().width()), super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        told = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        QPainter(self).drawText(self.rect(), int(self.alignment()), told)
