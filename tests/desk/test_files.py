from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QFileDialog, QMessageBox
from pytestqt.qtbot import QtBot

from bambola.core.quantities import Units
from bambola.demo import BADGER
from bambola.desk.window import Window

BUTTON = QMessageBox.StandardButton


def save_as(window: Window, path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(path), ""))
    window.actions_["save_as"].trigger()


def test_a_saved_design_reopens_as_it_was(
    window: Window,
    new_window: Callable[[], Window],
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    path = tmp_path / "mine.bambola.json"
    window.studio.set_height(165.0)
    window.studio.answer("join:head", "scarf")
    assert window.isWindowModified()
    save_as(window, path, monkeypatch)
    assert not window.isWindowModified() and "mine.bambola.json" in window.message.text
    window.studio.set_height(150.0)
    window.actions_["save"].trigger()
    assert (tmp_path / "mine.bambola.json~").exists()
    again = new_window()
    again.recent_menu.actions()[0].trigger()
    assert again.studio.brief == window.studio.brief and again.studio.figure == window.studio.figure


def test_a_copy_of_a_design_is_no_files_yet(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "original.bambola.json"
    path.write_text(BADGER.read_text())
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(path), ""))
    window.actions_["open_copy"].trigger()
    assert window.studio.figure and window.studio.path is None
    mine = tmp_path / "mine.bambola.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(mine), ""))
    window.studio.set_height(160.0)
    window.actions_["save"].trigger()
    assert mine.exists() and path.read_text() == BADGER.read_text()


@pytest.mark.parametrize(
    ("content", "says"),
    [
        ('{"bambola": 1, "figure": {', "damaged"),
        ('{"bambola": 7}', "version 7"),
        (None, "cannot be read"),
    ],
)
def test_a_refused_file_never_replaces_what_is_open(
    window: Window, tmp_path: Path, content: str | None, says: str
) -> None:
    path = tmp_path / "bad.bambola.json"
    if content is not None:
        path.write_text(content)
    before = window.studio.plan
    assert not window.files.open_path(path)
    assert says in window.message.text and "bad.bambola.json" in window.message.text
    assert window.studio.plan is before


def test_a_design_whose_height_cannot_be_met_is_refused(window: Window, tmp_path: Path) -> None:
    raw = json.loads(BADGER.read_text())
    raw["brief"] = {"height": 90_000}
    path = tmp_path / "giant.bambola.json"
    path.write_text(json.dumps(raw))
    assert not window.files.open_path(path)
    assert "1120.0 mm" in window.message.text and window.studio.plan is not None


def test_a_file_dragged_onto_the_window_opens(window: Window, tmp_path: Path) -> None:
    path = tmp_path / "dropped.bambola.json"
    path.write_text(BADGER.read_text())
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(path))])
    window.dropEvent(
        QDropEvent(
            QPointF(50, 50),
            Qt.DropAction.CopyAction,
            mime,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
    )
    assert window.studio.path == path


def test_unsaved_changes_are_guarded(
    window: Window, answers: list[BUTTON], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.studio.set_height(150.0)
    answers.append(BUTTON.Cancel)
    assert not window.close() and window.isVisible()
    answers.append(BUTTON.Cancel)
    assert not window.files.open_path(BADGER) and window.studio.brief.height == 150.0
    path = tmp_path / "kept.bambola.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(path), ""))
    answers.append(BUTTON.Save)
    assert window.close() and path.exists()


def test_a_folder_that_cannot_be_written_loses_nothing(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.studio.set_height(150.0)
    save_as(window, Path("/proc/none/mine.bambola.json"), monkeypatch)
    assert "could not be written" in window.message.text
    assert window.isWindowModified() and window.studio.brief.height == 150.0


def test_work_is_journalled_and_offered_back_after_a_crash(
    window: Window,
    new_window: Callable[[], Window],
    answers: list[BUTTON],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    window.studio.set_height(133.0)
    window.files.write_journal()
    assert window.journal._lock is not None
    window.journal._lock.close()  # as it goes when a process ends
    fresh = new_window()
    answers.append(BUTTON.Yes)
    assert fresh.files.offer_recovery()
    assert fresh.studio.brief.height == 133.0 and fresh.isWindowModified()
    assert not fresh.files.offer_recovery()


@pytest.mark.parametrize(
    ("kind", "files"),
    [
        ("pdf", ["sheet.pdf"]),
        ("json", ["sheet.json"]),
        ("csv", ["cutting.csv", "parts.csv", "steps.csv", "wires.csv", "wool.csv"]),
        (
            "svg",
            [
                "blank-ear.svg",
                "front.svg",
                "side.svg",
                "top.svg",
                "wire-arms.svg",
                "wire-legs.svg",
                "wire-spine.svg",
            ],
        ),
    ],
)
def test_exports_are_written_in_the_background(
    window: Window,
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    kind: str,
    files: list[str],
) -> None:
    folder = tmp_path / "out"
    folder.mkdir()
    monkeypatch.setattr(
        QFileDialog, "getSaveFileName", lambda *a: (str(folder / f"sheet.{kind}"), "")
    )
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a: str(folder))
    with qtbot.waitSignal(window.files.exports.done, timeout=20_000):
        window.actions_[f"export_{kind}"].trigger()
    assert sorted(p.name for p in folder.iterdir()) == files
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: ("/proc/none/x", ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a: "/proc/none")
    with qtbot.waitSignal(window.files.exports.failed, timeout=20_000):
        window.actions_[f"export_{kind}"].trigger()
    assert "could not be written" in window.message.text


def test_an_empty_table_teaches_and_opens_the_demo(new_window: Callable[[], Window]) -> None:
    window = new_window()
    assert window.welcome.isVisible() and not window.actions_["save"].isEnabled()
    window.welcome.demo_asked.emit()
    assert window.resize_station.isVisible() and window.studio.plan


def test_look_and_units_are_remembered(window: Window, new_window: Callable[[], Window]) -> None:
    window.actions_["text_larger"].trigger()
    window.actions_["dark"].trigger()
    window.actions_["length_cm"].trigger()
    again = new_window()
    assert again.settings.text_scale == 1.15 and again.settings.dark is True
    assert again.settings.units == Units("cm", "g")
