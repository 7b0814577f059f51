"""Timers that fire once, some time after the last call."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer

CALM_MS = 60
"""What stands at the edge of sight need not follow the hand more often than this."""


def at_most_every(parent: QObject, milliseconds: int, do: Callable[[], object]) -> QTimer:
    """Return a timer that calls ``do`` once, soon after it was last nudged."""
    timer = once(parent, milliseconds)
    timer.timeout.connect(do)
    return timer


def nudge(timer: QTimer) -> None:
    """Ask for a timer's deed, unless it is already on its way."""
    if not timer.isActive():
        timer.start()


def once(parent: QObject, milliseconds: int) -> QTimer:
    """Return a timer that fires once, ``milliseconds`` after it was last started."""
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(milliseconds)
    return timer


class Throttle(QObject):
    """Does something at once, and then no more often than every ``milliseconds``: the last time counts."""

    def __init__(self, parent: QObject, milliseconds: int, do: Callable[[], object]) -> None:
        super().__init__(parent)
        self._do = do
        self._due = False
        self._rest = once(self, milliseconds)
        self._rest.timeout.connect(self._rested)

    def ask(self) -> None:
        """Do it now, or as soon as it has rested."""
        if self._rest.isActive():
            self._due = True
            return
        self._due = False
        self._do()
        self._rest.start()

    def _rested(self) -> None:
        if self._due:
            self.ask()
