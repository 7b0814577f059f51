"""Flat parts taken from a paper pattern, in the window."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from bambola.demo import BADGER, load_demo
from bambola.desk.shell.stations import MEASURE
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.pattern_dialog import PatternDialog
from tests.files.test_pattern import PIECES, saved


def test_pieces_are_named_seated_and_taken_in_one_edit(
    new_window: Callable[[], Window],
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    window = new_window()
    studio = window.studio
    studio.open_document(load_demo(BADGER), None)
    window.go_to(MEASURE)
    before = set(studio.figure.by_id)  # type: ignore[union-attr]
    path = saved(tmp_path / "p.svg", PIECES)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    seen = []

    def answered(dialog: PatternDialog) -> int:
        (wing, ear) = dialog.rows
        seen.append([name.text() for _, name, _, _ in dialog.rows])
        wing[0].setChecked(False)
        ear[1].setText("Fin")
        ear[2].setCurrentIndex(ear[2].findData("body"))
        ear[3].setChecked(True)
        dialog.thick.setText("5 mm")
        return 1

    monkeypatch.setattr(PatternDialog, "exec", answered)
    window.actions_["pattern"].trigger()
    qtbot.waitUntil(lambda: len(studio.figure.by_id) > len(before), timeout=30_000)  # type: ignore[union-attr]
    assert seen == [["Wing", "ear"]]
    (new,) = set(studio.figure.by_id) - before  # type: ignore[union-attr]
    part = studio.figure.by_id[new]  # type: ignore[union-attr]
    assert (part.name, part.parent, part.pair) == ("Fin", "body", True)
    assert part.shape.measures() == pytest.approx(
        {"length": 60, "width": 40, "thickness": 5}, rel=1e-3
    )
    assert studio.selection.part == new
    studio.undo_stack.undo()
    assert set(studio.figure.by_id) == before  # type: ignore[union-attr]
    saved(tmp_path / "p.svg", "")
    window.actions_["pattern"].trigger()
    qtbot.waitUntil(lambda: "no closed outline" in window.message.text, timeout=30_000)
