"""The bend of a flat part: round its length, and cupped or folded at its base."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QDoubleSpinBox, QFormLayout, QSpinBox, QWidget

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure import Leaf
from bambola.core.figure.graft import with_part
from bambola.desk.kit.ok_cancel import lead_label, ok_cancel
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

MOST_DEG = 300


class BentDialog(QDialog):
    """Asks for the two angles of a sheet, and the thickness of its base."""

    def __init__(self, parent: QWidget, leaf: Leaf, name: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("How it is bent: {name:lower}", name=name))
        form = QFormLayout(self)
        form.addRow(
            lead_label(
                tr(
                    "A cup is pinched at the base and fades to the tip; over 150° the base lies folded."
                )
            )
        )
        self.curl, self.cup = self._spin(leaf.curl), self._spin(leaf.cup)
        form.addRow(tr("Bent &all along"), self.curl)
        form.addRow(tr("&Cupped at its base"), self.cup)
        self.foot = QDoubleSpinBox()
        self.foot.setRange(1.0, 3.0)
        self.foot.setSingleStep(0.1)
        self.foot.setDecimals(1)
        self.foot.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
        self.foot.setSuffix(" ×")
        self.foot.setValue(leaf.foot)
        form.addRow(tr("As &thick at its base as its tip"), self.foot)
        form.addRow(ok_cancel(self))

    def asked(self) -> dict[str, float]:
        """Return the values of the fields, by the names of the shape's own."""
        return {"curl": self.curl.value(), "cup": self.cup.value(), "foot": self.foot.value()}

    def _spin(self, value: float) -> QSpinBox:
        spin = QSpinBox()
        spin.setRange(-MOST_DEG, MOST_DEG)
        spin.setSingleStep(5)
        spin.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        spin.setSuffix("°")
        spin.setValue(round(value))
        return spin


def ask_bent(parent: QWidget, studio: EditorSession) -> None:
    """Ask for the bend of the selected part, which must be flat."""
    figure, id = studio.figure, studio.selection.part
    if figure is None or id is None or id not in figure.by_id:
        return
    part = figure.by_id[id]
    leaf = part.shape
    if not isinstance(leaf, Leaf):
        studio.refused.emit(
            tr("Only a flat part is bent; the {name:lower} is none.", name=part.name)
        )
        return
    dialog = BentDialog(parent, leaf, part.name)
    if not dialog.exec():
        return
    if abs(dialog.curl.value() + dialog.cup.value()) > MOST_DEG:
        studio.refuse(RefusedError(Fact("fault.leaf-cup")))
    else:
        new = {**leaf.model_dump(), **dialog.asked()}
        studio.edit_by(
            tr("Bend a flat part"),
            lambda f: with_part(f, part.replaced(shape=Leaf.model_validate(new))),
        )
