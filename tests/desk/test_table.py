from __future__ import annotations

import math

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QImage
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QLineEdit,
    QPushButton,
    QSpinBox,
    QToolButton,
    QVBoxLayout,
    QWidget,
)
from pytestqt.qtbot import QtBot

from bambola.core.bench import Bench
from bambola.core.figure import Document, Figure
from bambola.core.plan import Plan, make_plan
from bambola.core.relief import Camera
from bambola.core.solids import place
from bambola.desk.kit.theme import DARK, LIGHT, Dyes, Theme
from bambola.desk.kit.views import extent_in_view
from bambola.desk.stations.resize.layout import NEW, OLD, TableLayout, lay_out, part_dimensions
from tests.figures import arm_on_post

SIZES = [(480, 330), (760, 480), (870, 560), (1500, 860), (3400, 1800)]
CAMERAS = [Camera(), Camera(turn=90), Camera(turn=200, tip=10), Camera(tip=90)]


def layout_of(
    plan: Plan,
    figure: Figure,
    size: tuple[int, int],
    camera: Camera,
    scale: float = 1.0,
    least: float = 0.0,
) -> TableLayout:
    theme = Theme()
    theme.scale = scale
    placements = {OLD: place(figure), NEW: plan.solids.placement}
    extents = {name: extent_in_view(placement, camera) for name, placement in placements.items()}
    heights = {name: placement.height for name, placement in placements.items()}
    return lay_out(theme, size, camera, heights, extents, least)


@pytest.mark.parametrize("size", SIZES)
@pytest.mark.parametrize("camera", CAMERAS)
@pytest.mark.parametrize("height", [60.0, 140.0, 220.0, 800.0])
def test_both_figures_stand_whole_and_apart_at_one_scale(
    bench: Bench, badger: Document, size: tuple[int, int], camera: Camera, height: float
) -> None:
    plan = make_plan(badger.figure, badger.brief.at_height(height), bench)
    layout = layout_of(plan, badger.figure, size, camera)
    sides = {
        name: (spot.axis + spot.left * layout.mm_px, spot.axis + spot.right * layout.mm_px)
        for name, spot in layout.spots.items()
    }
    widths = {name: right - left for name, (left, right) in sides.items()}
    assert widths[NEW] / widths[OLD] == pytest.approx(height / 140.0, rel=1e-4)
    assert layout.tape.right() < sides[OLD][0] and sides[OLD][1] < sides[NEW][0]
    assert sides[NEW][1] <= size[0]
    assert layout.y_of(max(height, 140.0)) >= layout.tape.top() - 0.5
    assert layout.ground_y < size[1]


@pytest.mark.parametrize("scale", [1.0, 1.5, 2.0])
def test_flag_stands_at_its_height_and_reads_back(
    bench: Bench, badger: Document, scale: float
) -> None:
    plan = make_plan(badger.figure, badger.brief, bench)
    layout = layout_of(plan, badger.figure, (1200, 700), Camera(), scale)
    for mm in (0.0, 75.0, 220.0):
        assert layout.mm_at(layout.y_of(mm)) == pytest.approx(mm)
        assert layout.flag(mm).center().y() == pytest.approx(layout.y_of(mm))
    assert layout.flag(0).left() > layout.tape.right()


def test_scale_stays_while_flag_is_pulled_down(bench: Bench, badger: Document) -> None:
    at = {h: make_plan(badger.figure, badger.brief.at_height(h), bench) for h in (220.0, 150.0)}
    before = layout_of(at[220.0], badger.figure, (900, 560), Camera())
    held = layout_of(at[150.0], badger.figure, (900, 560), Camera(), least=before.range_mm)
    free = layout_of(at[150.0], badger.figure, (900, 560), Camera())
    assert held.mm_px == pytest.approx(before.mm_px) and free.mm_px > held.mm_px


@pytest.mark.parametrize("part", ["head", "body", "foot", "paw", "nose", "cape"])
@pytest.mark.parametrize("camera", CAMERAS)
def test_dimension_line_is_as_long_as_it_says(
    bench: Bench, badger: Document, part: str, camera: Camera
) -> None:
    placement = make_plan(badger.figure, badger.brief, bench).solids.placement
    measures = placement.copies_of(part)[0].shape.measures()
    for line in part_dimensions(placement, part, camera):
        seen = math.dist(line.start, line.end)
        assert line.mm == pytest.approx(measures[line.measure])
        # Never longer than it is, and hardly foreshortened.
        assert 0.7 * line.mm < seen <= line.mm * 1.001
        assert line.clear >= 0


