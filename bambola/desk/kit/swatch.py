"""A swatch: roll two grams, measure, felt, measure. The quickest way to one's own numbers."""

from __future__ import annotations

from datetime import date

from PyQt6.QtWidgets import (
    QComboBox,
    QDialogButtonBox,
    QFormLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Record
from bambola.core.bench.wools import SWATCH
from bambola.core.quantities import QuantityError, parse_mass, parse_sides, show_mass
from bambola.core.words import error_words, kind
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

FIRMNESSES = ("soft", "medium", "firm", "hard")
FORMS = ("ball", "sausage", "cone", "sheet")


class SwatchDialog(FittedDialog):
    """Asks for grams and sizes before and after; says what is missing and saves nothing until it is
    complete."""

    def __init__(self, parent: QWidget, studio: EditorSession, wool: str) -> None:
        super().__init__(parent)
        self.studio, self.wool = studio, wool
        self.record: Record | None = None
        name = studio.bench.wool_by_id[wool].name
        self.setWindowTitle(tr("A swatch of {name:lower}", name=name))
        told = QLabel(
            tr(
                "Weigh about {grams}, roll it and measure: along, across, through. Felt it, and "
                "measure again.",
                grams=show_mass(2.0, studio.units),
            )
        )
        told.setWordWrap(True)
        self.form, self.firm = QComboBox(), QComboBox()
        for form in FORMS:
            self.form.addItem(studio.say(kind("form", form)), form)
        for firmness in FIRMNESSES:
            self.firm.addItem(studio.say(kind("firmness", firmness)), firmness)
        self.firm.setCurrentIndex(FIRMNESSES.index("medium"))
        self.grams, self.trimmed = (
            QLineEdit(show_mass(2.0, studio.units)),
            QLineEdit(show_mass(0.0, studio.units)),
        )
        self.loose, self.felted = QLineEdit(), QLineEdit()
        for size, example in ((self.loose, "60 × 45 × 45"), (self.felted, "38 × 30 × 30")):
            size.setPlaceholderText(example)
        self.fault = QLabel()
        self.fault.setWordWrap(True)
        rows = QFormLayout()
        named: tuple[tuple[str, QWidget], ...] = (
            (tr("Rolled as a"), self.form),
            (tr("Felted"), self.firm),
            (tr("Weighed"), self.grams),
            (tr("Trimmed off"), self.trimmed),
            (tr("Loose"), self.loose),
            (tr("Felted size"), self.felted),
        )
        for words, field in named:
            field.setAccessibleName(words)
            rows.addRow(words, field)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Save | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addWidget(told)
        column.addLayout(rows)
        column.addWidget(self.fault)
        column.addWidget(buttons)

    def accept(self) -> None:
        try:
            self.record = self._read_record()
        except QuantityError as error:
            self.fault.setText(error_words(error, self.studio.words))
            return
        except ValueError:
            self.fault.setText(
                tr("Grams and sizes must lie above 0, and less is trimmed than weighed.")
            )
            return
        super().accept()

    def _read_record(self) -> Record:
        units = self.studio.units
        sizes = [self._parse_size(self.loose), self._parse_size(self.felted)]
        grams, trimmed = (parse_mass(f.text(), units.mass) for f in (self.grams, self.trimmed))
        if trimmed >= grams:
            raise ValueError
        return Record.model_validate(
            {
                "day": date.today().isoformat(),
                "figure": SWATCH,
                "part": SWATCH,
                "wool": self.wool,
                "firmness": self.firm.currentData(),
                "form": self.form.currentData(),
                "grams_in": grams,
                "grams_trimmed": trimmed,
                "loose_mm": sizes[0],
                "finished_mm": sizes[1],
            }
        )

    def _parse_size(self, field: QLineEdit) -> tuple[float, ...]:
        sides = parse_sides(field.text(), self.studio.units.length)
        if len(sides) != 3:
            raise QuantityError(
                tr("Write a size as along × across × through, such as 60 × 40 × 40.")
            )
        return sides
