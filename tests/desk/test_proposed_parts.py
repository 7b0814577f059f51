"""The parts of a figure proposed in the window, and agreed with one by one."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import cv2
import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from bambola.core.figure import Rope
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.solids import AXES, place
from bambola.demo import HERON, load_demo
from bambola.desk.shell.stations import MEASURE
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure import agreeing
from bambola.desk.stations.measure.likeness_dialog import LikenessDialog
from bambola.desk.stations.measure.station import ONWARD, PROPOSE, MeasureStation
from bambola.desk.stations.measure.strokes_dialog import StrokesDialog
from bambola.desk.stations.menus import PARTS, SHAPE
from bambola.shipped import body_plans
from tests.core.test_proposing import FRONT, HEIGHT, SIDE, painted
from tests.desk.reading import painted as painted_texts
from tests.effort import THOROUGH
from tests.typing_hands import type_text

LEFT = Qt.MouseButton.LeftButton
FEW = ("two-legged-doll", "cub", "whale")


@pytest.fixture
def doll(
    new_window: Callable[[], Window],
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> tuple[Window, MeasureStation]:
    """A new figure begun from two pictures of a doll, cut out of them."""
    window = new_window()
    if not THOROUGH:  # each plan takes a second to be held against the pictures
        monkeypatch.setattr(
            agreeing, "body_plans", lambda: [p for p in body_plans() if p.figure.id in FEW]
        )
    pictures = {}
    for view, rounds in (("front", FRONT), ("side", SIDE)):
        pictures[view] = tmp_path / f"{view}.png"
        cv2.imwrite(str(pictures[view]), painted(rounds)[..., ::-1])
    window.start_with_pictures(pictures, HEIGHT)  # type: ignore[arg-type]
    station = window.measure_station
    qtbot.waitUntil(
        lambda: station.sighting.is_idle and len(station.sighting.framed_silhouettes()) == 2,
        timeout=30_000,
    )
    station.go_to_step(PARTS)
    return window, station


def doll_plan() -> list[BodyPlan]:
    return [plan for plan in body_plans() if plan.figure.id == "two-legged-doll"]


def answer(station: MeasureStation, like: str | None, looks_left: bool = True) -> None:
    """Answer what is asked before parts are looked for, by keys."""
    station.propose_parts()
    asked = station.findChildren(LikenessDialog)[-1]
    QTest.keyClick(asked.left if looks_left else asked.right, Qt.Key.Key_Space)
    if like is None:
        QTest.keyClick(asked.none, Qt.Key.Key_Space)
        return
    type_text(asked.shelf, like)
    assert like.lower() in asked.take.text()
    QTest.keyClick(asked.shelf, Qt.Key.Key_Return)


def test_parts_are_proposed_agreed_with_by_keys_and_undone(
    doll: tuple[Window, MeasureStation], qtbot: QtBot
) -> None:
    window, station = doll
    studio, slip = window.studio, station.slip
    QTest.mouseClick(station.chips.buttons[PROPOSE], LEFT)
    asked = station.findChild(LikenessDialog)
    assert asked is not None and not asked.unsure.isEnabled()  # which way it looks comes first
    QTest.mouseClick(asked.left, LEFT)
    QTest.mouseClick(asked.unsure, LEFT)
    window.activateWindow()
    assert station.sighting.looks_for_parts
    qtbot.waitUntil(slip.isVisible, timeout=60_000)
    figure = studio.figure
    assert figure is not None
    count = len(figure.parts)
    assert slip.told.text().startswith(f"Like the body plan Two-legged doll. {count} to go")
    parts = []
    while slip.isVisible() and len(parts) < count:
        part = studio.selection.part
        assert part is not None and slip.name.currentText() == studio.figure.by_id[part].name  # type: ignore[union-attr]
        parts.append(part)
        if part == "head":
            type_text(slip.name.lineEdit(), "Face")
        left = slip.told.text()
        QTest.keyClick(slip.name.lineEdit(), Qt.Key.Key_Return)
        qtbot.waitUntil(lambda left=left: slip.told.text() != left or not slip.isVisible())
    assert sorted(parts) == sorted(figure.by_id) and not slip.isVisible()
    # Enter takes each as it is proposed: a box of names once went back to its first row, and all were bodies.
    was = {part.id: (part.name, part.parent) for part in figure.parts}
    now = {part.id: (part.name, part.parent) for part in studio.figure.parts}  # type: ignore[union-attr]
    assert now == {**was, "head": ("Face", was["head"][1])}
    assert "Face" in {part.name for part in studio.figure.parts}  # type: ignore[union-attr]
    assert station.board.hasFocus()
    while len(studio.figure.parts) > 1:  # type: ignore[union-attr]
        studio.undo_stack.undo()
    assert not studio.survey.traces
    # Once something is drawn or named, nothing is proposed over it.
    while studio.undo_stack.canRedo():
        studio.undo_stack.redo()
    station.agreeing.propose()
    assert "figure is still empty" in window.message.text


def test_maker_says_what_it_is_like_and_thinks_again(
    doll: tuple[Window, MeasureStation], qtbot: QtBot
) -> None:
    window, station = doll
    studio, slip = window.studio, station.slip
    answer(station, "Cub")
    qtbot.waitUntil(slip.isVisible, timeout=60_000)
    cub = next(plan for plan in body_plans() if plan.figure.name == "Cub")
    seen = set(cub.figure.by_id) - {"foot"}  # the doll has none, where they would be seen
    assert studio.figure is not None and set(studio.figure.by_id) == seen
    assert slip.told.text().startswith("Like the body plan Cub. 7 to go")
    side = studio.survey.framing("side")
    assert side is not None and not studio.survey.traces
    # What is like none is drawn, with what was surely found drawn already.
    answer(station, None)
    qtbot.waitUntil(lambda: bool(station.findChildren(StrokesDialog)), timeout=60_000)
    (strokes,) = station.findChildren(StrokesDialog)
    assert {"Body", "Head"} <= {row.name for row in strokes.row}
    assert not any(character.isdigit() for row in strokes.row for character in row.name)
    strokes.reject()
    assert set(studio.figure.by_id) == seen


def test_rejected_part_goes_and_its_children_stay(
    doll: tuple[Window, MeasureStation], qtbot: QtBot
) -> None:
    window, station = doll
    studio, slip = window.studio, station.slip
    station.agreeing.propose(doll_plan())
    qtbot.waitUntil(slip.isVisible, timeout=60_000)
    head = next(part for part in studio.figure.parts if part.name == "Head")  # type: ignore[union-attr]
    while studio.selection.part != head.id:
        QTest.mouseClick(slip.take, LEFT)
    assert slip.parent_.currentText() == "Body" and not slip.pair.isChecked()
    before = studio.figure.by_id  # type: ignore[union-attr]
    QTest.mouseClick(slip.leave, LEFT)
    left = studio.figure.by_id  # type: ignore[union-attr]
    assert set(left) == set(before) - {head.id}
    assert {left[p.id].parent for p in before.values() if p.parent == head.id} <= {"body"}
    if slip.isVisible():
        QTest.keyClick(slip, Qt.Key.Key_Escape)  # what is left is taken as it is
    assert not slip.isVisible() and set(studio.figure.by_id) == set(left)  # type: ignore[union-attr]


def test_looking_for_parts_is_called_off_and_asks_for_picture(
    doll: tuple[Window, MeasureStation], qtbot: QtBot
) -> None:
    window, station = doll
    station.agreeing.propose()
    station.board.setFocus()
    QTest.keyClick(station.board, Qt.Key.Key_Escape)
    qtbot.waitUntil(lambda: station.sighting.is_idle, timeout=60_000)
    assert "cancelled" in window.message.text and len(window.studio.figure.parts) == 1  # type: ignore[union-attr]
    for view in ("front", "side"):
        station.board.turn_to(view)  # type: ignore[arg-type]
        station.pictures.take_away()
    station.agreeing.propose()
    assert "Load a picture" in window.message.text


def _over(station: MeasureStation, part: str, at: float, aside: float = 0.0) -> QPoint:
    """The place on the board of a part's axis, seen from the front, so many mm aside of it."""
    board = station.board
    figure = board.studio.figure
    assert figure is not None and board.lay is not None
    copy = place(figure).copies_of(part)[0]
    u, v = AXES["front"][:2] @ (copy.point(at) + board.origin)
    return board.lay.to_screen(float(u) + aside, float(v)).toPoint()