def test_measure_seen_end_on_has_no_line() -> None:
    placement = place(arm_on_post())
    front = {line.measure for line in part_dimensions(placement, "arm", Camera())}
    side = {line.measure for line in part_dimensions(placement, "arm", Camera(turn=90))}
    assert "length" in front and "length" not in side


def test_line_that_would_cross_other_parts_lies_on_its_own(bench: Bench, badger: Document) -> None:
    placement = make_plan(badger.figure, badger.brief, bench).solids.placement
    lines = {line.measure: line for line in part_dimensions(placement, "body", Camera())}
    assert lines["width"].across and not lines["height"].across
    head = {line.measure: line for line in part_dimensions(placement, "head", Camera())}
    assert not head["width"].across


def luminance(colour: QColor) -> float:
    def linear(value: float) -> float:
        return value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4

    red, green, blue, _ = colour.getRgbF()
    return 0.2126 * linear(red or 0) + 0.7152 * linear(green or 0) + 0.0722 * linear(blue or 0)


def contrast(a: QColor, b: QColor) -> float:
    light, dark = sorted((luminance(a), luminance(b)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("dyes", [LIGHT, DARK], ids=["light", "dark"])
@pytest.mark.parametrize(
    ("text", "ground"),
    [
        ("ink", "ground"),
        ("quiet", "ground"),
        ("madder", "ground"),
        ("woad", "ground"),
        ("ink", "paper"),
        ("quiet", "paper"),
        ("madder", "paper"),
        ("woad", "paper"),
        ("ink", "slip"),
        ("madder", "slip"),
        ("on_dye", "madder"),
        ("on_dye", "woad"),
        ("tape_ink", "tape"),
        ("lichen", "ground"),
        ("lichen", "paper"),
    ],
)
def test_text_stands_out_from_its_ground(dyes: Dyes, text: str, ground: str) -> None:
    assert contrast(getattr(dyes, text), getattr(dyes, ground)) >= 4.5


def greys(room: QWidget, widget: QWidget) -> np.ndarray:
    """How light (0 to 1) a widget is, pixel by pixel (rows, columns)."""
    image = room.grab(widget.geometry()).toImage().convertToFormat(QImage.Format.Format_Grayscale8)
    bits = image.constBits()
    assert bits is not None
    bits.setsize(image.sizeInBytes())
    rows = np.frombuffer(bits, np.uint8).reshape(image.height(), image.bytesPerLine())  # type: ignore[call-overload]
    return rows[:, : image.width()] / 255.0


@pytest.mark.parametrize("dyes", [LIGHT, DARK], ids=["light", "dark"])
def test_focus_and_signs_are_visible_without_colour(dyes: Dyes, qtbot: QtBot) -> None:
    for seen in (dyes.rim, dyes.weld, dyes.ink):
        assert min(contrast(seen, at) for at in (dyes.ground, dyes.paper, dyes.slip)) >= 3.0
    theme = Theme()
    theme.set(dark=dyes is DARK)
    room = QWidget()
    room.setStyleSheet(theme.sheet)
    qtbot.addWidget(room)
    column = QVBoxLayout(room)
    kinds = (QPushButton, QToolButton, QLineEdit, QComboBox, QSpinBox, QCheckBox)
    widgets: list[QWidget] = [kind() for kind in kinds]
    for widget in widgets:
        widget.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        column.addWidget(widget)
    room.show()
    qtbot.waitExposed(room)
    for widget, other in zip(widgets, widgets[1:] + widgets[:1], strict=True):
        seen_as = []
        for focused in (other, widget):
            focused.setFocus()
            qtbot.waitUntil(focused.hasFocus)
            seen_as.append(greys(room, widget))
        # Not by its caret alone: all along its edge it is another.
        assert (np.abs(seen_as[0] - seen_as[1]) > 0.2).mean() > 0.02, type(widget).__name__
