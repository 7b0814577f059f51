"""Programs that tests start in a process of their own."""

from __future__ import annotations

import subprocess
import sys
from types import ModuleType


def command_of(child: ModuleType, *arguments: str) -> list[str]:
    """Return the command that runs a module of this package."""
    return [sys.executable, "-m", child.__name__, *arguments]


def output_of(child: ModuleType, *arguments: str, **surroundings: str) -> str:
    """Return what a module of this package prints, and fail with its error if it fails."""
    done = subprocess.run(
        command_of(child, *arguments), capture_output=True, text=True, env=surroundings or None
    )
    assert done.returncode == 0, done.stderr
    return done.stdout
