"""Buttons that stay down, whether pressed by mouse, key or screen reader; and the highlight of the button
that is the next thing to do."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtWidgets import QAbstractButton


def make_switch(button: QAbstractButton, do: Callable[..., object]) -> None:
    """Make a button stay down and call its action. A screen reader toggles instead of clicking, so the action
    follows the toggled signal."""
    button.setCheckable(True)
    button.toggled.connect(do)


def show_switch(button: QAbstractButton, down: bool) -> None:
    """Set the state of a switch without triggering its action."""
    blocked = QSignalBlocker(button)
    button.setChecked(down)
    blocked.unblock()


def show_as_next(button: QAbstractButton, is_next: bool = True) -> None:
    """Highlight a button as the next thing to do while it is enabled, or remove the highlight."""
    if button.property("next") == is_next:
        return
    button.setProperty("next", is_next)
    style = button.style()
    if style is not None:  # a property that changes is looked up anew
        style.unpolish(button)
        style.polish(button)
