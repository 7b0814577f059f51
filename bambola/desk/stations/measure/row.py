"""The dialog for a row of the selected part: the count, and where the last one sits."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QFormLayout, QLineEdit, QSpinBox, QWidget

from bambola.core.figure import Figure, Row
from bambola.core.figure.additions import only_one, with_row
from bambola.core.figure.graft import with_part
from bambola.core.resize.laws import MOST_IN_ROW
from bambola.desk.kit.ok_cancel import lead_label, ok_cancel
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

_FIRST = 5
"""So many are offered first."""


class RowDialog(QDialog):
    """Asks for the count and end of a row along the part's bearer."""

    def __init__(self, parent: QWidget, studio: EditorSession, part: str) -> None:
        super().__init__(parent)
        figure = studio.figure
        assert figure is not None
        body = figure.by_id[part]
        bearer = figure.by_id[str(body.parent)].name
        self.setWindowTitle(tr("A row of it"))
        had = body.row or Row(count=_FIRST, along=1.0 - body.seat.along, around=body.seat.around)
        form = QFormLayout(self)
        told = tr("The {part:lower} sits on the {bearer:lower}. More of it follow it in a row, evenly.",
                  part=body.name, bearer=bearer)  # fmt: skip
        form.addRow(lead_label(told))
        self.count = self._spin(1, MOST_IN_ROW, had.count, "")
        self.along = self._spin(0, 100, round(100 * had.along), " %")
        self.around = self._spin(-180, 180, round(had.around), "°")
        self.plural = QLineEdit(body.plural or "")
        self.plural.setMaxLength(120)
        form.addRow(tr("How &many; 1 for no row"), self.count)
        form.addRow(tr("&Several of them are called"), self.plural)
        form.addRow(tr("The last, &along the {bearer:lower}", bearer=bearer), self.along)
        form.addRow(tr("The last, turned &round it"), self.around)
        form.addRow(ok_cancel(self))

    def _spin(self, low: int, high: int, value: int, unit: str) -> QSpinBox:
        spin = QSpinBox()
        spin.setRange(low, high)
        spin.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        spin.setSuffix(unit)
        spin.setValue(value)
        return spin


def ask_row(parent: QWidget, studio: EditorSession) -> None:
    """Ask for the row of the selected part; a part with others on it, or the one all sit on, cannot have
    one."""
    figure, part = studio.figure, studio.selection.part
    if figure is None or part is None or part not in figure.by_id:
        return
    if figure.by_id[part].parent is None:
        studio.refuse(only_one(figure.by_id[part]))
        return
    dialog = RowDialog(parent, studio, part)
    if dialog.exec() == QDialog.DialogCode.Accepted:
        count, along, around = (s.value() for s in (dialog.count, dialog.along, dialog.around))
        plural = dialog.plural.text().strip() or None

        def rowed(figure: Figure) -> Figure:
            named = with_part(figure, figure.by_id[part].replaced(plural=plural))
            return with_row(named, part, count, along / 100, around)

        studio.edit_by(tr("A row of it"), rowed)
