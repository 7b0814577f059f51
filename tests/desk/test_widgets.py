from __future__ import annotations

import subprocess
import sys
import threading
from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QRect, QRectF, QSettings, QSize, Qt, QtMsgType
from PyQt6.QtGui import QGuiApplication, QImage, QPixmap
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QMessageBox, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.export.formats import FORMAT_BY_ID
from bambola.core.figure import Document, Node, Part, Seat
from bambola.core.figure.additions import with_wire
from bambola.core.relief import Camera
from bambola.core.solids import place
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.running import crash_log
from bambola.desk.session.settings import RECENT_MOST, Settings
from bambola.desk.shell import splash as splash_module
from bambola.desk.shell.app import DEMO
from bambola.desk.shell.looks import TEXT_SCALES
from bambola.desk.shell.message import MessageStrip
from bambola.desk.shell.splash import keep_picture, splash_for, wait_until_seen
from bambola.desk.shell.stations import WOOL
from bambola.desk.shell.window import Window
from benchmarks.window import wait
from tests.children import before_splash, output_of
from tests.effort import some
from tests.figures import ball, figure_of, one_ball

LEFT = Qt.MouseButton.LeftButton


def test_words_of_flow_break_where_line_is_full(qtbot: QtBot) -> None:
    holder = QWidget()
    qtbot.addWidget(holder)
    flow = FlowLayout(holder)
    flow.set_gap(10)
    for _ in range(5):
        word = QWidget()
        word.setFixedSize(QSize(100, 20))
        flow.addWidget(word)
    assert [flow.heightForWidth(w) for w in (560, 540, 210, 90)] == [20, 20, 80, 140]
    flow.setGeometry(QRect(0, 0, 210, 80))
    places = [flow.itemAt(i).geometry().topLeft() for i in range(5)]  # type: ignore[union-attr]
    assert places == [QPoint(0, 0), QPoint(110, 0), QPoint(0, 30), QPoint(110, 30), QPoint(0, 60)]
    # A lower word stands in the middle of its line, and where one line is enough its last words at its end.
    low = flow.itemAt(4).widget()  # type: ignore[union-attr]
    assert low is not None
    low.setFixedSize(QSize(40, 10))
    flow.set_end(4)
    flow.setGeometry(QRect(0, 0, 600, 20))
    places = [flow.itemAt(i).geometry().topLeft() for i in (3, 4)]  # type: ignore[union-attr]
    assert places == [QPoint(330, 0), QPoint(560, 5)]
    flow.clear()
    assert flow.count() == 0


def test_refusal_stays_and_good_news_goes_by_itself(qtbot: QtBot) -> None:
    strip = MessageStrip(Theme())
    qtbot.addWidget(strip)
    strip.say("That cannot be.", serious=True)
    assert strip.isVisible() and not strip._timer.isActive()
    strip.say("Saved.", serious=False)
    assert strip.text == "Saved." and strip._timer.isActive()
    strip._timer.timeout.emit()
    assert not strip.isVisible() and strip.text == ""


def test_only_newest_wish_for_picture_is_followed(qtbot: QtBot) -> None:
    room = RenderQueue({"core-batt": "#dddddd"})
    made: list[RenderResult] = []
    room.developed.connect(lambda _, it: made.append(it))
    placement = place(one_ball(40.0))
    for turn in range(0, 300, 10):
        room.request("it", RenderRequest(placement, Camera(turn=turn), 0.5, 1))
    qtbot.waitUntil(lambda: room.is_idle, timeout=10_000)
    assert 1 <= len(made) <= 3 and made[-1].shot.camera == Camera(turn=290)
    room.close()


def test_walk_along_thread_selects_its_parts(window: Window, qtbot: QtBot) -> None:
    strip = window.thread_strip
    QTest.mouseClick(strip.cloth, LEFT, pos=QPoint(strip.width() - 40, 24))
    assert strip.current_row >= 54 and window.studio.selection.part == "head"
    qtbot.keyClick(strip, Qt.Key.Key_Home)
    seen = set()
    for _ in range(len(strip.steps)):
        qtbot.keyClick(strip, Qt.Key.Key_Right)
        seen.add(window.studio.selection.part)
    assert seen >= {
        "body",
        "leg",
        "arm",
        "foot",
        "paw",
        "tail",
        "head",
        "snout",
        "nose",
        "ear",
        "cape",
        "collar",
    }
    assert f"{len(strip.steps)} of {len(strip.steps)}" in strip.accessibleDescription()


def test_shelf_holds_every_wool_however_narrow(window: Window) -> None:
    shelf = window.resize_station.shelf
    for width in (900, 420, 200, 90):
        shelf.resize(width, 62)
        boxes = shelf._wool_boxes()
        assert window.studio.plan and len(boxes) == len(window.studio.plan.wools)
        assert all(b.left() >= 0 and b.right() <= width + 0.5 and b.bottom() <= 62.5 for b in boxes)
        assert not any(
            a.adjusted(0.1, 0.1, -0.1, -0.1).intersects(b)
            for i, a in enumerate(boxes)
            for b in boxes[:i]
        )


