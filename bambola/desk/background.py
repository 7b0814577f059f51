"""Work off the interface thread, one piece after the other."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, QRunnable, QThreadPool


class Background:
    """A thread of its own for one kind of work."""

    def __init__(self, parent: QObject) -> None:
        self._pool = QThreadPool(parent)
        self._pool.setMaxThreadCount(1)

    def do(self, work: Callable[[], None]) -> None:
        """Do ``work`` when what was asked before is done."""
        self._pool.start(_Job(work))

    def finish(self) -> None:
        """Wait until everything asked for is done."""
        self._pool.waitForDone()


class _Job(QRunnable):
    def __init__(self, work: Callable[[], None]) -> None:
        super().__init__()
        self._work = work

    def run(self) -> None:
        self._work()
