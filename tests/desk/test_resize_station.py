from __future__ import annotations

import itertools
from pathlib import Path
from unittest.mock import Mock

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton, QScrollArea, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.facts import Fact
from bambola.core.figure import load_document
from bambola.core.relief import Camera
from bambola.core.resize import ResizeError
from bambola.demo import HERON
from bambola.desk.kit.card_rows import FittingRow, PortionRow
from bambola.desk.session import changes
from bambola.desk.session.studio import KEPT_PLANS
from bambola.desk.shell.window import Window
from bambola.desk.stations.resize.layout import NEW, OLD

LEFT = Qt.MouseButton.LeftButton


def flag_at(window: Window) -> QPoint:
    table = window.resize_station.table
    assert table.layout_ and window.studio.plan
    return table.layout_.flag(window.studio.plan.to_height_mm).center().toPoint()


def pull(window: Window, to_mm: float, *, release: bool = True) -> None:
    table = window.resize_station.table
    start = flag_at(window)
    assert table.layout_
    goal = QPoint(start.x(), round(table.layout_.y_of(to_mm)))
    QTest.mousePress(table, LEFT, pos=start)
    for share in (0.25, 0.5, 0.75, 1.0):
        QTest.mouseMove(table, QPoint(start.x(), round(start.y() + (goal.y() - start.y()) * share)))
    if release:
        QTest.mouseRelease(table, LEFT, pos=goal)


def height(window: Window) -> float:
    assert window.studio.plan
    return window.studio.plan.to_height_mm


def test_pulling_flag_changes_every_number_while_hand_moves(window: Window, qtbot: QtBot) -> None:
    card, header = window.resize_station.card, window.header
    before = card._sizes.words[0]
    pull(window, 175.0, release=False)
    assert window.studio.height_mm == pytest.approx(175.0, abs=1.0)
    qtbot.waitUntil(lambda: not window.studio.is_behind)
    assert height(window) == pytest.approx(175.0, abs=1.0)
    shown = f"{height(window):.0f} mm"
    assert shown in header._told.text() and card._sizes.words[0] != before
    assert window.studio.plan and window.studio.plan.wool_g < 80
    QTest.mouseRelease(window.resize_station.table, LEFT, pos=flag_at(window))
    assert height(window) == pytest.approx(175.0, abs=1.0)


def test_one_pull_is_one_undo_and_redo(window: Window) -> None:
    pull(window, 180.0)
    pull(window, 120.0)
    assert window.studio.undo_stack.count() == 2
    window.studio.undo_stack.undo()
    assert height(window) == pytest.approx(180.0, abs=1.0)
    window.studio.undo_stack.undo()
    assert height(window) == pytest.approx(220.0)
    window.studio.undo_stack.redo()
    assert height(window) == pytest.approx(180.0, abs=1.0)


def test_typing_height_in_makers_words(window: Window, qtbot: QtBot) -> None:
    table = window.resize_station.table
    table.setFocus()
    qtbot.keyClick(table, Qt.Key.Key_Return)
    table._entry.selectAll()
    qtbot.keyClicks(table._entry, "8 1/2 in")
    qtbot.keyClick(table._entry, Qt.Key.Key_Return)
    assert height(window) == pytest.approx(215.9) and not table._entry.isVisible()
    qtbot.keyClicks(table, "1")
    qtbot.keyClicks(table._entry, "90")
    qtbot.keyClick(table._entry, Qt.Key.Key_Return)
    assert height(window) == pytest.approx(190.0)


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("tall", "cannot read"),
        ("9 m", "it can be made from 21 mm to 1120 mm"),
        ("0", "above zero"),
    ],
)
def test_height_that_cannot_be_is_refused_in_words(
    window: Window, qtbot: QtBot, typed: str, says: str
) -> None:
    window.type_height()
    entry = window.resize_station.table._entry
    entry.setText(typed)
    qtbot.keyClick(entry, Qt.Key.Key_Return)
    assert says in window.message.text and height(window) == pytest.approx(220.0)


