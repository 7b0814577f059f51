"""Helper processes, commands and the window run no code that lies in the folder they are started in."""

from __future__ import annotations

import io
import json
import os
import subprocess
import sys
import time
from importlib.metadata import packages_distributions
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtCore import QObject
from pytestqt.qtbot import QtBot

import bambola
from bambola.demo import BADGER, TOAD
from bambola.desk.running.children import ChildProcess
from bambola.desk.running.worker_process import WorkerProcess
from bambola.desk.session.planner import PLANNING
from bambola.files.limited import FOLDER, helper_start
from bambola.files.pattern import read_pattern
from bambola.files.pictures import read_picture
from bambola.files.spreadsheet import table_text
from bambola.store.designs import design_of

BIN = Path(sys.executable).parent


@pytest.fixture
def trap(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A folder with a file named after every module there is, which the tests run in; each that is run
    leaves its name in ``sprung``."""
    folder = tmp_path / "trap"
    folder.mkdir()
    sprung = tmp_path / "sprung"
    code = f"open({str(sprung)!r}, 'a').write(__name__ + ' ')\n"
    for name in {*sys.stdlib_module_names, *packages_distributions(), "bambola", "sitecustomize"}:
        if name.isidentifier():
            (folder / f"{name}.py").write_text(code)
    monkeypatch.chdir(folder)
    return sprung


def test_every_kind_of_helper_ignores_current_folder(
    trap: Path, tmp_path: Path, qtbot: QtBot
) -> None:
    picture = tmp_path / "p.png"
    Image.fromarray(np.full((40, 60, 3), 200, dtype=np.uint8)).save(picture)
    assert read_picture(picture).width == 60
    (tmp_path / "p.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg"><rect width="3" height="4"/></svg>'
    )
    assert len(read_pattern(tmp_path / "p.svg")) == 1
    (tmp_path / "t.csv").write_text("Part;Length\nEar;4\n")
    assert table_text(tmp_path / "t.csv").startswith("Part")
    worker = WorkerProcess(PLANNING)
    worker.wake()
    deadline = time.monotonic() + 60
    while not worker.is_up and not worker.has_ended and time.monotonic() < deadline:
        time.sleep(0.02)
    assert worker.is_up
    worker.end()
    parent = QObject()
    for module, given in (
        ("bambola.devices.simulated_scale", ["--plain"]),
        ("bambola.desk.stations.wool.splitter", []),
    ):
        child, heard = ChildProcess(parent), []
        child.line_read.connect(heard.append)
        child.ended.connect(lambda heard=heard: heard.append(b"ended"))
        child.start(module, *given)
        if not given:
            child.write(b'{"wanted": [], "hank_g": 1.0, "patience_s": 1.0}\n')
        qtbot.waitUntil(lambda heard=heard: bool(heard), timeout=20_000)
        child.end()
    assert not trap.exists(), trap.read_text()


def test_commands_and_window_ignore_current_folder(trap: Path, tmp_path: Path) -> None:
    packet, shot = tmp_path / "good.pdf", tmp_path / "w.png"
    for command in (
        ["bambola", "packet", str(TOAD), "--pages", "cover", "-o", str(packet)],
        ["bambola", "plan", str(packet)],  # reads the design within the packet by a helper
        ["bambola-gui", str(BADGER), "--new-window", "--screenshot", str(shot)],
    ):
        done = subprocess.run([BIN / command[0], *command[1:]], capture_output=True, timeout=120)
        assert done.returncode == 0, done.stderr
    assert shot.exists() and not trap.exists(), trap.exists() and trap.read_text()
    assert design_of(packet.read_bytes(), packet.name)


def test_only_one_function_starts_python(monkeypatch: pytest.MonkeyPatch) -> None:
    source = Path(bambola.__file__).parent
    starts = [p.name for p in source.rglob("*.py") if "sys.executable" in p.read_text()]
    assert starts == ["limited.py"]
    monkeypatch.setenv("PYTHONPATH", os.pathsep.join(("mine", "", "/packages")))
    start = helper_start("json.tool", COLOUR="red")
    assert start.command[1:] == ["-P", "-m", "json.tool"] and start.folder == FOLDER == "/"
    here = os.path.abspath("mine")
    assert start.environment["PYTHONPATH"] == os.pathsep.join((here, "/packages"))
    assert start.environment["COLOUR"] == "red"
    ran = subprocess.run(start.command, cwd=start.folder, input=b"{}", capture_output=True)
    assert json.load(io.BytesIO(ran.stdout)) == {}
