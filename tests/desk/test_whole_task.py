"""A whole piece of work at the window, once with keys only and once with the mouse only."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QPushButton, QTextBrowser, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.relief import Camera
from bambola.desk.shell.stations import WOOL
from bambola.desk.shell.window import Window
from benchmarks.window import wait
from tests.desk.test_resize_station import flag_at, part_point, pull

LEFT = Qt.MouseButton.LeftButton
CONTROL = Qt.KeyboardModifier.ControlModifier
ALT = Qt.KeyboardModifier.AltModifier


def hands_on(window: Window) -> QWidget:
    """Where the keys go."""
    QApplication.setActiveWindow(window)
    return QApplication.focusWidget() or window


def test_resizing_with_keys_only(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "keys.bambola.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(path), ""))
    window.activateWindow()
    window.resize_station.table.setFocus()
    qtbot.keyClick(window, Qt.Key.Key_H, CONTROL)
    entry = window.resize_station.table._entry
    entry.selectAll()
    qtbot.keyClicks(entry, "25 cm")
    qtbot.keyClick(entry, Qt.Key.Key_Return)
    qtbot.keyClick(window, Qt.Key.Key_Right, CONTROL)
    assert window.studio.selection.part == "snout"
    qtbot.keyClick(window, Qt.Key.Key_L, CONTROL)
    assert window.studio.is_held("snout")
    qtbot.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert not window.studio.is_held("snout")
    qtbot.keyClick(window, Qt.Key.Key_K, CONTROL)
    option = hands_on(window)
    assert isinstance(option, QPushButton)
    qtbot.keyClick(option, Qt.Key.Key_Space)
    assert window.studio.plan and not window.studio.plan.open_questions
    qtbot.keyClick(window, Qt.Key.Key_4, ALT)
    assert window.wire_station.isVisible()
    qtbot.keyClick(window, Qt.Key.Key_5, ALT)
    assert window.wool_station.isVisible()
    qtbot.keyClick(window, Qt.Key.Key_6, ALT)
    assert window.order_station.isVisible()
    qtbot.keyClick(window, Qt.Key.Key_2, ALT)
    qtbot.keyClick(window, Qt.Key.Key_S, CONTROL)
    assert path.exists() and not window.isWindowModified()
    assert window.studio.brief.height == pytest.approx(250.0)


def test_resizing_with_mouse_only(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "mouse.bambola.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(path), ""))
    pull(window, 190.0)
    assert window.studio.plan and window.studio.plan.to_height_mm == pytest.approx(190.0, abs=1.0)
    qtbot.mouseClick(window.resize_station.table, LEFT, pos=part_point(window, "new", "cape"))
    assert window.studio.selection.part == "cape"
    qtbot.mouseClick(window.resize_station.card._hold, LEFT)
    assert window.studio.is_held("cape")
    qtbot.mouseClick(window.resize_station.views.buttons["back"], LEFT)
    assert window.resize_station.table.camera.turn == 180
    path_ = window.header.path
    qtbot.mouseClick(path_.cloth, LEFT, pos=QPoint(path_.width() * 11 // 14, 16))
    assert window.order_station.isVisible()
    beads = window.order_station.long.beads
    qtbot.mouseClick(beads.cloth, LEFT, pos=beads.spot(6).toPoint())
    assert window.thread_strip.current_row == 6
    window.actions_["save"].trigger()
    assert path.exists()


def test_tab_goes_round_everything_that_can_be_used(window: Window, qtbot: QtBot) -> None:
    window.activateWindow()
    window.resize_station.table.setFocus()
    tab = Qt.FocusPolicy.TabFocus
    wanted = {
        widget for widget in window.findChildren(QWidget)
        if widget.isVisible() and widget.isEnabled() and widget.focusPolicy() & tab == tab
    }  # fmt: skip
    met: set[QWidget] = set()
    for _ in range(3 * len(wanted)):
        QTest.keyClick(hands_on(window), Qt.Key.Key_Tab)
        met.add(hands_on(window))
    assert wanted <= met and len(wanted) > 15


def test_double_click_on_flag_opens_it_and_escape_gives_up(window: Window, qtbot: QtBot) -> None:
    table = window.resize_station.table
    QTest.mouseDClick(table, LEFT, pos=flag_at(window))
    assert table._entry.isVisible()
    qtbot.keyClicks(table._entry, "9")
    qtbot.keyClick(table._entry, Qt.Key.Key_Escape)
    assert not table._entry.isVisible() and window.studio.brief.height == 220.0
    assert window.studio.undo_stack.count() == 0


def test_no_two_actions_share_key_and_all_have_words(window: Window) -> None:
    menu_actions = window.actions_.menu_actions
    keys = [action.keys for action in menu_actions if action.keys]
    assert len(keys) == len(set(keys))
    assert all(action.words.replace("&", "").strip() for action in menu_actions)
    assert len({action.name for action in menu_actions}) == len(menu_actions)


def test_answer_that_no_longer_fits_is_asked_again(window: Window) -> None:
    window.studio.set_height(100.0)
    window.studio.answer("eye-size:eye", "3")
    assert window.studio.plan and window.studio.plan.fittings[0].use_mm == 3
    window.studio.set_height(300.0)
    question = next(n for n in window.studio.plan.notices if n.code == "eye-size:eye")
    assert question.answer is None and question.is_open


def test_enter_presses_button_in_hand_as_space_does(window: Window) -> None:
    button = window.resize_station.views.buttons["side"]
    window.activateWindow()
    for key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
        window.turn_to("front", Camera())
        button.setFocus()
        QTest.keyClick(button, key)
        assert window.resize_station.table.camera.turn == 90
    # Where Enter goes on by itself, a button that has been gone to comes first.
    window.make_it()
    make = window.order_station.make
    make.step(1)
    for button, at in ((make.back, 0), (make.done, 1), (make.back, 0)):
        button.setFocus()
        QTest.keyClick(button, Qt.Key.Key_Return)
        assert make.current_index == at


def test_page_of_keys_is_no_taller_than_its_window(window: Window) -> None:
    seen = []

    def look() -> None:
        box = QApplication.activeModalWidget()
        assert isinstance(box, QDialog)
        words = box.findChild(QTextBrowser)
        assert words is not None
        seen.append((box.height() <= window.height(), "<" in words.toPlainText()))
        box.reject()

    QTimer.singleShot(200, look)
    window.actions_["keys"].trigger()
    assert seen == [(True, True)]


def test_pages_are_created_on_first_visit(
    window: Window,
) -> None:
    assert [window.pages.is_made(i) for i in range(5)] == [False, True, False, False, False]
    window.studio.set_height(180.0)
    plan = window.studio.plan
    assert plan is not None
    window.actions_["face_2"].trigger()
    assert window.wire_station.ground.isVisible() and not window.pages.is_made(WOOL)
    assert {wire.id for wire in window.wire_station.walk.wires} == set(plan.gauges)
    window.studio.selection.select_part("head")
    window.wire_station.ground.setFocus()
    shown, held = window.stack.currentWidget(), hands_on(window)
    while window.pages.make_next():
        wait(5)
        assert window.stack.currentWidget() is shown and hands_on(window) is held
    assert window.wool_station.hand.current and window.wool_station.hand.current.part == "head"
    assert all(window.pages.is_made(i) for i in range(5)) and window.studio.plan is plan
    every = [now.portion for now in window.wool_station.hand.portions]
    assert all(portion in every for portion in plan.parts[0].portions)
    assert len(window.order_station.make.steps) == len(plan.steps)
