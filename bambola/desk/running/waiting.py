"""What holds the window says so."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication

FELT_S = 0.1
"""What takes longer is felt as waiting. Judged."""


@contextmanager
def waiting() -> Iterator[None]:
    """The cursor says that there is something to wait for."""
    QGuiApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
    try:
        yield
    finally:
        QGuiApplication.restoreOverrideCursor()


class BusyCursor:
    """Work that is mostly quick. Where the last go of it was felt, the cursor says so during the next."""

    def __init__(self) -> None:
        self.last_s = 0.0

    @contextmanager
    def work(self) -> Iterator[None]:
        """Around one go of it."""
        began = time.monotonic()
        try:
            with waiting() if self.last_s > FELT_S else nullcontext():
                yield
        finally:
            self.last_s = time.monotonic() - began