def test_strokes_join_and_cut_while_parts_are_agreed_with(
    doll: tuple[Window, MeasureStation], qtbot: QtBot
) -> None:
    window, station = doll
    studio, slip, board = window.studio, station.slip, station.board
    station.agreeing.propose()
    qtbot.waitUntil(slip.isVisible, timeout=60_000)
    board.turn_to("front")
    qtbot.waitUntil(lambda: board.part_at(QPointF(_over(station, "head", 0.5))) == "head")
    before = set(studio.figure.by_id)  # type: ignore[union-attr]
    assert station.line.regroups and "joins them" in station.steps.toolTip()
    start, end = _over(station, "body", 0.5, -60), _over(station, "body", 0.5, 60)
    QTest.mousePress(board, LEFT, pos=start)
    QTest.mouseMove(board, end)
    assert station.line.strokes is not None
    assert "cuts Body" in station.line.strokes.effect_words(
        *map(station.line.mm, map(QPointF, (start, end)))
    )
    QTest.mouseRelease(board, LEFT, pos=end)
    (new,) = set(studio.figure.by_id) - before  # type: ignore[union-attr]
    assert studio.selection.part == new and slip.isVisible()  # and is asked about
    assert slip.parent_.currentText() == "Body"
    # Back together, by keys.
    qtbot.waitUntil(lambda: board.part_at(QPointF(_over(station, new, 0.5))) == new)
    board.setFocus()
    for place_ in (_over(station, new, 0.5), _over(station, "body", 0.5)):
        station.line.pointer = station.line.mm(QPointF(place_))
        QTest.keyClick(board, Qt.Key.Key_Space)
    QTest.keyClick(board, Qt.Key.Key_Return)
    assert set(studio.figure.by_id) == before  # type: ignore[union-attr]
    # One from nowhere to nowhere does nothing, and says so.
    corner = QPoint(4, 4)
    QTest.mousePress(board, LEFT, pos=corner)
    QTest.mouseRelease(board, LEFT, pos=corner + QPoint(60, 0))
    assert "does neither" in window.message.text
    QTest.keyClick(slip, Qt.Key.Key_Escape)
    assert not station.line.regroups  # lines are drawn along parts again
    station.go_to_step(PARTS)
    QTest.mouseClick(station.chips.buttons["Join and cut"], LEFT)
    assert station.line.regroups


