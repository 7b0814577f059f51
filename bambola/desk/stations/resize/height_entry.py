"""The field on the flag."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from bambola.language import tr


class HeightEntry(QLineEdit):
    """A field for a height: Enter accepts, Escape cancels."""

    given_up = pyqtSignal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.hide()
        self.setAccessibleName(tr("New height"))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.given_up.emit()
        else:
            super().keyPressEvent(event)
        # What is typed here is not for the table beneath.
        event.accept()
