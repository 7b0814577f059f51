"""How long a window takes no event, which is what a hand feels."""

from __future__ import annotations

import time
from pathlib import Path

from PyQt6.QtCore import QTimer

HELD_S = 0.1
"""What a hand feels."""


class Pulse:
    """Beats as long as the window takes events. While a menu or a box is open it does; what it lost to other
    work on the machine is not its own."""

    def __init__(self) -> None:
        self._last = self._longest = 0.0
        self._timer = QTimer()
        self._timer.timeout.connect(self._beat)
        self._timer.start(2)

    def begin(self) -> None:
        """Forget what was before."""
        self._longest, self._last = 0.0, time.monotonic() - _queued_s()

    def longest_s(self) -> float:
        """The longest that no event was taken since."""
        self._beat()
        return self._longest

    def _beat(self) -> None:
        now = time.monotonic() - _queued_s()
        self._longest, self._last = max(self._longest, now - self._last), now


def _queued_s() -> float:
    """How long this thread has waited for a processor that others had: no hold of the program's own."""
    try:
        return int(Path("/proc/thread-self/schedstat").read_text().split()[1]) / 1e9
    except (OSError, IndexError, ValueError):
        return 0.0
