"""A figure typed as a list, in the real window, by keys and by mouse."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QPushButton
from pytestqt.qtbot import QtBot

from bambola.core.solids import place
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.notes_dialog import NotesDialog
from tests.core.test_notes import LISTS, summary

OTTER = "\n".join(line.strip() for line in LISTS["otter"][0].splitlines())


@pytest.fixture
def dialog(window: Window, qtbot: QtBot) -> NotesDialog:
    made = NotesDialog(window, window.studio, window.theme, window.darkroom)
    qtbot.addWidget(made)
    made.show()
    return made


def in_dialog(qtbot: QtBot, do: Callable[[NotesDialog], None]) -> None:
    """Do something in the dialog that opens next."""

    def found() -> None:
        box = QApplication.activeModalWidget()
        assert isinstance(box, NotesDialog)
        try:
            do(box)
        finally:  # what fails in it must not leave it open
            if box.isVisible():
                box.reject()

    QTimer.singleShot(50, found)


def test_whole_list_typed_with_keys_is_on_table(window: Window, qtbot: QtBot) -> None:
    def type_it(box: NotesDialog) -> None:
        qtbot.keyClicks(box.paper, OTTER.splitlines()[0])
        for line in OTTER.splitlines()[1:]:
            qtbot.keyClick(box.paper, Qt.Key.Key_Return)
            qtbot.keyClicks(box.paper, line)
        qtbot.waitUntil(lambda: box.figure is not None and len(box.figure.parts) == 7)
        assert "136 mm" in box.under.text() and box.count.text() == "8 of 8 lines"
        qtbot.keyClick(box.paper, Qt.Key.Key_Tab)  # out of the list, and on to the button
        box.take.setFocus()
        qtbot.keyClick(box.take, Qt.Key.Key_Return)

    in_dialog(qtbot, type_it)
    window.actions_["new_notes"].trigger()
    figure = window.studio.figure
    assert figure is not None and figure.name == "Otter"
    assert summary(figure) == set(LISTS["otter"][1].split(", "))


def test_each_line_shows_its_reading_and_asks(dialog: NotesDialog, qtbot: QtBot) -> None:
    dialog.paper.setPlainText("body 60\nhead 40\nlantrn 30 tall 14\n60 60")
    dialog.read()
    told = {words for _, words, _ in dialog.paper.line_readings()}
    assert "on the body" in told and any("lantern" in words for words in told)
    assert not dialog.take.isEnabled()  # a line that is no part is not passed over
    assert "lantrn" in dialog.asked.text()
    chips = {chip.text(): chip for chip in dialog._chips.findChildren(QPushButton)}
    QTest.mouseClick(chips["lantern"], Qt.MouseButton.LeftButton)
    assert "lantern 30 tall 14" in dialog.paper.toPlainText() and not dialog.asked.isVisible()
    dialog.paper.replace_line(4, "tail 60 x 10")
    dialog.read()
    assert dialog.take.isEnabled() and dialog.figure is not None
    assert {part.id for part in dialog.figure.parts} == {"body", "head", "lantern", "tail"}
    qtbot.keyClick(dialog.paper, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert "60 60" in dialog.paper.toPlainText()


def test_height_scales_and_pasted_list_is_read(
    dialog: NotesDialog, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("Part\twidth\tdepth\theight\nBody\t70\t64\t92\nHead\t48\nEars\t9\t\t7")
    QTest.mouseClick(dialog.paste, Qt.MouseButton.LeftButton)
    dialog.height_.setText("70 mm")
    dialog.read()
    assert dialog.figure is not None and len(dialog.figure.parts) == 3
    assert place(dialog.figure).height == pytest.approx(70, rel=1e-3)
    assert "%" in dialog.under.text()
    more = tmp_path / "more.txt"
    more.write_text("tail 60 x 10\n", encoding="utf-8")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(more), ""))
    QTest.mouseClick(dialog.open_, Qt.MouseButton.LeftButton)
    dialog.read()
    assert dialog.figure is not None and "tail" in dialog.figure.by_id
    dialog.paper.undo()
    assert "tail" not in dialog.paper.toPlainText() and "Ears" in dialog.paper.toPlainText()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(tmp_path / "none.txt"), ""))
    QTest.mouseClick(dialog.open_, Qt.MouseButton.LeftButton)
    assert "none.txt" in dialog.under.text()


def test_figure_on_table_is_changed_as_list_in_one_step(window: Window, qtbot: QtBot) -> None:
    window.open_demo()
    studio = window.studio
    before = studio.figure
    assert before is not None

    def change(box: NotesDialog) -> None:
        text = box.paper.toPlainText()
        assert "tail: 33.23 long" in text
        box.paper.setPlainText(text.replace("tail: 33.23 long", "tail: 50 long") + "\n2 cheeks 9")
        box.read()
        QTest.mouseClick(box.take, Qt.MouseButton.LeftButton)

    in_dialog(qtbot, change)
    window.actions_["as_list"].trigger()
    after = studio.figure
    assert after is not None and "cheek" in after.by_id
    assert after.by_id["tail"].shape.measures()["length"] == pytest.approx(50)
    assert studio.undo_stack.count() == 1
    studio.undo_stack.undo()
    assert studio.figure == before


def test_what_cannot_be_is_told_and_not_taken(window: Window, qtbot: QtBot) -> None:
    window.open_demo()

    def spoil(box: NotesDialog) -> None:
        lines = box.paper.toPlainText().splitlines()
        box.paper.setPlainText("\n".join(line for line in lines if not line.startswith("snout")))
        box.read()
        assert "nose" in box.under.text().lower() and not box.take.isEnabled()

    in_dialog(qtbot, spoil)
    window.actions_["as_list"].trigger()
    assert window.studio.undo_stack.count() == 0
