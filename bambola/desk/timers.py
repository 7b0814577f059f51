"""Timers that fire once, some time after the last call."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer


def at_most_every(parent: QObject, milliseconds: int, do: Callable[[], object]) -> QTimer:
    """A timer to ``nudge``: does ``do`` soon, however often it is nudged in the meantime."""
    timer = once(parent, milliseconds)
    timer.timeout.connect(do)
    return timer


def nudge(timer: QTimer) -> None:
    """Ask for a timer's deed, unless it is already on its way."""
    if not timer.isActive():
        timer.start()


def once(parent: QObject, milliseconds: int) -> QTimer:
    """A timer that fires once, ``milliseconds`` after it was last started."""
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(milliseconds)
    return timer
