"""Dressing on the figure: fur pulled out of the skin, openings pulled until the head goes through."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from bambola.desk.shell.stations import MEASURE
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.hands.dress import CHIPS, DressHand
from bambola.desk.stations.measure.station import MeasureStation
from bambola.desk.stations.measure.wearing import fur_on
from bambola.desk.stations.menus import DRESS

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def station(window: Window, qtbot: QtBot) -> MeasureStation:
    window.go_to(MEASURE)
    found = window.measure_station
    qtbot.waitUntil(lambda: found.board.is_pictured, timeout=20_000)
    window.actions_["step_6"].trigger()
    assert found.step == DRESS
    return found


def bead(hand: DressHand, name: str) -> QPoint:
    grip = hand.grips()[name]
    return hand.screen(*grip.at).toPoint()


def pull(station: MeasureStation, name: str, by: QPoint) -> None:
    at = bead(station.dress, name)
    QTest.mousePress(station.board, LEFT, pos=at)
    QTest.mouseMove(station.board, at + by)
    station.dress.move((at + by).toPointF(), True, Qt.KeyboardModifier.NoModifier)
    QTest.mouseRelease(station.board, LEFT, pos=at + by)


def test_dragging_sets_length_of_fur(station: MeasureStation) -> None:
    studio, hand = station.studio, station.dress
    studio.selection.select_part("body")
    assert studio.figure and not studio.figure.by_id["body"].furs and station.board.lay
    before = studio.plan_as_made().wool_g
    pull(station, "hair", QPoint(40, 0))
    fur = fur_on(studio.figure.by_id["body"])
    assert fur is not None
    assert fur.hair == pytest.approx(40 / station.board.lay.scale, abs=0.6)
    assert (
        studio.plan_as_made().wool_g > before and station.chips.buttons[CHIPS["fleece"]].isChecked()
    )
    rows = hand.grips()["rows"]
    assert rows.share == 1.0 and hand.words_of("rows", studio.figure.by_id["body"]).startswith(
        "a row every 8 mm"
    )
    pull(station, "hair", QPoint(-60, 0))  # pushed back in
    assert not studio.figure.by_id["body"].furs
    studio.undo_stack.undo()
    studio.undo_stack.undo()
    assert studio.figure.by_id["body"].furs == () and studio.plan_as_made().wool_g == pytest.approx(
        before
    )


def test_opening_is_pulled_until_head_goes_through(station: MeasureStation) -> None:
    studio, hand = station.studio, station.dress
    studio.selection.select_part("cape")
    assert studio.figure and station.board.lay
    cape = studio.figure.by_id["cape"]
    assert cape.garment and "the head needs" in hand.words_of("opening", cape)
    needs = float(hand.words_of("opening", cape).split("needs ")[1].removesuffix(" mm"))
    at = bead(hand, "opening")
    way = hand.grips()["opening"].way
    far = round((needs - cape.garment.opening) / 6.283 * station.board.lay.scale) + 3
    pull(station, "opening", QPoint(round(far * way[0]), round(-far * way[1])))
    wider = studio.figure.by_id["cape"]
    assert wider.garment and wider.garment.opening > cape.garment.opening
    assert hand.words_of("opening", wider).endswith("goes over the head")
    assert bead(hand, "opening") != at


def test_keys_lay_fur_change_clothes_and_type_numbers(station: MeasureStation) -> None:
    studio, board = station.studio, station.board
    studio.selection.select_part("paw")
    board.setFocus()
    kinds = []
    for _ in range(4):
        QTest.keyClick(board, Qt.Key.Key_F)
        fur = fur_on(studio.figure.by_id["paw"]) if studio.figure else None
        kinds.append(fur.kind if fur else "")
    assert kinds == ["fleece", "locks", "pile", ""]
    QTest.keyClick(board, Qt.Key.Key_F)
    for key in "12":
        QTest.keyClick(board.entry if key == "2" else board, key)  # type: ignore[attr-defined]
    QTest.keyClick(board.entry, Qt.Key.Key_Return)  # type: ignore[attr-defined]
    assert studio.figure and fur_on(studio.figure.by_id["paw"]).hair == pytest.approx(12.0)  # type: ignore[union-attr]
    QTest.keyClick(board, Qt.Key.Key_Up)
    assert fur_on(studio.figure.by_id["paw"]).hair == pytest.approx(13.0)  # type: ignore[union-attr]
    QTest.keyClick(board, Qt.Key.Key_G)
    QTest.keyClick(board, Qt.Key.Key_Up)
    assert fur_on(studio.figure.by_id["paw"]).spacing == pytest.approx(9.0)  # type: ignore[union-attr]


def test_chips_put_on_and_take_off(station: MeasureStation) -> None:
    studio = station.studio
    studio.selection.select_part("collar")
    assert station.chips.buttons[CHIPS["pulled over"]].isChecked()
    station.chips.buttons[CHIPS["wrap"]].click()
    assert studio.figure and studio.figure.by_id["collar"].garment.kind == "wrap"  # type: ignore[union-attr]
    assert station.chips.buttons[CHIPS["wrap"]].isChecked() and "tails" in station.dress.grips()
    station.chips.buttons[CHIPS["wrap"]].click()
    assert studio.figure.by_id["collar"].garment is None
    # The part that all others sit on is no clothing.
    studio.selection.select_part("body")
    station.chips.buttons[CHIPS["skirt"]].click()
    assert studio.figure.by_id["body"].garment is None


def test_scarf_is_put_on_and_comes_to_hand(station: MeasureStation) -> None:
    studio, hand = station.studio, station.dress
    studio.selection.select_part("head")
    before = studio.plan_as_made().wool_g
    action = next(a for a in hand.ready_menu().actions() if a.text() == "Scarf")
    action.trigger()
    assert studio.figure is not None and studio.selection.part == "scarf"
    scarf = studio.figure.by_id["scarf"]
    assert scarf.parent == "head" and scarf.garment is not None and scarf.garment.kind == "wrap"
    assert studio.plan_as_made().wool_g > before
    assert hand.grips() and station.chips.buttons[CHIPS["wrap"]].isChecked()
    studio.undo_stack.undo()
    assert "scarf" not in studio.figure.by_id
