"""Work off the interface thread, one piece after the other (a worker, as others call it).

Every piece comes back on the interface thread exactly once: as its result or as the error it ended with,
:class:`CalledOffError` among them. Closing waits for nothing.
"""

from __future__ import annotations

import queue
import threading
from collections.abc import Callable
from typing import Any, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

T = TypeVar("T")


class CalledOffError(Exception):
    """The work was called off before it was done."""


class Job:
    """One piece of work; ``stop`` is set once nobody waits for it any more."""

    def __init__(self, work: Callable[[], Any], then: Callable[[Any], None],
                 fail: Callable[[Exception], None]) -> None:  # fmt: skip
        self.work, self.then, self.fail = work, then, fail
        self.stop = threading.Event()

    def run(self) -> tuple[bool, Any]:
        """Whether it went well, and the result or the error."""
        if self.stop.is_set():
            return False, CalledOffError()
        try:
            return True, self.work()
        except Exception as error:  # whatever it is, whoever asked must hear of it
            return False, error


class Background(QObject):
    """A thread of its own for one kind of work."""

    _back = pyqtSignal(object, bool, object)

    def __init__(self, parent: QObject | None, name: str) -> None:
        super().__init__(parent)
        self._waiting: queue.SimpleQueue[Job | None] = queue.SimpleQueue()
        self._open: list[Job] = []
        self._closed = False
        self._thread: threading.Thread | None = None
        self._name = name
        self._back.connect(self._take)

    def do(self, work: Callable[[], T], then: Callable[[T], None],
           fail: Callable[[Exception], None]) -> Job:  # fmt: skip
        """Do ``work`` when what was asked before is done; its result goes to ``then``, its error to
        ``fail``. After closing nothing is done any more."""
        job = Job(work, then, fail)
        if self._closed:
            job.stop.set()
            return job
        self._open.append(job)
        if self._thread is None:
            self._thread = threading.Thread(target=self._work, name=self._name, daemon=True)
            self._thread.start()
        self._waiting.put(job)
        return job

    @property
    def is_idle(self) -> bool:
        """Whether everything asked for has come back."""
        return not self._open

    def close(self) -> None:
        """Call everything off and take nothing more; what is being done is left to end by itself."""
        self._closed = True
        for job in self._open:
            job.stop.set()
        self._open.clear()
        self._waiting.put(None)

    def finish(self, seconds: float = 60.0) -> None:
        """Close, and wait until the thread has ended."""
        self.close()
        if self._thread is not None:
            self._thread.join(seconds)

    def _work(self) -> None:
        while (job := self._waiting.get()) is not None:
            done, value = job.run()
            try:
                self._back.emit(job, done, value)
            except RuntimeError:  # the window is gone
                return

    def _take(self, job: Job, done: bool, value: Any) -> None:
        if self._closed or job not in self._open:
            return
        self._open.remove(job)
        if done and not job.stop.is_set():
            job.then(value)
        else:
            job.fail(CalledOffError() if done else value)
