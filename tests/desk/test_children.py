"""Helper programs: heard line by line, and ended without waiting, also when they take long to die."""

from __future__ import annotations

import contextlib
import os
import signal
import time
from pathlib import Path

import pytest
from PyQt6 import sip
from PyQt6.QtCore import QObject, QProcess, QSettings
from pytestqt.qtbot import QtBot

from bambola.desk.kit.theme import Theme
from bambola.desk.running import children
from bambola.desk.running.children import ChildProcess
from bambola.desk.running.worker_process import WorkerProcess
from bambola.desk.session.planner import PLANNING
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.stations import MEASURE, RESIZE, WOOL
from bambola.desk.shell.window import Window
from bambola.desk.stations.wool.station import SPLITTING
from bambola.store import Journal
from tests.desk.test_hostile_pictures import NESTED

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


@pytest.mark.parametrize("owner_is_deleted", [False, True])
def test_child_that_does_not_die_outlives_its_owner(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, owner_is_deleted: bool
) -> None:
    monkeypatch.setattr(children, "QProcess", SlowToDie)
    parent = QObject()
    child, heard = started(parent, qtbot)
    number, began = child.number, time.monotonic()
    if owner_is_deleted:
        sip.delete(parent)
        assert sip.isdeleted(child)
    else:
        child.end()
        parent.deleteLater()
    assert time.monotonic() - began < 0.1 and is_running(number)
    del child
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


KINDS = (
    "running.worker_process",
    "wool.split_job",
    "simulated_scale",
    "simulated_caliper",
    "files.picture_job",
)


def descendants(of: int) -> dict[int, str]:
    """The running processes below ``of`` and what each was started as."""
    found: dict[int, str] = {}
    for task in Path(f"/proc/{of}/task").iterdir():
        with contextlib.suppress(OSError):  # it has ended meanwhile
            found |= _below(task)
    return found


def _below(task: Path) -> dict[int, str]:
    found: dict[int, str] = {}
    for number in map(int, (task / "children").read_text().split()):
        with contextlib.suppress(OSError):
            told = Path(f"/proc/{number}/cmdline").read_bytes().replace(b"\0", b" ").decode()
            if told:  # one that has ended and is not waited for yet has none
                found |= {number: told, **descendants(number)}
    return found


@pytest.mark.parametrize("blow", [signal.SIGSTOP, signal.SIGKILL])
def test_window_with_every_kind_of_child_closes_at_once_and_takes_them_along(
    qtbot: QtBot, tmp_path: Path, blow: signal.Signals
) -> None:
    """They were stopped, or killed, while each was at work."""
    settings = Settings(QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    session = EditorSession(apart=WorkerProcess(PLANNING))
    window = Window(session, Theme(), settings, Journal(tmp_path / "journal"))
    window.show()
    window.open_demo()
    before = set(descendants(os.getpid()))
    picture = tmp_path / "many.svg"
    picture.write_text(NESTED)

    def own() -> dict[int, str]:
        return {n: told for n, told in descendants(os.getpid()).items() if n not in before}

    window.go_to(RESIZE)
    assert session.hold("head", True)
    qtbot.waitUntil(lambda: not session.is_planning, timeout=20_000)
    window.resize_station.table.heights.sweep()
    window.go_to(WOOL)
    window.wool_station.scale.start_simulated(plain=True)
    window.wool_station.show_face(SPLITTING)
    window.go_to(MEASURE)
    window.measure_station.card.caliper.start_simulated(plain=True)
    qtbot.waitUntil(
        lambda: all(any(k in told for told in own().values()) for k in KINDS[:4]), timeout=20_000
    )
    window.measure_station.sighting.read_picture("front", picture)
    qtbot.waitUntil(lambda: any(KINDS[4] in told for told in own().values()), timeout=20_000)
    session.undo_stack.setClean()
    taken = own()
    for number in taken:
        os.kill(number, blow)
    qtbot.wait(50)
    began = time.monotonic()
    assert window.close() and time.monotonic() - began < 2
    qtbot.waitUntil(lambda: not set(taken) & set(own()), timeout=20_000)
    window.deleteLater()
