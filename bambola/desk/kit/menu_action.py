"""The declaration of one menu action."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractButton, QApplication


@dataclass(frozen=True, slots=True)
class MenuAction:
    """A menu action: its name in the program, words, keys and function. Actions of one ``switch`` exclude
    each other; "alone" toggles by itself. An action that ``needs_figure`` is disabled without one."""

    name: str
    words: str
    do: Callable[[], object]
    keys: str = ""
    switch: str = ""
    needs_figure: bool = False


Menu = tuple[str, tuple[MenuAction | None, ...]]
"""A menu's title, and its actions; None draws a line between them."""


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
