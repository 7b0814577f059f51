from __future__ import annotations

import itertools
import json
import math
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PyQt6.QtCore import QEvent, QMimeData, QObject, QPoint, QPointF, QStandardPaths, Qt
from PyQt6.QtGui import QDropEvent, QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QApplication,
    QDialogButtonBox,
    QFileDialog,
    QInputDialog,
    QMenu,
    QMessageBox,
    QPushButton,
    QWidget,
)
from pytestqt.qtbot import QtBot

from bambola.core.figure import Document, Landmark, Node, SizeRule
from bambola.core.figure.graft import without_part
from bambola.core.figure.places import Outline
from bambola.core.relief import stage_of
from bambola.core.solids import own_copy, place
from bambola.core.tape import ellipse_girth
from bambola.demo import BADGER, HERON, PICTURES, TOAD, load_demo
from bambola.desk.kit import pictures
from bambola.desk.kit.file_dialogs import PictureDialog
from bambola.desk.kit.sizes_row import fill_rule_menu, set_rule
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.stations import MEASURE, RESIZE
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.board import WOOL_MIME
from bambola.desk.stations.measure.hands.base import Hand
from bambola.desk.stations.measure.hands.shape import MOVE, TURN
from bambola.desk.stations.measure.part_dialogs import ask_graft, copy_part
from bambola.desk.stations.measure.round_pane import MeasureList
from bambola.desk.stations.measure.rows import MeasureRow
from bambola.desk.stations.measure.sizes_table import ColumnsDialog
from bambola.desk.stations.measure.station import MeasureStation
from bambola.desk.stations.menus import FACE, PARTS, SHAPE, WIRE
from bambola.shipped import body_plans
from benchmarks.window import wait
from tests.typing_hands import type_text

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def station(new_window: Callable[[], Window], qtbot: QtBot) -> MeasureStation:
    """The measure station with the heron, seen from its left."""
    window = new_window()
    window.open_demo(HERON)
    window.go_to(MEASURE)
    window.measure_station.board.turn_to("side")
    qtbot.waitUntil(lambda: window.measure_station.board.is_pictured, timeout=20_000)
    return window.measure_station


def window_of(station: MeasureStation) -> Window:
    found = station.window()
    assert isinstance(found, Window)
    return found


def measures(station: MeasureStation, part: str) -> dict[str, float]:
    figure = station.studio.figure
    assert figure
    return figure.by_id[part].shape.measures()


def base_of(station: MeasureStation, part: str) -> np.ndarray:
    copy = own_copy(station.board.placement(), part)
    assert copy
    found: np.ndarray = copy.matrix[:3, 3].copy()
    return found


def row(station: MeasureStation, part: str, measure: str) -> MeasureRow:
    station.studio.selection.select_part(part)
    station.card.show_pane(0)
    station.card.part_list.refresh()
    return next(r for r in station.card.part_list.rows if r.effect.measure == measure)


def write(entry: object, text: str) -> None:
    entry.selectAll()  # type: ignore[attr-defined]
    type_text(entry, text)
    QTest.keyClick(entry, Qt.Key.Key_Return)  # type: ignore[call-overload]


# By hand


def test_straight_measure_is_written_in_and_undone(station: MeasureStation) -> None:
    was = measures(station, "neck")["length"]
    write(row(station, "neck", "length").entry, "12 cm")
    assert measures(station, "neck")["length"] == pytest.approx(120.0)
    assert station.studio.survey.how_taken("neck", "length") == "straight"
    station.studio.undo_stack.undo()
    assert measures(station, "neck")["length"] == pytest.approx(was)
    assert station.studio.survey.how_taken("neck", "length") == "plan"


def test_girth_becomes_both_diameters_of_oval(station: MeasureStation) -> None:
    old = measures(station, "body")
    line = row(station, "body", "width")
    line.way.setCurrentIndex(line.way.findData("girth"))
    shown = float(line.entry.text().split()[0])
    assert shown == pytest.approx(ellipse_girth(old["width"], old["depth"]), rel=0.01)
    write(line.entry, "200 mm")
    new = measures(station, "body")
    assert ellipse_girth(new["width"], new["depth"]) == pytest.approx(200.0, rel=1e-6)
    assert new["depth"] / new["width"] == pytest.approx(old["depth"] / old["width"])
    assert station.studio.survey.how_taken("body", "depth") == "girth"
    assert "girth" in row(station, "body", "width")._told.text()


@pytest.mark.parametrize(("text", "says"), [("long", "cannot read"), ("0", "above 0"), ("-4", "")])
def test_measure_that_cannot_be_is_refused(station: MeasureStation, text: str, says: str) -> None:
    was = measures(station, "neck")
    write(row(station, "neck", "length").entry, text)
    assert says in window_of(station).message.text and measures(station, "neck") == was


def test_row_of_shape_that_is_gone_takes_nothing(station: MeasureStation) -> None:
    line = row(station, "head", "width")
    station.card.head.refresh()
    kinds = station.card.head.kind
    kinds.setCurrentIndex(kinds.findData("cone"))
    kinds.activated.emit(kinds.currentIndex())
    was = measures(station, "head")
    write(line.entry, "30 mm")
    assert measures(station, "head") == was


def test_shape_that_cannot_be_is_refused_in_words(station: MeasureStation) -> None:
    write(row(station, "bill", "length").entry, "5 mm")
    assert "round ends and all" in window_of(station).message.text


def test_round_asks_for_weightiest_and_moves_on(station: MeasureStation, qtbot: QtBot) -> None:
    window_of(station).actions_["pane_1"].trigger()
    qtbot.waitUntil(lambda: len(station.card.round.rows) > 1)
    rows = station.card.round.rows
    assert "measures are missing" in station.card.round._head.text()
    grams = [r.effect.grams for r in rows]
    assert grams == sorted(grams, reverse=True)
    first, second = ((r.effect.part, r.effect.measure) for r in rows[:2])
    rows[0].entry.setFocus()
    # The measure in hand is shown on the figure, from where it can be seen.
    assert station.shape.grip == first[1] and first[1] in station.shape.grips()
    write(rows[0].entry, f"{rows[0].effect.mm * 1.05:.1f} mm")
    assert station.card.round._hand == second
    hand = station.card.round.row_in_hand()
    assert hand and hand.entry.hasFocus() and station.studio.selection.part == second[0]
    assert station.studio.survey.how_taken(*first) == "straight"
    assert station.card.round.rows[-1].effect.is_missing is False


