"""Helper programs: heard line by line, and ended without waiting, also when they take long to die."""

from __future__ import annotations

import os
import signal
import time

import pytest
from PyQt6.QtCore import QObject, QProcess
from pytestqt.qtbot import QtBot

from bambola.desk.running import children
from bambola.desk.running.children import ChildProcess

SCALE = "bambola.devices.simulated_scale"


class SlowToDie(QProcess):
    """A process that a busy machine does not get round to killing."""

    def kill(self) -> None:
        """Leave it running."""


def started(parent: QObject, qtbot: QtBot) -> tuple[ChildProcess, list[str]]:
    child, heard = ChildProcess(parent), []
    child.line_read.connect(lambda line: heard.append(line.decode()))
    child.ended.connect(lambda: heard.append("ended"))
    child.start(SCALE, "--plain")
    qtbot.waitUntil(lambda: bool(heard), timeout=20_000)
    return child, heard


def is_running(number: int) -> bool:
    try:
        os.kill(number, 0)
    except ProcessLookupError:
        return False
    return True


def test_child_that_ends_by_itself_says_so(qtbot: QtBot) -> None:
    parent = QObject()
    child, heard = started(parent, qtbot)
    os.kill(child.number, signal.SIGKILL)
    qtbot.waitUntil(lambda: heard[-1] == "ended", timeout=20_000)
    assert len(heard) == 2 and child.number == 0


@pytest.mark.parametrize("stopped", [False, True])
def test_ended_child_is_gone_and_silent(qtbot: QtBot, stopped: bool) -> None:
    parent = QObject()
    child, heard = started(parent, qtbot)
    number = child.number
    if stopped:
        os.kill(number, signal.SIGSTOP)
    child.end()
    qtbot.waitUntil(lambda: not is_running(number), timeout=20_000)
    assert "ended" not in heard


def test_child_that_does_not_die_outlives_its_owner(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(children, "QProcess", SlowToDie)
    parent = QObject()
    child, heard = started(parent, qtbot)
    number, began = child.number, time.monotonic()
    child.end()
    assert time.monotonic() - began < 0.1 and is_running(number)
    del child
    parent.deleteLater()
    qtbot.wait(50)
    os.kill(number, signal.SIGKILL)
    qtbot.waitUntil(lambda: not is_running(number), timeout=20_000)
    assert "ended" not in heard


def test_child_that_cannot_be_started_says_so(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("sys.executable", "/nowhere/python")
    parent, heard = QObject(), []
    child = ChildProcess(parent)
    child.ended.connect(lambda: heard.append("ended"))
    child.start(SCALE)
    qtbot.waitUntil(lambda: heard == ["ended"], timeout=20_000)
