"""Hold it here: outlines on the glass at true size, by keys alone."""

from __future__ import annotations

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor
from pytestqt.qtbot import QtBot

from bambola.desk.kit.hold_view import HoldView
from bambola.desk.shell.window import Window


@pytest.fixture
def view(window: Window, qtbot: QtBot) -> HoldView:
    window.true_size.measured(window, 4.0)
    made = HoldView(window, window.studio, window.theme, window.true_size, "head")
    made.resize(1200, 900)
    made.grid = False
    made.show()
    return made


def dark_box(view: HoldView) -> tuple[int, int, int, int]:
    """Left, top, right, low of what is drawn dark in the middle of the glass, px."""
    image = view.grab().toImage()
    w, h = image.width(), image.height()
    dark = [
        (x, y)
        for y in range(60, h - 60)
        for x in range(w)
        if QColor(image.pixel(x, y)).lightness() < 90
    ]
    xs, ys = (np.array(v) for v in zip(*dark, strict=True))
    return int(xs.min()), int(ys.min()), int(xs.max()), int(ys.max())


def test_a_part_is_as_large_on_the_glass_as_it_will_be(view: HoldView, window: Window) -> None:
    plan = window.studio.plan
    assert plan is not None
    left, top, right, low = dark_box(view)
    pen = window.theme.px(4)
    sizes = plan.part("head").to_mm
    assert (right - left - pen) / view.px_per_mm == pytest.approx(sizes["width"], abs=1.0)
    assert (low - top - pen) / view.px_per_mm == pytest.approx(sizes["height"], abs=1.0)


def test_keys_turn_it_swap_the_ground_and_move_it(view: HoldView, qtbot: QtBot) -> None:
    first = view.told()
    qtbot.keyClick(view, Qt.Key.Key_V)
    assert "left side" in view.told() and view.told() != first
    qtbot.keyClick(view, Qt.Key.Key_F)
    assert "Lamplighter badger" in view.told() and "220 mm high" not in first
    qtbot.keyClick(view, Qt.Key.Key_B)
    assert QColor(view.grab().toImage().pixel(5, 300)).lightness() < 60
    qtbot.keyClick(view, Qt.Key.Key_Down)
    assert view.shift.y() > 0
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert view.shift.isNull()
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert not view.isVisible()
