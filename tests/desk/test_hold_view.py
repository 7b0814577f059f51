"""Hold it here: outlines on the glass at true size, by keys alone."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QColor, QWheelEvent
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.methods import card_for
from bambola.core.quantities import Units
from bambola.desk.kit.hold_view import HoldView
from bambola.desk.shell.stations import FACE, MEASURE, ORDER, RESIZE, WIRE, WOOL
from bambola.desk.shell.window import Window
from bambola.desk.stations.face.station import FaceStation
from bambola.desk.stations.menus import RULER


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


def test_part_is_as_large_on_glass_as_it_will_be(view: HoldView, window: Window) -> None:
    plan = window.studio.plan
    assert plan is not None
    left, top, right, low = dark_box(view)
    pen = window.theme.px(4)
    sizes = plan.part("head").to_mm
    assert (right - left - pen) / view.px_per_mm == pytest.approx(sizes["width"], abs=1.0)
    assert (low - top - pen) / view.px_per_mm == pytest.approx(sizes["height"], abs=1.0)


def test_template_shows_core_at_size_of_round(window: Window, qtbot: QtBot) -> None:
    window.true_size.measured(window, 4.0)
    window.studio.set_height(300.0)  # a head of two rounds
    plan = window.studio.plan
    assert plan is not None
    seen = {}
    for key in ("core:head:1", "core:head:2", "coat:head"):
        shown = HoldView(window, window.studio, window.theme, window.true_size, "head", key)
        wide, high = np.ptp(np.vstack(shown.runs()), axis=0)
        seen[key] = (wide, high)
        if key.startswith("core"):
            card = card_for(plan, next(s for s in plan.steps if s.key == key), window.studio.bench)
            assert (wide, high) == pytest.approx(
                (card.sizes["width"], card.sizes["length"]), abs=0.5
            )
            assert "round" in shown.describe()
        else:
            assert shown.describe().startswith("Head, front")
    coat = plan.part("head").to_mm
    assert seen["coat:head"] == pytest.approx((coat["width"], coat["height"]), abs=0.5)
    # A round is as much smaller in every way; the last leaves room for the coat and for what is sunk.
    assert seen["core:head:1"][0] < 0.85 * seen["core:head:2"][0] < 0.85 * seen["coat:head"][0]


def test_grid_is_of_makers_units(view: HoldView, window: Window) -> None:
    def lines() -> int:
        view.grid = True
        image = view.grab().toImage()
        row = [QColor(image.pixel(x, 70)).lightness() for x in range(image.width())]
        return sum(a > 245 > b for a, b in itertools.pairwise(row))

    metric = lines()
    window.studio.set_units(Units("in", "oz"))
    assert metric == pytest.approx(view.width() / 4.0 / 10.0, abs=1.5)
    assert lines() == pytest.approx(view.width() / 4.0 / 12.7, abs=1.5)


def test_keys_turn_it_swap_ground_and_move_it(view: HoldView, qtbot: QtBot) -> None:
    first = view.describe()
    qtbot.keyClick(view, Qt.Key.Key_V)
    assert "left side" in view.describe() and view.describe() != first
    qtbot.keyClick(view, Qt.Key.Key_F)
    assert "Lamplighter badger" in view.describe() and "220 mm high" not in first
    qtbot.keyClick(view, Qt.Key.Key_B)
    assert QColor(view.grab().toImage().pixel(5, 300)).lightness() < 60
    qtbot.keyClick(view, Qt.Key.Key_Down)
    assert view.shift.y() > 0
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert view.shift.isNull()
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert not view.isVisible()


def turn_wheel(view: QWidget, up: bool) -> None:
    """Ctrl and the wheel, over the middle of a view."""
    at = QPointF(view.rect().center())
    turned = QWheelEvent(
        at, view.mapToGlobal(at), QPoint(), QPoint(0, 120 if up else -120), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.ControlModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(view, turned)


def test_ctrl_wheel_switches_to_true_size(
    window: Window,
) -> None:
    window.go_to(FACE)
    face = window.pages[FACE]
    assert isinstance(face, FaceStation)
    turn_wheel(face.strips, up=True)
    assert face.strips.at_true_size and face.one_to_one.isChecked()
    turn_wheel(face.strips, up=False)
    assert not face.strips.at_true_size
    window.go_to(WIRE)
    window.wire_station.show_face(RULER)
    turn_wheel(window.wire_station.ruler.rulers, up=True)
    assert window.wire_station.ruler.rulers.true_size
    window.go_to(WOOL)
    window.true_size.measured(window, 4.0)
    cloth = window.wool_station.table.cloth
    turn_wheel(cloth.viewport() or cloth, up=True)
    assert cloth.at_true_size and cloth.scale == pytest.approx(4.0)
    window.actions_["true_size"].trigger()
    assert not cloth.at_true_size


@pytest.mark.parametrize("station", [MEASURE, RESIZE, ORDER])
def test_elsewhere_it_puts_part_on_glass_and_takes_it_off(
    station: int, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    shown: list[HoldView] = []

    def opened(view: HoldView) -> int:
        shown.append(view)
        view.show()
        return 0

    monkeypatch.setattr(HoldView, "exec", opened)
    window.go_to(station)
    views = {
        MEASURE: lambda: window.measure_station.board,
        RESIZE: lambda: window.resize_station.table,
        ORDER: lambda: window.order_station.picture,
    }
    turn_wheel(views[station](), up=True)
    turn_wheel(views[station](), up=False)
    assert len(shown) == 1 and shown[0].isVisible()
    turn_wheel(shown[0], up=False)
    assert not shown[0].isVisible()
    window.actions_["true_size"].trigger()
    assert len(shown) == 2
    shown[1].reject()


def test_part_that_is_gone_is_not_held_and_figure_is(window: Window) -> None:
    """The step in hand was of a wing when another figure was laid on the table: a traceback."""
    shown = HoldView(window, window.studio, window.theme, window.true_size, "wing", "core:wing:1")
    assert shown.whole and shown.runs() and shown.describe().startswith("Lamplighter badger")
