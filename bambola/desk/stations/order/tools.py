"""The dialog for the maker's needles, holder, glue and experience."""

from __future__ import annotations

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialogButtonBox,
    QFormLayout,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Bench, Weights
from bambola.core.bench.materials import GLUES, Glue
from bambola.core.order import Tally, count_changes, sequence, with_moves
from bambola.core.plan import Plan
from bambola.core.plan.making.jobs import lightness
from bambola.desk.kit.buttons import lead_label, ok_cancel
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr
from bambola.translated import C_

GAUGES = (32, 34, 36, 38, 40, 42)
"""Those in shops; a gauge of the bench that is none of them is offered as well."""
MOST_AT_ONCE = 20
GLUE_WORDS: dict[Glue, str] = {
    "instant": N_("instant, hard in 2 minutes"),
    "hot": N_("hot, hard in 3 minutes"),
    "clear": N_("clear craft glue, hard in half an hour"),
    "white": N_("white or tacky, hard in a night"),
}


class Tools(FittedDialog):
    """A tick for every needle, the holder, the glue, and whether the maker is new to felting."""

    def __init__(self, parent: QWidget, bench: Bench) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Needles, glue and hands"))
        told = lead_label(
            tr(
                "Steps name the needles that you tick, the nearest where the usual one is missing. The "
                "higher the number, the finer the needle."
            )
        )
        self.ticks: dict[int, QCheckBox] = {}
        row = QHBoxLayout()
        for gauge in sorted({*GAUGES, *bench.needles}):
            tick = self.ticks[gauge] = QCheckBox(str(gauge))
            tick.setAccessibleName(tr("needle {needle}", needle=gauge))
            tick.setChecked(gauge in bench.needles)
            tick.toggled.connect(lambda _: self._update_missing())
            row.addWidget(tick)
        row.addStretch(1)
        self.holder = QComboBox()
        for most in range(1, MOST_AT_ONCE + 1):
            self.holder.addItem(str(most) if most > 1 else tr(C_("a holder", "none")), most)
        self.holder.setCurrentIndex(bench.holder - 1)
        self.holder.setAccessibleName(tr("Needles in the largest holder"))
        self.glue = QComboBox()
        for glue, words in GLUE_WORDS.items():
            self.glue.addItem(tr(words), glue)
        self.glue.setCurrentIndex(GLUES.index(bench.glue))
        self.glue.setAccessibleName(tr("Glue"))
        self.beginner = QCheckBox(tr("I am new to this: build more of the small parts in place"))
        self.beginner.setChecked(bench.beginner)
        form = QFormLayout()
        form.addRow(tr("Needles"), row)
        form.addRow(tr("Needles in the largest holder"), self.holder)
        form.addRow(tr("Glue"), self.glue)
        form.addRow(self.beginner)
        self.missing = QLabel(tr("Tick at least one needle."))
        buttons = ok_cancel(self)
        self._ok = buttons.button(QDialogButtonBox.StandardButton.Ok)
        column = QVBoxLayout(self)
        column.setSpacing(14)
        column.addWidget(told)
        column.addLayout(form)
        column.addWidget(self.missing)
        column.addWidget(buttons)
        self._update_missing()

    @property
    def at_once(self) -> int:
        """The number of needles in the largest holder, 1 without one."""
        return self.holder.currentIndex() + 1

    @property
    def chosen_glue(self) -> Glue:
        """The glue for eyes and pegs."""
        return GLUES[self.glue.currentIndex()]

    @property
    def needles(self) -> tuple[int, ...]:
        """The ticked gauges, the coarsest first."""
        return tuple(gauge for gauge, tick in self.ticks.items() if tick.isChecked())

    def _update_missing(self) -> None:
        self.missing.setVisible(not self.needles)
        if self._ok is not None:
            self._ok.setEnabled(bool(self.needles))


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


class Minding(FittedDialog):
    """A slider for each weight; the cost of the order follows during a drag."""

    def __init__(self, parent: QWidget, studio: EditorSession) -> None:
        super().__init__(parent)
        self.studio = studio
        self.setWindowTitle(tr("What matters in the order"))
        told = lead_label(
            tr(
                "How much do you mind each of these? The rules always hold; of the orders they "
                "allow, the one you mind least is chosen."
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
            slider.setMinimumWidth(140)
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
        usual.clicked.connect(lambda _=False: self._set_sliders(Weights()))
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

    def _set_sliders(self, weights: Weights) -> None:
        for name, slider in self.sliders.items():
            slider.setValue(round(getattr(weights, name) / NOTCH))

    def count(self) -> None:
        """Show the cost of the present order and of the one with these weights."""
        plan = self.studio.plan
        if plan is None:
            return
        now = count_changes(plan.order.tasks, lightness(self.studio.bench))
        then = self._count_changes(plan)
        for name, _, counted in MINDED:
            a, b = getattr(now, name), getattr(then, name)
            self.counts[name].setText(
                f"{tr(counted)}: {b}" + (tr(", now {now}", now=a) if a != b else "")
            )

    def _count_changes(self, plan: Plan) -> Tally:
        bench = self.studio.bench
        order = sequence(plan.work, lightness(bench), self.weights, plan.usual)
        return count_changes(with_moves(order, self.studio.brief.moves).tasks, lightness(bench))
