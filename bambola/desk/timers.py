"""Timers that fire once, some time after the last call."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer


def once(parent: QObject, milliseconds: int) -> QTimer:
    """A timer that fires once, ``milliseconds`` after it was last started."""
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(milliseconds)
    return timer
