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
from typing import NamedTuple

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


class StoppedError(Exception):
    """Raised when a helper was ended because nobody waits for it."""


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
    """Return the output of a module run as a helper with input ``data``; empty if it takes too long. Raises
    :class:`StoppedError` once ``stop`` is set."""
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
    until = time.monotonic() + patience_s
    try:
        while True:
            try:
                return program.communicate(timeout=_LOOK_S)[0]
            except subprocess.TimeoutExpired:
                pass
            if stop is not None and stop.is_set():
                raise StoppedError
            if time.monotonic() > until:
                return b""
    finally:
        program.kill()
        program.communicate()