def test_keys_follow_changed_order_of_round(station: MeasureStation, qtbot: QtBot) -> None:
    """Rows are told anew and not made anew: the tabulator would go through them as they were made."""
    window_of(station).actions_["pane_1"].trigger()
    listed = station.card.round
    qtbot.waitUntil(lambda: len(listed.rows) > 5)
    first = listed.rows[0]
    listed.bring(first.effect.part, first.effect.measure)
    write(first.entry, f"{first.effect.mm * 1.05:.1f} mm")
    listed.refresh()
    assert listed.rows[0] is not first
    for one, other in itertools.pairwise(listed.rows[:6]):
        stop = one.rule.nextInFocusChain()
        while stop is not None and stop.focusPolicy() == Qt.FocusPolicy.NoFocus:
            stop = stop.nextInFocusChain()
        assert stop is other.entry


# The caliper


def test_calipers_button_takes_measure_in_hand_and_moves_on(
    station: MeasureStation, qtbot: QtBot
) -> None:
    station.card.caliper.start_simulated(plain=True)
    qtbot.waitUntil(lambda: station.card.caliper.link.is_open, timeout=20_000)
    station.studio.selection.select_part("bill")
    station.card.part_list.refresh()
    station.card.part_list.bring("bill", "length")
    process = station.card.caliper.simulated
    assert process and "Caliper at" in station.card.caliper._told.text()
    process.write(b"61.2\n")
    qtbot.waitUntil(
        lambda: measures(station, "bill")["length"] == pytest.approx(61.2), timeout=20_000
    )
    process.write(b"again\n12.75\n")
    qtbot.waitUntil(
        lambda: measures(station, "bill")["base"] == pytest.approx(12.75), timeout=20_000
    )
    assert measures(station, "bill")["length"] == pytest.approx(61.2)
    assert station.studio.survey.how_taken("bill", "base") == "caliper"
    # A reading is shown as it was read: 61.2 had become 61.
    shown = [row.entry.text() for row in station.card.part_list.rows[:2]]
    assert shown == ["61.2 mm", "12.75 mm"]
    hand = station.card.part_list.row_in_hand()
    assert hand and hand.effect.measure == "tip"
    process.write(b"off\n")
    qtbot.waitUntil(lambda: not station.card.caliper.link.is_open, timeout=20_000)
    assert "plug it in" in window_of(station).message.text
    assert measures(station, "bill")["base"] == pytest.approx(12.75)
    station.card.caliper.close_link()
    assert "No caliper" in station.card.caliper._told.text()


def test_caliper_menu_offers_ports_and_simulated_one(station: MeasureStation) -> None:
    menu = QMenu()
    station.card.caliper._fill_menu(menu)
    words = [action.text() for action in menu.actions()]
    assert words[-2:] == ["Another port…", "The simulated caliper"]


# The original on the scale


def test_weighing_original_offers_its_firmness(station: MeasureStation) -> None:
    station.card.show_pane(1)
    expected = station.studio.plan_as_made().wool_g
    write(station.card.weigh.entry, f"{expected * 1.5:.1f} g")
    station.card.weigh.refresh()
    assert "must be about" in station.card.weigh._told.text() and station.card.weigh.use.isVisible()
    QTest.mouseClick(station.card.weigh.use, LEFT)
    station.card.weigh.refresh()
    figure = station.studio.figure
    assert figure and figure.packing != 1.0 and not station.card.weigh.use.isVisible()
    write(station.card.weigh.entry, "900 g")
    station.card.weigh.refresh()
    assert (
        "packed like horn" in station.card.weigh._told.text()
        and not station.card.weigh.use.isVisible()
    )
    write(station.card.weigh.entry, f"{expected * 4:.0f} g")
    station.card.weigh.refresh()
    assert "is wrong" in station.card.weigh._told.text() and not station.card.weigh.use.isVisible()
    write(station.card.weigh.entry, "heavy")
    assert "weight" in window_of(station).message.text


# Shaping


def drag(station: MeasureStation, start: QPointF, by: tuple[float, float]) -> None:
    a = start.toPoint()
    b = a + QPoint(round(by[0]), round(by[1]))
    QTest.mousePress(station.board, LEFT, NONE, a)
    QTest.mouseMove(station.board, a + (b - a) * 0.5)
    QTest.mouseMove(station.board, b)
    assert station.shape._shown is not None
    QTest.mouseRelease(station.board, LEFT, NONE, b)


def grip(station: MeasureStation, name: str) -> QPointF:
    return station.shape.screen(*station.shape.grips()[name].at)


def test_part_is_pulled_and_what_sits_on_it_comes_along(station: MeasureStation) -> None:
    station.go_to_step(SHAPE)
    station.studio.selection.select_part("head")
    lay = station.board.lay
    assert lay
    head, bill = base_of(station, "head"), base_of(station, "bill")
    drag(station, grip(station, MOVE), (40, -20))
    moved = np.array([0.0, 40 / lay.scale, 20 / lay.scale])
    assert base_of(station, "head") - head == pytest.approx(moved, abs=0.02)
    assert base_of(station, "bill") - bill == pytest.approx(moved, abs=0.02)
    assert station.studio.undo_stack.undoText() == "Move a part"
    station.studio.undo_stack.undo()
    assert base_of(station, "head") == pytest.approx(head)


def test_drag_moves_selected_part_click_selects_visible_one(
    station: MeasureStation, qtbot: QtBot
) -> None:
    """Of a part within another the outer one moved."""
    studio = station.studio
    station.go_to_step(SHAPE)
    station.board.turn_to("side")
    qtbot.waitUntil(lambda: station.board.is_pictured, timeout=20_000)
    figure, lay = studio.figure, station.board.lay
    assert figure and lay
    at, hidden, covering = next(
        (at, part.id, shown)
        for part in figure.parts[1:]
        for along in np.linspace(0.05, 0.95, 10)
        for copy in (own_copy(station.board.placement(), part.id),)
        if copy
        for at in (lay.to_screen(*station.board.seen_from(copy.point(float(along)))),)
        for shown in (station.board.part_at(at),)
        if shown not in (None, part.id) and figure.by_id[shown].parent != part.id
    )
    studio.selection.select_part(hidden)
    outer, was = base_of(station, covering), base_of(station, hidden)
    station.shape.press(at, LEFT, NONE)
    station.shape.move(at - QPointF(0, 12), True, NONE)
    station.shape.release(at - QPointF(0, 12), LEFT)
    assert base_of(station, covering) == pytest.approx(outer)
    assert base_of(station, hidden)[2] > was[2] + 1 and studio.selection.part == hidden
    studio.undo_stack.undo()
    QTest.mouseClick(station.board, LEFT, NONE, at.toPoint())
    assert studio.selection.part == covering and base_of(station, hidden) == pytest.approx(was)


