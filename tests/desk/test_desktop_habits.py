"""What a desktop's user expects of a window: find, close, full screen, context menus, folders kept."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import cast

import pytest
from PyQt6.QtCore import QLocale, QPoint, Qt
from PyQt6.QtGui import QContextMenuEvent, QPixmap
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QToolButton, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.bench.making import KeptCard, Making, Sitting
from bambola.demo import TOAD
from bambola.desk.kit import file_dialogs
from bambola.desk.kit.locale import date_words, day_words
from bambola.desk.shell.find import FindDialog
from bambola.desk.shell.splash import keep_picture
from bambola.desk.shell.stations import FACE, ORDER, STATIONS, WOOL
from bambola.desk.shell.welcome import HalfMade
from bambola.desk.shell.window import Window
from bambola.desk.stations.face.station import FaceStation
from bambola.desk.stations.menus import SHELF


def finder(window: Window, text: str, qtbot: QtBot) -> FindDialog:
    dialog = FindDialog(window, window.actions_.menus)
    qtbot.keyClicks(dialog.field, text)
    return dialog


def test_find_goes_to_part_step_wool_and_action(window: Window, qtbot: QtBot) -> None:
    studio = window.studio
    dialog = finder(window, "snout part", qtbot)
    assert dialog.list.count() == 1
    qtbot.keyClick(dialog.field, Qt.Key.Key_Return)
    assert studio.selection.part == "snout"
    dialog = finder(window, "smooth the whole", qtbot)
    qtbot.keyClick(dialog.field, Qt.Key.Key_Return)
    assert window.station == ORDER and "finish" in studio.selection.step
    dialog = finder(window, "woad", qtbot)
    qtbot.keyClick(dialog.field, Qt.Key.Key_Return)
    assert window.station == WOOL and studio.selection.wool == "woad"
    assert window.wool_station.face == SHELF
    dark = window.theme.dark
    dialog = finder(window, "dark view", qtbot)
    qtbot.keyClick(dialog.field, Qt.Key.Key_Return)
    assert window.theme.dark != dark


def test_find_tells_nothing_for_unknown_words(window: Window, qtbot: QtBot) -> None:
    dialog = finder(window, "zeppelin", qtbot)
    qtbot.keyClick(dialog.field, Qt.Key.Key_Return)
    assert dialog.list.count() == 0 and not dialog.result()


def test_menus_without_room_go_behind_mark_and_come_back(window: Window) -> None:
    actions = window.actions_
    bar = window.menuBar()
    assert bar is not None
    whole = [action.text() for action in bar.actions() if action.isVisible()]
    actions.fit_bar(260)
    few = [action.text() for action in bar.actions() if action.isVisible()]
    behind = [action.text() for action in actions.more.actions()]
    assert few[-1] == "»" and few[:-1] + behind == whole and "&Help" in behind
    actions.fit_bar(4000)
    assert [action.text() for action in bar.actions() if action.isVisible()] == whole


def test_right_click_offers_menu_of_station(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    opened: list[str] = []
    for title, menu in window.actions_.menus.items():
        monkeypatch.setattr(menu, "popup", lambda _, title=title: opened.append(title))
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, QPoint(5, 5), QPoint(5, 5))
    window.go_to(WOOL)
    window.contextMenuEvent(event)
    menu_of_wool = STATIONS[WOOL].menu
    assert menu_of_wool is not None and opened == [menu_of_wool[0].replace("&", "")]


def test_full_screen_is_entered_and_left(window: Window) -> None:
    window.actions_["full_screen"].trigger()
    assert window.windowState() & Qt.WindowState.WindowFullScreen
    window.actions_["full_screen"].trigger()
    assert not window.windowState() & Qt.WindowState.WindowFullScreen


def test_dark_follows_system_until_chosen(window: Window) -> None:
    window.settings.dark = None
    window.looks._follow_system(Qt.ColorScheme.Dark)
    assert window.theme.dark
    window.looks.toggle_dark()
    window.looks._follow_system(Qt.ColorScheme.Dark)
    assert not window.theme.dark


def test_dialogs_open_in_folder_last_used(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[str] = []

    def chosen(_: object, words: str, start: str, kinds: str) -> tuple[str, str]:
        asked.append(start)
        return str(tmp_path / "chosen.pdf"), ""

    monkeypatch.setattr(file_dialogs, "_last_folder", "")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", chosen)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", chosen)
    file_dialogs.ask_save(window, "Save", "packet.pdf", "*.pdf")
    file_dialogs.ask_open(window, "Open", "*.pdf")
    file_dialogs.ask_save(window, "Save", "again.pdf", "*.pdf")
    assert asked == ["packet.pdf", str(tmp_path), str(tmp_path / "again.pdf")]


@pytest.mark.parametrize(
    ("country", "short", "full"),
    [
        ("en_GB", "Mon 2 Mar", "2 Mar 2026"),
        ("en_US", "Mon, Mar 2", "Mar 2, 2026"),
        ("de_DE", "Mo. 2. März", "2. März 2026"),
    ],
)
def test_dates_as_country_writes_them(country: str, short: str, full: str) -> None:
    before = QLocale()
    try:
        QLocale.setDefault(QLocale(country))
        assert (day_words(date(2026, 3, 2)), date_words(date(2026, 3, 2))) == (short, full)
    finally:
        QLocale.setDefault(before)


def test_start_shows_half_made_figures_first_then_recent_designs(
    window: Window, tmp_path: Path
) -> None:
    seen, unseen, half = (
        tmp_path / f"{n}.bambola.json" for n in ("wool-hare", "other", "grey-owl")
    )
    picture = QPixmap(40, 80)
    picture.fill(Qt.GlobalColor.red)
    keep_picture(seen, picture)
    half.touch()
    cards = tuple(KeptCard(step=f"core:{n}", text="Core") for n in range(5))
    made = Making(
        figure="Grey owl", where=str(half), at="core:2", behind=("core:0", "core:1"), cards=cards,
        sittings=(Sitting(day="2026-11-03", minutes=20.0),),
    )  # fmt: skip
    done = made.replaced(where=str(unseen), finished="2026-11-02")
    desk = window.bench_desk
    desk.put_makings({"grey-owl": made, "other": done})
    # One whose file is gone, or that never had one, is gone on with as the book keeps it.
    pad = window.order_station.make
    window.make_it()
    pad.step(1)
    before = pad.making
    window.welcome.show_designs([str(half), str(seen), str(unseen)], desk.half_made)
    assert list(desk.half_made) == ["grey-owl", "lamplighter-badger"]
    owl, badger = window.welcome.findChildren(HalfMade)
    assert owl.go_on.accessibleName() == "Grey owl: step 3 of 5: Core: Go on"
    shown = [b for b in window.welcome.findChildren(QToolButton) if b.toolTip()]
    assert [b.text() for b in shown] == ["Wool hare", "Other"]
    top = [b.icon().pixmap(b.iconSize()).toImage().pixelColor(20, 20) for b in shown]
    assert [colour.alpha() > 0 for colour in top] == [True, False]
    window.open_demo(TOAD)
    assert not window.order_station.is_making or desk.in_hand != "lamplighter-badger"
    QTest.mouseClick(badger.go_on, Qt.MouseButton.LeftButton)
    assert desk.in_hand == "lamplighter-badger" and pad.isVisible()
    assert pad.current_step is not None and pad.current_step.key == before.at


def test_tab_goes_down_page_and_ends_at_thread(window: Window, qtbot: QtBot) -> None:
    window.go_to(FACE)
    card = cast("FaceStation", window.pages[FACE]).card
    qtbot.waitUntil(lambda: all(b.isVisible() for b in card.face_buttons.values()))
    order: list[QWidget] = []
    while (focused := window.focusWidget()) is not None and focused not in order:
        order.append(focused)
        qtbot.keyClick(focused, Qt.Key.Key_Tab)
    down = [*card.face_buttons.values(), card.list, window.thread_strip]
    assert len(down) == 4 and sorted(down, key=order.index) == down
