"""The wheel over what is drawn: with Ctrl upwards it is shown at true size, downwards as before."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QWidget


class TrueSizeWheel(QObject):
    """Listens to the wheel over views; theirs without Ctrl stays theirs."""

    wished = pyqtSignal(bool)

    def __init__(self, owner: QWidget, *views: QWidget) -> None:
        super().__init__(owner)
        for view in views:
            inner = view.viewport() if isinstance(view, QAbstractScrollArea) else None
            (inner or view).installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if not isinstance(event, QWheelEvent):
            return False
        turned = event.angleDelta().y()
        if not event.modifiers() & Qt.KeyboardModifier.ControlModifier or not turned:
            return False
        self.wished.emit(turned > 0)
        return True
