"""Asks what the columns of a table are, if its header does not tell."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QLabel,
    QVBoxLayout,
    QWidget,
)

from bambola.core.plan.reading.sizes_table import size_mm
from bambola.desk.kit.ok_cancel import lead_label, ok_cancel
from bambola.desk.kit.scrolled import scroll_area
from bambola.desk.kit.theme import Theme
from bambola.language import N_, tr

COLUMNS = (
    ("", N_("not used")), ("part", N_("part")), ("length", N_("length")), ("height", N_("height")),
    ("width", N_("width")), ("depth", N_("depth")), ("thickness", N_("thickness")),
    ("diameter", N_("diameter")),
)  # fmt: skip
_ROWS, _MOST = 6, 16
"""So many rows are shown, and columns asked about."""


class ColumnsDialog(QDialog):
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
            box.setAccessibleName(tr("What column {n} is", n=column + 1))
            for key, words in COLUMNS:
                box.addItem(tr(words), key)
            box.currentIndexChanged.connect(lambda _: self._look())
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
                    "The head of the table does not tell: say which column names the part, and what size."
                )
            )
        )
        whole.addWidget(scroll_area(within), 1)
        whole.addWidget(self._buttons)
        self.resize(theme.px(600), theme.px(340))
        self._guess(rows)
        self._look()

    def _guess(self, rows: Sequence[Sequence[str]]) -> None:
        """Set the first column of words to the names of parts."""
        for column, box in enumerate(self.boxes):
            cells = [row[column] for row in rows if column < len(row) and row[column].strip()]
            if cells and sum(size_mm(cell, "mm") > 0 for cell in cells) < len(cells) / 2:
                box.setCurrentIndex(box.findData("part"))
                return

    def columns(self) -> list[str]:
        """Return what each column is."""
        return [box.currentData() for box in self.boxes]

    def _look(self) -> None:
        told = self.columns() if self.boxes else []
        ok = self._buttons.button(QDialogButtonBox.StandardButton.Ok)
        if ok is not None:
            ok.setEnabled(told.count("part") == 1 and any(c not in ("", "part") for c in told))
