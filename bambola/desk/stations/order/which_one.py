"""Which of several figures of one design is in hand at the pad."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox

from bambola.core.bench.making import nth_of
from bambola.desk.session.bench_desk import BenchDesk
from bambola.language import tr


class WhichOne(QComboBox):
    """The makings of the design on the table, where there is more than one."""

    chosen = pyqtSignal(str)

    def __init__(self, desk: BenchDesk) -> None:
        super().__init__()
        self.desk = desk
        self.setAccessibleName(tr("Which figure of this design"))
        self.activated.connect(lambda at: self.chosen.emit(self.itemData(at)))

    def refresh(self) -> None:
        """Tell those there are now."""
        known, in_hand = self.desk.of_design, self.desk.in_hand
        names = list(dict.fromkeys([*known, in_hand]))
        self.setVisible(len(names) > 1)
        self.clear()
        for name in names:
            n = nth_of(name)[1]
            runs = self.desk.studio.brief.runs
            told = tr("No. {n}", n=n)
            if len(runs) > 1:
                told = tr("the trial") if n == 1 else tr("the other {n}", n=runs[1])
            finished = name in known and known[name].finished
            self.addItem(tr("{which}, finished", which=told) if finished else told, name)
        self.setCurrentIndex(names.index(in_hand))
