"""Programs that a benchmark starts and measures from outside; each prints numbers, the last one last."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Mapping
from types import ModuleType


class ChildError(Exception):
    """Raised with what a child wrote to standard error if it failed."""


def run_child(
    module: ModuleType, *arguments: str, environment: Mapping[str, str] | None = None
) -> list[float]:
    """Run ``module`` as a program and return the numbers it printed. Raises :class:`ChildError`."""
    done = subprocess.run(
        [sys.executable, "-m", module.__name__, *arguments],
        capture_output=True,
        text=True,
        env=environment,
    )
    if done.returncode:
        raise ChildError(f"{module.__name__} ended with {done.returncode}:\n{done.stderr}")
    return [float(word) for word in done.stdout.split()]
