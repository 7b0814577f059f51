"""What a stranger typed is shown as typed: Qt would load the files that markup in a label names."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

import pytest
from PyQt6 import sip
from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtGui import QHelpEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QDialog,
    QFileDialog,
    QInputDialog,
    QLabel,
    QMessageBox,
    QTextEdit,
    QToolTip,
    QWidget,
)
from pytestqt.qtbot import QtBot

from bambola.core.bench import load_bench
from bambola.core.bench.making import Making
from bambola.core.figure.document import dump_document, load_document
from bambola.demo import load_demo
from bambola.desk.kit.file_dialogs import PictureDialog
from bambola.desk.shell import guide
from bambola.desk.shell.stations import STATIONS
from bambola.desk.shell.window import Window
from bambola.shipped import default_bench

MARKUP = '<img src="x">'
RICH = (Qt.TextFormat.RichText, Qt.TextFormat.AutoText)
# The preview of prints renders on Qt's own threads, which outlive a window that is never really closed.
# What-is-this is a mode of the whole program, and would stay on for the next test.
SKIPPED = ("quit", "close", "demo", "new", "practice", "full_screen", "print", "what_is")


def marked_up(value: Any) -> Any:
    """Return JSON with markup behind each name and remark."""
    if isinstance(value, list):
        return [marked_up(one) for one in value]
    if not isinstance(value, dict):
        return value
    marked = {key: marked_up(one) for key, one in value.items()}
    for key in {"name", "plural", "note"} & {
        k for k, one in marked.items() if isinstance(one, str)
    }:
        marked[key] = f"{marked[key]} {MARKUP}"
    return marked


def read_as_html(root: QWidget) -> Iterator[str]:
    """Yield each label and page of ``root`` in which markup would be followed."""
    for widget in (root, *root.findChildren(QWidget)):
        if isinstance(widget, QLabel) and MARKUP in widget.text() and widget.textFormat() in RICH:
            yield f"{type(widget).__name__} {widget.text()}"
        if isinstance(widget, QTextEdit) and '<img src="x"' in widget.toHtml():
            yield f"{type(widget).__name__} {widget.toPlainText()[:80]}"


def hover(widget: QWidget, at: QPoint) -> Iterator[str]:
    """Rest the pointer on a place and yield the tool tip if its markup would be followed."""
    QToolTip.hideText()
    QApplication.sendEvent(widget, QHelpEvent(QEvent.Type.ToolTip, at, widget.mapToGlobal(at)))
    for tip in QApplication.topLevelWidgets():
        if tip.objectName() == "qtooltip_label" and tip.isVisible():
            yield from read_as_html(tip)


def every_tip(root: QWidget) -> Iterator[str]:
    for widget in root.findChildren(QWidget):
        if sip.isdeleted(widget) or not widget.isVisible():
            continue
        if isinstance(widget, QAbstractItemView) and (model := widget.model()) is not None:
            for row in range(min(4, model.rowCount())):
                place = widget.visualRect(model.index(row, 0)).center()
                yield from hover(widget.viewport() or widget, place)
        if MARKUP in widget.toolTip():
            yield from hover(widget, widget.rect().center())


@pytest.fixture
def stranger(window: Window, qtbot: QtBot) -> Window:
    """A window with a design, a bench and a book full of markup."""
    demo = load_demo()
    design = json.loads(dump_document(demo.figure, demo.brief, demo.survey, "stranger"))
    document = load_document(json.dumps(marked_up(design)), "stranger.json")
    assert document.figure.name.endswith(MARKUP)
    bench = load_bench(json.dumps(marked_up(default_bench().model_dump(mode="json"))), "bench")
    window.studio.use_bench(bench)
    window.studio.open_document(document, None)
    making = Making(figure=f"Owl {MARKUP}", finished="2026-03-02", next_time=MARKUP,
                    notes={"coat:body": MARKUP}, used={MARKUP: 1.0}, price=20.0)  # fmt: skip
    window.bench_desk.put_makings({"stranger": making})
    qtbot.waitUntil(lambda: window.darkroom.is_idle, timeout=20_000)
    return window


def test_no_station_or_dialog_follows_markup(
    stranger: Window, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot
) -> None:
    followed: dict[str, None] = {}
    walked: list[str] = []
    tried: set[str] = set()

    def look(dialog: QWidget) -> int:
        dialog.show()
        walked.append(type(dialog).__name__)
        followed.update(dict.fromkeys((*read_as_html(dialog), *every_tip(dialog))))
        dialog.hide()
        return 0

    def ask(*given: Any, **more: Any) -> tuple[str, bool]:
        asked = QInputDialog(stranger)
        asked.setLabelText(given[2])
        look(asked)
        return "", False

    monkeypatch.setattr(QDialog, "exec", look)
    monkeypatch.setattr(QMessageBox, "exec", look)
    monkeypatch.setattr(
        QMessageBox,
        "question",
        lambda *given: look(QMessageBox(QMessageBox.Icon.Question, *given[1:3])),
    )
    for name in ("getText", "getInt", "getItem"):
        monkeypatch.setattr(QInputDialog, name, ask)
    for name in ("getOpenFileName", "getSaveFileName"):
        monkeypatch.setattr(QFileDialog, name, lambda *a, **k: ("", ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: "")
    monkeypatch.setattr(PictureDialog, "ask", lambda *a: "")
    monkeypatch.setattr(PictureDialog, "ask_many", lambda *a: [])
    for station in range(len(STATIONS)):
        stranger.go_to(station)
        followed.update(dict.fromkeys((*read_as_html(stranger), *every_tip(stranger))))
        for name in stranger.actions_.by_name:
            action = stranger.actions_[name]
            if name not in tried and not name.startswith(SKIPPED) and action.isEnabled():
                tried.add(name)
                action.trigger()
                if stranger.studio.figure is None or MARKUP not in stranger.studio.figure.name:
                    pytest.fail(f"{name} left the design")
                stranger.go_to(station)
        followed.update(dict.fromkeys((*read_as_html(stranger), *every_tip(stranger))))
    assert not followed, "\n".join(followed)
    assert len(set(walked)) > 12, sorted(set(walked))


def test_explanation_of_thing_is_plain(stranger: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    shown: list[str] = []
    monkeypatch.setattr(guide.QWhatsThis, "showText", lambda at, text, widget: shown.append(text))
    label = QLabel(stranger)
    label.setAccessibleName(MARKUP)
    event = QHelpEvent(QEvent.Type.WhatsThis, QPoint(), QPoint())
    assert guide._HelpPointer(stranger).eventFilter(label, event)
    assert shown and MARKUP not in shown[0]
