"""What counts in an order: how much the maker minds each change, with what the order then comes to."""

from __future__ import annotations

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QLabel,
    QPushButton,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Weights
from bambola.core.order import Tally, sequence, tally, with_moves
from bambola.core.plan import Plan
from bambola.core.plan.making.jobs import lightness
from bambola.desk.kit.ok_cancel import ok_cancel
from bambola.desk.session.studio import Studio

MINDED = (
    ("needle", "A change of needle", "changes of needle"),
    ("colour", "A change of colour on the pad", "changes of colour"),
    ("dark_to_light", "A light colour after a dark one", "times light after dark"),
    ("leaving", "Leaving a piece of work", "times another piece is taken up"),
    ("glue", "Waiting for glue", "waits for glue"),
)
"""Each weight, as it is asked for and as it is counted."""
NOTCH = 0.5
"""A weight goes by halves, up to six."""
NOTCHES = 12
REST_MS = 120


class Minding(QDialog):
    """A slider for each weight; what the order comes to follows while it is pulled."""

    def __init__(self, parent: QWidget, studio: Studio) -> None:
        super().__init__(parent)
        self.studio = studio
        self.setWindowTitle("What counts in the order")
        told = QLabel(
            "How much do you mind each of these? The rules hold whatever you say; among the orders they "
            "leave, the one that bothers you least is taken."
        )
        told.setWordWrap(True)
        told.setMinimumHeight(2 * told.fontMetrics().lineSpacing() + 4)
        self.sliders: dict[str, QSlider] = {}
        self.counts: dict[str, QLabel] = {}
        grid = QGridLayout()
        for row, (name, asked, _) in enumerate(MINDED):
            slider = self.sliders[name] = QSlider(Qt.Orientation.Horizontal)
            slider.setRange(0, NOTCHES)
            slider.setValue(round(getattr(studio.bench.weights, name) / NOTCH))
            slider.setAccessibleName(asked)
            slider.setMinimumWidth(220)
            slider.valueChanged.connect(lambda _: self._rest.start())
            self.counts[name] = QLabel()
            for column, widget in enumerate((QLabel(asked), slider, self.counts[name])):
                grid.addWidget(widget, row, column)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self.count)
        buttons = ok_cancel(self)
        usual = QPushButton("As usual")
        usual.clicked.connect(lambda _=False: self._set(Weights()))
        buttons.addButton(usual, QDialogButtonBox.ButtonRole.ResetRole)
        column_ = QVBoxLayout(self)
        column_.setSpacing(14)
        column_.addWidget(told)
        column_.addLayout(grid)
        column_.addWidget(buttons)
        self.count()

    @property
    def weights(self) -> Weights:
        """What the sliders say."""
        return Weights(**{name: s.value() * NOTCH for name, s in self.sliders.items()})

    def _set(self, weights: Weights) -> None:
        for name, slider in self.sliders.items():
            slider.setValue(round(getattr(weights, name) / NOTCH))

    def count(self) -> None:
        """Say what the order comes to, and what it is now."""
        plan = self.studio.plan
        if plan is None:
            return
        now = tally(plan.order.tasks, lightness(self.studio.bench))
        then = self._tally(plan)
        for name, _, counted in MINDED:
            a, b = getattr(now, name), getattr(then, name)
            self.counts[name].setText(f"{counted}: {b}" + (f", now {a}" if a != b else ""))

    def _tally(self, plan: Plan) -> Tally:
        bench = self.studio.bench
        order = sequence(plan.work, lightness(bench), self.weights, plan.usual)
        return tally(with_moves(order, self.studio.brief.moves).tasks, lightness(bench))
