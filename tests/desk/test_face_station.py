"""The station Face: pins by hand and by keys, marks typed as a strip reads them, level or not."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QInputDialog
from pytestqt.qtbot import QtBot

from bambola.core.export import together_sheets
from bambola.core.face import faces_of, over_surface
from bambola.core.solids.forms import seat_point
from bambola.demo import TOAD
from bambola.desk.kit import together_dialog
from bambola.desk.shell.stations import FACE
from bambola.desk.shell.window import Window
from bambola.desk.stations.face.station import FaceStation


@pytest.fixture
def page(window: Window) -> FaceStation:
    window.go_to(FACE)
    found = window.pages[FACE]
    assert isinstance(found, FaceStation)
    return found


def eye(page: FaceStation) -> tuple[float, float]:
    mark = next(m for m in page.heads.marks if m.id == "eye:eye")
    return mark.from_crown_mm, mark.from_midline_mm


def test_pin_is_pulled_and_eyes_follow_on_both_heads(page: FaceStation, qtbot: QtBot) -> None:
    heads, studio = page.heads, page.studio
    heads.select_mark("eye:eye")
    shown = heads._make_shown_head("face-new")
    assert shown is not None and heads.in_hand is not None
    before = eye(page)
    start = heads._mark_spot(shown, heads.in_hand)[0].toPoint()
    end = start + QPoint(0, 14)
    qtbot.mousePress(heads, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(heads, end)
    heads._drag_mark(end.toPointF())
    qtbot.mouseRelease(heads, Qt.MouseButton.LeftButton, pos=end)
    down, aside = eye(page)
    # Fourteen pixels down the front of the head is somewhat more over its round.
    assert before[0] + 14 / shown.per_mm * 0.9 < down < before[0] + 14 / shown.per_mm * 1.5
    assert aside == pytest.approx(before[1], abs=2.0)
    studio.undo_stack.undo()
    assert eye(page) == pytest.approx(before)


def test_of_pair_one_that_is_marked_is_shown(window: Window, page: FaceStation) -> None:
    """A toad's eyes sit on its brows: beside each other both would run out of the picture."""
    window.open_demo(TOAD)
    page.heads.part = "brow"
    for name in ("face-old", "face-new"):
        shown = page.heads._make_shown_head(name)
        assert shown is not None
        assert [(c.part.id, c.side) for c in shown.placement.copies] == [
            ("brow", "left"), ("eye", "left"),
        ]  # fmt: skip


def test_keys_go_from_pin_to_pin_and_move_them(page: FaceStation, qtbot: QtBot) -> None:
    heads = page.heads
    heads.setFocus()
    first = heads.in_hand
    qtbot.keyClick(heads, Qt.Key.Key_Space)
    assert first is not None and heads.in_hand is not None and heads.in_hand.id != first.id
    heads.select_mark("eye:eye")
    before = eye(page)
    for _ in range(3):
        qtbot.keyClick(heads, Qt.Key.Key_Up)
    assert eye(page)[0] < before[0]
    qtbot.keyClick(heads, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert eye(page)[1] > before[1]
    assert page.card.list.currentItem().text().startswith("Eyes")  # type: ignore[union-attr]


def test_strip_readings_are_typed_or_refused(page: FaceStation, qtbot: QtBot) -> None:
    heads, card = page.heads, page.card
    heads.select_mark("eye:eye")
    heard: list[str] = []
    page.studio.refused.connect(heard.append)
    card.down.setText("50 mm")
    card.aside.setText("21 mm")
    card.down.editingFinished.emit()
    assert eye(page) == pytest.approx((50.0, 21.0), abs=0.3) and not heard
    plan = page.studio.plan
    assert plan is not None
    head = plan.resized.figure.by_id["head"].shape
    seat = next(f.seat for f in plan.resized.figure.fittings if f.id == "eye")
    crown = over_surface(head, [((1.0, 0.0), (seat.along, seat.around))])[0]
    assert crown == pytest.approx(50.0, abs=0.3)
    card.down.setText("900 mm")
    card.down.editingFinished.emit()
    assert len(heard) == 1 and "900 mm from the crown" in heard[0]


def test_two_readings_say_whether_it_is_level(page: FaceStation) -> None:
    card = page.card
    for left, right, told in (
        ("31", "31.5", "Level"), ("31", "35", "The right one sits 4 mm"), ("x", "3", "Type both"),
    ):  # fmt: skip
        card.left.setText(left)
        card.right.setText(right)
        assert card.level.text().startswith(told)


def test_figure_without_marks_says_where_they_are_set(window: Window, page: FaceStation) -> None:
    window.open_demo(TOAD)
    assert page.heads.describe().startswith("Mouth line") or page.heads.face is not None
    figure = window.studio.figure
    assert figure is not None
    bare = figure.replaced(marks=(), parts=tuple(p.replaced(face=False) for p in figure.parts))
    window.studio.edit("bare", bare)
    assert page.heads.face is None and page.heads.describe() == "Nothing is marked on a face."


def test_expression_pose_and_variants_are_chosen_kept_and_undone(
    page: FaceStation, monkeypatch: pytest.MonkeyPatch
) -> None:
    looks, studio = page.looks, page.studio
    before = studio.plan
    assert before is not None
    looks.expression.setCurrentIndex(looks.expression.findData("sad"))
    looks.expression.activated.emit(looks.expression.currentIndex())
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("The sad one", True))
    looks.keep.click()
    assert studio.brief.variant == "The sad one" and looks.variant.count() == 2
    looks.pose.setCurrentIndex(looks.pose.findData("sitting"))
    looks.pose.activated.emit(looks.pose.currentIndex())
    assert studio.plan is not None and studio.plan.resized.figure.stance == "sitting"
    assert studio.figure is not None and studio.figure.stance == "standing"
    looks.variant.setCurrentIndex(looks.variant.findData("The sad one"))
    looks.variant.activated.emit(looks.variant.currentIndex())
    assert studio.plan.resized.figure.stance == "standing"
    looks.drop.click()
    assert studio.brief.variants == () and not looks.variant.isVisible()
    while studio.undo_stack.canUndo():
        studio.undo_stack.undo()
    assert studio.plan is before