def test_shelf_bears_figure_that_is_all_wire(window: Window) -> None:
    ends = [Node(id="a", part="body", along=0.0), Node(id="b", part="body", along=1.0)]
    figure = with_wire(one_ball(3.0), ends, "Wire")
    thick = figure.wires[0].replaced(diameter=3.0)
    window.studio.open_document(Document(figure=figure.replaced(wires=(thick,))), None)
    assert window.studio.plan and window.studio.plan.wool_g == 0
    assert not window.resize_station.shelf.grab().isNull()


def test_every_slip_can_be_leafed_through(window: Window, qtbot: QtBot) -> None:
    window.studio.set_height(100.0)
    slips = window.resize_station.slips
    window.studio.hold("paw", True)
    titles = set()
    for _ in range(len(slips.slips())):
        titles.add(slips._title.text())
        qtbot.keyClick(slips.marks, Qt.Key.Key_Right)
    assert "Eyes: this size is not sold" in titles and any("held" in title for title in titles)
    assert slips.slips()[0].is_open


def test_badge_counts_what_waits_as_marks_do(window: Window, qtbot: QtBot) -> None:
    """It said "1 thing to decide" beside two open marks, and "nothing" where the figure falls over."""
    badge, slips = window.header.badge, window.resize_station.slips
    ball_, foot = one_ball(40.0).parts[0], ball(70.0)
    side = Part(id="side", name="Side", parent="body", core="core-batt", shape=foot,
                seat=Seat(along=0.5, around=90, sink=2))  # fmt: skip
    window.studio.open_document(Document(figure=figure_of(ball_, side)), None)
    for height in (None, 100.0):
        window.studio.set_height(height) if height else None
        open_ = [n for n in slips.slips() if n.level == "stop" or n.is_open]
        assert open_ and badge.text().startswith(f"{len(open_)} thing"), height


def test_slip_folds_where_there_is_little_room(window: Window, qtbot: QtBot) -> None:
    slips = window.resize_station.slips
    assert slips._holder.isVisible()
    window.theme.set(scale=2.0)
    qtbot.waitUntil(lambda: not slips._holder.isVisible())
    window.go_to_question()
    assert slips._holder.isVisible()


def test_visible_widgets_are_restyled_first(
    window: Window,
) -> None:
    hidden, shown = window.wool_station, window.resize_station
    before = hidden.styleSheet()
    window.theme.set(dark=True)
    assert shown.styleSheet() == window.theme.sheet != before == hidden.styleSheet()
    window.go_to(WOOL)
    box = QMessageBox(window)
    box.show()
    assert hidden.styleSheet() == box.styleSheet() == window.theme.sheet
    box.close()


@pytest.mark.parametrize("scale", some(TEXT_SCALES, 3))
def test_nothing_is_pushed_out_of_window_by_large_text(
    window: Window, qtbot: QtBot, scale: float
) -> None:
    window.theme.set(scale=scale)
    wait(50)
    page = window.centralWidget()
    assert page is not None
    for widget in (
        window.header.badge,
        window.header.path,
        window.resize_station.table,
        window.thread_strip,
    ):
        corner = widget.mapTo(window, QPoint(widget.width(), widget.height()))
        assert corner.x() <= window.width() + 1 and corner.y() <= window.height() + 1, widget
    assert window.resize_station.table.layout_ is not None
    assert window.resize_station.table.layout_.mm_px > 0.15
    # What can be pressed over the faces of wire and wool can be read, too.
    for menu, faces, bar in (
        ("face", 3, window.wire_station._bar),
        ("wool", 4, window.wool_station._bar),
    ):
        for face in range(faces):
            window.actions_[f"{menu}_{face}"].trigger()
            wait(20)
            for button in bar.findChildren(QPushButton):
                if button.isVisible():
                    assert button.width() >= button.sizeHint().width(), button.text()
                    assert bar.rect().contains(button.geometry()), button.text()


def test_pan_stands_beside_its_number_where_there_is_little_height(
    window: Window, qtbot: QtBot
) -> None:
    window.theme.set(scale=1.5)
    pan = window.wool_station.pan
    for high in (270, 560):
        box = QRectF(0, 6, 750, high)
        middle, radius, number, words = pan.places(box)
        dial = QRectF(middle.x() - radius, middle.y() - radius, 2 * radius, 1.3 * radius)
        assert radius >= 120 and box.contains(dial)
        assert box.contains(number) and box.contains(words) and not number.intersects(words)
        assert not dial.intersects(words) and (high == 560 or not dial.intersects(number))


