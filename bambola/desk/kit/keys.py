"""Keys that mean the same wherever they are pressed."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractButton, QApplication


def presses_button(event: QKeyEvent | None) -> bool:
    """Return whether Enter was meant for the button in hand; it is pressed then, as Space would press it.

    A button leaves Enter to what it lies in. What takes keys of its own and holds buttons asks here first.
    """
    if event is None or event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
        return False
    button = QApplication.focusWidget()
    if not isinstance(button, QAbstractButton) or not button.isEnabled():
        return False
    button.click()
    return True
