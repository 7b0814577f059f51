"""The original on the scale, and the caliper in the hand."""

from __future__ import annotations

import sys

from PyQt6.QtCore import QProcess, pyqtSignal
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.plan.weigh import Weighed, weigh
from bambola.core.quantities import QuantityError, parse_mass, show_mass
from bambola.desk.studio import Studio
from bambola.desk.theme import Theme
from bambola.desk.timers import at_most_every, nudge
from bambola.devices.link import DeviceLink, ports


class WeighPane(QWidget):
    """Weigh the original: what it says of how firmly it is felted, and an offer to use that."""

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._found: Weighed | None = None
        self.entry = QLineEdit()
        self.entry.setPlaceholderText("weight")
        self.entry.setAccessibleName("Weight of the original")
        self.entry.returnPressed.connect(self._typed)
        self._label = QLabel("The original weighs")
        self._told = QLabel()
        self._told.setWordWrap(True)
        self.use = QPushButton("Felt it like the original")
        self.use.clicked.connect(self.take)
        line = QHBoxLayout()
        line.addWidget(self._label)
        line.addWidget(self.entry)
        line.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(4), 0, 0)
        column.addLayout(line)
        column.addWidget(self._told)
        column.addWidget(self.use)
        self._soon = at_most_every(self, 0, self.refresh)
        for signal in (studio.survey_changed, studio.figure_changed, studio.units_changed):
            signal.connect(lambda: nudge(self._soon))
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.entry.setFixedWidth(self.theme.px(96))
        self.entry.setFont(self.theme.text(16, bold=True))
        self._told.setFont(self.theme.text(14))

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Say what the weight means for the figure as it now stands."""
        weight = self.studio.survey.weight
        self._found = None
        if self.studio.figure is None or not self.isVisible():
            return
        if weight is None:
            self.entry.setText("")
            self._told.setText(
                "Put the finished original on the scale: its weight tells its firmness."
            )
        else:
            self.entry.setText(show_mass(weight, self.studio.units))
            self._found = weigh(
                self.studio.figure, weight, self.studio.bench, self.studio.plan_as_made()
            )
            expected = show_mass(self._found.expected_g, self.studio.units)
            self._told.setText(f"As drawn it would weigh {expected}. {self._found.told}")
        found = self._found
        same = found is not None and abs(found.expected_g / found.weight_g - 1) < 0.005
        self.use.setVisible(bool(found and found.figure and found.believable and not same))

    def _typed(self) -> None:
        try:
            grams = parse_mass(self.entry.text(), self.studio.units.mass)
            if not 0 < grams <= 1_000_000:
                raise QuantityError("A weight must lie above 0 and up to 1000 kg.")
        except QuantityError as error:
            self.studio.refused.emit(str(error))
            return
        self.studio.edit("Weigh the original", survey=self.studio.survey.replaced(weight=grams))

    def take(self) -> None:
        """Give the figure the firmness its original has."""
        if self._found is not None and self._found.figure is not None:
            self.studio.edit("Felt it like the original", self._found.figure)


class CaliperRow(QWidget):
    """Connects a caliper, real or simulated, and passes its readings on."""

    reading = pyqtSignal(float)

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.link = DeviceLink("caliper", self)
        self._process: QProcess | None = None
        self._told = QLabel()
        self._told.setWordWrap(True)
        self.button = QPushButton()
        menu = QMenu(self)
        menu.aboutToShow.connect(lambda: self._fill(menu))
        self.button.setMenu(menu)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, theme.px(4), 0, 0)
        row.addWidget(self._told, 1)
        row.addWidget(self.button)
        self.link.reading.connect(self.reading)
        self.link.trouble.connect(studio.refused)
        self.link.state_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Say whether a caliper is connected."""
        where = self.link.where if self.link.is_open else ""
        self._told.setText(
            f"Caliper at {where}: its button takes the measure in hand." if where
            else "No caliper is connected."
        )  # fmt: skip
        self.button.setText("Caliper")
        self.button.setAccessibleName("Connect a caliper")

    def _fill(self, menu: QMenu) -> None:
        menu.clear()
        for where, name in ports():
            self._offer(menu, f"{where}  {name}", lambda where=where: self.link.open(where))
        self._offer(menu, "Another port…", self._ask_port)
        self._offer(menu, "The simulated caliper", self.start_simulated)
        if self.link.is_open:
            self._offer(menu, "Put it away", self.close_link)

    def _offer(self, menu: QMenu, words: str, do: object) -> None:
        action = QAction(words, menu)
        assert callable(do)
        action.triggered.connect(lambda _=False: do())
        menu.addAction(action)

    def _ask_port(self) -> None:
        where, taken = QInputDialog.getText(self, "Caliper", "Port", text="/dev/ttyUSB0")
        if taken and where.strip():
            self.link.open(where.strip())

    def start_simulated(self, plain: bool = False) -> None:
        """Start the simulated caliper as a program of its own and connect to it."""
        process = QProcess(self)
        arguments = ["-m", "bambola.devices.simulated_caliper"] + (["--plain"] if plain else [])

        def heard() -> None:
            where = process.readLine().data().decode(errors="replace").strip()
            if where:
                process.readyReadStandardOutput.disconnect(heard)
                self.link.open(where)

        process.readyReadStandardOutput.connect(heard)
        process.errorOccurred.connect(
            lambda _: self.studio.refused.emit("The simulated caliper could not be started.")
        )
        self._process = process
        process.start(sys.executable, arguments)

    @property
    def simulated(self) -> QProcess | None:
        """The simulated caliper's process, if one was started."""
        return self._process

    def close_link(self) -> None:
        """Disconnect, and end a simulated caliper that was started here."""
        self.link.close()
        if self._process is not None:
            process, self._process = self._process, None
            process.errorOccurred.disconnect()
            process.terminate()
            if not process.waitForFinished(1000):
                process.kill()
                process.waitForFinished(500)
