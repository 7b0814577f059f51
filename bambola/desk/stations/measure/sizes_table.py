"""Imports sizes from a spreadsheet file or the clipboard into the parts of the same names."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from threading import Event

from PyQt6.QtWidgets import (
    QApplication,
    QComboBox,
    QDialogButtonBox,
    QGridLayout,
    QLabel,
    QMessageBox,
    QVBoxLayout,
    QWidget,
)

from bambola.core.facts import Fact, RefusedError
from bambola.core.plan.reading.sizes_table import (
    FromTable,
    SizesLine,
    read_columns,
    read_sizes,
    rows_of,
    size_mm,
    with_sizes,
)
from bambola.desk.kit.buttons import lead_label, ok_cancel
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.file_dialogs import ask_open
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.theme import Theme
from bambola.desk.running.background import Background, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.rows import edit_rebuilt
from bambola.files import FileRefusedError
from bambola.files.limited import StoppedError
from bambola.files.spreadsheet import table_text
from bambola.language import N_, tr

COLUMNS = (
    ("", N_("not used")), ("part", N_("part")), ("length", N_("length")), ("height", N_("height")),
    ("width", N_("width")), ("depth", N_("depth")), ("thickness", N_("thickness")),
    ("diameter", N_("diameter")),
)  # fmt: skip
_ROWS, _MOST = 6, 16
"""So many rows are shown, and columns asked about."""


class ColumnsDialog(FittedDialog):
    """The first rows of a table, with a choice over each column."""

    def __init__(self, parent: QWidget, theme: Theme, rows: Sequence[Sequence[str]]) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Sizes from a table"))
        count = min(max(map(len, rows)), _MOST)
        grid, within = QGridLayout(), QWidget()
        within.setLayout(grid)
        self.boxes: list[QComboBox] = []
        for column in range(count):
            box = QComboBox()
            box.setAccessibleName(tr("What column {n} holds", n=column + 1))
            for key, words in COLUMNS:
                box.addItem(tr(words), key)
            box.currentIndexChanged.connect(lambda _: self._check_columns())
            grid.addWidget(box, 0, column)
            self.boxes.append(box)
            for n, row in enumerate(rows[:_ROWS], 1):
                grid.addWidget(QLabel(row[column][:40] if column < len(row) else ""), n, column)
        grid.setRowStretch(_ROWS + 1, 1)
        self._buttons = ok_cancel(self)
        whole = QVBoxLayout(self)
        whole.addWidget(
            lead_label(
                tr(
                    "The first row doesn’t say. Choose which column holds the part names and which "
                    "holds each size."
                )
            )
        )
        whole.addWidget(scroll_area(within), 1)
        whole.addWidget(self._buttons)
        self.set_size(theme, 600, 340)
        self._guess_names_column(rows)
        self._check_columns()

    def _guess_names_column(self, rows: Sequence[Sequence[str]]) -> None:
        """Set the first column of words to the names of parts."""
        for column, box in enumerate(self.boxes):
            cells = [row[column] for row in rows if column < len(row) and row[column].strip()]
            if cells and sum(size_mm(cell, "mm") > 0 for cell in cells) < len(cells) / 2:
                box.setCurrentIndex(box.findData("part"))
                return

    def columns(self) -> list[str]:
        """Return what each column is."""
        return [box.currentData() for box in self.boxes]

    def _check_columns(self) -> None:
        told = self.columns() if self.boxes else []
        ok = self._buttons.button(QDialogButtonBox.StandardButton.Ok)
        if ok is not None:
            ok.setEnabled(told.count("part") == 1 and any(c not in ("", "part") for c in told))


HEADS = {"name": N_("name"), **{what: words for what, words in COLUMNS if what}}
"""What columns are headed, in the maker's own words."""


def ask_table(parent: QWidget, studio: EditorSession, theme: Theme, background: Background) -> None:
    """Import the sizes of a file, read in the ``background``; a table on the clipboard is offered first."""

    def ask(rows: list[list[str]]) -> list[str] | None:
        dialog = ColumnsDialog(parent, theme, rows)
        return dialog.columns() if dialog.exec() else None

    clipboard = QApplication.clipboard()
    copied = clipboard.text() if clipboard is not None else ""
    if "\n" in copied and ("\t" in copied or ";" in copied):
        told = QMessageBox.question(
            parent, tr("Sizes from a table"), tr("Use the copied table? No opens a file.")
        )
        if told == QMessageBox.StandardButton.Yes:
            take_table(studio, copied, ask)
            return
    kinds = tr("Tables (*.csv *.tsv *.txt *.ods)")
    path = ask_open(parent, tr("Sizes from a table"), kinds)
    if not path:
        return
    figure, stop = studio.figure, Event()

    def then(text: str) -> None:
        if studio.figure is figure:
            take_table(studio, text, ask)

    def fail(error: Exception) -> None:
        if isinstance(error, FileRefusedError):
            studio.refuse(error)
        elif not isinstance(error, CalledOffError | StoppedError):
            studio.refused.emit(log_error(error))

    background.do(lambda: table_text(Path(path), stop), then, fail, stop)


def take_table(
    studio: EditorSession,
    text: str,
    ask: Callable[[list[list[str]]], list[str] | None] = lambda rows: None,
) -> FromTable | None:
    """Import the sizes of a table and report what does not fit. If the header does not name the columns,
    ``ask`` does, or returns None."""
    if studio.figure is None:
        return None
    try:
        lines = _read_lines(studio, text, ask)
        found = with_sizes(studio.figure, studio.survey, lines)
    except (RefusedError, ValueError) as error:
        studio.refuse(error)
        return None
    if found.taken and not edit_rebuilt(
        studio, tr("Sizes from a table"), found.figure, found.survey
    ):
        return None
    told = [tr("{n} sizes taken.", n=found.taken)]
    if found.unknown:
        told.append(tr("No such part: {names}.", names=", ".join(found.unknown)))
    if found.unfit:
        told.append(tr("They have no such measures: {names}.", names="; ".join(found.unfit)))
    studio.refused.emit(" ".join(told))
    return found


def _read_lines(
    studio: EditorSession, text: str, ask: Callable[[list[list[str]]], list[str] | None]
) -> tuple[SizesLine, ...]:
    unit = studio.units.length
    try:
        return read_sizes(text, unit, {tr(words).casefold(): what for what, words in HEADS.items()})
    except RefusedError as error:
        rows = rows_of(text)
        headless = error.told == Fact("table.no-columns") and max(map(len, rows), default=0) > 1
        columns = ask(rows) if headless else None
        if columns is None:
            raise
        return read_columns(text, unit, columns)