def test_bead_stretches_and_number_follows(station: MeasureStation) -> None:
    station.go_to_step(SHAPE)
    station.studio.selection.select_part("tail")
    was, lay = measures(station, "tail")["length"], station.board.lay
    assert lay
    axis = np.array(station.shape.grips()["length"].way)
    pull = axis / np.linalg.norm(axis) * 30
    drag(station, grip(station, "length"), (float(pull[0]), -float(pull[1])))
    grown = measures(station, "tail")["length"] - was
    assert grown == pytest.approx(30 / lay.scale, abs=1.2 / lay.scale)
    assert station.studio.survey.how_taken("tail", "length") == "straight"


def test_knob_turns_part_about_its_base(station: MeasureStation) -> None:
    station.go_to_step(SHAPE)
    station.studio.selection.select_part("bill")
    base, knob = base_of(station, "bill"), grip(station, TURN)
    copy = own_copy(station.board.placement(), "bill")
    assert copy
    was = copy.matrix[:3, 2].copy()
    drag(station, knob, (0, 36))
    copy = own_copy(station.board.placement(), "bill")
    assert copy and base_of(station, "bill") == pytest.approx(base, abs=0.01)
    angle = np.degrees(np.arccos(np.clip(was @ copy.matrix[:3, 2], -1, 1)))
    root = station.shape.screen(*station.shape.grips()[TURN].root)
    reach = np.hypot(knob.x() - root.x(), knob.y() - root.y())
    assert angle == pytest.approx(np.degrees(36 / reach), rel=0.15)


