"""Rows and furrows of the part in hand, asked for in Measure and undone."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QInputDialog
from pytestqt.qtbot import QtBot

from bambola.desk.shell.stations import MEASURE
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.part_dialogs import RowDialog


def test_row_is_made_of_part_by_keys_and_taken_back(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.go_to(MEASURE)
    studio = window.studio

    def five(dialog: RowDialog) -> int:
        dialog.show()
        dialog.count.setFocus()
        dialog.count.selectAll()
        qtbot.keyClicks(dialog.count, "5")
        qtbot.keyClicks(dialog.plural, "Noses")
        qtbot.keyClick(dialog, Qt.Key.Key_Return)
        return dialog.result()

    monkeypatch.setattr(RowDialog, "exec", five)
    studio.selection.select_part("nose")
    window.actions_["row"].trigger()
    assert studio.figure is not None and studio.plan is not None
    row = studio.figure.by_id["nose"].row
    assert row is not None and row.count == 5 == studio.plan.part("nose").count
    assert any("all 5 noses" in studio.say(step.text) for step in studio.plan.steps)
    studio.undo_stack.undo()
    assert studio.figure.by_id["nose"].row is None


def test_what_bears_others_has_no_row_and_says_why(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.go_to(MEASURE)
    heard: list[str] = []
    window.studio.refused.connect(heard.append)
    monkeypatch.setattr(RowDialog, "exec", lambda dialog: QDialog.DialogCode.Accepted)
    for part in ("body", "head"):
        window.studio.selection.select_part(part)
        window.actions_["row"].trigger()
    assert len(heard) == 2 and "only" in heard[0] and "sits on the head" in heard[1]


def test_furrows_become_step_with_card(window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    window.go_to(MEASURE)
    monkeypatch.setattr(QInputDialog, "getInt", lambda *_: (3, True))
    window.studio.selection.select_part("paw")
    window.actions_["furrows"].trigger()
    plan = window.studio.plan
    assert plan is not None
    keys = [step.key for step in plan.steps]
    assert keys.index("coat:paw") < keys.index("furrow:paw") < keys.index("finish")
