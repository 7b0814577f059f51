"""Print: pages ticked by keys, kept as PDF, put on the toolkit's own PDF printer; what cannot be is told."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import Qt
from PyQt6.QtPrintSupport import QPrinter, QPrinterInfo
from pytestqt.qtbot import QtBot

from bambola.demo import HERON
from bambola.desk.shell.packet_dialog import PacketDialog
from bambola.desk.shell.window import Window

pytestmark = pytest.mark.usefixtures("coarse_felt")


@pytest.fixture
def dialog(new_window: Callable[[], Window], qtbot: QtBot) -> Iterator[PacketDialog]:
    window = new_window()
    window.open_demo(HERON)  # of ours the one that takes the fewest sheets
    made = PacketDialog(window, window.studio, window.theme, window.settings, {})
    made.show()
    qtbot.waitUntil(lambda: made.document.pageCount() > 10, timeout=60_000)
    yield made
    made.reject()


def row_of(dialog: PacketDialog, kind: str) -> int:
    rows = range(dialog.kinds.count())
    return next(i for i in rows if dialog.kinds.item(i).data(Qt.ItemDataRole.UserRole) == kind)  # type: ignore[union-attr]


def test_kinds_are_ticked_off_by_keys_and_remembered(dialog: PacketDialog, qtbot: QtBot) -> None:
    before = dialog.document.pageCount()
    steps = sum(page.kind == "steps" for page in dialog._pages)
    dialog.kinds.setCurrentRow(row_of(dialog, "steps"))
    dialog.kinds.setFocus()
    qtbot.keyClick(dialog.kinds, Qt.Key.Key_Space)
    assert dialog.document.pageCount() == before - steps
    assert str(before - steps) in dialog.told.text()
    assert dialog.settings.left_out == ["bundles", "order", "selling", "steps", "table"]
    assert dialog.together.currentIndex() == -1
    dialog.together.activated.emit(dialog.together.findText("In short"))
    assert {page.kind for page in dialog.chosen()} == {"figure", "sizes", "order"}
    assert dialog.together.currentText() == "In short"
    for row in range(dialog.kinds.count()):
        item = dialog.kinds.item(row)
        assert item is not None
        item.setCheckState(Qt.CheckState.Unchecked)
    assert not dialog.print_.isEnabled() and dialog.told.text().startswith("Tick at least")


def test_sheets_go_to_file_with_design_and_to_printer(dialog: PacketDialog, tmp_path: Path) -> None:
    for kind in ("steps", "templates", "labels", "wool", "figure"):
        item = dialog.kinds.item(row_of(dialog, kind))
        assert item is not None
        item.setCheckState(Qt.CheckState.Unchecked)
    kept = tmp_path / "heron.pdf"
    assert dialog.save_to(kept) and dialog.told.text() == "Saved as heron.pdf."
    (name,) = PdfReader(kept).attachments
    assert name.endswith(".bambola.json")
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    dialog.dress(printer)
    assert dialog.print_to(printer)
    pages = PdfReader(io.BytesIO((tmp_path / "printed.pdf").read_bytes())).pages
    assert len(pages) == dialog.document.pageCount()
    wide, high = (float(v) / 72 * 25.4 for v in pages[0].mediabox[2:])
    assert (wide, high) == pytest.approx((210, 297), abs=0.5)


def test_no_printer_and_no_room_are_told_in_one_sentence(
    dialog: PacketDialog, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QPrinterInfo, "availablePrinterNames", list)
    dialog.ask_printer()
    assert dialog.told.text().startswith("No printer is set up")
    assert not dialog.save_to(tmp_path / "nowhere" / "p.pdf")
    assert "p.pdf" in dialog.told.text() or "nowhere" in dialog.told.text()


def test_packet_opens_as_design(dialog: PacketDialog, qtbot: QtBot, tmp_path: Path) -> None:
    kept = tmp_path / "heron.pdf"
    assert dialog.save_to(kept)
    window = dialog.parent()
    assert isinstance(window, Window)
    figure = window.studio.figure
    window.studio.undo_stack.setClean()
    with qtbot.waitSignal(window.files.opened, timeout=60_000):
        assert window.files.open_path(kept)
    assert window.studio.figure == figure and window.studio.path is None


def test_closing_while_pages_are_laid_out_leaves_nothing_behind(
    window: Window, qtbot: QtBot
) -> None:
    made = PacketDialog(window, window.studio, window.theme, window.settings, {})
    made.show()
    made.reject()
    assert made._laying is not None and made._laying.stop.is_set() and made._background.is_idle


def test_pattern_for_others_is_laid_out_at_several_heights(
    dialog: PacketDialog, qtbot: QtBot
) -> None:
    others = dialog.others
    others.unfold.click()
    laid: list[int] = []
    original = dialog._laid_out
    dialog._laid_out = lambda pages: (original(pages), laid.append(len(pages)))  # type: ignore[method-assign,assignment,func-returns-value]
    others.heights.setText("150 mm; soon")
    others.heights.editingFinished.emit()
    assert "soon" in dialog.told.text() and not laid
    others.heights.setText("150 mm; 220 mm; 300 mm")
    others.maker.setText("Workshop under the Clock")
    others.heights.editingFinished.emit()
    qtbot.waitUntil(lambda: bool(laid), timeout=90_000)
    text = PdfReader(io.BytesIO(dialog._pdf)).pages[0].extract_text()
    assert all(mm in text for mm in ("150", "220", "300")) and "Workshop under the Clock" in text
    assert dialog.settings.maker == "Workshop under the Clock"
    others.heights.setText("101; 111; 121; 131; 141")
    others.heights.editingFinished.emit()
    assert dialog.told.text().startswith("A pattern takes up to 4")
