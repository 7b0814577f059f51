"""Scroll areas for what may be larger than its room."""

from __future__ import annotations

from PyQt6.QtWidgets import QFrame, QScrollArea, QWidget

from bambola.language import tr


def scroll_area(widget: QWidget) -> QScrollArea:
    """Return a scroll area with ``widget`` as wide as its room if possible, with scroll bars if it is
    larger."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setWidget(widget)
    area.setAccessibleName(tr("Card, scrolled with the arrow keys"))
    return area
