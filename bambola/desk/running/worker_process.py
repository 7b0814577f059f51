"""Runs work in another process that would delay frames even on another thread.

Python lets one thread run at a time, and cutting solids does not release that lock. The process starts on
first use, and ends after a while of rest or with this one. Nothing is imported here that the process does not
need.
"""

from __future__ import annotations

import contextlib
import io
import os
import pickle
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from importlib import import_module
from multiprocessing.connection import Connection, Pipe
from typing import Any

from bambola.desk.running.children import end_without_waiting
from bambola.files.limited import helper_start, worked_s

REST_S = 600.0
"""A process that was not asked for anything for so long ends, and its memory with it. Judged."""
STUCK_S = 10.0
"""A process that was asked and has not worked for so long never will: it was stopped, or hangs. Judged."""
_LOOK_S = 0.5
"""So often it is looked at meanwhile. Judged."""


class EndedError(Exception):
    """Raised if the process is gone, or ended before it answered."""


class WorkerProcess:
    """A process that creates one object (``factory``, as "module:name") and calls it with what it is sent.

    Calls come from one thread, everything else from any. If the object returns an iterator, its items are
    sent one by one as a list, since unpickling one large message would block other threads.
    """

    def __init__(self, factory: str, behind: int = 0) -> None:
        """``behind`` is the process's niceness."""
        self._factory, self._behind = factory, behind
        self._process: subprocess.Popen[bytes] | None = None
        self._line: Connection | None = None
        self._is_up = False
        self._asked_at = 0.0
        self._rest: threading.Timer | None = None
        self._lock = threading.Lock()

    @property
    def number(self) -> int | None:
        """The process id, while it runs."""
        process = self._process
        return process.pid if process is not None else None

    @property
    def has_ended(self) -> bool:
        """Whether there is no running process."""
        process = self._process
        return process is None or process.poll() is not None

    @property
    def is_up(self) -> bool:
        """Whether it is ready to be called."""
        with self._lock:
            if self._line is not None and not self._is_up:
                with contextlib.suppress(EOFError, OSError):
                    self._is_up = self._line.poll() and self._line.recv() == "up"
            return self._is_up

    def wake(self) -> None:
        """Start the process unless it runs; do not wait for it."""
        with self._lock:
            self._asked_at = time.monotonic()
            if self._process is not None and self._process.poll() is None:
                return
            self._let_go()
            here, there = Pipe()
            given = (str(there.fileno()), self._factory, str(self._behind))
            start = helper_start(__name__, *given)
            with there, contextlib.suppress(OSError):
                self._process = subprocess.Popen(
                    start.command,
                    cwd=start.folder,
                    env=start.environment,
                    pass_fds=[there.fileno()],
                    stdin=subprocess.DEVNULL,
                    start_new_session=True,  # what ends this one at a terminal ends that by its line
                )
                self._line = here
                self._look_later()

    def __call__(self, *given: Any) -> Any:
        """Return what the object returns for ``given``; raise what it raises, or :class:`EndedError`."""
        self.send(*given)
        return self.answer()

    def send(self, *given: Any) -> None:
        """Send a request without waiting; its :meth:`answer` must be read before the next."""
        if not self.is_up:
            raise EndedError
        self._asked_at = time.monotonic()
        assert self._line is not None
        try:
            self._line.send(given)
        except OSError as error:
            raise EndedError from error

    def has_answered(self, seconds: float = 0.0) -> bool:
        """Return whether an answer is available, waiting this long at most."""
        line = self._line
        with contextlib.suppress(OSError):
            return line is None or line.poll(seconds)
        return True  # that it has ended

    def answer(self) -> Any:
        """Return the answer to what was sent, like :meth:`__call__`. A process that does no work is ended."""
        worked, since = -1.0, time.monotonic()
        while not self.has_answered(_LOOK_S):
            process = self._process
            if process is not None and (now := worked_s(process.pid)) > worked:
                worked, since = now, time.monotonic()
            elif time.monotonic() - since > STUCK_S:
                self.end()
        try:
            if (line := self._line) is None:
                raise EOFError
            well, came_of_it = _taken_in(line.recv_bytes())
        except (EOFError, OSError) as error:
            raise EndedError from error
        if not well:
            raise came_of_it
        return came_of_it

    def end(self) -> None:
        """End the process; :meth:`wake` starts another."""
        with self._lock:
            self._let_go()

    def _let_go(self) -> None:
        if self._rest is not None:
            self._rest.cancel()
        if self._process is not None:
            end_without_waiting(self._process)
        if self._line is not None:
            self._line.close()
        self._process = self._line = self._rest = None
        self._is_up = False

    def _look_later(self) -> None:
        self._rest = threading.Timer(REST_S, self._stop_if_idle)
        self._rest.daemon = True
        self._rest.start()

    def _stop_if_idle(self) -> None:
        with self._lock:
            if time.monotonic() - self._asked_at >= REST_S * 0.9:
                self._let_go()
            elif self._process is not None:
                self._look_later()


def serve(line: Connection, make: Callable[[], Callable[..., Any]]) -> None:
    """Answer requests over ``line`` until the other end closes."""
    answer = make()
    with contextlib.suppress(EOFError, OSError):
        line.send("up")
        while True:
            given = line.recv()
            try:
                told = True, answer(*given)
            except Exception as error:  # whatever it is, whoever asked must hear of it
                told = False, error
            line.send_bytes(_pack_answer(*told))


def _pack_answer(well: bool, answer: Any) -> bytes:
    """Return an answer as bytes; objects shared by its pieces are written once."""
    pieces = list(answer) if isinstance(answer, Iterator) else None
    data = io.BytesIO()
    packer = pickle.Pickler(data, pickle.HIGHEST_PROTOCOL)
    packer.dump((well, None if pieces is None else len(pieces)))
    for piece in [answer] if pieces is None else pieces:
        packer.dump(piece)
    return data.getvalue()


def _taken_in(data: bytes) -> tuple[bool, Any]:
    """Return an unpacked answer, and whether it is a result rather than an error."""
    unpacker = pickle.Unpickler(io.BytesIO(data))
    well, pieces = unpacker.load()
    if pieces is None:
        return well, unpacker.load()
    # Python lets another thread that waits for it go on between two pieces, and not within one.
    return well, [unpacker.load() for _ in range(pieces)]


def main() -> None:
    """Run the process; its arguments are the file descriptor, the factory and the niceness."""
    os.nice(int(sys.argv[3]))
    module, name = sys.argv[2].split(":")
    with Connection(int(sys.argv[1])) as line:
        serve(line, getattr(import_module(module), name))


if __name__ == "__main__":
    main()
