"""Work in a process of its own, for what would hold up the frames of this one even from another thread.

Python lets one thread run at a time, and what cuts solids does not let go of that lock. The process is
started when first wanted, and ends after a while of rest or when this one ends. Nothing is imported here
that such a process does not need.
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

from bambola.files.helpers import helper_start

REST_S = 600.0
"""A process that was not asked for anything for so long ends, and its memory with it. Judged."""


class EndedError(Exception):
    """The process is not there, or ended before it answered."""


class WorkerProcess:
    """A process that makes one object, told by its ``factory`` as "module:name", and calls it with what it is
    sent. Calls come from one thread; everything else from any. Where the object returns an iterator, its
    pieces come as a list, taken in one by one: what is large would else hold up the other threads."""

    def __init__(self, factory: str, behind: int = 0) -> None:
        """``behind`` is by how much others go before it from its first moment (its niceness)."""
        self._factory, self._behind = factory, behind
        self._process: subprocess.Popen[bytes] | None = None
        self._line: Connection | None = None
        self._is_up = False
        self._asked_at = 0.0
        self._rest: threading.Timer | None = None
        self._lock = threading.Lock()

    @property
    def number(self) -> int | None:
        """The number of its process, while there is one."""
        process = self._process
        return process.pid if process is not None else None

    @property
    def has_ended(self) -> bool:
        """Whether there is no process, or none that still runs."""
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
        """Start it, unless it runs already; does not wait until it is up."""
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
        """Return what the object returns for ``given``; raises what it raises, and :class:`EndedError` where
        the process is not there any more."""
        self.send(*given)
        return self.answer()

    def send(self, *given: Any) -> None:
        """Ask, and go on: there is one :meth:`answer` to be taken before it is asked again."""
        if not self.is_up:
            raise EndedError
        self._asked_at = time.monotonic()
        assert self._line is not None
        try:
            self._line.send(given)
        except OSError as error:
            raise EndedError from error

    def has_answered(self, seconds: float = 0.0) -> bool:
        """Return whether there is an answer to be taken, waited for so long at most."""
        line = self._line
        with contextlib.suppress(OSError):
            return line is None or line.poll(seconds)
        return True  # that it has ended

    def answer(self) -> Any:
        """Return what the object returned for what was sent, as :meth:`__call__` tells it."""
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
        """End the process; the next call of :meth:`wake` starts another."""
        with self._lock:
            self._let_go()

    def _let_go(self) -> None:
        if self._rest is not None:
            self._rest.cancel()
        if self._process is not None:
            self._process.kill()
            self._process.wait()
        if self._line is not None:
            self._line.close()
        self._process = self._line = self._rest = None
        self._is_up = False

    def _look_later(self) -> None:
        self._rest = threading.Timer(REST_S, self._look)
        self._rest.daemon = True
        self._rest.start()

    def _look(self) -> None:
        with self._lock:
            if time.monotonic() - self._asked_at >= REST_S * 0.9:
                self._let_go()
            elif self._process is not None:
                self._look_later()


def serve(line: Connection, make: Callable[[], Callable[..., Any]]) -> None:
    """Answer what comes over ``line``, until nobody is there any more."""
    answer = make()
    with contextlib.suppress(EOFError, OSError):
        line.send("up")
        while True:
            given = line.recv()
            try:
                told = True, answer(*given)
            except Exception as error:  # whatever it is, whoever asked must hear of it
                told = False, error
            line.send_bytes(_packed(*told))


def _packed(well: bool, answer: Any) -> bytes:
    """Return an answer in bytes: what its pieces share is written once."""
    pieces = list(answer) if isinstance(answer, Iterator) else None
    data = io.BytesIO()
    packer = pickle.Pickler(data, pickle.HIGHEST_PROTOCOL)
    packer.dump((well, None if pieces is None else len(pieces)))
    for piece in [answer] if pieces is None else pieces:
        packer.dump(piece)
    return data.getvalue()


def _taken_in(data: bytes) -> tuple[bool, Any]:
    """Return what was packed, and whether it went well."""
    unpacker = pickle.Unpickler(io.BytesIO(data))
    well, pieces = unpacker.load()
    if pieces is None:
        return well, unpacker.load()
    # Python lets another thread that waits for it go on between two pieces, and not within one.
    return well, [unpacker.load() for _ in range(pieces)]


def main() -> None:
    """What the process runs: the number of its line, the factory and its niceness are given."""
    os.nice(int(sys.argv[3]))
    module, name = sys.argv[2].split(":")
    with Connection(int(sys.argv[1])) as line:
        serve(line, getattr(import_module(module), name))


if __name__ == "__main__":
    main()
