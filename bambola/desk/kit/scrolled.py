"""What may be larger than its room, and is then looked at through it."""

from __future__ import annotations

from PyQt6.QtWidgets import QFrame, QScrollArea, QWidget

from bambola.language import tr


def scrolled(widget: QWidget) -> QScrollArea:
    """Return ``widget`` as wide as its room where it can be; with bars, so that nothing is out of reach,
    where it is larger."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setWidget(widget)
    area.setAccessibleName(tr("Card, scrolled with the arrow keys"))
    return area