def test_keys_alone_choose_grip_nudge_it_and_type_its_number(station: MeasureStation) -> None:
    board = station.board
    window_of(station).actions_["step_3"].trigger()
    station.studio.selection.select_part("neck")
    board.setFocus()
    was = base_of(station, "neck")
    QTest.keyClick(board, Qt.Key.Key_Up)
    QTest.keyClick(board, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert base_of(station, "neck")[2] - was[2] == pytest.approx(1.1, abs=0.01)
    steps = station.studio.undo_stack.count()
    names = list(station.shape.grips())
    for _ in range(names.index("thickness")):
        QTest.keyClick(board, Qt.Key.Key_G)
    assert station.shape.grip == "thickness"
    thick = measures(station, "neck")["thickness"]
    QTest.keyClick(board, Qt.Key.Key_Right)
    assert measures(station, "neck")["thickness"] == pytest.approx(thick + 1.0)
    QTest.keyClick(board, Qt.Key.Key_2)
    type_text(board.entry, "6")
    QTest.keyClick(board.entry, Qt.Key.Key_Return)
    assert measures(station, "neck")["thickness"] == pytest.approx(26.0)
    assert board.hasFocus() and station.studio.undo_stack.count() > steps
    QTest.keyClick(board, Qt.Key.Key_9)
    QTest.keyClick(board.entry, Qt.Key.Key_Escape)
    assert measures(station, "neck")["thickness"] == pytest.approx(26.0)


def test_clicking_part_brings_it_to_hand_from_every_side(
    station: MeasureStation, qtbot: QtBot
) -> None:
    station.go_to_step(SHAPE)
    for view in ("side", "front", "top", "back"):
        window_of(station).actions_[f"view_{view}"].trigger()
        assert station.board.view == view
        qtbot.waitUntil(lambda: station.board.is_pictured, timeout=20_000)
        copy = own_copy(station.board.placement(), "body")
        assert copy
        middle = station.board.seen_from(copy.point(0.35))
        assert station.board.lay
        at = station.board.lay.to_screen(*middle)
        part = station.board.part_at(at)
        station.studio.selection.select_part("foot")
        QTest.mouseClick(station.board, LEFT, NONE, at.toPoint())
        assert station.studio.selection.part == part != "foot"


def test_wool_is_laid_by_dropping_swatch_and_by_keys(station: MeasureStation) -> None:
    copy = own_copy(station.board.placement(), "tail")
    assert copy and station.board.lay
    at = station.board.lay.to_screen(*station.board.seen_from(copy.point(0.8)))
    mime = QMimeData()
    mime.setData(WOOL_MIME, b"madder")
    action = Qt.DropAction.CopyAction
    station.board.dropEvent(QDropEvent(at, action, mime, LEFT, NONE))
    figure = station.studio.figure
    assert figure and figure.by_id["tail"].coat and figure.by_id["tail"].coat.wool == "madder"
    station.studio.selection.select_part("leg")
    swatches = station.swatches
    swatches.setFocus()
    ids = [wool for wool, _, _ in swatches.wools]
    for _ in range(swatches.current_row, ids.index("weld")):
        QTest.keyClick(swatches, Qt.Key.Key_Right)
    QTest.keyClick(swatches, Qt.Key.Key_Return)
    QTest.keyClick(swatches, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
    figure = station.studio.figure
    assert figure and figure.by_id["leg"].core == "weld" and figure.by_id["leg"].coat
    QTest.keyClick(swatches, Qt.Key.Key_Delete)
    assert station.studio.figure and station.studio.figure.by_id["leg"].coat is None
    assert "Weld yellow" in swatches.accessibleDescription()


def test_what_part_is_can_all_be_changed(station: MeasureStation) -> None:
    head, studio = station.card.head, station.studio
    studio.selection.select_part("crest")
    head.refresh()
    where = base_of(station, "crest")
    head.parent_.setCurrentIndex(head.parent_.findData("neck"))
    head.parent_.activated.emit(head.parent_.currentIndex())
    assert studio.figure and studio.figure.by_id["crest"].parent == "neck"
    assert base_of(station, "crest") == pytest.approx(where, abs=0.01)
    write(head.name, "Plume")
    head.kind.setCurrentIndex(head.kind.findData("cone"))
    head.kind.activated.emit(head.kind.currentIndex())
    head.firm.setCurrentIndex(head.firm.findData("hard"))
    head.firm.activated.emit(head.firm.currentIndex())
    head.pair.click()
    part = studio.figure.by_id["crest"]
    assert (part.name, part.shape.kind, part.firmness, part.pair) == ("Plume", "cone", "hard", True)
    QTest.mouseClick(head.remove, LEFT)
    assert "crest" not in studio.figure.by_id and studio.selection.part != "crest"
    while studio.undo_stack.canUndo():
        studio.undo_stack.undo()
    assert studio.figure == load_demo(HERON).figure


def test_part_that_carries_all_cannot_be_taken_away(station: MeasureStation) -> None:
    station.studio.selection.select_part("body")
    window_of(station).actions_["take_away"].trigger()
    assert "cannot be removed" in window_of(station).message.text


# Size rules, where the size is shown


def test_size_rules_are_set_at_size(
    station: MeasureStation, monkeypatch: pytest.MonkeyPatch
) -> None:
    studio, menu = station.studio, QMenu()
    button = row(station, "leg", "thickness").rule
    fill_rule_menu(menu, studio, "leg", "thickness", button)
    assert [a.text().replace("&", "") for a in menu.actions()] == [
        "Follows the height", "Held as made", "Not under…", "Not over…", "Times…",
    ]  # fmt: skip
    menu.actions()[1].trigger()
    assert studio.rule_of("leg", "thickness") == SizeRule(measure="thickness", rule="hold")
    assert studio.plan
    leg = studio.plan.part("leg")
    assert leg.to_mm["thickness"] == pytest.approx(leg.from_mm["thickness"])
    answers = iter([("6 mm", True), ("0.5", True), ("much", True), ("9", False)])
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: next(answers))
    set_rule(studio, "leg", "thickness", "floor", button)
    assert studio.plan.part("leg").to_mm["thickness"] == pytest.approx(6.0)
    set_rule(studio, "leg", "thickness", "multiply", button)
    leg = studio.plan.part("leg")
    assert leg.to_mm["thickness"] == pytest.approx(leg.from_mm["thickness"] * studio.plan.scale / 2)
    set_rule(studio, "leg", "thickness", "multiply", button)
    assert "not a factor" in window_of(station).message.text
    set_rule(studio, "leg", "thickness", "ceiling", button)
    set_rule(studio, "leg", "thickness", "", button)
    assert studio.rule_of("leg", "thickness") is None
    assert "follows the height" in row(station, "leg", "thickness").rule.toolTip()


# Face, patches, bones


def touch(station: MeasureStation, part: str, along: float, around: float) -> None:
    from bambola.core.solids.touch import skin_point

    copy = own_copy(station.board.placement(), part)
    assert copy and station.board.lay
    place = station.board.seen_from(skin_point(copy, along, around))
    QTest.mouseClick(station.board, LEFT, NONE, station.board.lay.to_screen(*place).toPoint())


def test_eyes_and_marks_are_touched_onto_face(station: MeasureStation, qtbot: QtBot) -> None:
    station.go_to_step(FACE)
    station.board.turn_to("front")
    qtbot.waitUntil(lambda: station.board.is_pictured, timeout=20_000)
    station.studio.selection.select_part("head")
    touch(station, "head", 0.7, 20.0)
    figure = station.studio.figure
    assert figure
    eye = next(f for f in figure.fittings if f.kind == "eye")
    assert (eye.seat.along, eye.seat.around) == (
        pytest.approx(0.7, abs=0.05),
        pytest.approx(20, abs=8),
    )
    QTest.mouseClick(station.chips.buttons["Nose"], LEFT)
    touch(station, "head", 0.8, 0.0)
    assert station.studio.figure
    nose = next(m for m in station.studio.figure.marks if m.name == "Nose")
    assert nose.part == "head" and nose.along == pytest.approx(0.8, abs=0.06)


def test_patch_is_outlined_on_coat(station: MeasureStation) -> None:
    station.go_to_step(FACE)
    station.studio.selection.select_part("tail")
    QTest.mouseClick(station.chips.buttons["Patch"], LEFT)
    copy = own_copy(station.board.placement(), "tail")
    assert copy and station.board.lay
    middle = np.array(station.board.seen_from(copy.point(0.6)))
    for off in ((-4, -3), (4, -3)):
        at = station.board.lay.to_screen(*(middle + off))
        QTest.mouseClick(station.board, LEFT, NONE, at.toPoint())
    QTest.keyClick(station.board, Qt.Key.Key_Return)
    assert "at least three" in window_of(station).message.text
    for off in ((-4, -3), (4, -3), (0, 5)):
        at = station.board.lay.to_screen(*(middle + off))
        QTest.mouseClick(station.board, LEFT, NONE, at.toPoint())
    QTest.keyClick(station.board, Qt.Key.Key_Return)
    assert station.studio.figure and station.studio.plan
    (patch,) = station.studio.figure.by_id["tail"].patches
    assert isinstance(patch.where, Outline) and patch.where.view == "left"
    area = next(p for p in station.studio.plan_as_made().part("tail").portions if p.role == "inset")
    # A triangle of 8 by 8 mm in projection, on skin that leans a little. It is like a stripe of 3.3 mm, a
    # third of which goes under the coat all round.
    under = (0.8 + 2 * math.hypot(0.4, 0.8)) * 0.11
    assert 0.27 < area.grams / 0.016 - under < 0.42


def test_bones_are_drawn_and_snap_to_axes(station: MeasureStation) -> None:
    window_of(station).actions_["step_5"].trigger()
    assert station.step == WIRE
    wait(20)  # the board is laid anew beside fewer buttons
    station.studio.selection.select_part("tail")
    wires = len(load_demo(HERON).figure.wires)
    copy = own_copy(station.board.placement(), "tail")
    assert copy and station.board.lay
    for along, off in ((0.3, 1.5), (0.98, -1.5)):
        place = np.array(station.board.seen_from(copy.point(along))) + off
        at = station.board.lay.to_screen(float(place[0]), float(place[1]))
        QTest.mouseMove(station.board, at.toPoint())
        QTest.mouseClick(station.board, LEFT, NONE, at.toPoint())
    QTest.keyClick(station.board, Qt.Key.Key_Return)
    figure = station.studio.figure
    assert figure and len(figure.wires) == wires + 1
    nodes = {n.id: n for n in figure.nodes}
    ends = [nodes[n] for n in figure.wires[-1].route]
    assert [n.part for n in ends] == ["tail", "tail"] and ends[0].out == 0.0
    assert (ends[0].along, ends[1].along) == (pytest.approx(0.3, abs=0.06), 1.0)
    QTest.keyClick(station.board, Qt.Key.Key_Delete)
    assert station.studio.figure and len(station.studio.figure.wires) == wires
    QTest.keyClick(station.board, Qt.Key.Key_Return)
    assert len(station.studio.figure.wires) == wires + 1
    QTest.mouseClick(station.board, LEFT, NONE, QPoint(4, 4))
    assert "runs inside a part" in window_of(station).message.text


def test_landmarks_that_disagree_lead_to_their_place(station: MeasureStation) -> None:
    station.go_to_step(FACE)
    QTest.mouseClick(station.chips.buttons["Crown"], LEFT)
    station.face.set_at(0.0, 300.0)
    survey = station.studio.survey.marked(Landmark(name="Crown", view="front", at=(0, 270)))
    station.studio.edit("Set crown", survey=survey)
    station.card.show_pane(2)
    slips = [b for b in station.card.doubts.findChildren(QPushButton) if b.text() == "Go there"]
    assert len(slips) == 1 and "(1)" in station.card.tabs[2].text()
    station.go_to_step(SHAPE)
    QTest.mouseClick(slips[0], LEFT)
    assert station.step == FACE and station.board.view == "front"
    station.studio.undo_stack.undo()
    station.card.doubts.refresh()
    assert not station.card.doubts.doubts


def test_hard_core_is_added_and_removed(
    station: MeasureStation, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.studio.selection.select_part("head")
    typed = iter([("3 cm", True), ("900 mm", True), ("", False), ("0", True)])
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: next(typed))

    def head_grams() -> float:
        assert window.studio.plan is not None
        return window.studio.plan.part("head").grams

    wool = head_grams()
    window.actions_["hard_core"].trigger()
    assert head_grams() < wool
    window.actions_["hard_core"].trigger()  # thicker than the head: refused in a sentence
    assert "must be thinner" in window.message.text
    window.actions_["hard_core"].trigger()
    assert window.studio.figure is not None
    assert [f.size for f in window.studio.figure.fittings if f.kind == "core"] == [30.0]
    window.actions_["hard_core"].trigger()
    assert head_grams() == pytest.approx(wool)
    window.studio.undo_stack.undo()
    assert head_grams() < wool


# Beginnings


def test_wire_led_to_part_that_is_gone_is_forgotten(station: MeasureStation) -> None:
    """Undo took a part away under the pointer, and the board died while it was painted."""
    station.go_to_step(WIRE)
    lost = Node(id="lost", part="gone", along=0.5)
    hand = station.wire
    hand._aim, hand._route = lost, [lost]
    station.board.grab()
    assert hand._aim is None and hand._route == []


def test_arrows_on_start_page_open_no_window(
    new_window: Callable[[], Window], qtbot: QtBot
) -> None:
    window = new_window()
    window.new_figure()
    shown: list[QWidget] = []

    class Watch(QObject):
        def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
            is_window = isinstance(watched, QWidget) and watched.isWindow()
            if is_window and event and event.type() == QEvent.Type.Show and watched is not window:
                shown.append(watched)
            return False

    watch = Watch()
    QApplication.instance().installEventFilter(watch)  # type: ignore[union-attr]
    for _ in range(4):
        QTest.keyClick(window.start_page.shelf, Qt.Key.Key_Right)
    qtbot.wait(50)
    QApplication.instance().removeEventFilter(watch)  # type: ignore[union-attr]
    assert window.start_page.shelf.current_row == 4 and not shown


def test_body_plan_is_adjusted_and_put_on_table(
    new_window: Callable[[], Window], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    cast_as_fine = pictures.portrait
    monkeypatch.setattr(pictures, "portrait", lambda *shot: cast_as_fine(*shot))
    monkeypatch.setattr(pictures, "stage_of", stage_of)
    window = new_window()
    window.actions_["new"].trigger()
    page = window.start_page
    # All are there at once: their pictures are shipped, and as the window itself would cast them.
    assert page.isVisible() and len(page.shelf.pictured) == len(body_plans())
    seen = page.shelf.pictured[0].toImage()
    page.shelf.show_plan(0, page.shelf.plans[0].figure)
    qtbot.waitUntil(lambda: 0 in page.shelf.prints, timeout=30_000)
    cast = page.shelf.prints[0].pixmap.toImage()
    assert cast.size() == seen.size()
    middle = [image.pixelColor(image.rect().center()).getRgb() for image in (seen, cast)]
    assert middle[0] == pytest.approx(middle[1], abs=3)
    assert page.shelf.hasFocus()
    QTest.keyClick(page.shelf, Qt.Key.Key_Right)
    QTest.keyClick(page.shelf, Qt.Key.Key_Down)
    beside, below = page.shelf.box(1), page.shelf.box(page.shelf.current_row)
    assert below.left() == beside.left() and below.top() == pytest.approx(beside.bottom())
    page.shelf.select_row(0)
    page.sliders["head"].setValue(80)
    write(page.height_, "24 cm")
    QTest.mouseClick(page.start, LEFT)
    studio = window.studio
    qtbot.waitUntil(lambda: window.station == MEASURE, timeout=30_000)
    assert studio.figure and studio.plan
    assert studio.plan.to_height_mm == pytest.approx(240.0)
    plain = page.plan.figure.by_id["head"].shape.measures()
    head = studio.figure.by_id["head"].shape.measures()
    body = (
        studio.figure.by_id["body"].shape.measures(),
        page.plan.figure.by_id["body"].shape.measures(),
    )
    assert head["width"] / plain["width"] > 1.15 * body[0]["width"] / body[1]["width"]
    assert window.windowTitle().startswith("Two-legged doll")
    window.actions_["new"].trigger()
    QTest.mouseClick(page.back, LEFT)
    assert window.station == MEASURE


def test_height_no_plan_can_have_is_refused(new_window: Callable[[], Window], qtbot: QtBot) -> None:
    window = new_window()
    window.new_figure()
    write(window.start_page.height_, "80 m")
    QTest.mouseClick(window.start_page.start, LEFT)
    qtbot.waitUntil(lambda: "cannot be" in window.message.text, timeout=30_000)
    assert window.studio.figure is None
    write(window.start_page.height_, "tall")
    assert "cannot read" in window.message.text


def test_pictures_are_chosen_from_start_page(
    new_window: Callable[[], Window], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = new_window()
    window.new_figure()
    paths = iter([str(PICTURES / "heron-front-plain.jpg"), ""])
    monkeypatch.setattr(PictureDialog, "ask", lambda *a: next(paths))
    QTest.mouseClick(window.start_page.pictures, LEFT)
    station = window.measure_station
    qtbot.waitUntil(lambda: station.sighting.silhouette("front") is not None, timeout=20_000)
    framing = window.studio.survey.framing("front")
    assert framing and framing.mm_px and window.station == MEASURE and station.line.for_new


def test_part_is_copied_from_another_design(
    station: MeasureStation, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    station.studio.selection.select_part("head")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(BADGER), ""))
    monkeypatch.setattr(QInputDialog, "getItem", lambda *a, **k: ("Ear", True))
    ask_graft(station, station.studio)
    assert station.studio.figure and station.studio.figure.by_id["ear"].parent == "head"
    assert station.studio.selection.part == "ear"
    bad = tmp_path / "bad.bambola.json"
    bad.write_text("{")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(bad), ""))
    ask_graft(station, station.studio)
    assert "damaged" in window_of(station).message.text
    copy_part(station.studio, load_demo().figure, "head")
    assert station.studio.figure.by_id[station.studio.selection.part or ""].parent == "ear"


