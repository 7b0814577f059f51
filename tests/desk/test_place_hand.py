"""Places laid on a part in the window: pulled by their beads, typed, coloured, furred and taken away."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QInputDialog
from pytestqt.qtbot import QtBot

from bambola.core.figure import Place
from bambola.core.figure.places import Band, Line, Near
from bambola.desk.shell.stations import MEASURE
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.hands.places import NEW
from bambola.desk.stations.measure.station import MeasureStation
from bambola.desk.stations.menus import PLACES

LEFT, PLAIN = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def station(window: Window, qtbot: QtBot) -> MeasureStation:
    window.go_to(MEASURE)
    found = window.measure_station
    qtbot.waitUntil(lambda: found.board.is_pictured, timeout=20_000)
    window.studio.selection.select_part("body")
    window.actions_["step_7"].trigger()
    assert found.step == PLACES
    return found


def places(station: MeasureStation) -> tuple[Place, ...]:
    station.studio.settle()
    assert station.studio.figure is not None
    return station.studio.figure.by_id["body"].places


def pull(station: MeasureStation, name: str, by: QPoint) -> None:
    at = station.places.screen(*station.places.grips()[name]).toPoint()
    QTest.mousePress(station.board, LEFT, pos=at)
    station.places.move((at + by).toPointF(), True, PLAIN)
    QTest.mouseRelease(station.board, LEFT, pos=at + by)


def test_stretch_is_laid_and_pulled_by_its_beads(station: MeasureStation) -> None:
    station.chips.buttons[NEW["stretch"]].click()
    (place,) = places(station)
    assert isinstance(place.where, Band) and place.wool is not None
    assert station.board.lay is not None
    # The body is 76 mm high: ten of them are so much of it.
    pull(station, "end", QPoint(0, -round(10 * station.board.lay.scale)))
    (higher,) = places(station)
    assert isinstance(higher.where, Band)
    assert higher.where.end == pytest.approx(place.where.end + 10 / 76, abs=0.02)
    pull(station, "end", QPoint(0, 2000))  # past where it begins
    (thin,) = places(station)
    assert isinstance(thin.where, Band)
    assert thin.where.begin < thin.where.end < thin.where.begin + 0.02
    station.studio.undo_stack.undo()
    station.studio.undo_stack.undo()
    assert places(station) == (place,)
    station.lay_wool("weld", "coat", "body")
    assert places(station)[0].wool == "weld"


def test_keys_lay_furs_name_and_take_away(
    station: MeasureStation, monkeypatch: pytest.MonkeyPatch
) -> None:
    board = station.board
    board.setFocus()
    before = station.studio.plan_as_made().wool_g
    for key in "SFMB":
        QTest.keyClick(board, key)
    (place,) = places(station)
    assert place.bare and place.fur is None and place.copies == 2
    QTest.keyClick(board, "F")
    assert places(station)[0].fur is not None and not places(station)[0].bare
    assert station.studio.plan_as_made().wool_g > before
    while station.places.grip != "hair":
        QTest.keyClick(board, "G")
    for key in "12":
        QTest.keyClick(board.entry if key == "2" else board, key)  # type: ignore[attr-defined]
    QTest.keyClick(board.entry, Qt.Key.Key_Return)  # type: ignore[attr-defined]
    (place,) = places(station)
    assert place.fur is not None and place.fur.hair == pytest.approx(12.0)
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Waistcoat", True))
    QTest.keyClick(board, "R")
    assert places(station)[0].display_name == "Waistcoat"
    assert any("Waistcoat" in a.text() for a in station.places.menu().actions())
    QTest.keyClick(board, "L")
    QTest.keyClick(board, "T")
    _, line, near = places(station)
    assert isinstance(line.where, Line) and isinstance(near.where, Near)
    station.places.select_place(line.id)
    QTest.keyClick(board, Qt.Key.Key_Up)
    moved = places(station)[1].where
    assert isinstance(moved, Line) and moved.way[0][0] > line.where.way[0][0]
    while station.places.grip != "wide":
        QTest.keyClick(board, "G")
    QTest.keyClick(board, Qt.Key.Key_Up)
    wider = places(station)[1].where
    assert isinstance(wider, Line) and wider.wide == pytest.approx(moved.wide + 2, abs=0.2)
    for _ in range(3):
        QTest.keyClick(board, Qt.Key.Key_Delete)
        station.studio.settle()
    assert places(station) == ()
