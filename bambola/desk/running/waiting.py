"""Shows a busy cursor while something blocks the window."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication

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
