"""Starts helper processes through Qt, which reports on them by signals."""

from __future__ import annotations

from PyQt6.QtCore import QProcess, QProcessEnvironment

from bambola.files.helpers import helper_start


def start_helper(process: QProcess, module: str, *arguments: str) -> None:
    """Start ``module`` as a helper in ``process``; see :func:`helper_start`."""
    start = helper_start(module, *arguments)
    environment = QProcessEnvironment()
    for name, value in start.environment.items():
        environment.insert(name, value)
    process.setProcessEnvironment(environment)
    process.setWorkingDirectory(start.folder)
    process.start(start.command[0], start.command[1:])
