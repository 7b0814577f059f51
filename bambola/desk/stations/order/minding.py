"""The dialog for how much the maker minds each kind of change, with the cost of the resulting order."""

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
from bambola.core.order import Tally, count_changes, sequence, with_moves
from bambola.core.plan import Plan
from bambola.core.plan.making.jobs import lightness
from bambola.desk.kit.ok_cancel import lead_label, ok_cancel
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr

MINDED = (
    ("needle", N_("A change of needle"), N_("changes of needle")),
    ("colour", N_("A change of colour on the pad"), N_("changes of colour")),
    ("dark_to_light", N_("A light colour after a dark one"), N_("times light after dark")),
    ("leaving", N_("Leaving a piece of work"), N_("times another piece is taken up")),
    ("glue", N_("Waiting for glue"), N_("waits for glue")),
)
"""Each weight, as it is asked for and as it is counted."""
NOTCH = 0.5
"""A weight goes by halves, up to six."""
NOTCHES = 12
REST_MS = 120


class Minding(QDialog):
    """A slider for each weight; the cost of the order follows during a drag."""

    def __init__(self, parent: QWidget, studio: EditorSession) -> None:
        super().__init__(parent)
        self.studio = studio
        self.setWindowTitle(tr("What counts in the order"))
        told = lead_label(
            tr(
                "How much do you mind each of these? The rules hold whatever you say; among the orders they "
                "leave, the one that bothers you least is taken."
            )
        )
        self.sliders: dict[str, QSlider] = {}
        self.counts: dict[str, QLabel] = {}
        grid = QGridLayout()
        for row, (name, asked, _) in enumerate(MINDED):
            slider = self.sliders[name] = QSlider(Qt.Orientation.Horizontal)
            slider.setRange(0, NOTCHES)
            slider.setValue(round(getattr(studio.bench.weights, name) / NOTCH))
            slider.setAccessibleName(tr(asked))
            slider.setMinimumWidth(220)
            slider.valueChanged.connect(lambda _: self._rest.start())
            self.counts[name] = QLabel()
            for column, widget in enumerate((QLabel(tr(asked)), slider, self.counts[name])):
                grid.addWidget(widget, row, column)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self.count)
        buttons = ok_cancel(self)
        usual = QPushButton(tr("As usual"))
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
        """The weights on the sliders."""
        return Weights(**{name: s.value() * NOTCH for name, s in self.sliders.items()})

    def _set(self, weights: Weights) -> None:
        for name, slider in self.sliders.items():
            slider.setValue(round(getattr(weights, name) / NOTCH))

    def count(self) -> None:
        """Show the cost of the present order and of the one with these weights."""
        plan = self.studio.plan
        if plan is None:
            return
        now = count_changes(plan.order.tasks, lightness(self.studio.bench))
        then = self._tally(plan)
        for name, _, counted in MINDED:
            a, b = getattr(now, name), getattr(then, name)
            self.counts[name].setText(
                f"{tr(counted)}: {b}" + (tr(", now {now}", now=a) if a != b else "")
            )

    def _tally(self, plan: Plan) -> Tally:
        bench = self.studio.bench
        order = sequence(plan.work, lightness(bench), self.weights, plan.usual)
        return count_changes(with_moves(order, self.studio.brief.moves).tasks, lightness(bench))
