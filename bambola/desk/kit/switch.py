"""Buttons that stay down: whoever presses them, hand, key or screen reader, and however things are shown."""

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