# Pictures


def test_picture_is_framed_corrected_called_off_and_taken_away(
    station: MeasureStation, qtbot: QtBot
) -> None:
    shares: list[float] = []
    station.sighting.progress.connect(lambda view, share: shares.append(share))
    station.sighting.read_picture("side", PICTURES / "heron-side-plain.jpg")
    qtbot.waitUntil(lambda: station.sighting.silhouette("side") is not None, timeout=20_000)
    assert len([s for s in shares if 0.05 < s < 0.95]) >= 4
    framing = station.board.framing
    assert framing and framing.mm_px == pytest.approx(0.205, rel=0.01)
    station.go_to_step(0)
    frame = station.frame_hand
    station.board.setFocus()
    frame.grip = "ground"
    QTest.keyClick(station.board, Qt.Key.Key_Up)
    moved = station.board.framing
    assert moved and framing.ground - moved.ground == pytest.approx(1.0 / framing.mm_px, rel=1e-6)
    QTest.mouseClick(station.chips.buttons["It looks the other way"], LEFT)
    assert station.board.framing and station.board.framing.flipped
    QTest.mouseClick(station.chips.buttons["Its height…"], LEFT)
    write(station.board.entry, "31 cm")
    assert station.studio.survey.height == 310.0
    scaled = station.board.framing
    assert scaled and scaled.mm_px == pytest.approx(framing.mm_px * 310 / 300, rel=1e-6)
    station.go_to_step(1)
    found = station.sighting.silhouette("side")
    a = station.board.lay.to_screen(*scaled.to_mm(900, 300)) if station.board.lay else QPointF()
    QTest.mouseClick(station.board, LEFT, NONE, a.toPoint())
    station.sighting.stop("side")
    qtbot.waitUntil(lambda: station.sighting.is_idle, timeout=20_000)
    if station.sighting.silhouette("side") is None:
        assert "cancelled" in window_of(station).message.text
    QTest.keyClick(station.board, Qt.Key.Key_Backspace)
    qtbot.waitUntil(
        lambda: station.sighting.is_idle and station.sighting.silhouette("side") is not None,
        timeout=20_000,
    )
    again = station.sighting.silhouette("side")
    assert found and again and again.box() == pytest.approx(found.box(), abs=3)
    station.go_to_step(0)
    QTest.mouseClick(station.chips.buttons["Remove it"], LEFT)
    assert not station.studio.survey.framings and not station.sighting.laid


