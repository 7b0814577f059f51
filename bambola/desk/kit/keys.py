"""Keys with the same meaning everywhere."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractButton, QApplication


def presses_button(event: QKeyEvent | None) -> bool:
    """Press the focused button if the key is Enter, and return whether it was. Buttons pass Enter on to their
    parent; a widget that handles keys and contains buttons calls this first."""
    if event is None or event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
        return False
    button = QApplication.focusWidget()
    if not isinstance(button, QAbstractButton) or not button.isEnabled():
        return False
    button.click()
    return True
