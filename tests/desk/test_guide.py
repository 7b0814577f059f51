"""The guide: whole in every language, open at what is in hand; and what a thing is, where that is asked."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt, QUrl
from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox, QWhatsThis, QWidget
from pytestqt.qtbot import QtBot

from bambola import __version__
from bambola.core.figure import load_document
from bambola.desk.shell import help
from bambola.desk.shell.guide import PAGES, START, Guide, pages_of, what_is
from bambola.desk.shell.stations import RESIZE, STATIONS
from bambola.desk.shell.window import Window
from bambola.language import languages

MOST_WORDS = 500
"""So many are read in three minutes."""


@pytest.mark.parametrize("folder", [PAGES / code for code in languages()], ids=lambda at: at.name)
def test_guide_pages_are_complete_and_short(folder: Path) -> None:
    pages = {path.stem for path in folder.glob("*.md")}
    assert pages == set(pages_of(PAGES / "en"))
    assert {station.guide for station in STATIONS} | {"making", START} <= pages
    for path in folder.glob("*.md"):
        text = path.read_text(encoding="utf-8")
        assert text.startswith("# ") and 80 < len(text.split()) <= MOST_WORDS, path
        for linked in re.findall(r"\]\(([^)]+)\)", text):
            assert (folder / linked).is_file(), f"{path.name}: {linked}"


def test_f1_opens_matching_page_and_search_works(window: Window, qtbot: QtBot) -> None:
    def opened() -> str:
        window.actions_["guide"].trigger()
        guide = window._guide
        assert isinstance(guide, Guide) and guide.isVisible()
        return Path(guide.page.source().fileName()).stem

    for at, station in enumerate(STATIONS):
        window.go_to(at)
        assert opened() == station.guide
    window.make_it()
    assert opened() == "making"
    guide = window._guide
    assert guide is not None
    item = guide.list.currentItem()
    assert item is not None and item.text() == "At the pad"
    qtbot.keyClicks(guide.sought, "metre away")
    names = [guide.list.item(i).text() for i in range(guide.list.count())]  # type: ignore[union-attr]
    assert names == ["At the pad"] and guide.page.textCursor().selectedText() == "metre away"
    guide.page.setSource(QUrl("wool.md"))  # as a link does
    assert "With a scale" in guide.page.toPlainText()
    qtbot.keyClick(guide, Qt.Key.Key_Escape)
    assert not guide.isVisible()


def test_focusable_widgets_have_names(window: Window, qtbot: QtBot) -> None:
    silent = []
    for at, station in enumerate(STATIONS):
        window.go_to(at)
        qtbot.wait(30)
        for widget in window.findChildren(QWidget):
            reached = widget.focusPolicy() & Qt.FocusPolicy.TabFocus and widget.isVisible()
            if reached and not what_is(widget):
                silent.append(f"{station.words}: {type(widget).__name__}")
    assert silent == []


def test_click_tells_what_thing_is(window: Window, qtbot: QtBot) -> None:
    window.go_to(RESIZE)
    window.actions_["what_is"].trigger()
    assert QWhatsThis.inWhatsThisMode()
    table = window.resize_station.table
    qtbot.mouseClick(table, Qt.MouseButton.LeftButton, pos=QPoint(200, 300))
    shown = [w for w in QApplication.topLevelWidgets() if w.inherits("QWhatsThat")]
    assert shown and not QWhatsThis.inWhatsThisMode()


@pytest.mark.parametrize("whole", [True, False])
def test_report_holds_versions_and_mishaps_and_figure_only_if_wished(
    whole: bool, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    home = tmp_path / "home"
    monkeypatch.setattr(Path, "home", lambda: home)
    monkeypatch.setattr(help, "log_path", lambda: tmp_path / "mishaps.log")
    (tmp_path / "mishaps.log").write_text(f"oops in {home}/secret\n")
    target = tmp_path / "sent.zip"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))

    def save(box: QMessageBox) -> QMessageBox.StandardButton:
        tick = box.checkBox()
        assert tick is not None and not tick.isChecked()
        tick.setChecked(whole)
        return QMessageBox.StandardButton.Save

    monkeypatch.setattr(QMessageBox, "exec", save)
    window.actions_["report"].trigger()
    with zipfile.ZipFile(target) as file:
        names = set(file.namelist())
        assert names == {"versions.txt", "mishaps.log"} | (
            {"figure.bambola.json"} if whole else set()
        )
        assert file.read("mishaps.log") == b"oops in ~/secret\n"
        assert f"Bambola: {__version__}" in file.read("versions.txt").decode()
        if whole:
            told = file.read("figure.bambola.json")
            assert load_document(told, "sent").figure == window.studio.figure
