"""Buttons that stay down, whoever presses them, hand, key or screen reader, and however things are shown; and
the one button that is the next thing to do."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtWidgets import QAbstractButton


def make_switch(button: QAbstractButton, do: Callable[..., object]) -> None:
    """Have a button stay down, and do what it is pressed for. A screen reader toggles it and does not
    click: so it is the toggling that counts."""
    button.setCheckable(True)
    button.toggled.connect(do)


def show_switch(button: QAbstractButton, down: bool) -> None:
    """Show a switch as things are, which does nothing."""
    blocked = QSignalBlocker(button)
    button.setChecked(down)
    blocked.unblock()


def show_as_next(button: QAbstractButton, is_next: bool = True) -> None:
    """Have a button look like the next thing to do, as long as it can be pressed; or not."""
    if button.property("next") == is_next:
        return
    button.setProperty("next", is_next)
    style = button.style()
    if style is not None:  # a property that changes is looked up anew
        style.unpolish(button)
        style.polish(button)
