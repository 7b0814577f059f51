"""Small widgets of the kit, by themselves."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QSettings
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtWidgets import QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.quantities import Units, parse_length
from bambola.core.relief import bundle_picture
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.painters.wool import paint_bundle
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.true_size import ScreenDialog, TrueSize
from bambola.desk.session.settings import Settings
from bambola.desk.shell.for_others import ForOthers
from bambola.desk.stations.order.make_page import ButtonRow


@pytest.fixture
def settings(tmp_path: Path, qtbot: QtBot) -> Settings:
    return Settings(QSettings(str(tmp_path / "kept.ini"), QSettings.Format.IniFormat))


def test_button_row_shortens_and_restores_texts(qtbot: QtBot) -> None:
    first, other, third = QPushButton("Done"), QPushButton(), QPushButton("Leave")
    row = ButtonRow(first, other, third)
    qtbot.addWidget(row)
    row.set_text(other, "Something that takes a great deal of room", "Short")
    row.resize(900, 40)
    row.show()
    qtbot.waitUntil(lambda: other.text().startswith("Something"))
    needs = first.sizeHint().width() + other.sizeHint().width() + third.sizeHint().width()
    row.resize(needs - 40, 40)
    qtbot.waitUntil(lambda: other.text() == "Short")
    # Whoever hears it, or lays the pointer on it, is told all.
    assert other.accessibleName() == other.toolTip() == "Something that takes a great deal of room"
    assert (first.text(), third.text()) == ("Done", "Leave")
    third.hide()
    row.fit()
    assert other.text().startswith("Something")  # what is hidden takes no room
    row.set_text(other, "Anything else that is as long as it was before", "Else")
    third.show()
    row.resize(200, 40)
    qtbot.waitUntil(lambda: other.text() == "Else")
    row.resize(2000, 40)
    qtbot.waitUntil(lambda: other.text().startswith("Anything"))
    qtbot.waitUntil(lambda: first.width() > other.width())  # the first takes what is left


def test_what_flows_goes_on_in_next_line(qtbot: QtBot) -> None:
    box = QWidget()
    qtbot.addWidget(box)
    flow = FlowLayout(box)
    labels = [QLabel(f"number {n}") for n in range(9)]
    for label in labels:
        label.setFixedSize(80, 20)
        flow.addWidget(label)
    tops: dict[int, set[int]] = {}
    for wide in (1000, 300):
        box.resize(wide, 400)
        box.show()
        qtbot.waitUntil(lambda wide=wide: box.width() == wide)
        flow.activate()
        tops[wide] = {label.y() for label in labels}
        assert all(label.x() + label.width() <= wide for label in labels)
        corners = {(label.x(), label.y()) for label in labels}
        assert len(corners) == len(labels)  # none lies on another
    assert len(tops[1000]) == 1 and len(tops[300]) >= 3
    assert flow.heightForWidth(300) > flow.heightForWidth(1000)


@pytest.mark.parametrize(
    ("units", "told", "mm"),
    [
        (Units("mm", "g"), "100 mm", 100.0),
        (Units("cm", "g"), "10 cm", 100.0),
        (Units("in", "oz"), "4 in", 101.6),
    ],
)
def test_ruler_held_against_screen_is_of_makers_units(
    units: Units, told: str, mm: float, settings: Settings, qtbot: QtBot
) -> None:
    settings.units = units
    size, parent = TrueSize(settings), QWidget()
    qtbot.addWidget(parent)
    parent.show()
    dialog = ScreenDialog(parent, Theme(), size)
    qtbot.addWidget(dialog)
    assert told in dialog.with_ruler.text()
    assert "bank card" in dialog.told.text() and told not in dialog.told.text()
    dialog.with_ruler.click()
    assert told in dialog.told.text() and "card" not in dialog.told.text()
    held = dialog.held
    held.pull_to(20 + 3.5 * mm)  # so many pixels a millimetre
    assert held.scale == pytest.approx(3.5)
    dialog.accept()
    assert size.px_per_mm(parent) == pytest.approx(3.5) and size.is_measured(parent)


@pytest.mark.parametrize("units", [Units("mm", "g"), Units("cm", "g"), Units("in", "oz")])
def test_heights_for_others_are_shown_as_maker_writes_them(
    units: Units, settings: Settings, qtbot: QtBot
) -> None:
    settings.units = units
    others = ForOthers(settings)
    qtbot.addWidget(others)
    shown = others.heights.placeholderText().split("; ")
    assert len(shown) == 2 and all(units.length in text for text in shown)
    mm = [parse_length(text, units.length) for text in shown]
    assert mm[0] == pytest.approx(180, abs=3) and mm[1] == pytest.approx(300, abs=5)
    assert not any("/" in text or "." in text for text in shown)  # round numbers


def test_loose_wool_looks_larger_and_softer(qtbot: QtBot) -> None:
    loose, felted = (
        bundle_picture("#8A5A3C", is_loose).astype(float) for is_loose in (True, False)
    )
    for picture in (loose, felted):
        assert (
            picture[110, 110, 3] == 255 and picture[0, 0, 3] == 0
        )  # full in the middle, nothing in the corner
        red, green, blue = picture[..., :3][picture[..., 3] > 200].mean(axis=0)
        assert red > green > blue  # of its colour
        # Light comes from the upper left.
        assert picture[60, 60, :3].mean() > picture[160, 160, :3].mean()
    soft, sharp = (((p[..., 3] > 20) & (p[..., 3] < 235)).sum() for p in (loose, felted))
    assert soft > 2 * sharp
    assert loose[80:140, 80:140, :3].mean() > felted[80:140, 80:140, :3].mean()
    assert np.array_equal(bundle_picture("#8A5A3C", True), loose.astype(np.uint8))


def test_dark_wool_has_rim_on_dark_table(qtbot: QtBot) -> None:
    from PyQt6.QtCore import QRectF

    def corner(dark: bool, colour: str) -> int:
        theme = Theme()
        theme.set(dark=dark)
        image = QImage(120, 120, QImage.Format.Format_ARGB32)
        image.fill(theme.dyes.ground)
        painter = QPainter(image)
        paint_bundle(painter, QRectF(10, 10, 100, 100), colour, False, theme)
        painter.end()
        ring = [QColor(image.pixel(x, 60)).lightness() for x in range(4, 16)]
        return max(ring) - min(ring)

    assert corner(True, "#1C1A1A") > 25
    assert corner(True, "#1C1A1A") > corner(True, "#241F20") - 40
    assert corner(False, "#F2EBDC") < 60


def test_dialog_larger_than_screen_scrolls(qtbot: QtBot) -> None:
    window = QWidget()
    qtbot.addWidget(window)
    dialog, large = FittedDialog(window), QLabel("large")
    QVBoxLayout(dialog).addWidget(large)
    dialog.show()
    assert dialog.findChild(QScrollArea) is None
    large.setMinimumSize(9000, 20)  # it grows after it is shown
    qtbot.waitUntil(lambda: dialog.findChild(QScrollArea) is not None)
    assert dialog.width() < 9000 and large.isVisible()
    dialog.close()
