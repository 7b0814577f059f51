"""A worker thread that does one job after the other.

Every job comes back on the interface thread exactly once: as its result or its error, :class:`CalledOffError`
among them. Closing waits for nothing. The thread drops a job and its result before it reports, since windows
depend on both and must be freed on the thread they were made on.
"""

from __future__ import annotations

import contextvars
import itertools
import queue
import threading
from collections.abc import Callable
from typing import Any, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.core.memo import current_memory

T = TypeVar("T")


class CalledOffError(Exception):
    """Raised when work was cancelled."""


class BackgroundJob:
    """One job; ``stop`` is set once nobody waits for it any more."""

    def __init__(
        self,
        work: Callable[[], Any],
        then: Callable[[Any], None],
        fail: Callable[[Exception], None],
        stop: threading.Event,
    ) -> None:
        self.work, self.then, self.fail, self.stop = work, then, fail, stop
        self.is_done = threading.Event()
        self.well = False
        self.came_of_it: Any = None

    def run(self) -> None:
        """Do the work and keep its result."""
        if self.stop.is_set():
            self.came_of_it = CalledOffError()
            return
        try:
            self.came_of_it, self.well = self.work(), True
        except Exception as error:  # whatever it is, whoever asked must hear of it
            self.came_of_it = error


_alive: set[Background] = set()
"""Those whose thread still runs: they are let go on the interface thread, when the next one is made."""


class Background(QObject):
    """A worker thread for one kind of work."""

    _back = pyqtSignal(int)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._waiting: queue.SimpleQueue[int | None] = queue.SimpleQueue()
        self._jobs: dict[int, BackgroundJob] = {}
        self._numbers = itertools.count()
        self._closed = False
        self._thread: threading.Thread | None = None
        self._name = name
        self._back.connect(self._deliver_job)  # made here, so it is taken here
        _alive.difference_update([each for each in _alive if each.has_ended])

    @property
    def has_ended(self) -> bool:
        """Whether its thread has ended."""
        return self._thread is None or not self._thread.is_alive()

    def do(
        self,
        work: Callable[[], T],
        then: Callable[[T], None],
        fail: Callable[[Exception], None],
        stop: threading.Event | None = None,
    ) -> BackgroundJob:
        """Do ``work`` after everything requested before; its result goes to ``then``, its error to ``fail``.
        Nothing is done after closing. Work that checks for cancellation passes its own ``stop``."""
        job = BackgroundJob(work, then, fail, stop or threading.Event())
        if self._closed:
            job.stop.set()
            return job
        if self._thread is None:
            # What it finds is remembered where the maker's window remembers.
            current_memory()
            within = contextvars.copy_context()
            self._thread = threading.Thread(
                target=within.run, args=(self._run_jobs,), name=self._name, daemon=True
            )
            self._thread.start()
            _alive.add(self)
        number = next(self._numbers)
        self._jobs[number] = job
        self._waiting.put(number)
        return job

    @property
    def is_closed(self) -> bool:
        """Whether nothing more is done."""
        return self._closed

    @property
    def is_idle(self) -> bool:
        """Whether every job has come back."""
        return self._closed or not self._jobs

    def close(self) -> None:
        """Cancel everything and accept nothing more; a running job ends by itself."""
        self._closed = True
        for job in self._jobs.values():
            job.stop.set()
        self._waiting.put(None)

    def finish(self, seconds: float = 60.0) -> None:
        """Close, and wait until the thread has ended."""
        self.close()
        if self._thread is not None:
            self._thread.join(seconds)

    def _run_jobs(self) -> None:
        while (number := self._waiting.get()) is not None:
            is_done = self._run_job(self._jobs[number])
            is_done.set()
            try:
                self._back.emit(number)
            except RuntimeError:  # the application has ended meanwhile
                return

    @staticmethod
    def _run_job(job: BackgroundJob) -> threading.Event:
        job.run()
        return job.is_done

    def _deliver_job(self, number: int) -> None:
        job = self._jobs.pop(number, None)
        if job is None or self._closed:  # nobody is there any more
            return
        if job.well and not job.stop.is_set():
            job.then(job.came_of_it)
        else:
            error = job.came_of_it
            job.fail(error if isinstance(error, Exception) else CalledOffError())
