"""The pane for weighing the original."""

from __future__ import annotations

from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.plan.reading.weigh import WeightFinding, weigh_original
from bambola.core.quantities import QuantityError, parse_mass, show_mass
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import at_most_every, start_unless_running
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


class WeighPane(QWidget):
    """Takes the original's weight, tells how firmly it is felted, and offers to use that."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._found: WeightFinding | None = None
        self.entry = QLineEdit()
        self.entry.setPlaceholderText(tr("weight"))
        self.entry.setAccessibleName(tr("Weight of the original"))
        self.entry.returnPressed.connect(self._typed)
        self._label = QLabel(tr("The original weighs"))
        self._label.setWordWrap(True)
        self._told = QLabel()
        self._told.setWordWrap(True)
        self.use = QPushButton(tr("Felt it like the original"))
        self.use.clicked.connect(self.take)
        line = QHBoxLayout()
        line.addWidget(self._label, 1)
        line.addWidget(self.entry)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(4), 0, 0)
        column.addLayout(line)
        column.addWidget(self._told)
        column.addWidget(self.use)
        self._soon = at_most_every(self, 0, self.refresh)
        for signal in (studio.survey_changed, studio.figure_changed, studio.units_changed):
            signal.connect(lambda: start_unless_running(self._soon))
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.entry.setFixedWidth(self.theme.px(96))
        self.entry.setFont(self.theme.text(16, bold=True))
        self._told.setFont(self.theme.text(14))

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Show what the weight means for the present figure."""
        weight = self.studio.survey.weight
        self._found = None
        if self.studio.figure is None or not self.isVisible():
            return
        if weight is None:
            self.entry.setText("")
            self._told.setText(
                tr("Put the finished original on the scale: its weight tells its firmness.")
            )
        else:
            self.entry.setText(show_mass(weight, self.studio.units))
            self._found = weigh_original(
                self.studio.figure, weight, self.studio.bench, self.studio.plan_as_made()
            )
            expected = show_mass(self._found.expected_g, self.studio.units)
            self._told.setText(
                tr(
                    "As drawn it would weigh {expected}. {told}",
                    expected=expected,
                    told=self.studio.say(self._found.told),
                )
            )
        found = self._found
        same = found is not None and abs(found.expected_g / found.weight_g - 1) < 0.005
        self.use.setVisible(bool(found and found.figure and found.believable and not same))

    def _typed(self) -> None:
        try:
            grams = parse_mass(self.entry.text(), self.studio.units.mass)
            if not 0 < grams <= 1_000_000:
                raise QuantityError(tr("A weight must lie above 0 and up to 1000 kg."))
        except QuantityError as error:
            self.studio.refuse(error)
            return
        self.studio.let_go()
        self.studio.edit(tr("Weigh the original"), survey=self.studio.survey.replaced(weight=grams))

    def take(self) -> None:
        """Give the figure the firmness of its original."""
        if self._found is not None and self._found.figure is not None:
            self.studio.edit(tr("Felt it like the original"), self._found.figure, waits=False)
