"""Sandboxed helper processes that read untrusted files with limits of time and memory, so that damaged or
hostile files cause no harm."""

from __future__ import annotations

import ctypes
import os
import resource
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

from bambola.files.reading import FileRefusedError
from bambola.language import tr

FOLDER = "/"
"""The current folder of every helper: it always exists, and ordinary users cannot write there."""


class HelperStart(NamedTuple):
    """What starts one helper, for ``subprocess.Popen`` as for ``QProcess``."""

    command: list[str]
    folder: str
    environment: dict[str, str]


def helper_start(module: str, *arguments: str, **environment: str) -> HelperStart:
    """Return the command to start ``module`` as a helper, with ``environment`` added to this process's.

    Relative folders in ``PYTHONPATH`` are made absolute, and an empty entry (the current folder) is dropped.
    ``arguments`` that are paths must be absolute.
    """
    surroundings = {**os.environ, **environment}
    if path := surroundings.pop("PYTHONPATH", ""):
        folders = [os.path.abspath(folder) for folder in path.split(os.pathsep) if folder]
        surroundings["PYTHONPATH"] = os.pathsep.join(folders)
    return HelperStart([sys.executable, "-P", "-m", module, *arguments], FOLDER, surroundings)


_LOOK_S = 0.05
_DIE_WITH_PARENT = 1  # PR_SET_PDEATHSIG
BUSY = 10.0
"""On a machine that has no time for it, a helper is waited for as many times as long. Judged."""


class StoppedError(Exception):
    """Raised when a helper was ended because nobody waits for it."""


class BusyError(FileRefusedError):
    """Raised when the machine had no time for a helper; the message is one sentence."""


def limit_self(cpu_s: int, memory_bytes: int) -> None:
    """Limit this process's own time and memory, and end with its parent."""
    ctypes.CDLL(None).prctl(_DIE_WITH_PARENT, signal.SIGKILL)
    resource.setrlimit(resource.RLIMIT_CPU, (cpu_s, cpu_s))
    resource.setrlimit(resource.RLIMIT_AS, (memory_bytes, memory_bytes))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def run_helper(
    module: str,
    arguments: Sequence[str],
    data: bytes,
    patience_s: float,
    stop: threading.Event | None = None,
) -> bytes:
    """Return the output of a module run as a helper with input ``data``; empty if it works for longer than
    ``patience_s``.

    Raises :class:`BusyError` if it could not work as long within ten times that, and :class:`StoppedError`
    once ``stop`` is set.
    """
    with os.fdopen(os.memfd_create("asked"), "w+b") as file:
        file.write(data)
        file.seek(0)
        start = helper_start(module, *arguments, QT_QPA_PLATFORM="offscreen")
        program = subprocess.Popen(
            start.command,
            cwd=start.folder,
            env=start.environment,
            stdin=file,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
        )
    until = time.monotonic() + BUSY * patience_s
    try:
        while True:
            try:
                return program.communicate(timeout=_LOOK_S)[0]
            except subprocess.TimeoutExpired:
                pass
            if stop is not None and stop.is_set():
                raise StoppedError
            if worked_s(program.pid) > patience_s:
                return b""
            if time.monotonic() > until:
                raise BusyError(
                    tr("The computer is too busy just now: nothing was read. Try it once more.")
                )
    finally:
        program.kill()
        program.communicate()


def worked_s(process: int) -> float:
    """Return the processor time that a process has had, s; 0 where the system does not tell."""
    try:
        told = Path(f"/proc/{process}/stat").read_text(encoding="ascii", errors="replace")
        user, system = told.rpartition(")")[2].split()[11:13]
        return (int(user) + int(system)) / os.sysconf("SC_CLK_TCK")
    except (OSError, ValueError):
        return 0.0