def test_line_across_part_is_ring_round_it(new_window: Callable[[], Window], qtbot: QtBot) -> None:
    window = new_window()
    studio, station = window.studio, window.measure_station
    studio.open_document(load_demo(HERON), None)
    window.go_to(MEASURE)
    station.go_to_step(PARTS)
    station.board.turn_to("front")
    station.line.for_new = True
    u, v = AXES["front"][:2] @ (
        place(studio.figure).copies_of("neck")[0].point(0.5) + station.board.origin  # type: ignore[arg-type]
    )
    station.line.draw([(float(u) - 18.0, float(v)), (float(u) + 18.0, float(v))])
    slip = station.slip
    assert slip.kind.currentText() == "a ring round it" and slip.parent_.currentText() == "Neck"
    slip.name.setEditText("Scarf")
    QTest.mouseClick(slip.take, LEFT)
    scarf = next(p for p in studio.figure.parts if p.name == "Scarf")  # type: ignore[union-attr]
    assert isinstance(scarf.shape, Rope) and scarf.shape.closed and scarf.garment
    assert scarf.parent == "neck" and 0.3 < scarf.seat.along < 0.7
    left, right = place(studio.figure).copies_of(scarf.id)[0].reaches(np.eye(3)[:1] * [[1], [-1]])  # type: ignore[arg-type]
    assert left + right == pytest.approx(36.0, abs=2)
    # Along a part it is none, and is not offered.
    station.line.for_new = True
    station.line.draw([(float(u), float(v)), (float(u), float(v) + 30.0)])
    assert slip.kind.findText("a ring round it") < 0


def test_names_stand_beside_picture_and_undo_keeps_buttons(
    doll: tuple[Window, MeasureStation], qtbot: QtBot
) -> None:
    window, station = doll
    station.agreeing.propose(doll_plan())
    qtbot.waitUntil(station.slip.isVisible, timeout=60_000)
    with painted_texts() as texts:
        station.board.grab()
    assert window.studio.figure is not None
    assert {part.name for part in window.studio.figure.parts} <= texts  # all at once
    window.studio.undo_stack.undo()
    assert not station.agreeing.asks and not station.slip.isVisible()
    hidden = [words for words, button in station.chips.buttons.items() if not button.isVisible()]
    assert hidden == [ONWARD[PARTS]]  # there is no shape to go on to
    station.agreeing.propose(doll_plan())
    qtbot.waitUntil(station.slip.isVisible, timeout=60_000)
    station.slip.take_rest()
    assert station.step == SHAPE  # a click picks a part


def test_proposal_of_former_figure_is_dropped(
    doll: tuple[Window, MeasureStation], qtbot: QtBot
) -> None:
    window, station = doll
    station.agreeing.propose(doll_plan())
    qtbot.waitUntil(station.slip.isVisible, timeout=60_000)
    window.studio.open_document(load_demo(HERON), None)
    assert not station.agreeing.asks and not station.slip.isVisible()
    assert not station.line.regroups  # lines are drawn again
