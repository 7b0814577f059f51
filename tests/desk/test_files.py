from __future__ import annotations

import errno
import itertools
import json
import os
import subprocess
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QTimer, QUrl
from PyQt6.QtGui import QDropEvent, QImage, QPalette
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox, QProgressDialog
from pytestqt.qtbot import QtBot

from bambola.core.bench import Bench
from bambola.core.figure import Document, dump_document
from bambola.core.plan import Plan
from bambola.core.quantities import Units
from bambola.core.solids import MeasuringCancelledError
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.desk.session import studio
from bambola.desk.shell import opening
from bambola.desk.shell.single_instance import InstanceServer, hand_over
from bambola.desk.shell.window import Window
from bambola.files import ExportError
from bambola.files.limited import StoppedError
from bambola.store import journal
from tests.children import command_of, second_start
from tests.typing_hands import type_text

pytestmark = pytest.mark.usefixtures("coarse_felt")

BUTTON = QMessageBox.StandardButton


def save_as(window: Window, path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(path), ""))
    window.actions_["save_as"].trigger()


def test_saved_design_reopens_as_it_was(
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
    assert again.recent_menu is not None
    again.recent_menu.actions()[0].trigger()
    assert again.studio.brief == window.studio.brief and again.studio.figure == window.studio.figure


def test_copy_of_design_is_no_files_yet(
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
def test_refused_file_never_replaces_what_is_open(
    window: Window, tmp_path: Path, content: str | None, says: str
) -> None:
    path = tmp_path / "bad.bambola.json"
    if content is not None:
        path.write_text(content)
    before = window.studio.plan
    assert not window.files.open_path(path)
    assert says in window.message.text and "bad.bambola.json" in window.message.text
    assert window.studio.plan is before


def test_design_whose_height_cannot_be_met_is_refused(window: Window, tmp_path: Path) -> None:
    raw = json.loads(BADGER.read_text())
    raw["brief"] = {"height": 90_000}
    path = tmp_path / "giant.bambola.json"
    path.write_text(json.dumps(raw))
    assert not window.files.open_path(path)
    assert "1120 mm" in window.message.text and window.studio.plan is not None


def test_file_dragged_onto_window_opens(window: Window, tmp_path: Path) -> None:
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


def test_dropped_picture_begins_new_figure(
    window: Window, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    begun: list[tuple[dict[str, Path], float]] = []
    monkeypatch.setattr(window, "start_with_pictures", lambda *given: begun.append(given))
    window.start_page.pictures_chosen.connect(lambda *given: begun.append(given))
    picture, mime = tmp_path / "fox.png", QMimeData()
    QImage(60, 40, QImage.Format.Format_RGB888).save(str(picture))
    mime.setUrls([QUrl.fromLocalFile(str(picture))])
    left, plain = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    window.dropEvent(QDropEvent(QPointF(5, 5), Qt.DropAction.CopyAction, mime, left, plain))
    page = window.start_page
    assert page.isVisible() and page.height_.hasFocus() and "fox.png" in page._told.text()
    type_text(page.height_, "18 cm")
    QTest.mouseClick(page.pictures, left)
    assert begun[-1] == ({"front": picture}, 180.0)
    assert not page.start.isVisible()  # one next thing
    window.new_figure()  # begun anew: a body plan or pictures are chosen again
    assert page.pictures.text() == "From my own pictures…" and page.start.isVisible()


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


def test_folder_that_cannot_be_written_loses_nothing_and_another_is_offered(
    window: Window, answers: list[BUTTON], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.studio.set_height(150.0)
    answers.append(BUTTON.Cancel)
    save_as(window, Path("/proc/none/mine.bambola.json"), monkeypatch)
    assert "could not be written" in window.message.text
    assert window.isWindowModified() and window.studio.brief.height == 150.0
    good = tmp_path / "mine.bambola.json"
    names = ["/proc/none/mine.bambola.json", str(good)]
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (names.pop(0), ""))
    answers.append(BUTTON.Save)
    assert window.files.ask_save_as() and not answers
    assert window.studio.path == good and not window.isWindowModified()


def test_what_changes_while_it_is_written_is_not_taken_for_saved(
    window: Window, tmp_path: Path
) -> None:
    session = window.studio

    def write(work: Callable[[], None]) -> None:
        work()
        session.hold("head", True)

    session.do_writing = write
    assert session.save(tmp_path / "a.bambola.json") and not session.is_saved


def crashed(window: Window, qtbot: QtBot) -> Path:
    """The journal of a window as it is left by a crash."""
    qtbot.waitUntil(lambda: any(window.journal.folder.glob("*.json")), timeout=3000)
    assert window.journal._lock is not None
    window.journal._lock.close()
    (entry,) = window.journal.folder.glob("*.json")
    window.files._timer.stop()
    return entry


def test_unsaved_work_waits_until_it_is_saved_or_thrown_away(
    window: Window, new_window: Callable[[], Window], answers: list[BUTTON], qtbot: QtBot, tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    window.studio.set_height(133.0)
    entry = crashed(window, qtbot)
    fresh = new_window()
    answers += [BUTTON.Close, BUTTON.Yes]
    assert not fresh.files.offer_recovery() and entry.exists() and fresh.studio.figure is None
    assert fresh.files.offer_recovery() and entry.exists()
    assert fresh.studio.brief.height == 133.0 and fresh.isWindowModified()
    fresh.studio.set_height(134.0)
    qtbot.waitUntil(lambda: "134" in entry.read_text(), timeout=3000)
    save_as(fresh, tmp_path / "saved.bambola.json", monkeypatch)
    assert not entry.exists() and not fresh.files.offer_recovery()


def test_unreadable_journal_is_discarded_only_knowingly(
    window: Window, new_window: Callable[[], Window], answers: list[BUTTON], qtbot: QtBot
) -> None:
    window.studio.set_height(133.0)
    entry = crashed(window, qtbot)
    entry.write_text(entry.read_text().replace("core-batt", "moss"))
    fresh = new_window()
    asked: list[str] = []
    ask = fresh.files._ask_in_box

    def noted(text: str, *rest: Any) -> int:
        asked.append(text)
        return ask(text, *rest)

    fresh.files._ask_in_box = noted  # type: ignore[method-assign]
    answers += [BUTTON.Close, BUTTON.Discard]
    assert not fresh.files.offer_recovery() and entry.exists() and "moss" in asked[0]
    assert not fresh.files.offer_recovery() and not entry.exists()


def test_journal_is_written_while_one_works(window: Window, qtbot: QtBot) -> None:
    for n in range(8):  # never a rest as long as the journal's own
        window.studio.set_height(120.0 + n)
        qtbot.wait(80)
    (entry,) = window.journal.folder.glob("*.json")
    kept = json.loads(json.loads(entry.read_text())["document"])["brief"]["height"]
    assert kept >= 122.0  # of what was done two rests ago, nothing is missing


def test_journal_that_cannot_be_written_is_told_once(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[str] = []
    window.files.said.connect(lambda text, serious: told.append(text))

    def full(path: Path, data: bytes, private: bool) -> None:
        raise ExportError(f"{path.name}: it could not be written (No space left on device).")

    monkeypatch.setattr(journal, "write_whole", full)
    window.studio.set_height(133.0)
    qtbot.waitUntil(lambda: bool(told), timeout=3000)
    qtbot.wait(300)
    assert len(told) == 1 and "No space left" in told[0] and "Save the design" in told[0]
    monkeypatch.undo()
    qtbot.waitUntil(lambda: "protected again" in told[-1], timeout=20_000)


def test_design_changed_by_another_program_is_not_written_over_untold(
    window: Window, new_window: Callable[[], Window], answers: list[BUTTON], tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    path, other = tmp_path / "mine.bambola.json", tmp_path / "other.bambola.json"
    save_as(window, path, monkeypatch)
    two = new_window()
    assert two.files.open_path(path)
    two.studio.set_height(99.0)
    assert two.files.save()
    window.studio.set_height(150.0)
    window.files.look_at_disk()
    assert "changed by another window" in window.message.text
    answers.append(BUTTON.Cancel)
    assert not window.files.save() and window.isWindowModified()
    assert '"height": 99.0' in path.read_text()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(other), ""))
    answers.append(BUTTON.No)
    assert window.files.save() and '"height": 150.0' in other.read_text()
    assert '"height": 99.0' in path.read_text()
    window.files.open_path(path)
    two.studio.set_height(98.0)
    assert two.files.save()
    window.studio.set_height(151.0)
    answers.append(BUTTON.Yes)
    assert window.files.save() and '"height": 151.0' in path.read_text()
    assert '"height": 98.0' in path.with_name(path.name + "~").read_text()


def test_second_start_hands_its_design_to_open_window(
    window: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    path = tmp_path / "given.bambola.json"
    path.write_text(BADGER.read_text())
    line = tmp_path / "window"
    assert not hand_over(path, path=line)
    server = InstanceServer(window, line)
    server.asked.connect(window.come_forward)
    start = subprocess.Popen(command_of(second_start, str(path), str(line)))
    qtbot.waitUntil(lambda: window.studio.path == path, timeout=20_000)
    assert start.wait(10) == 0
    window.studio.set_height(111.0)
    server.asked.emit(
        str(path), False
    )  # what is open already is not opened again over unsaved work
    assert window.studio.brief.height == 111.0
    assert window.files.save()
    server.asked.emit("/" + "x" * 5000, False)
    assert window.studio.path == path and "cannot be read" in window.message.text
    server.asked.emit("", True)  # the demo is opened as from the menu
    qtbot.waitUntil(lambda: window.studio.path is None, timeout=20_000)
    server.close()
    assert not hand_over(path, path=line)


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
                "face-head.svg",
                "face-snout.svg",
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
def test_exports_are_written_in_background(
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
    said = "cannot be made" if kind in ("csv", "svg") else "could not be written"
    assert said in window.message.text


def test_empty_table_teaches_and_opens_demo(new_window: Callable[[], Window]) -> None:
    window = new_window()
    assert window.welcome.isVisible() and not window.actions_["save"].isEnabled()
    window.welcome.demo_asked.emit()
    assert window.resize_station.isVisible() and window.studio.plan


def test_look_and_units_are_remembered(
    window: Window, new_window: Callable[[], Window], qtbot: QtBot
) -> None:
    heard: list[int] = []
    window.theme.changed.connect(lambda: heard.append(QApplication.font().pixelSize()))
    window.actions_["text_larger"].trigger()
    window.actions_["dark"].trigger()  # before the larger text is all put on
    assert heard == [window.theme.text().pixelSize()]
    qtbot.waitUntil(lambda: len(heard) == 2)
    assert QApplication.palette().color(QPalette.ColorRole.Window) == window.theme.dyes.ground
    window.actions_["text_larger"].trigger()
    assert len(heard) == 2
    qtbot.waitUntil(lambda: len(heard) == 3)
    window.actions_["text_smaller"].trigger()
    window.actions_["length_cm"].trigger()
    again = new_window()
    assert again.settings.text_scale == 1.15 and again.settings.dark is True
    assert again.settings.units == Units("cm", "g")


def test_measuring_shows_progress_and_can_be_cancelled(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    raw = json.loads(BADGER.read_text())
    knob = {
        "core": "cream",
        "parent": "body",
        "shape": {"kind": "ball", "width": 9, "depth": 9, "height": 9},
    }
    raw["figure"]["parts"] += [
        {
            **knob,
            "id": f"knob-{i}",
            "name": f"Knob {i}",
            "seat": {"along": 0.1 + i / 90, "around": 47 * i % 360},
        }
        for i in range(60)
    ]
    path = tmp_path / "many.bambola.json"
    path.write_text(json.dumps(raw))
    plan, shown = window.studio.plan, []

    def slowly(
        figure: object, bench: object, told: Callable[[float], bool], before: object
    ) -> None:
        while told(0.4):
            time.sleep(0.01)
        raise MeasuringCancelledError

    def press() -> None:
        for box in window.findChildren(QProgressDialog):
            if box.value() > 0 and not box.wasCanceled():
                shown.append(box.value())
                box.canceled.emit()  # as its button does

    monkeypatch.setattr(studio, "as_made", slowly)
    look = QTimer(window)  # looks until there is a box: how long that takes is not asked here
    look.timeout.connect(press)
    look.start(50)
    told: list[str] = []
    window.studio.refused.connect(told.append)
    assert window.files.open_path(path)  # on its way
    assert not window.files.open_path(path)  # one after the other
    qtbot.waitUntil(lambda: not window.files.opening.is_under_way, timeout=20_000)
    assert window.studio.plan is plan and shown == [40]
    assert told == []  # the maker who called it off need not hear of it
    look.stop()
    monkeypatch.undo()
    assert window.files.open_path(path)
    qtbot.waitUntil(lambda: window.studio.path == path, timeout=60_000)


def test_window_stays_responsive_while_planning(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, gate, plan_it = window.studio, threading.Event(), window.studio.planned

    def slowly(
        document: Document, bench: Bench, told: Callable[[float], bool] | None = None
    ) -> Plan:
        assert threading.current_thread() is not threading.main_thread()
        assert gate.wait(20)
        return plan_it(document, bench, told)

    window.files.opening.holds_window = False
    monkeypatch.setattr(session, "planned", slowly)
    monkeypatch.setattr(opening, "_PROGRESS_MS", 60_000)
    badger = session.figure
    window.open_demo(HERON)
    assert window.files.opening.is_under_way and session.figure is badger
    window.open_demo(TOAD)  # one after the other
    box = window.findChild(QProgressDialog)
    assert box is not None and not box.isVisible()
    QTest.keyClick(window.resize_station.table, Qt.Key.Key_H)
    assert box.isVisible() and "heron" in box.labelText() and session.is_saved
    gate.set()
    qtbot.waitUntil(lambda: session.figure is not badger, timeout=30_000)
    assert session.figure and session.figure.id == load_demo(HERON).figure.id
    assert not window.files.opening.is_under_way


def test_unknown_answers_are_reported_on_opening(window: Window, tmp_path: Path) -> None:
    badger = load_demo()
    odd = badger.brief.replaced(answers={"thin-limb:leg": "paint it"}, schools={"hats": "on"})
    path = tmp_path / "odd.bambola.json"
    path.write_text(dump_document(badger.figure, odd), encoding="utf-8")
    assert window.files.open_path(path) and window.studio.plan is not None
    assert "“paint it” to “thin-limb:leg” is ignored" in window.message.text
    assert "“hats” is ignored" in window.message.text and window.studio.is_saved


def test_opening_pdf_can_be_cancelled(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path, begun = tmp_path / "packet.pdf", threading.Event()
    path.write_bytes(b"%PDF-1.4 slow")

    def slow(path: Path, bench: Bench, stop: threading.Event | None = None) -> Document:
        begun.set()
        assert threading.current_thread() is not threading.main_thread() and stop is not None
        assert stop.wait(20)
        raise StoppedError

    monkeypatch.setattr(opening, "open_design", slow)

    def call_off() -> None:
        shown = window.findChild(QProgressDialog)
        if shown is None or not shown.isVisible() or not begun.is_set():
            QTimer.singleShot(20, call_off)
            return
        assert "packet.pdf" in shown.labelText()
        shown.canceled.emit()

    QTimer.singleShot(20, call_off)
    before = window.studio.figure
    assert window.files.open_path(path)
    qtbot.waitUntil(lambda: not window.files.opening.is_under_way, timeout=30_000)
    assert window.studio.figure is before


def test_closing_does_not_wait_for_search(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path, begun, ended = tmp_path / "packet.pdf", threading.Event(), threading.Event()
    path.write_bytes(b"%PDF-1.4 slow")

    def slow(path: Path, bench: Bench, stop: threading.Event) -> Document:
        begun.set()
        assert stop.wait(20)
        ended.set()
        return load_demo()

    monkeypatch.setattr(opening, "open_design", slow)
    before = window.studio.figure
    assert window.files.open_path(path) and window.files.opening.is_under_way
    qtbot.waitUntil(begun.is_set, timeout=20_000)
    window.studio.undo_stack.setClean()
    assert window.close() and not window.files.opening.is_under_way
    qtbot.waitUntil(ended.is_set, timeout=20_000)
    assert window.studio.figure is before


def test_slow_disk_does_not_hold_window_while_it_saves(
    window: Window, answers: list[BUTTON], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """With a second for each sync the window goes on being painted, says that it saves, and has saved when it
    says so; what fails is refused as ever."""
    path, said, ticks = tmp_path / "owl.bambola.json", [], [time.monotonic()]
    window.files.said.connect(lambda words, _: said.append(words))
    clock = QTimer()
    clock.timeout.connect(lambda: ticks.append(time.monotonic()))
    clock.start(10)
    monkeypatch.setattr(os, "fsync", lambda _: time.sleep(1.0))
    assert window.files._save_to(path) and path.exists()
    assert said == ["Saving…", "Saved as owl.bambola.json."] and window.studio.is_saved
    assert max(b - a for a, b in itertools.pairwise(ticks)) < 0.3 and len(ticks) > 50

    def full(_: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    before, refused = path.read_bytes(), []
    window.studio.refused.connect(refused.append)
    window.studio.set_height(200.0)
    answers.append(BUTTON.Cancel)
    assert not window.files._save_to(path) and path.read_bytes() == before
    assert "No space left" in refused[0] and not window.studio.is_saved
    assert [one.name for one in tmp_path.glob(".*")] == []
