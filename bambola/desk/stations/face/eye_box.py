"""How many eyes of the planned size there are in the box, counted beside the eyes."""

from __future__ import annotations

from PyQt6.QtWidgets import QFormLayout, QLabel, QSpinBox, QWidget

from bambola.core.face import Mark
from bambola.core.plan.making.values import FittingPlan
from bambola.core.quantities import show_bought
from bambola.desk.session.bench_desk import BenchDesk
from bambola.language import tr, trn

MOST = 9999


class EyeBox(QWidget):
    """A number to be set, and what is to buy; it is seen while eyes are in hand that come in sizes."""

    def __init__(self, desk: BenchDesk) -> None:
        super().__init__()
        self.desk = desk
        self._row: FittingPlan | None = None
        self._size, self.count, self.told = QLabel(), QSpinBox(), QLabel()
        self.count.setRange(0, MOST)
        self.count.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.count.setAccessibleName(tr("eyes of this size in the box"))
        self.told.setWordWrap(True)
        form = QFormLayout(self)
        form.setContentsMargins(0, 0, 0, 0)
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        form.addRow(self._size, self.count)
        form.addRow(self.told)
        self.count.editingFinished.connect(self._counted)

    def show_mark(self, mark: Mark | None) -> None:
        """Show the eyes that a mark is of."""
        plan = self.desk.studio.plan
        about = mark.about if mark is not None and mark.kind == "fitting" else ""
        sold = (
            {f.id for f in plan.resized.figure.fittings if f.follows == "ready-made"}
            if plan
            else set()
        )
        self._row = (
            next((r for r in plan.fittings if r.id == about and r.id in sold), None)
            if plan
            else None
        )
        self.setVisible(self._row is not None)
        if self._row is None:
            return
        size = show_bought(self._row.use_mm, self.desk.studio.units)
        self._size.setText(tr("of {size} in the &box", size=size))
        self._size.setBuddy(self.count)
        if not self.count.hasFocus():
            self.count.setValue(self.desk.base.eyes_of(self._row.use_mm))
        self.told.setText(
            trn("{n} eye to buy.", "{n} eyes to buy.", self._row.buy)
            if self._row.buy
            else tr("Enough for what is planned.")
        )

    def _counted(self) -> None:
        if self._row is not None and self.count.value() != self.desk.base.eyes_of(self._row.use_mm):
            self.desk.set_eyes(self._row.use_mm, self.count.value())
