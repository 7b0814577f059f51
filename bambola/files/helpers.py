"""How every helper process of ours is started: with nothing but installed packages on its import path.

``python -m`` puts the current folder first on the import path, so a stranger's ``json.py`` lying there would
run. ``-P`` leaves that folder out, and helpers run in a fixed folder. ``-I`` would do too much: it also drops
the packages that a user installed for herself.
"""

from __future__ import annotations

import os
import sys
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
