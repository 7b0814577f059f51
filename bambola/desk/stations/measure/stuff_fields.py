"""Fields for a part not made of wool: material, fixing, pieces and layers."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QFormLayout, QGroupBox, QLineEdit, QSpinBox, QWidget

from bambola.core.bench.materials import Material
from bambola.core.figure import Part
from bambola.core.figure.model import FIXINGS, Stuff
from bambola.core.quantities import parse_length
from bambola.core.words import kind
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


class Fields(QGroupBox):
    """Rows of fields; emits a signal when one changes."""

    changed = pyqtSignal()

    def __init__(self, title: str, studio: EditorSession) -> None:
        super().__init__(title)
        self.studio = studio
        self.form = QFormLayout(self)
        self.form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)

    def row(self, words: str, field: QWidget) -> None:
        """Add a field with a label before it."""
        field.setAccessibleName(words)
        self.form.addRow(words, field)
        for signal in ("currentIndexChanged", "valueChanged", "textEdited", "toggled"):
            if hasattr(field, signal):
                getattr(field, signal).connect(lambda *_: self.changed.emit())
                break

    def show_rows(self, shown: dict[QWidget, bool]) -> None:
        """Show only the rows that apply."""
        for field, on in shown.items():
            self.form.setRowVisible(field, on)

    def mm(self, field: QLineEdit) -> float:
        """Return the length in a field. Raises ``QuantityError``."""
        return parse_length(field.text(), self.studio.units.length)


HOLLOW = "#hollow"
"""What no material is called."""


class StuffFields(Fields):
    """Wool, or one of the bench's materials with the fields of its kind."""

    def __init__(self, studio: EditorSession, part: Part) -> None:
        super().__init__(tr("What it is made of"), studio)
        stuff, now = part.stuff, studio.bench.material_of(part)
        self.of, self.fixed = QComboBox(), QComboBox()
        self.of.addItem(tr("wool"), None)
        self.of.addItem(tr("nothing: a hollow in what it sits on"), HOLLOW)
        for material in studio.bench.materials:
            self.of.addItem(studio.say(material.display_name), material.id)
        of = HOLLOW if part.hollow else now.id if now else None
        self.of.setCurrentIndex(max(0, self.of.findData(of)))
        self.pieces, self.layers = QSpinBox(), QSpinBox()
        for spin in (self.pieces, self.layers):
            spin.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.pieces.setRange(1, 12)
        self.layers.setRange(1, 6)
        self.pieces.setValue(stuff.pieces if stuff else 1)
        self.layers.setValue(stuff.layers if stuff else 1)
        for words, field in (
            (tr("It is of"), self.of),
            (tr("It is fixed"), self.fixed),
            (tr("Cut in pieces"), self.pieces),
            (tr("Layers of it"), self.layers),
        ):
            self.row(words, field)
        self._offer_fixings(stuff.fixed if stuff else None)
        self.of.currentIndexChanged.connect(lambda _: self._offer_fixings(None))
        self.value()

    @property
    def material(self) -> Material | None:
        """The chosen material; None for wool."""
        return self.studio.bench.material_by_id.get(self.of.currentData() or "")

    @property
    def is_hollow(self) -> bool:
        """Whether the part is a hollow, pressed into its bearer."""
        return bool(self.of.currentData() == HOLLOW)

    def _offer_fixings(self, now: str | None) -> None:
        if self.material is None:
            self.changed.emit()
            return
        self.fixed.blockSignals(True)
        self.fixed.clear()
        for fixing in FIXINGS[self.material.kind]:
            self.fixed.addItem(self.studio.say(kind("fixing", fixing)), fixing)
        self.fixed.setCurrentIndex(max(0, self.fixed.findData(now)))
        self.fixed.blockSignals(False)
        self.changed.emit()

    def value(self) -> Stuff | None:
        """Return the entered material; None for wool."""
        material = self.material
        sheet = material is not None and material.is_sheet
        self.show_rows(
            {
                self.fixed: material is not None,
                self.pieces: sheet,
                self.layers: material is not None and material.kind != "clay",
            }
        )
        if material is None:
            return None
        return Stuff(
            kind=material.kind,
            fixed=self.fixed.currentData() or FIXINGS[material.kind][0],
            pieces=self.pieces.value() if sheet else 1,
            layers=self.layers.value(),
        )
