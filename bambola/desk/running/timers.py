"""Single-shot timers that fire some time after the last call."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, nullcontext

from PyQt6.QtCore import QObject, Qt, QTimer
from PyQt6.QtGui import QGuiApplication

CALM_MS = 60
"""What stands at the edge of sight need not follow the hand more often than this."""


def at_most_every(parent: QObject, milliseconds: int, do: Callable[[], object]) -> QTimer:
    """Return a timer that calls ``do`` once, soon after it was last started."""
    timer = one_shot_timer(parent, milliseconds)
    timer.timeout.connect(do)
    return timer


def start_unless_running(timer: QTimer) -> None:
    """Start a timer unless it is already running."""
    if not timer.isActive():
        timer.start()


def one_shot_timer(parent: QObject, milliseconds: int) -> QTimer:
    """Return a timer that fires once, ``milliseconds`` after it was last started."""
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(milliseconds)
    return timer


class Throttle(QObject):
    """Calls something at once, and then at most every ``milliseconds``; the last request always counts."""

    def __init__(self, parent: QObject, milliseconds: int, do: Callable[[], object]) -> None:
        super().__init__(parent)
        self._do = do
        self._due = False
        self._rest = one_shot_timer(self, milliseconds)
        self._rest.timeout.connect(self._ask_if_due)

    def ask(self) -> None:
        """Call it now, or as soon as the interval has passed."""
        if self._rest.isActive():
            self._due = True
            return
        self._due = False
        self._do()
        self._rest.start()

    def _ask_if_due(self) -> None:
        if self._due:
            self.ask()


FELT_S = 0.1
"""What takes longer is felt as waiting. Judged."""


@contextmanager
def busy_cursor() -> Iterator[None]:
    """Show the busy cursor inside the block."""
    QGuiApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
    try:
        yield
    finally:
        QGuiApplication.restoreOverrideCursor()


class BusyCursor:
    """Shows the busy cursor for work that is usually quick, if its last run was noticeable."""

    def __init__(self) -> None:
        self.last_s = 0.0

    @contextmanager
    def work(self) -> Iterator[None]:
        """Wrap one run of the work."""
        began = time.monotonic()
        try:
            with busy_cursor() if self.last_s > FELT_S else nullcontext():
                yield
        finally:
            self.last_s = time.monotonic() - began
