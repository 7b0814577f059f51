"""A display for what has to be seen: the one there is, or one of our own that nobody looks at."""

from __future__ import annotations

import os
import shutil
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def display() -> Iterator[dict[str, str]]:
    """The environment of a program on a real X display; off the screen where none can be started."""
    environment = {k: v for k, v in os.environ.items() if k != "QT_QPA_PLATFORM"}
    if environment.get("DISPLAY"):
        yield {**environment, "QT_QPA_PLATFORM": "xcb"}
        return
    if shutil.which("Xvfb") is None:
        yield {**environment, "QT_QPA_PLATFORM": "offscreen"}
        return
    ours, theirs = os.pipe()
    command = ["Xvfb", "-displayfd", str(theirs), "-screen", "0", "1400x900x24"]
    server = subprocess.Popen(command, pass_fds=(theirs,), stderr=subprocess.DEVNULL)
    os.close(theirs)
    try:
        with os.fdopen(ours) as told:
            number = told.readline().strip()
        yield {**environment, "DISPLAY": f":{number}", "QT_QPA_PLATFORM": "xcb"}
    finally:
        server.terminate()
        server.wait(10)
