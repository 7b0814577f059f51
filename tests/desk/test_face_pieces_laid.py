"""Pieces of the face laid, pulled, changed and taken away at the Face station; eyes counted beside them."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from bambola.core.figure import Place
from bambola.core.figure.places import Line
from bambola.desk.shell.stations import FACE
from bambola.desk.shell.window import Window
from bambola.desk.stations.face.station import FaceStation


@pytest.fixture
def station(window: Window, qtbot: QtBot) -> FaceStation:
    window.go_to(FACE)
    found = window.findChild(FaceStation)
    assert isinstance(found, FaceStation)
    qtbot.waitUntil(found.heads.isVisible)
    return found


def piece(station: FaceStation, name: str) -> Place | None:
    studio = station.heads.studio
    studio.settle()
    assert studio.figure is not None
    places = [p for part in studio.figure.parts for p in part.patches if p.face]
    return next((p for p in places if p.id == name), None)


def test_mouth_is_laid_pulled_by_keys_changed_and_taken_away(station: FaceStation) -> None:
    heads, pieces = station.heads, station.card.pieces
    pieces.add_piece("mouth-smile")
    mouth = piece(station, "mouth")
    assert mouth is not None and isinstance(mouth.where, Line)
    assert (
        heads.part == "snout"
        and heads.in_hand is not None
        and heads.in_hand.id == "piece:snout/mouth:2"
    )
    heads.setFocus()
    QTest.keyClick(heads, Qt.Key.Key_Up)
    raised = piece(station, "mouth")
    assert raised is not None and isinstance(raised.where, Line)
    up = [b[0] - a[0] for a, b in zip(mouth.where.way, raised.where.way, strict=True)]
    assert up[0] == pytest.approx(up[2]) and up[2] > 0 and up[1] == 0
    pieces.wide.setText("2 mm")
    pieces.wide.editingFinished.emit()
    pieces.wool.setCurrentIndex(pieces.wool.findData("madder"))
    pieces.wool.activated.emit(pieces.wool.currentIndex())
    changed = piece(station, "mouth")
    assert changed is not None and isinstance(changed.where, Line)
    assert changed.where.wide == pytest.approx(2.0) and changed.wool == "madder"
    pieces.wide.setText("wide")
    pieces.wide.editingFinished.emit()
    assert piece(station, "mouth") == changed  # refused in words
    QTest.keyClick(heads, Qt.Key.Key_Delete)
    assert piece(station, "mouth") is None
    heads.studio.undo_stack.undo()
    assert piece(station, "mouth") == changed


def test_one_key_lays_what_larger_face_wants(station: FaceStation) -> None:
    station.heads.part = "head"
    station.heads.refresh()
    station._on_mark_selected("")
    proposed = station.card.pieces.proposed()
    assert proposed and set(proposed) <= {"lid-calm", "rims", "brows"}
    QTest.keyClick(station.heads, Qt.Key.Key_P)
    assert all(piece(station, name) is not None for name in ("lid", "rim", "brow"))
    assert station.card.pieces.proposed() == ()
    menu = station.card.pieces.add.menu()
    assert menu is not None
    menu.aboutToShow.emit()
    assert len(menu.actions()) >= 16


def test_eyes_are_counted_beside_eyes(station: FaceStation) -> None:
    box, heads = station.card.eyes, station.heads
    heads.select_mark("eye:eye")
    assert box.isVisible() and box.count.value() == 0 and "2 eyes to buy" in box.told.text()
    box.count.setValue(3)
    box.count.editingFinished.emit()
    assert heads.studio.plan is not None and heads.studio.plan.fittings[0].buy == 0
    assert box.desk.base.eyes_of(heads.studio.plan.fittings[0].use_mm) == 3
    assert "Enough" in box.told.text()
    heads.select_mark(next(m.id for m in heads.marks if m.kind != "fitting"))
    assert not box.isVisible()