def test_keys_nudge_flag_and_turn_figures(window: Window, qtbot: QtBot) -> None:
    table = window.resize_station.table
    table.setFocus()
    qtbot.keyClick(table, Qt.Key.Key_Up)
    qtbot.keyClick(table, Qt.Key.Key_PageUp)
    qtbot.keyClick(table, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert height(window) == pytest.approx(230.9)
    assert window.studio.undo_stack.count() == 1
    qtbot.keyClick(table, Qt.Key.Key_Right)
    assert table.camera == Camera(turn=15)
    window.actions_["view_side"].trigger()
    assert table.camera == Camera(turn=90)
    assert window.resize_station.views.buttons["side"].isChecked()
    # What is written on the figures is laid out for the view they are seen from.
    assert table.layout_ and table.layout_.camera == table.camera
    spot = table.layout_.spots[NEW]
    placement = table.figures.placements()[NEW]
    assert (-spot.left, spot.right) == pytest.approx(
        (
            max(c.reach(np.array([0, -1, 0])) for c in placement.copies),
            max(c.reach(np.array([0, 1, 0])) for c in placement.copies),
        ),
        rel=1e-6,
    )


def part_point(window: Window, figure: str, part: str) -> QPoint:
    """A point on the table that shows ``part``."""
    table = window.resize_station.table
    made = table.figures.prints[figure]
    rows, columns = (made.picture.owner == made.picture.parts.index(part)).nonzero()
    middle = len(rows) // 2
    assert table.layout_
    box = table.layout_.picture_box(figure, made, table.figures.heights()[figure])
    height_px, width_px = made.picture.owner.shape
    return QPointF(
        box.left() + (columns[middle] + 0.5) / width_px * box.width(),
        box.top() + (rows[middle] + 0.5) / height_px * box.height(),
    ).toPoint()


@pytest.mark.parametrize(("figure", "part"), [(NEW, "foot"), (OLD, "body"), (NEW, "cape")])
def test_clicking_part_brings_its_sizes_wool_and_wire_to_hand(
    window: Window, qtbot: QtBot, figure: str, part: str
) -> None:
    qtbot.mouseClick(window.resize_station.table, LEFT, pos=part_point(window, figure, part))
    assert window.studio.selection.part == part and window.studio.plan
    plan, card = window.studio.plan.part(part), window.resize_station.card
    rows = card.findChildren(PortionRow)
    assert [row.accessibleName().split(",")[0] for row in rows] == [
        window.studio.bench.wool_by_id[p.wool].name for p in plan.portions
    ]
    assert len(card._wires) == len(window.studio.plan.wires_in(part))
    assert "stays in the figure" in rows[0].explain()


def test_eyes_of_head_are_on_its_card(window: Window) -> None:
    (row,) = window.resize_station.card.findChildren(FittingRow)
    assert row.accessibleName() == "Eyes, 7.9 mm would match, +2 %, 2 × 8 mm, buy 2"
    window.studio.selection.select_part("body")
    assert not window.resize_station.card._fittings


def test_card_of_bought_part_shows_size_only(window: Window) -> None:
    window.studio.selection.select_part("muffler")
    card = window.resize_station.card
    assert card._made.text() == "bought" and card._bundles.isHidden()
    (row,) = card.findChildren(FittingRow)
    assert row.accessibleName() == "Muffler, 330 mm would match, -36 %, 210 mm"
    window.studio.selection.select_part("tail")
    assert not card._bundles.isHidden() and card._made.text() == "made apart, medium"
    window.grab()


def test_vanished_core_takes_no_wool(window: Window) -> None:
    card = window.resize_station.card
    for height, alone in ((220.0, False), (60.0, True)):
        window.studio.set_height(height)
        window.studio.selection.select_part("paw")
        card.refresh()
        assert ("coat’s wool alone" in card._made.text()) == alone
        rows = [row.accessibleName() for row in card.findChildren(PortionRow)]
        assert len(rows) == (1 if alone else 2) and not any("take 0 g" in row for row in rows)


def test_dragging_on_figure_turns_it_and_keeps_part(window: Window) -> None:
    table = window.resize_station.table
    start = part_point(window, NEW, "body")
    QTest.mousePress(table, LEFT, pos=start)
    for dx in (10, 40, 80):
        QTest.mouseMove(table, start + QPoint(dx, 0))
    QTest.mouseRelease(table, LEFT, pos=start + QPoint(80, 0))
    assert table.camera.turn == pytest.approx(312.0) and window.studio.selection.part == "head"


def test_question_is_answered_changed_and_undone(window: Window, qtbot: QtBot) -> None:
    qtbot.mouseClick(window.header.badge, LEFT)
    slips = window.resize_station.slips
    buttons = {b.text(): b for b in slips.findChildren(QPushButton)}
    qtbot.mouseClick(buttons["Wool scarf"], LEFT)
    assert window.studio.brief.answers == {"join:head": "scarf"}
    assert window.header.badge.text() == "nothing to decide"
    assert window.studio.plan and any(
        p.role == "seam" for p in window.studio.plan.part("head").portions
    )
    buttons = {b.text(): b for b in slips.findChildren(QPushButton)}
    qtbot.mouseClick(buttons["Wire peg"], LEFT)
    assert window.studio.brief.answers == {"join:head": "peg"}
    window.studio.undo_stack.undo()
    window.studio.undo_stack.undo()
    assert window.studio.brief.answers == {} and window.header.badge.text() == "1 thing to decide"


def test_what_becomes_of_answer_is_read_under_hand(window: Window, qtbot: QtBot) -> None:
    window.open_demo(HERON)
    slips = window.resize_station.slips
    slips._on_row_changed([n.code for n in slips.slips()].index("thin-limb:leg"), "")
    first, *others = slips.findChildren(QPushButton)
    qtbot.waitUntil(others[-1].isVisible)
    assert slips.effect.text().startswith(
        "Wind it with glue: "
    )  # the first, while nothing is chosen
    window.activateWindow()
    first.setFocus()
    qtbot.waitUntil(first.hasFocus)
    for before, button in itertools.pairwise((first, *others)):
        qtbot.keyClick(before, Qt.Key.Key_Tab)
        assert slips.effect.text().startswith(f"{button.text()}: ")
    assert "it would fold" in slips.effect.text()
    qtbot.mouseClick(first, Qt.MouseButton.LeftButton)
    assert window.studio.brief.answers["thin-limb:leg"] == "glue-wound"
    assert slips._shown and slips._shown.code != "thin-limb:leg"  # the next question has come


def test_holding_part_keeps_its_size_and_height(window: Window, qtbot: QtBot) -> None:
    qtbot.mouseClick(window.resize_station.card._hold, LEFT)
    plan = window.studio.plan
    assert plan and plan.part("head").to_mm == plan.part("head").from_mm
    assert plan.to_height_mm == pytest.approx(220.0) and plan.scale > 1.7
    window.actions_["hold"].trigger()
    assert window.studio.plan and window.studio.plan.scale == pytest.approx(220 / 140, rel=1e-6)


def test_drag_with_held_part_shows_height_at_once(
    window: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    studio, table = window.studio, window.resize_station.table
    studio.hold("head", True)
    undone = studio.undo_stack.count()
    gesture = studio.new_gesture()
    for mm in (230.0, 240.0, 251.0):
        studio.pull_height(mm, gesture)
        assert studio.height_mm == mm and table.layout_
        own = table._own_flag()
        assert own and table.layout_.mm_at(own.center().y()) == pytest.approx(mm, rel=0.02)
    assert studio.is_behind and height(window) == pytest.approx(220.0)
    qtbot.waitUntil(lambda: not studio.is_behind, timeout=20_000)
    assert studio.plan and height(window) == pytest.approx(251.0)
    assert studio.plan.part("head").to_mm == studio.plan.part("head").from_mm
    assert studio.undo_stack.count() == undone + 1
    # What is done meanwhile counts from where the hand is, and what is undone takes all of the pull along.
    studio.pull_height(260.0, studio.new_gesture())
    assert studio.save(tmp_path / "pulled.bambola.json") and not studio.is_behind
    saved = load_document((tmp_path / "pulled.bambola.json").read_bytes(), "pulled")
    assert saved.brief.height == 260.0
    studio.pull_height(300.0, studio.new_gesture())
    studio.undo_stack.undo()
    assert not studio.is_behind and studio.brief.height == 251.0
    qtbot.wait(200)
    assert studio.brief.height == 251.0


def test_drag_to_impossible_height_keeps_last_plan(window: Window, qtbot: QtBot) -> None:
    studio = window.studio
    studio.hold("body", True)
    with qtbot.waitSignal(studio.refused, timeout=20_000) as told:
        studio.pull_height(20.0, studio.new_gesture())
    assert "mm" in told.args[0] and studio.height_mm == pytest.approx(220.0)


def test_flag_returns_from_impossible_height(window: Window, qtbot: QtBot) -> None:
    studio, table = window.studio, window.resize_station.table
    gesture = studio.new_gesture()
    # Once the refusal is told, nothing moves in the window but what is shown of the pull.
    studio.pull_height(2.0, gesture)
    qtbot.wait(100)
    studio.pull_height(210.0, gesture)
    assert table.layout_
    reach = table.layout_.spots[NEW].right  # mm
    # This comes too soon to be planned at once, and is refused when its turn comes.
    studio.pull_height(2.0, gesture)
    assert studio.is_behind and table.layout_.spots[NEW].right < reach / 2
    qtbot.waitUntil(lambda: not studio.is_behind)
    assert studio.height_mm == pytest.approx(210.0)
    assert table.layout_.spots[NEW].right == pytest.approx(reach)


def test_size_is_bounded_right_where_it_is_shown(window: Window, qtbot: QtBot) -> None:
    window.studio.selection.select_part("paw")
    sizes = window.resize_station.card._sizes
    sizes.setFocus()
    qtbot.keyClick(sizes, Qt.Key.Key_Right)
    assert [w[1] for w in sizes.words][sizes.at] == "depth"
    menu = sizes.menu()
    assert [a.isChecked() for a in menu.actions()] == [True, False, False, False, False]
    menu.actions()[1].trigger()
    qtbot.waitUntil(lambda: sizes.words[1][2] == "held as made")
    plan = window.studio.plan
    assert plan is not None
    paw = plan.part("paw")
    assert paw.to_mm["depth"] == paw.from_mm["depth"] and paw.to_mm["width"] > paw.from_mm["width"]
    sizes.menu().actions()[0].trigger()
    qtbot.waitUntil(lambda: sizes.words[1][2].startswith("was "))


def test_units_change_in_header_and_on_card(window: Window) -> None:
    window.actions_["length_in"].trigger()
    window.actions_["mass_oz"].trigger()
    assert "8\u00a011/16 in" in window.header._told.text()
    assert "oz" in window.resize_station.card.findChildren(PortionRow)[0].accessibleName()
    assert window.settings.units.length == "in"
    window.actions_["fraction_8"].trigger()
    assert (
        "8\u00a05/8 in" in window.header._told.text() and window.settings.units.inch_fraction == 8
    )


def test_order_is_walked_by_keys_and_explains_itself(window: Window, qtbot: QtBot) -> None:
    window.actions_["station_5"].trigger()
    station = window.order_station
    beads = station.long.beads
    assert station.isVisible() and len(beads.steps) == 55
    qtbot.keyClick(beads, Qt.Key.Key_End)
    assert "look from front, side, back" in beads.accessibleDescription()
    assert window.thread_strip.current_row == 54
    keys = [step.key for step in beads.steps]
    window.thread_strip.select_row(keys.index("core:leg:1"))
    assert "cannot be reached through felt" in station.reasons._words.text()
    assert "Tail: 5 fur rows, not 3" in station.reasons._words.text()
    assert "Finished" in station.reasons._words.text()


@pytest.mark.parametrize("station", range(5))
def test_everything_that_takes_focus_is_named(window: Window, station: int) -> None:
    window.go_to(station)
    found = 0
    for widget in window.findChildren(QWidget):
        takes = widget.focusPolicy() & Qt.FocusPolicy.TabFocus
        if not (widget.isVisible() and takes == Qt.FocusPolicy.TabFocus) or isinstance(
            widget, QScrollArea
        ):
            continue
        text = getattr(widget, "text", None) or getattr(widget, "currentText", None)
        said = widget.accessibleName() or (text() if callable(text) else "")
        assert said.strip(), widget
        found += 1
    assert found > 5


def test_long_undo_works_without_keeping_plans(
    window: Window,
) -> None:
    studio = window.studio
    first = studio.plan
    for i in range(KEPT_PLANS + 6):
        studio.set_height(150.0 + i)
    kept = sum(c.plan_before is not None for c in studio._recent)
    assert kept == KEPT_PLANS == len(studio._recent)
    while studio.undo_stack.canUndo():
        studio.undo_stack.undo()
    assert studio.plan is not None and first is not None
    assert studio.plan.parts == first.parts and studio.plan.steps == first.steps
    studio.undo_stack.redo()
    assert studio.plan.to_height_mm == pytest.approx(150.0)


def test_undo_to_impossible_plan_is_refused(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Undo planned again without the guard that an edit has: a bench changed meanwhile was a traceback."""
    studio = window.studio
    studio.set_height(150.0)
    studio.hold("head", True)
    for change in studio._recent:
        change.let_plans_go()
    monkeypatch.setattr(changes, "make_plan", Mock(side_effect=ResizeError(Fact("nothing"))))
    told: list[str] = []
    studio.refused.connect(told.append)
    studio.undo_stack.undo()
    assert len(told) == 1 and studio.is_held("head")
    monkeypatch.undo()
    studio.undo_stack.undo()
    assert not studio.is_held("head") and studio.plan is not None
    assert studio.plan.to_height_mm != pytest.approx(150.0)