def test_variant_lies_beside_one_in_hand(page: FaceStation) -> None:
    studio, looks = page.studio, page.looks
    assert not looks.beside.isVisible()
    looks.expression.setCurrentIndex(looks.expression.findData("sad"))
    looks.expression.activated.emit(looks.expression.currentIndex())
    studio.keep_variant("The sad one")
    made = {m.id: m for f in faces_of(studio.placement_as_made()) for m in f.marks}
    studio.take_variant("")
    looks.beside.setCurrentIndex(looks.beside.findData("The sad one"))
    looks.beside.activated.emit(looks.beside.currentIndex())
    assert page.heads.beside == "The sad one" and looks.beside.isVisible()
    beside = {m.id: m for f in faces_of(page.heads._placement_beside()) for m in f.marks}
    lower = [
        beside[k].from_crown_mm - made[k].from_crown_mm for k in made if made[k].kind == "fitting"
    ]
    assert lower and min(lower) > 0.1  # the sad one has its eyes lower down
    studio.drop_variant("The sad one")
    assert not looks.beside.isVisible() and page.heads._words_beside() == "as made"


def test_one_key_corrects_face_for_its_size(page: FaceStation, qtbot: QtBot) -> None:
    studio = page.studio
    studio.set_height(60.0)
    page.heads.setFocus()
    plain = next(f for f in studio.plan.fittings if f.id == "eye").wanted_mm  # type: ignore[union-attr]
    assert page.card.advice.text().startswith("A small face says less")
    qtbot.keyClick(page.heads, Qt.Key.Key_C)
    larger = next(f for f in studio.plan.fittings if f.id == "eye").wanted_mm  # type: ignore[union-attr]
    assert larger > 1.05 * plain and page.looks.corrected.isChecked()
    qtbot.mouseClick(page.looks.corrected, Qt.MouseButton.LeftButton)
    assert not studio.brief.corrected and not page.looks.corrected.isChecked()
    studio.undo_stack.undo()
    assert studio.brief.corrected


def test_variants_are_made_together_and_put_on_paper(
    page: FaceStation, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    studio, looks = page.studio, page.looks
    assert not looks.together.isVisible()
    looks.expression.setCurrentIndex(2)
    looks.expression.activated.emit(2)
    studio.keep_variant("Sad")
    monkeypatch.setattr(together_sheets, "SPLIT_S", 0.2)
    shown: list[together_dialog.TogetherDialog] = []
    monkeypatch.setattr(together_dialog.TogetherDialog, "exec", lambda self: shown.append(self))
    page.heads.setFocus()
    qtbot.keyClick(page.heads, Qt.Key.Key_M)
    (dialog,) = shown
    assert [name for name, *_ in dialog.ticked_choices] == [
        "",
        "Sad",
    ] and looks.together.isVisible()
    qtbot.waitUntil(dialog.save.isEnabled, timeout=60_000)
    assert "for all at once" in dialog.told.text() and dialog.view.sheets.pageCount() >= 3
    assert dialog.save_to(tmp_path / "both.pdf")
    assert not dialog.save_to(tmp_path / "nowhere" / "both.pdf") and "nowhere" in dialog.told.text()
    for row in range(2):
        dialog.figures.item(row).setCheckState(Qt.CheckState.Unchecked)  # type: ignore[union-attr]
    assert dialog.told.text().startswith("Tick at least") and not dialog.save.isEnabled()
    dialog.reject()


def test_caliper_sets_mark_straight_from_crown_or_between_two(
    page: FaceStation, qtbot: QtBot
) -> None:
    heads, card = page.heads, page.card
    heads.select_mark("eye:eye")
    before = eye(page)

    def points() -> list[np.ndarray]:
        plan = page.studio.plan
        assert plan is not None
        face = next(f for f in plan.faces if f.part == "head")
        mark = next(m for m in face.marks if m.id == "eye:eye")
        shape = plan.resized.figure.by_id["head"].shape
        places = (face.crown, (mark.along, mark.around), (mark.along, -mark.around))
        return [seat_point(shape, *place, 1.0) for place in places]

    card.down.setFocus()
    card.caliper.link.reading.emit(52.0)
    crown, left, right = points()
    assert np.linalg.norm(left - crown) == pytest.approx(52.0, abs=0.3)
    assert eye(page)[1] == pytest.approx(before[1], abs=0.3) and eye(page)[0] != before[0]
    down = eye(page)[0]
    card.aside.setFocus()
    card.caliper.link.reading.emit(40.0)
    crown, left, right = points()
    assert np.linalg.norm(left - right) == pytest.approx(40.0, abs=0.6)
    assert eye(page)[0] == pytest.approx(down, abs=0.3)
    heard: list[str] = []
    page.studio.refused.connect(heard.append)
    card.caliper.link.reading.emit(700.0)
    assert len(heard) == 1 and "700 mm does not reach any place" in heard[0]
    page.studio.undo_stack.undo()
    page.studio.undo_stack.undo()
    assert eye(page) == pytest.approx(before)
