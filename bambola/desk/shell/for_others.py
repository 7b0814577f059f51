"""Options of a pattern for others: further heights, author, licence."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFormLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from bambola.core.quantities import QuantityError, Units, parse_length, show_length
from bambola.core.words import Words, error_words
from bambola.desk.session.settings import Settings
from bambola.language import tr

MOST_HEIGHTS = 4
"""Besides the one in hand: outlines nested five deep are the most that three kinds of line keep apart."""
HIGHEST_MM = 2000.0


class PatternError(ValueError):
    """Raised for text that cannot be used; the message says why."""


EXAMPLES_MM = {"mm": (180.0, 300.0), "cm": (180.0, 300.0), "in": (177.8, 304.8)}
"""Heights that are round numbers in the maker's unit."""


class ForOthers(QWidget):
    """The options, folded to one button until wanted. ``changed`` is emitted when the layout must change."""

    changed = pyqtSignal()

    def __init__(self, settings: Settings, heights: Sequence[float] = ()) -> None:
        super().__init__()
        self.settings = settings
        self.unfold = QPushButton(tr("A pattern for &others…"))
        self.unfold.setCheckable(True)
        self.fields = QWidget()
        self.heights, self.maker, self.licence, self.note = (QLineEdit() for _ in range(4))
        self.maker.setText(settings.maker)
        self.licence.setText(settings.licence)
        self.heights.setPlaceholderText(
            "; ".join(show_length(mm, settings.units) for mm in EXAMPLES_MM[settings.units.length])
        )
        self.licence.setPlaceholderText(tr("for private making"))
        form = QFormLayout(self.fields)
        form.setContentsMargins(0, 0, 0, 0)
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapAllRows)
        for told, field in (
            (tr("also at these &heights"), self.heights),
            (tr("&made by"), self.maker),
            (tr("&licence"), self.licence),
            (tr("a &note for the cover"), self.note),
        ):
            form.addRow(told, field)
            field.editingFinished.connect(self._on_edited)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.unfold)
        column.addWidget(self.fields)
        self.fields.hide()
        self.unfold.toggled.connect(self.fields.setVisible)
        if heights:
            self.heights.setText("; ".join(show_length(mm, settings.units) for mm in heights))
            self.unfold.setChecked(True)
        self._before = self._typed_fields()

    def _typed_fields(self) -> tuple[str, ...]:
        fields = (self.heights, self.maker, self.licence, self.note)
        return tuple(field.text().strip() for field in fields)

    def _on_edited(self) -> None:
        typed = self._typed_fields()
        if typed != self._before:
            self._before = typed
            _, self.settings.maker, self.settings.licence, _ = typed
            self.changed.emit()

    @property
    def cover(self) -> tuple[str, str, str]:
        """Author, licence and note for the cover."""
        _, maker, licence, note = self._typed_fields()
        return maker, licence, note

    def other_heights(self, own_mm: float, words: Words) -> list[float]:
        """Return the heights besides the current one, mm. Raises :class:`PatternError`."""
        units: Units = words.units
        found: list[float] = []
        for said in self.heights.text().replace("\N{FULLWIDTH SEMICOLON}", ";").split(";"):
            if not said.strip():
                continue
            try:
                mm = parse_length(said, units.length)
            except QuantityError as error:
                raise PatternError(error_words(error, words)) from None
            if not 0 < mm <= HIGHEST_MM:
                raise PatternError(
                    tr(
                        "{said} is not allowed; a height lies above 0 and up to {most}.",
                        said=said.strip(),
                        most=show_length(HIGHEST_MM, units),
                    )
                )
            if all(abs(mm - known) > 0.05 for known in (*found, own_mm)):
                found.append(mm)
        if len(found) > MOST_HEIGHTS:
            raise PatternError(
                tr("A pattern takes up to {n} heights besides its own.", n=MOST_HEIGHTS)
            )
        return found
