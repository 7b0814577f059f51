"""Going on with a piece as it is: what fitting the rest to it, or leaving it so, would come to."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from bambola.core.figure import Brief
from bambola.core.plan import Plan
from bambola.core.plan.counter.carry_on import Onward, onward
from bambola.core.quantities import show_length
from bambola.core.solids import Detail, outlines
from bambola.desk.kit.theme import Theme
from bambola.desk.running.background import Background, CalledOffError, Job
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.order.stands import Runs, Stands
from bambola.language import tr

REST_MS = 250
"""It is worked out when the hand that types has rested so long."""


class OnwardRow(QWidget):
    """Two ways on, worked out off this thread; ``taken`` says which brief was chosen, and in what words."""

    taken = pyqtSignal(object, str)

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio = studio
        self.found: Onward | None = None
        self._asked: tuple[str, dict[str, float], float | None] | None = None
        self._job: Job | None = None
        self._background = Background("onward")
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self._work_out)
        self.stands = Stands(theme)
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.told.setFont(theme.text(15))
        self.fit = QPushButton(tr("Fit the &rest to it"))
        self.leave = QPushButton(tr("Leave it s&o"))
        self.fit.clicked.connect(lambda _=False: self._take(self.fit))
        self.leave.clicked.connect(lambda _=False: self._take(self.leave))
        words = QVBoxLayout()
        words.addWidget(self.told)
        for button in (self.fit, self.leave):
            button.setFont(theme.text(16, bold=True))
            words.addWidget(button)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addLayout(words, 2)
        row.addWidget(self.stands, 3)

    def ask(
        self, part: str | None, measures: Mapping[str, float], grams: float | None = None
    ) -> None:
        """Work it out for a part that measures so (mm), and weighs so if it was weighed; there is nothing to
        go on with if there are no measures."""
        if self._job is not None:
            self._job.stop.set()
        self.found, self._asked = None, (part, dict(measures), grams) if part and measures else None
        self.setVisible(self._asked is not None)
        self.stands.show_ways([], [])
        self.fit.setEnabled(False)
        self.leave.setEnabled(False)
        self.told.setText(tr("Or take it over as it is: being worked out…"))
        if self._asked is None:
            self._rest.stop()
        else:
            self._rest.start()

    def _work_out(self) -> None:
        studio, asked = self.studio, self._asked
        figure, plan = studio.figure, studio.plan
        if asked is None or figure is None or plan is None:
            return
        part, measures, grams = asked
        brief, bench = studio.brief, studio.bench
        self._job = self._background.do(
            lambda: (
                asked,
                *_seen(onward(figure, brief, bench, plan, part, measures, grams), plan),
            ),
            self._worked_out,
            self._spoilt,
        )

    def _worked_out(self, answer: tuple[object, Onward, list[Runs]]) -> None:
        asked, found, (planned, left, *fitted) = answer
        plan, units = self.studio.plan, self.studio.units
        if asked != self._asked or plan is None:
            return
        self.found = found
        self.fit.setEnabled(found.fit is not None)
        self.leave.setEnabled(True)
        self.told.setText(tr("Or take it over as it is:"))
        leave = tr("left so: {high}", high=show_length(found.leave_mm, units))
        fit = tr("fitted: {high}", high=show_length(plan.to_height_mm, units))
        self.stands.show_ways(planned, [*((fit, runs) for runs in fitted), (leave, left)])

    def _spoilt(self, error: Exception) -> None:
        if not isinstance(error, CalledOffError):
            self.told.setText(tr("It cannot be taken over as it is: no figure comes of it."))

    def _take(self, button: QPushButton) -> None:
        brief: Brief | None = None
        if self.found is not None:
            brief = self.found.fit if button is self.fit else self.found.leave
        if brief is not None:
            self.taken.emit(brief, button.text().replace("&", ""))

    def let_go(self) -> None:
        """Work nothing out any more."""
        self._rest.stop()
        self._background.close()


def _seen(found: Onward, plan: Plan) -> tuple[Onward, list[Runs]]:
    """The ways on, and from the front how it was planned, how it stands if left, and if fitted."""
    placements = [plan.solids.placement, found.left]
    if found.fitted is not None:
        placements.append(found.fitted)
    return found, [outlines(placement, "front", Detail.CLOSE) for placement in placements]
