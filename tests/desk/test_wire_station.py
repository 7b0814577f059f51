"""The wire station, driven as a maker drives it: by keys, then by mouse."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QInputDialog
from pytestqt.qtbot import QtBot

from bambola.core.figure import Brief, Document
from bambola.core.plan import make_plan
from bambola.demo import HERON, TOAD
from bambola.desk.shell.stations import WIRE
from bambola.desk.shell.window import Window
from bambola.desk.stations.menus import GROUND, RULER, WALK
from bambola.desk.stations.wire.station import WireStation
from bambola.desk.stations.wire.walk import node_words
from tests.core.test_standing import pendulum
from tests.said import said
from tests.typing_hands import type_text


@pytest.fixture
def station(window: Window) -> WireStation:
    window.go_to(WIRE)
    window.wire_station.show_face(WALK)
    return window.wire_station


def keys(widget: object, *names: object) -> None:
    for key in names:
        if isinstance(key, str):
            type_text(widget, key)
        elif isinstance(key, tuple):
            QTest.keyClick(widget, key[0], key[1])  # type: ignore[arg-type]
        else:
            QTest.keyClick(widget, key)  # type: ignore[arg-type]


def click(widget: object, at: QPointF) -> None:
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=at.toPoint())  # type: ignore[arg-type]


def test_arrow_keys_walk_along_all_wires(station: WireStation) -> None:
    walk, ghost = station.walk, station.ghost
    ghost.setFocus()
    seen = []
    for _ in range(sum(len(w.points_mm) - 1 for w in walk.wires)):
        wire, run = walk.wire, walk.run
        assert wire is not None and run is not None
        seen.append((wire.id, run.a, run.b))
        assert node_words(run.b) in ghost.accessibleDescription()
        keys(ghost, Qt.Key.Key_Right)
    expected = [(w.id, s.a, s.b) for w in walk.wires for s in w.stretches if s.kind == "run"]
    assert seen == expected
    assert walk.wire is walk.wires[0] and walk.step == 0  # round again
    keys(ghost, Qt.Key.Key_Left)
    assert walk.wire is walk.wires[-1] and walk.step == len(walk.runs) - 1
    assert station.studio.selection.part == walk.bone.part  # type: ignore[union-attr]
    assert node_words("knee-l") == "left knee" and node_words("rump") == "rump"


def test_strands_gauge_and_pose_by_keys_are_undoable(
    station: WireStation,
) -> None:
    studio, walk, ghost = station.studio, station.walk, station.ghost
    walk.select_wire("arms", 1)
    before, made_pose = studio.plan, studio.figure.pose  # type: ignore[union-attr]
    assert before is not None and walk.wire is not None
    needed = walk.wire.diameter_mm
    keys(ghost, "+")
    assert walk.bone is not None and walk.bone.strands_asked == 2 and walk.bone.strands == 1
    assert any(n.code == "strands:arm" for n in studio.plan.notices)  # type: ignore[union-attr]
    keys(ghost, ">")
    assert walk.wire.diameter_mm > needed and walk.gauge_is_chosen
    assert "your choice" in station.card._gauge.text()
    before_slide = walk.wire.path_mm
    keys(ghost, "[", "[")
    # Both wrists moved up the arms: the hoop runs a shorter way.
    nodes = {n.id: n.along for n in studio.figure.nodes}  # type: ignore[union-attr]
    assert nodes["wrist-l"] == nodes["wrist-r"] == pytest.approx(0.96)
    assert walk.wire.path_mm != pytest.approx(before_slide, abs=0.01)
    keys(ghost, ".")
    assert walk.wire.diameter_mm == needed and not walk.gauge_is_chosen
    assert "softer than before" in station.card._gauge.text()
    click(station.card.as_steady, QPointF(8, 8))
    assert walk.wire.diameter_mm > needed and walk.gauge_is_chosen
    assert "as stiff as before; bend it with pliers" in station.card._gauge.text()
    assert not station.card.as_steady.isVisible()
    keys(ghost, ".")
    tip = studio.plan.balance.tip_angle_deg  # type: ignore[union-attr]
    ghost.turn_to(ghost.camera)
    keys(ghost, (Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier))
    assert studio.plan.balance.tip_angle_deg != tip  # type: ignore[union-attr]
    # What is made now is posed; the figure as it was made keeps its own pose.
    (bend,) = studio.brief.altered.pose  # type: ignore[misc]
    assert bend.side == "left" and bend.tilt.lean == pytest.approx(9.0)
    assert studio.figure.pose == made_pose  # type: ignore[union-attr]
    while studio.undo_stack.canUndo():
        studio.undo_stack.undo()
    assert studio.plan is before
    for _ in range(5):
        keys(ghost, "-")
    assert walk.bone.strands_asked == 1  # one is the least; refused in words


def test_schools_are_compared_and_taken_by_keys_and_mouse(
    station: WireStation, qtbot: QtBot
) -> None:
    cards, studio = station.schools, station.studio
    qtbot.waitUntil(lambda: cards.is_idle and len(cards.choices) == 6, timeout=20_000)
    by_school = {choice.school: choice for choice in cards.choices}
    assert by_school["drawn"].chosen and by_school["continuous"].joints == 0
    for school, choice in by_school.items():
        plan = make_plan(studio.figure, studio.brief.schooled("wire", school), studio.bench)  # type: ignore[arg-type]
        assert choice.wire_mm == pytest.approx(sum(w.cut_mm for w in plan.wires))
        assert choice.spare_mm >= 0 and (choice.spare_mm > 0) is (
            school in ("continuous", "crosspiece")
        )
    cards.setFocus()
    keys(cards, Qt.Key.Key_Down, Qt.Key.Key_Return)
    assert studio.plan.wire_school == "continuous" and len(station.walk.wires) == 1  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: cards.is_idle, timeout=20_000)
    click(cards.cloth, cards.box(4).center())
    assert studio.plan.wire_school == "stems" and len(station.walk.wires) == 5  # type: ignore[union-attr]
    studio.undo_stack.undo()
    studio.undo_stack.undo()
    assert studio.plan.wire_school == "drawn"  # type: ignore[union-attr]


def test_by_mouse_bone_is_taken_and_its_limb_bent(station: WireStation, qtbot: QtBot) -> None:
    ghost, walk, studio = station.ghost, station.walk, station.studio
    wire = next(w for w in walk.wires if w.id == "arms")
    a, b = ghost.place_of(wire.points_mm[6]), ghost.place_of(wire.points_mm[7])
    middle = (a + b) / 2
    click(ghost, middle)
    assert walk.wire is not None and walk.wire.id == "arms" and walk.step == 6
    QTest.mousePress(ghost, Qt.MouseButton.LeftButton, pos=middle.toPoint())
    for step in range(1, 6):
        QTest.mouseMove(ghost, (middle + QPointF(-12.0 * step, -4.0 * step)).toPoint())
    QTest.mouseRelease(ghost, Qt.MouseButton.LeftButton, pos=middle.toPoint())
    assert studio.undo_stack.count() == 1 and studio.undo_stack.undoText() == "Pose a limb"
    placement = studio.plan.solids.placement  # type: ignore[union-attr]
    # The right arm now reaches further out; the left is as it was.
    assert placement.nodes["wrist-r"][0] < wire.points_mm[7][0] - 3
    assert placement.nodes["wrist-l"][0] == pytest.approx(wire.points_mm[1][0], abs=1e-6)


def test_stock_and_loops_are_chosen_on_card(
    station: WireStation, monkeypatch: pytest.MonkeyPatch
) -> None:
    card, walk, studio = station.card, station.walk, station.studio
    names = [card.stock.itemText(i) for i in range(card.stock.count())]
    card.stock.setCurrentIndex(names.index("chenille stems"))
    card.stock.activated.emit(names.index("chenille stems"))
    assert all(studio.say(w.stock) == "Chenille stem" for w in walk.wires)
    card.stock.activated.emit(0)
    assert all(studio.say(w.stock) == "soft steel" for w in walk.wires)
    walk.choose_school("hoops")
    leg = next(w for w in walk.wires if said(w.name) == "Leg hoop")
    walk.select_wire(leg.id, len(leg.points_mm) - 2)
    before = leg.cut_mm
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("4 cm", True))
    card.ring.click()
    assert walk.wire is not None and walk.wire.cut_mm == pytest.approx(before + 40, abs=1e-6)
    refusals: list[str] = []
    studio.refused.connect(refusals.append)
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("forty", True))
    card.ring.click()
    assert refusals and "forty" in refusals[0]
    # A bone that only leads wire through a join is not the figure's own to change.
    studio.answer("join:head", "wire")
    walk.select_wire(
        next(w.id for w in walk.wires if any(s.b == "head-heart" for s in w.stretches))
    )
    while walk.bone is None or "head-heart" not in (walk.bone.a, walk.bone.b):
        walk.walk(1)
    edits = studio.undo_stack.count()
    card.ring.click()
    walk.ask_strands(1)
    assert "leads wire through" in refusals[-1] and studio.undo_stack.count() == edits


def test_ruler_shows_each_wire_and_true_size_is_true(station: WireStation) -> None:
    station.show_face(RULER)
    rulers = station.ruler.rulers
    rulers.setFocus()
    keys(rulers, Qt.Key.Key_Down)
    assert station.walk.wire is station.walk.wires[1]
    assert station.studio.say(station.walk.wire.name) in rulers.accessibleDescription()
    click(rulers, rulers._row_box(2).center())
    assert station.walk.wire is station.walk.wires[2]
    station.true_size.click()
    screen = rulers.screen()
    assert screen is not None
    assert rulers.px_per_mm() == pytest.approx(screen.physicalDotsPerInch() / 25.4)
    longest = max(w.cut_mm for w in station.walk.wires)
    assert rulers.minimumWidth() >= longest * rulers.px_per_mm()


def test_on_ground_verdict_follows_wish_and_joins_can_be_walked(
    station: WireStation,
) -> None:
    station.show_face(GROUND)
    ground, studio = station.ground, station.studio
    assert "steady" in ground.describe() and not studio.plan.balance.remedies  # type: ignore[union-attr]
    ground.setFocus()
    for _ in range(8):
        keys(ground, Qt.Key.Key_Up)
    assert studio.brief.steady == 16.0 and studio.plan.balance.remedies  # type: ignore[union-attr]
    assert "you asked for 16°" in ground.accessibleDescription()
    assert "16" in station._wished.text() and studio.undo_stack.count() == 1
    click(station.less_steady, QPointF(8, 8))
    assert studio.brief.steady == 15.0
    joins = station.joins
    assert joins.joins()[0].part == "head" and joins.joins()[0].kind == "scarf"
    studio.answer("join:head", "leave")
    assert joins.joins()[0].part == "head" and not joins.joins()[0].holds
    studio.selection.select_part("head")
    keys(joins, Qt.Key.Key_Down)
    assert studio.selection.part == joins.joins()[1].part
    click(joins.cloth, joins.box(0).center())
    assert studio.selection.part == "head"


def test_hanging_figure_is_told_where_its_loop_goes(window: Window) -> None:
    window.studio.open_document(Document(figure=pendulum(), brief=Brief(height=40)), None)
    window.go_to(WIRE)
    station = window.wire_station
    station.show_face(GROUND)
    assert "loop" in station.ground.describe()
    keys(station.ground, Qt.Key.Key_Up, Qt.Key.Key_Up)
    assert window.studio.brief.hang_tilt == 2.0 and "2°" in station.ground.describe()
    station.grab()


def test_figures_without_bones_are_told_how_to_get_them(window: Window) -> None:
    window.open_demo(TOAD)
    window.go_to(WIRE)
    station = window.wire_station
    for face in (WALK, RULER, GROUND):
        station.show_face(face)
        station.grab()
    station.show_face(WALK)
    assert not station.take_school.isVisible()  # there is nothing to wire
    card = station.card
    assert station.walk.wire is None and card._title.text() == "No wire"
    for knob in (card.stock, card.thinner, card.stouter, card.fewer, card.more, card.ring):
        assert not knob.isVisible()
    keys(
        station.ghost,
        Qt.Key.Key_Right,
        "+",
        ">",
        (Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier),
    )
    assert window.studio.undo_stack.count() == 0


def test_herons_questions_are_answered_where_its_wire_is(window: Window) -> None:
    window.open_demo(HERON)
    window.go_to(WIRE)
    station, studio = window.wire_station, window.studio
    asked = len(studio.plan.open_questions)  # type: ignore[union-attr]
    codes = [n.code for n in station.slips.slips()]
    assert codes[0] == "thin-limb:neck"
    studio.answer("thin-limb:leg", "no-wire")
    assert len(studio.plan.open_questions) == asked - 1  # type: ignore[union-attr]
    assert [w.id for w in station.walk.wires] == ["spine"]
    station.grab()


def test_bend_strips_are_written_from_window(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    where = tmp_path / "strips.pdf"
    monkeypatch.setattr(
        "bambola.desk.kit.file_dialogs.QFileDialog.getSaveFileName",
        lambda *a, **k: (str(where), ""),
    )
    window.actions_["export_strips"].trigger()
    qtbot.waitUntil(where.exists, timeout=20_000)
    window.files.exports.close()
    assert where.read_bytes().startswith(b"%PDF")
    for face in (RULER, GROUND, WALK):
        window.actions_[f"face_{face}"].trigger()
        assert window.station == WIRE and window.wire_station.face == face