def test_settings_stay_where_they_cannot_be_written(tmp_path: Path) -> None:
    folder = tmp_path / "there"
    folder.write_text("no folder")
    settings = Settings(QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
    settings.maker = "Ann"
    settings.sync()
    assert settings.maker == "Ann"
    folder.unlink()
    settings.paper = "letter"
    settings.sync()
    again = Settings(QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
    assert (again.maker, again.paper) == ("Ann", "letter")


def test_settings_survive_what_others_wrote_into_them(tmp_path: Path) -> None:
    store = QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat)
    for key, value in (
        ("length", "furlong"),
        ("mass", "stone"),
        ("text_scale", "huge"),
        ("geometry", "x"),
    ):
        store.setValue(key, value)
    settings = Settings(store)
    assert (settings.units.length, settings.units.mass) == ("mm", "g")
    assert settings.text_scale == 1.0 and settings.geometry is None and settings.dark is None
    for i in range(12):
        settings.add_recent(f"/designs/{i}.json")
    settings.add_recent("/designs/7.json")
    assert settings.recent[:2] == ["/designs/7.json", "/designs/11.json"]
    assert len(settings.recent) == RECENT_MOST
    settings.drop_recent("/designs/7.json")
    assert settings.recent[0] == "/designs/11.json"


def test_splash_shows_designs_last_picture(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(
        splash_module, "picture_path", lambda design: tmp_path / "cache" / f"{design.name}.png"
    )
    design = tmp_path / "marsh-owl.bambola.json"
    bare = splash_for(design, Theme(), None)
    qtbot.addWidget(bare)
    assert bare.picture is None and bare.name == "Marsh owl"
    picture = QPixmap(40, 60)
    picture.fill(Qt.GlobalColor.darkRed)
    keep_picture(design, picture)
    splash = splash_for(design, Theme(), None)
    assert splash.name == "Marsh owl"
    qtbot.addWidget(splash)
    shown: QImage = splash.grab().toImage()
    assert (
        shown.pixelColor(shown.rect().center()).red()
        > 100
        > shown.pixelColor(shown.rect().center()).green()
    )
    assert splash_for(DEMO, Theme(), None).picture is not None
    # No larger than the screen with a frame round it, nor so small that nothing fits.
    screen = QGuiApplication.primaryScreen()
    assert screen is not None and splash.height() <= max(560, screen.availableSize().height() - 40)
    # It reaches the screen before anything else is done, and covers the real window until that is painted.
    splash.show()
    wait_until_seen(splash)
    assert splash.is_painted
    window = QWidget()
    qtbot.addWidget(window)
    over = splash.hang_over(window)
    assert over.parent() is window and over.is_painted and not splash.isVisible()
    assert window.isVisible() and over.size() == window.size()


def test_splash_waits_for_no_sums() -> None:
    assert output_of(before_splash).strip() == "[]"


def test_application_starts_and_pictures_itself(tmp_path: Path) -> None:
    shot = tmp_path / "shot.png"
    command = [sys.executable, "-m", "bambola.desk.shell.app", "--demo", "--screenshot", str(shot)]
    environment = {
        "HOME": str(tmp_path),
        "QT_QPA_PLATFORM": "offscreen",
        "XDG_CACHE_HOME": str(tmp_path),
    }
    subprocess.run(command, check=True, capture_output=True, timeout=120, env=environment)
    image = QImage(str(shot))
    assert image.width() >= 600 and image.height() >= 500


def test_closing_in_middle_of_drawing_is_no_trouble(
    new_window: Callable[[], Window], badger: Document
) -> None:
    window = new_window()
    window.open_demo()
    for turn in range(6):
        window.resize_station.table.turn_to(Camera(turn=turn * 50))
    window.files.exports.start(FORMAT_BY_ID["pdf"], Path("/proc/none/sheet.pdf"))
    assert window.close()
    assert window.darkroom.is_idle or not window.isVisible()


def test_error_nobody_caught_is_written_down_and_told(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[str] = []
    handlers: list[Callable[..., None]] = []
    kept: list[object] = []
    log = tmp_path / "log" / "mishaps.log"
    monkeypatch.setattr(crash_log, "log_path", lambda: log)
    monkeypatch.setattr(crash_log, "qInstallMessageHandler", handlers.append)
    monkeypatch.setattr(crash_log.faulthandler, "enable", kept.append)
    for module in (sys, threading):
        monkeypatch.setattr(module, "excepthook", module.excepthook)
    crash_log.log_uncaught_errors(told.append)
    try:
        raise ZeroDivisionError("a needle by nought")
    except ZeroDivisionError as error:
        sys.excepthook(type(error), error, error.__traceback__)
    assert len(told) == 1 and "Your work is unchanged" in told[0] and "Traceback" not in told[0]
    assert "a needle by nought" in log.read_text()

    def slip() -> None:
        raise KeyError("a felt slip")

    thread = threading.Thread(target=slip)
    thread.start()
    thread.join()
    qtbot.waitUntil(lambda: len(told) == 2)  # told here, where windows may be touched
    handlers[0](QtMsgType.QtWarningMsg, None, "a timer of no thread")
    handlers[0](QtMsgType.QtDebugMsg, None, "only chatter")
    written = log.read_text()
    assert "a felt slip" in written and "a timer of no thread" in written
    assert "chatter" not in written and len(kept) == 1
    monkeypatch.setattr(crash_log, "_LARGE", 10)
    crash_log.log_error(ValueError("begun anew"))
    assert "a felt slip" not in log.read_text() and log.with_suffix(".old.log").exists()
