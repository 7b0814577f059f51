"""The dialog for the maker's needles, holder, glue and experience."""

from __future__ import annotations

from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Bench
from bambola.core.bench.glues import GLUES, Glue
from bambola.desk.kit.ok_cancel import lead_label, ok_cancel
from bambola.language import N_, tr
from bambola.translated import C_

GAUGES = (32, 34, 36, 38, 40, 42)
"""Those in shops; a gauge of the bench that is none of them is offered as well."""
MOST_AT_ONCE = 20
GLUE_WORDS: dict[Glue, str] = {
    "instant": N_("instant, hard in 2 minutes"),
    "hot": N_("hot, hard in 3 minutes"),
    "clear": N_("clear craft glue, hard in half an hour"),
    "white": N_("white or tacky, hard in a night"),
}


class Tools(QDialog):
    """A tick for every needle, the holder, the glue, and whether the maker is new to felting."""

    def __init__(self, parent: QWidget, bench: Bench) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Needles, glue and hands"))
        told = lead_label(
            tr(
                "Steps name the needles that you tick, the nearest where the usual one is missing. The "
                "higher the number, the finer the needle."
            )
        )
        self.ticks: dict[int, QCheckBox] = {}
        row = QHBoxLayout()
        for gauge in sorted({*GAUGES, *bench.needles}):
            tick = self.ticks[gauge] = QCheckBox(str(gauge))
            tick.setAccessibleName(tr("needle {needle}", needle=gauge))
            tick.setChecked(gauge in bench.needles)
            tick.toggled.connect(lambda _: self._tell())
            row.addWidget(tick)
        row.addStretch(1)
        self.holder = QComboBox()
        for most in range(1, MOST_AT_ONCE + 1):
            self.holder.addItem(str(most) if most > 1 else tr(C_("a holder", "none")), most)
        self.holder.setCurrentIndex(bench.holder - 1)
        self.holder.setAccessibleName(tr("Needles in the largest holder"))
        self.glue = QComboBox()
        for glue, words in GLUE_WORDS.items():
            self.glue.addItem(tr(words), glue)
        self.glue.setCurrentIndex(GLUES.index(bench.glue))
        self.glue.setAccessibleName(tr("Glue"))
        self.beginner = QCheckBox(tr("I am new to it: build more of the small parts in place"))
        self.beginner.setChecked(bench.beginner)
        form = QFormLayout()
        form.addRow(tr("Needles"), row)
        form.addRow(tr("Needles in the largest holder"), self.holder)
        form.addRow(tr("Glue"), self.glue)
        form.addRow(self.beginner)
        self.missing = QLabel(tr("Tick at least one needle."))
        buttons = ok_cancel(self)
        self._ok = buttons.button(QDialogButtonBox.StandardButton.Ok)
        column = QVBoxLayout(self)
        column.setSpacing(14)
        column.addWidget(told)
        column.addLayout(form)
        column.addWidget(self.missing)
        column.addWidget(buttons)
        self._tell()

    @property
    def at_once(self) -> int:
        """The number of needles in the largest holder, 1 without one."""
        return self.holder.currentIndex() + 1

    @property
    def chosen_glue(self) -> Glue:
        """The glue for eyes and pegs."""
        return GLUES[self.glue.currentIndex()]

    @property
    def needles(self) -> tuple[int, ...]:
        """The ticked gauges, the coarsest first."""
        return tuple(gauge for gauge, tick in self.ticks.items() if tick.isChecked())

    def _tell(self) -> None:
        self.missing.setVisible(not self.needles)
        if self._ok is not None:
            self._ok.setEnabled(bool(self.needles))