def test_measured_design_reopens_with_its_pictures(
    station: MeasureStation, new_window: Callable[[], Window], qtbot: QtBot, tmp_path: Path
) -> None:
    picture = tmp_path / "heron.jpg"
    picture.write_bytes((PICTURES / "heron-side-plain.jpg").read_bytes())
    station.sighting.read_picture("side", picture)
    qtbot.waitUntil(lambda: station.sighting.silhouette("side") is not None, timeout=20_000)
    station.go_to_step(PARTS)
    # The midline is laid where the figure's is: under the body.
    note, framing = camera_of("heron-side-plain"), station.studio.survey.framing("side")
    assert framing
    framed = framing.replaced(midline=note["midline"], ground=note["ground"], mm_px=note["mm_px"])
    station.studio.edit("Frame the picture", survey=station.studio.survey.framed(framed))
    copy = own_copy(station.board.placement(), "tail")
    assert copy
    station.studio.selection.select_part("tail")
    station.line.draw(
        [station.board.seen_from(copy.point(0.0)), station.board.seen_from(copy.point(1.0))]
    )
    survey = station.studio.survey
    assert survey.traces_of("tail") and station.studio.save(tmp_path / "mine.bambola.json")
    # The folder is moved, and the picture with the design.
    home = tmp_path / "elsewhere"
    home.mkdir()
    for file in ("mine.bambola.json", "heron.jpg"):
        (tmp_path / file).rename(home / file)
    again = new_window()
    assert again.files.open_path(home / "mine.bambola.json")
    assert again.studio.survey == survey
    again.go_to(MEASURE)
    sighting = again.measure_station.sighting
    qtbot.waitUntil(lambda: sighting.silhouette("side") is not None, timeout=20_000)
    assert again.studio.undo_stack.isClean()
    (home / "heron.jpg").unlink()
    third = new_window()
    with qtbot.waitSignal(third.measure_station.sighting.trouble, timeout=10_000):
        third.files.open_path(home / "mine.bambola.json")
    assert third.studio.figure and "cannot be read" in third.message.text


def test_line_beside_figure_is_refused_in_words(station: MeasureStation, qtbot: QtBot) -> None:
    station.sighting.read_picture("side", PICTURES / "heron-side-plain.jpg")
    qtbot.waitUntil(lambda: station.sighting.silhouette("side") is not None, timeout=20_000)
    station.go_to_step(PARTS)
    station.studio.selection.select_part("neck")
    survey = station.studio.survey
    station.line.draw([(-150.0, 20.0), (-140.0, 60.0), (-150.0, 90.0)])
    assert "beside the figure" in window_of(station).message.text
    assert station.studio.survey == survey


