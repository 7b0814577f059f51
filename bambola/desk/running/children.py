"""Helper programs of the window: started, heard line by line, and ended without waiting for them."""

from __future__ import annotations

import subprocess
import threading
from functools import partial

from PyQt6.QtCore import QCoreApplication, QObject, QProcess, QProcessEnvironment, pyqtSignal

from bambola.files.limited import helper_start


class ChildProcess(QObject):
    """One run of a module of ours in a process of its own.

    After :meth:`end` none of its signals is sent any more, however long the process takes to die.
    """

    line_read = pyqtSignal(bytes)
    """A line of its standard output, without the line break."""
    ended = pyqtSignal()
    """It ended by itself, or could not be started. Every line was sent before."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        # The application owns it: it may outlive whoever asked for it.
        self._process: QProcess | None = QProcess(QCoreApplication.instance())
        self._bury = partial(_leave_to_die, self._process)
        self.destroyed.connect(self._bury)
        self._process.readyReadStandardOutput.connect(self._read_lines)
        self._process.stateChanged.connect(self._on_state_changed)

    def start(self, module: str, *arguments: str) -> None:
        """Run ``module`` with ``arguments``."""
        start = helper_start(module, *arguments)
        environment = QProcessEnvironment()
        for name, value in start.environment.items():
            environment.insert(name, value)
        assert self._process is not None
        self._process.setProcessEnvironment(environment)
        self._process.setWorkingDirectory(start.folder)
        self._process.start(start.command[0], start.command[1:])

    def write(self, data: bytes) -> None:
        """Write to its standard input."""
        if self._process is not None:
            self._process.write(data)

    @property
    def number(self) -> int:
        """The process id while it runs, else 0."""
        return self._process.processId() or 0 if self._process is not None else 0

    def end(self) -> None:
        """Kill the process and forget it; do not wait until it is gone."""
        process, self._process = self._process, None
        if process is not None:
            self.destroyed.disconnect(self._bury)
            process.readyReadStandardOutput.disconnect(self._read_lines)
            process.stateChanged.disconnect(self._on_state_changed)
            _leave_to_die(process)
        self.deleteLater()

    def _read_lines(self) -> None:
        while self._process is not None and self._process.canReadLine():
            self.line_read.emit(self._process.readLine().data().rstrip(b"\r\n"))

    def _on_state_changed(self, state: QProcess.ProcessState) -> None:
        if state == QProcess.ProcessState.NotRunning:
            self._read_lines()
            if self._process is not None:
                self.ended.emit()


def _leave_to_die(process: QProcess, _: object = None) -> None:
    """Kill ``process`` and delete it once it is gone: deleting one that still runs waits for it."""
    if process.state() == QProcess.ProcessState.NotRunning:
        process.deleteLater()
        return
    process.stateChanged.connect(partial(_delete_if_ended, process))
    process.kill()


def _delete_if_ended(process: QProcess, state: QProcess.ProcessState) -> None:
    if state == QProcess.ProcessState.NotRunning:
        process.deleteLater()


def end_without_waiting(process: subprocess.Popen[bytes]) -> None:
    """Kill ``process``; another thread waits for its end, which may come late on a busy machine."""
    process.kill()
    threading.Thread(target=process.wait, daemon=True).start()
