"""Before the first figure of somebody who has no record: one trial of two grams."""

from __future__ import annotations

from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton

from bambola.core.bench import Making
from bambola.desk.kit.swatch import SwatchDialog
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.session.bench_desk import BenchDesk
from bambola.language import tr


class FirstTrial(QFrame):
    """Offers a swatch of the wool that the figure takes most of; hidden once there is a record, or the figure
    is begun."""

    def __init__(self, desk: BenchDesk, theme: Theme) -> None:
        super().__init__()
        self.desk = desk
        self.told, self.felt = QLabel(), QPushButton(tr("Felt a swatch…"))
        self.told.setWordWrap(True)
        self.felt.clicked.connect(lambda _=False: self.ask())
        row = QHBoxLayout(self)
        row.addWidget(self.told, 1)
        row.addWidget(self.felt)
        set_role(self, "note-slip")
        set_spacing(theme, row, (12, 8, 12, 10))
        self.hide()

    @property
    def wool(self) -> str | None:
        """The core wool that the figure takes most of."""
        studio = self.desk.studio
        cores = (
            {part.core for part in studio.figure.parts if not part.stuff} if studio.figure else ()
        )
        totals = studio.plan.wools if studio.plan else ()
        wools = [total for total in totals if total.wool in cores]
        return max(wools, key=lambda total: total.taken_g).wool if wools else None

    def show_for(self, making: Making, is_taught: bool) -> None:
        """Offer it to a maker of whom nothing is known; a lesson is a trial itself."""
        makings = self.desk.makings.values()
        is_new = not self.desk.records and not any(one.is_begun for one in makings)
        wool = self.desk.studio.bench.wool_by_id.get(self.wool or "")
        self.setVisible(is_new and not making.is_begun and not is_taught and wool is not None)
        if wool is not None:
            self.told.setText(
                tr(
                    "A trial first: 2 g of {wool:lower}, two minutes. Without it a firm hand runs short.",
                    wool=wool.name,
                )
            )

    def ask(self) -> None:
        """Ask for the swatch; the weights follow it."""
        wool = self.wool
        if wool is None:
            return
        dialog = SwatchDialog(self, self.desk.studio, wool)
        if dialog.exec() and dialog.record is not None and self.desk.add_record(dialog.record):
            self.hide()
