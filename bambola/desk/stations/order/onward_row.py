"""The ways to go on with a piece as it is: fit the rest to it, or leave the rest."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from bambola.core.figure import Brief
from bambola.core.plan import Plan
from bambola.core.plan.counter.carry_on import WaysOnward, ways_to_carry_on
from bambola.core.quantities import show_length
from bambola.core.solids import Detail, outlines
from bambola.core.solids.forms import Array
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

Runs = list[Array]
"""Outlines of a figure seen from the front: closed runs of (n, 2) mm, up from the ground."""


class StandingPicture(QWidget):
    """The whole figure in both ways, solid, over the planned one, dashed; at one scale on one ground, with
    captions."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._planned: Runs = []
        self._ways: list[tuple[str, Runs]] = []
        self.setFixedHeight(theme.px(136))
        self.setAccessibleName("")

    def show_ways(self, planned: Runs, ways: Sequence[tuple[str, Runs]]) -> None:
        """Show the ways on with their captions over the planned figure, or nothing."""
        self._planned, self._ways = planned, list(ways)
        self.setAccessibleName("; ".join(words for words, _ in ways))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._ways:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, d = self.theme.px, self.theme.dyes
        every = np.vstack([run for _, runs in self._ways for run in runs] + self._planned)
        low, high = every.min(axis=0), every.max(axis=0)
        foot, each = px(26), self.width() / len(self._ways)
        size = np.maximum(high - low, 1e-6)
        scale = min((each - px(24)) / size[0], (self.height() - foot - px(8)) / size[1])
        painter.setFont(self.theme.text(15, bold=True))
        for i, (words, runs) in enumerate(self._ways):
            origin = QPointF(
                each * (i + 0.5) - scale * float(low[0] + high[0]) / 2,
                self.height() - foot + scale * float(low[1]),
            )
            painter.setBrush(d.shade)
            painter.setPen(QPen(d.madder, px(2)))
            painter.drawPath(_make_path(runs, origin, scale))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(d.woad, px(1.6), Qt.PenStyle.DashLine))
            painter.drawPath(_make_path(self._planned, origin, scale))
            painter.setPen(d.ink)
            line = QRectF(each * i, self.height() - px(22), each, px(22))
            painter.drawText(line, Qt.AlignmentFlag.AlignCenter, words)


def _make_path(runs: Runs, origin: QPointF, scale: float) -> QPainterPath:
    path = QPainterPath()
    for run in runs:
        points = [QPointF(origin.x() + x * scale, origin.y() - y * scale) for x, y in run.tolist()]
        path.addPolygon(QPolygonF(points))
        path.closeSubpath()
    return path


REST_MS = 250
"""It is worked out when the hand that types has rested so long."""


class OnwardRow(QWidget):
    """Two ways on, computed off this thread; ``taken`` emits the chosen brief and its words."""

    taken = pyqtSignal(object, str)

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio = studio
        self.found: WaysOnward | None = None
        self._asked: tuple[str, dict[str, float], float | None] | None = None
        self._job: BackgroundJob | None = None
        self._background = Background("onward")
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self._work_out)
        self.stands = StandingPicture(theme)
        self.told = QLabel()
        self.told.setWordWrap(True)
        set_role(self.told, "body")
        self.fit = QPushButton(tr("Fit the &rest to it"))
        self.leave = QPushButton(tr("Leave it as it &is"))
        self.fit.clicked.connect(lambda _=False: self._accept_way(self.fit))
        self.leave.clicked.connect(lambda _=False: self._accept_way(self.leave))
        words = QVBoxLayout()
        words.addWidget(self.told)
        for button in (self.fit, self.leave):
            set_role(button, "amount")
            words.addWidget(button)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addLayout(words, 2)
        row.addWidget(self.stands, 3)

    def ask(
        self, part: str | None, measures: Mapping[str, float], grams: float | None = None
    ) -> None:
        """Compute the ways for a part of these measures (mm) and weight, if weighed; hide without
        measures."""
        if self._job is not None:
            self._job.stop.set()
        self.found, self._asked = None, (part, dict(measures), grams) if part and measures else None
        self.setVisible(self._asked is not None)
        self.stands.show_ways([], [])
        self.fit.setEnabled(False)
        self.leave.setEnabled(False)
        self.told.setText(tr("Or keep the piece as it is: working it out…"))
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
                *_ways_with_views(
                    ways_to_carry_on(figure, brief, bench, plan, part, measures, grams), plan
                ),
            ),
            self._worked_out,
            self._show_failure,
        )

    def _worked_out(self, answer: tuple[object, WaysOnward, list[Runs]]) -> None:
        asked, found, (planned, left, *fitted) = answer
        plan, units = self.studio.plan, self.studio.units
        if asked != self._asked or plan is None:
            return
        self.found = found
        self.fit.setEnabled(found.fit is not None)
        self.leave.setEnabled(True)
        self.told.setText(tr("Or keep the piece as it is:"))
        leave = tr("left as it is: {high}", high=show_length(found.leave_mm, units))
        fit = tr("fitted: {high}", high=show_length(plan.to_height_mm, units))
        self.stands.show_ways(planned, [*((fit, runs) for runs in fitted), (leave, left)])

    def _show_failure(self, error: Exception) -> None:
        if not isinstance(error, CalledOffError):
            self.told.setText(tr("It cannot be taken over: it makes no complete figure."))

    def _accept_way(self, button: QPushButton) -> None:
        brief: Brief | None = None
        if self.found is not None:
            brief = self.found.fit if button is self.fit else self.found.leave
        if brief is not None:
            self.taken.emit(brief, button.text().replace("&", ""))

    def let_go(self) -> None:
        """Cancel the computation."""
        self._rest.stop()
        self._background.close()


def _ways_with_views(found: WaysOnward, plan: Plan) -> tuple[WaysOnward, list[Runs]]:
    """Return the ways on, and front views of the figure as planned, if left, and if fitted."""
    placements = [plan.solids.placement, found.left]
    if found.fitted is not None:
        placements.append(found.fitted)
    return found, [outlines(placement, "front", Detail.CLOSE) for placement in placements]
