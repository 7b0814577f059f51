"""One stroke for each part, in the real window: by mouse and by keys, on pictures that were drawn for it."""

from __future__ import annotations

from pathlib import Path

import cv2
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from bambola.core.figure.survey import Sight
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure import agreeing
from bambola.desk.stations.measure.strokes_dialog import StrokesDialog
from tests.core.test_strokes import STROKES, TALL, render, strokes

VIEWS: tuple[Sight, ...] = ("front", "side")


@pytest.fixture
def dialog(window: Window, qtbot: QtBot, tmp_path: Path) -> StrokesDialog:
    pictures: dict[Sight, Path] = {}
    for view in VIEWS:
        pictures[view] = tmp_path / f"{view}.png"
        cv2.imwrite(str(pictures[view]), render(view, False)[..., ::-1])
    window.start_with_pictures(pictures, TALL)
    sighting = window.measure_station.sighting
    qtbot.waitUntil(lambda: len(sighting.laid) == 2 and sighting.is_idle, timeout=30_000)
    box = StrokesDialog(window, window.studio, window.theme, sighting, [])
    qtbot.addWidget(box)
    box.show()
    return box


def draw(box: StrokesDialog, view: Sight, points: list[tuple[float, float]]) -> None:
    """Draw a line by mouse, from end to end."""
    picture = box.pictures[view]
    start, end = (picture.to_screen(*point).toPoint() for point in (points[0], points[-1]))
    QTest.mousePress(picture, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(picture, end)
    QTest.mouseRelease(picture, Qt.MouseButton.LeftButton, pos=end)


def test_strokes_by_mouse_make_figure(dialog: StrokesDialog, qtbot: QtBot) -> None:
    names = list(dict.fromkeys(name for _, name, _ in STROKES))
    assert "Name a part" in dialog.headline.text() and not dialog.take.isEnabled()
    dialog.name.setText(", ".join(names))
    qtbot.keyClick(dialog.name, Qt.Key.Key_Return)
    assert [each.name for each in dialog.row] == names
    drawn = strokes(0.0, False)
    for stroke in {s.name: s for s in reversed(drawn)}.values():
        dialog.go_to(names.index(stroke.name))
        draw(dialog, stroke.view, list(stroke.points))
    qtbot.waitUntil(lambda: dialog._background.is_idle, timeout=60_000)
    again = [(each.name, each.view) for each in dialog.row if each.is_second]
    assert ("Body", "side") in again and ("Ear", "side") not in again  # only what much wool is in
    assert "looking to the right" in dialog._under["side"].text()
    for stroke in drawn:
        current = dialog.current
        if current is not None and (stroke.name, stroke.view) == (current.name, current.view):
            draw(dialog, stroke.view, list(stroke.points))
    qtbot.waitUntil(lambda: dialog._background.is_idle, timeout=60_000)
    dialog.take.click()
    qtbot.waitUntil(lambda: not dialog.isVisible(), timeout=60_000)
    assert dialog.found is not None
    parts = {part.name: part for part in dialog.found.figure.parts}
    assert parts.keys() == set(names) and parts["Ear"].pair and not parts["Tail"].pair
    assert parts["Body"].shape.measures()["width"] == pytest.approx(58, rel=0.06)


def test_strokes_by_keys_alone(dialog: StrokesDialog, qtbot: QtBot) -> None:
    dialog.name.setText("body, head")
    qtbot.keyClick(dialog.name, Qt.Key.Key_Return)
    picture = dialog.pictures["front"]
    qtbot.keyClick(picture, Qt.Key.Key_Space)
    for _ in range(12):
        qtbot.keyClick(picture, Qt.Key.Key_Up)
    qtbot.keyClick(picture, Qt.Key.Key_Return)
    assert len(dialog.row[0].strokes) == 1 and dialog.current is dialog.row[1]
    (x, low), (_, high) = dialog.row[0].strokes[0].points
    assert high < low and x == pytest.approx(picture._pixmap.width() / 2, abs=3)
    qtbot.keyClick(picture, Qt.Key.Key_S)
    assert dialog.current is None and dialog.row[1].is_skipped
    qtbot.keyClick(picture, Qt.Key.Key_Backspace)
    assert dialog.current is dialog.row[1]
    qtbot.keyClick(picture, Qt.Key.Key_Space)
    qtbot.keyClick(picture, Qt.Key.Key_Escape)  # forgets the line, and nothing else
    assert dialog.isVisible() and not picture._begun
    dialog.take.setFocus()
    qtbot.keyClick(dialog.take, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: not dialog.isVisible(), timeout=60_000)
    assert dialog.found is not None and len(dialog.found.figure.parts) == 1


def test_proposal_like_no_plan_goes_to_strokes(
    dialog: StrokesDialog, window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Parts are never called by a number: what has no name is asked for, and drawn."""
    dialog.done(0)
    station = window.measure_station
    monkeypatch.setattr(agreeing, "body_plans", list)
    station.agreeing.propose()
    qtbot.waitUntil(lambda: bool(station.findChildren(StrokesDialog)), timeout=60_000)
    (box,) = station.findChildren(StrokesDialog)
    assert not any(each.name.startswith("Part") for each in box.row)
    box.reject()
    assert window.studio.figure is not None and len(window.studio.figure.parts) == 1
    assert "like none" in window.message.text
