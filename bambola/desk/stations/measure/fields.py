"""Rows of labelled fields for dialogs about a part."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFormLayout, QGroupBox, QLineEdit, QWidget

from bambola.core.quantities import parse_length
from bambola.desk.session.studio import EditorSession


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