def test_picture_laid_on_board_by_dropping_it(station: MeasureStation, qtbot: QtBot) -> None:
    from PyQt6.QtCore import QUrl

    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(PICTURES / "heron-side-busy.jpg"))])
    action = Qt.DropAction.CopyAction
    station.board.dropEvent(QDropEvent(QPointF(90, 90), action, mime, LEFT, NONE))
    qtbot.waitUntil(lambda: station.studio.survey.framing("side") is not None, timeout=20_000)


def test_copied_picture_is_laid_by_key_and_kept_as_file(
    station: MeasureStation, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr(QStandardPaths, "writableLocation", lambda *a: str(tmp_path))
    clipboard = QApplication.clipboard()
    assert clipboard
    clipboard.setText("a word")
    window_of(station).actions_["paste_picture"].trigger()
    assert "no picture" in window_of(station).message.text
    clipboard.setImage(QImage(str(PICTURES / "heron-front-plain.jpg")))
    station.board.turn_to("front")
    window_of(station).actions_["paste_picture"].trigger()
    qtbot.waitUntil(lambda: station.studio.survey.framing("front") is not None, timeout=20_000)
    (kept,) = (tmp_path / "Bambola").iterdir()
    framing = station.studio.survey.framing("front")
    assert framing and framing.picture == str(kept)
    # Another figure is seen from where the last picture showed one, if it has a picture from there.
    settings, studio = window_of(station).settings, station.studio
    document = Document(figure=studio.figure, survey=studio.survey)
    assert settings.picture_view == "front"
    for wanted, seen in (("top", "side"), ("front", "front")):
        settings.picture_view = wanted
        station.board.turn_to("side")
        studio.open_document(document, None)
        assert station.board.view == seen
    # The folder of the last picture is offered next time, here and on the page of new figures.
    asked: list[str] = []

    def ask(*given: Any) -> str:
        asked.append(given[2])
        return ""

    monkeypatch.setattr(PictureDialog, "ask", ask)
    station.pictures.ask()
    window_of(station).start_page.ask_pictures()
    assert asked == [str(kept.parent)] * 3
    kept.unlink()
    kept.parent.rmdir()
    assert Path(window_of(station).settings.picture_folder) == Path.home()


def test_changing_figure_keeps_what_is_asked_of_it(station: MeasureStation) -> None:
    window = window_of(station)
    assert window.studio.brief.height == 120.0
    write(row(station, "neck", "length").entry, "150 mm")
    assert window.studio.plan and window.studio.plan.to_height_mm == pytest.approx(120.0)
    assert window.studio.plan.from_height_mm > 310
    window.go_to(RESIZE)
    assert "to 120 mm" in window.header._told.text()


def keys(station: MeasureStation, *strokes: Qt.Key | str) -> None:
    for stroke in strokes:
        if isinstance(stroke, str):
            type_text(station.board, stroke)
        else:
            QTest.keyClick(station.board, stroke)


def point(station: MeasureStation, u: float, v: float) -> None:
    """Lead the keys' pointer of the hand at work to a place, mm, with arrow keys."""
    hand = station.board.hand
    assert hand
    keys(station, Qt.Key.Key_Up)
    for axis, goal, less, more in (
        (0, u, Qt.Key.Key_Left, Qt.Key.Key_Right), (1, v, Qt.Key.Key_Down, Qt.Key.Key_Up),
    ):  # fmt: skip
        for modifier, step in (
            (Qt.KeyboardModifier.AltModifier, 5.0), (NONE, 1.0), (Qt.KeyboardModifier.ShiftModifier, 0.1),
        ):  # fmt: skip
            assert isinstance(hand, Hand) and hand.pointer
            far = goal - hand.pointer[axis]
            for _ in range(int(abs(far) / step + 0.001)):
                QTest.keyClick(station.board, more if far > 0 else less, modifier)


def test_figure_is_measured_with_keys_only(
    station: MeasureStation, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = window_of(station)
    monkeypatch.setattr(PictureDialog, "ask", lambda *a: str(PICTURES / "heron-side-plain.jpg"))
    window.actions_["step_0"].trigger()
    station.chips.buttons["Lay a picture…"].setFocus()
    QTest.keyClick(station.chips.buttons["Lay a picture…"], Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: station.sighting.silhouette("side") is not None, timeout=20_000)
    window.actions_["step_1"].trigger()
    assert station.board.hasFocus()
    point(station, -60.0, 40.0)
    keys(station, "]", " ")
    qtbot.waitUntil(lambda: station.sighting.is_idle, timeout=20_000)
    framing = station.board.framing
    assert framing and framing.strokes[0].figure
    window.studio.undo_stack.undo()
    qtbot.waitUntil(lambda: station.sighting.is_idle, timeout=20_000)
    # The leg, seen in the picture: straight down from the body to the foot.
    window.actions_["step_2"].trigger()
    window.studio.selection.select_part("leg")
    station.board.setFocus()
    copy = own_copy(station.board.placement(), "leg")
    assert copy
    shift = _leg_in_picture(station) - np.array(station.board.seen_from(copy.point(1.0)))
    for joint in copy.shape.joints:  # type: ignore[union-attr]
        place = copy.matrix[:3, :3] @ np.array([joint.x, joint.y, joint.z]) + copy.matrix[:3, 3]
        goal = np.array(station.board.seen_from(place)) + shift
        point(station, float(goal[0]), float(goal[1]))
        keys(station, " ")
    keys(station, Qt.Key.Key_Return)
    assert station.studio.survey.how_taken("leg", "thickness") == "picture"
    assert measures(station, "leg")["length"] == pytest.approx(
        load_demo(HERON).figure.by_id["leg"].shape.measures()["length"], rel=0.02
    )
    was = station.line.trace()
    keys(station, "g", Qt.Key.Key_Right)
    now = station.line.trace()
    assert was and now and now.points[0][0] - was.points[0][0] == pytest.approx(1.0, abs=0.02)
    path = tmp_path / "keys.bambola.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(path), ""))
    window.actions_["save"].trigger()
    assert path.exists() and "picture" in path.read_text()


def camera_of(picture: str) -> dict[str, float]:
    """Where the camera stood when a picture was taken."""
    found: dict[str, float] = json.loads((PICTURES / "heron.json").read_text())[picture]
    return found


def _leg_in_picture(station: MeasureStation) -> np.ndarray:
    """Where the heron's ankle is in the laid picture, mm on the board."""
    note = camera_of("heron-side-plain")
    placement = place(load_demo(HERON).figure)
    copy = own_copy(placement, "leg")
    framing = station.board.framing
    assert copy and framing
    _, y, z = copy.point(1.0)
    pixel = (
        note["midline"] + y / note["mm_px"],
        note["ground"] - (z - placement.ground) / note["mm_px"],
    )
    return np.array(framing.to_mm(*pixel))


def test_face_and_wire_are_reached_by_keys(station: MeasureStation) -> None:
    window = window_of(station)
    window.actions_["step_4"].trigger()
    station.face.choose("Chin")
    station.board.setFocus()
    point(station, -20.0, 270.0)
    keys(station, " ")
    (chin,) = station.studio.survey.landmarks
    assert chin.at == pytest.approx((-20.0, 270.0), abs=0.11)
    window.actions_["step_5"].trigger()
    station.studio.selection.select_part("crest")
    station.board.setFocus()
    wires = len(station.studio.figure.wires) if station.studio.figure else 0
    keys(station, Qt.Key.Key_Return)
    assert station.studio.figure and len(station.studio.figure.wires) == wires + 1


def test_held_arrow_key_stops_on_release(
    station: MeasureStation, monkeypatch: pytest.MonkeyPatch
) -> None:
    from PyQt6.QtCore import QEvent
    from PyQt6.QtGui import QKeyEvent

    from bambola.desk.stations.measure import board as room

    clock = [100.0]
    monkeypatch.setattr(room.time, "monotonic", lambda: clock[0])
    station.go_to_step(SHAPE)
    station.studio.selection.select_part("head")
    was, steps = base_of(station, "head")[2], station.studio.undo_stack.count()

    def press(held: bool) -> None:
        kind = QEvent.Type.KeyPress
        station.board.keyPressEvent(QKeyEvent(kind, Qt.Key.Key_Up, NONE, "", held))

    press(False)
    for _ in range(6):  # these came while the first was worked on
        press(True)
    assert base_of(station, "head")[2] - was == pytest.approx(1.0, abs=0.01)
    clock[0] += 0.033
    press(True)
    assert base_of(station, "head")[2] - was == pytest.approx(1.0 + 7.0, abs=0.01)
    assert station.studio.undo_stack.count() - steps == 1


def test_queued_rows_of_former_figure_are_dropped(qtbot: QtBot) -> None:
    studio, theme = EditorSession(), Theme()
    studio.open_document(load_demo(TOAD), None)
    rows = MeasureList(studio, theme, whole_figure=True)
    qtbot.addWidget(rows)
    rows.show()
    qtbot.waitUntil(lambda: bool(rows.rows))  # so many at once, and the others soon
    studio.open_document(load_demo(HERON), None)
    heron = {part.id for part in load_demo(HERON).figure.parts}
    qtbot.waitUntil(lambda: len(rows.rows) > 8 and {r.effect.part for r in rows.rows} <= heron)


def test_sizes_are_taken_from_what_was_copied_out_of_spreadsheet(
    station: MeasureStation, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = window_of(station)
    clipboard = QApplication.clipboard()
    assert clipboard is not None and window.studio.figure is not None
    before = window.studio.figure
    name = next(p for p in before.parts if "length" in p.shape.measure_names)
    mm = name.shape.measures()["length"] * 1.1
    clipboard.setText(f"part\tlength\n{name.name}\t{mm:.2f}\nhorn\t5\n")
    yes = QMessageBox.StandardButton.Yes
    monkeypatch.setattr(QMessageBox, "question", lambda *_: yes)
    window.actions_["sizes_table"].trigger()
    figure = window.studio.figure
    assert figure is not None
    assert figure.by_id[name.id].shape.measures()["length"] == pytest.approx(mm, abs=0.01)
    assert "1 sizes taken" in window.message.text and "horn" in window.message.text
    window.studio.undo_stack.undo()
    assert window.studio.figure == before
    # Where no head tells, its maker is asked what the columns are.
    clipboard.setText(f"Stück\tMaß\n{name.name}\t{mm:.2f}\n")

    def answered(dialog: ColumnsDialog) -> int:
        first, second = dialog.boxes
        ok = dialog.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok)  # type: ignore[union-attr]
        assert ok is not None
        assert first.currentData() == "part" and not ok.isEnabled()
        second.setCurrentIndex(second.findData("length"))
        return int(ok.isEnabled())

    monkeypatch.setattr(ColumnsDialog, "exec", answered)
    window.actions_["sizes_table"].trigger()
    again = window.studio.figure
    assert again and again.by_id[name.id].shape.measures()["length"] == pytest.approx(mm, abs=0.01)
    monkeypatch.setattr(ColumnsDialog, "exec", lambda dialog: 0)
    window.actions_["sizes_table"].trigger()
    assert "No column" in window.message.text and window.studio.figure == again


def test_any_part_comes_to_hand_from_tree_of_parts(station: MeasureStation, qtbot: QtBot) -> None:
    studio, tree = station.studio, station.card.tree
    window_of(station).actions_["pane_3"].trigger()
    figure = studio.figure
    assert figure and set(tree.items) == set(figure.by_id)
    for part in figure.parts:
        above = tree.items[part.id].parent()
        assert (above.data(0, Qt.ItemDataRole.UserRole) if above else None) == part.parent
    plain = tree.items["head"].icon(0).cacheKey()
    qtbot.waitUntil(lambda: tree.items["head"].icon(0).cacheKey() != plain, timeout=20_000)
    # By keys, by a click, and what comes to hand elsewhere is shown here.
    studio.selection.select_part("body")
    assert tree.currentItem() is tree.items["body"]
    QTest.keyClick(tree, Qt.Key.Key_Down)
    second = tree.items["body"].child(0)
    assert second and studio.selection.part == second.data(0, Qt.ItemDataRole.UserRole)
    QTest.mouseClick(tree.viewport(), LEFT, NONE, tree.visualItemRect(tree.items["head"]).center())
    assert studio.selection.part == "head"
    studio.edit_by("Without it", lambda f: without_part(f, "head"))
    qtbot.waitUntil(lambda: "head" not in tree.items)


def test_file_dialog_for_pictures_shows_them(qtbot: QtBot) -> None:
    parent = QWidget()
    qtbot.addWidget(parent)
    dialog = PictureDialog(parent, "The figure from the front", str(PICTURES))
    dialog.show()
    dialog.currentChanged.emit(str(PICTURES / "heron-front-plain.jpg"))
    assert not dialog.shown.pixmap().isNull()
    dialog.currentChanged.emit(str(PICTURES))
    assert dialog.shown.pixmap().isNull()
