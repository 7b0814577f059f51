"""The schools of wiring side by side, each drawn with its wires on the skeleton."""

from __future__ import annotations

import itertools

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QToolTip

from bambola.core.facts import Fact
from bambola.core.plan.counter.differing import SchoolChoice, compare_school, schools_of
from bambola.core.quantities import show_length
from bambola.desk.kit.lists import MOVES, ListModel, PaintedList
from bambola.desk.kit.theme import Theme
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wire.lines import wire_colours
from bambola.desk.stations.wire.walk import Walk
from bambola.language import tr, trn


class SchoolCards(PaintedList):
    """Arrow keys move between the schools, Enter chooses; so does a click."""

    looked = pyqtSignal()
    """Another school is looked at, or there is more to see of it."""

    def __init__(self, studio: EditorSession, theme: Theme, walk: Walk) -> None:
        super().__init__(theme, tr("Schools of wiring"), ListModel(self._describe_school))
        self.studio, self.walk = studio, walk
        self.choices: list[SchoolChoice] = []
        self._waiting: list[str] = []
        self._followed: str | None = None
        """The school in view when computing began, if the one that is used was in view."""
        self._background = Background("schools")
        self._job: BackgroundJob | None = None
        # One school at a time, when the hand rests: each is a plan of its own.
        self._next = one_shot_timer(self, 60)
        self._next.timeout.connect(self._work_one_out)
        self.cloth.setCursor(Qt.CursorShape.PointingHandCursor)
        self.taken.connect(lambda *_: self.looked.emit())
        studio.plan_changed.connect(self._begin_again)
        studio.figure_changed.connect(self._forget_choices)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(150), self.theme.px(440))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(104), self.theme.px(200))

    # What each would take

    def _forget_choices(self) -> None:
        self.choices = []
        self.rows.set_keys(())

    def _begin_again(self) -> None:
        looked_at = self.looked_at
        self._followed = looked_at.school if looked_at and looked_at.chosen else None
        if self._job is not None:
            self._job.stop.set()
        self._waiting = []
        if self.isVisible() and self.studio.figure is not None:
            self._waiting = list(schools_of(self.studio.figure))
            self._next.start(160)

    def showEvent(self, event: object) -> None:
        self._begin_again()

    @property
    def is_idle(self) -> bool:
        """Whether every school has been computed."""
        return not self._waiting

    def close_down(self) -> None:
        """Stop computing."""
        self._background.close()

    def _work_one_out(self) -> None:
        figure, brief, bench = self.studio.figure, self.studio.brief, self.studio.bench
        if figure is None or not self._waiting or not self.isVisible():
            return
        school = self._waiting[0]
        self._job = self._background.do(
            lambda: compare_school(figure, brief, bench, school),
            lambda choice: self._worked_out(school, choice),
            lambda error: self._go_on() if not isinstance(error, CalledOffError) else None,
        )

    def _worked_out(self, school: str, choice: SchoolChoice) -> None:
        assert self.studio.figure is not None
        known = {choice.school: choice for choice in self.choices}
        # Who looks at another school meanwhile goes on looking at it.
        follows = self.looked_at is None or self.looked_at.school == self._followed
        if self.looked_at is None:
            self._followed = school
        known[school] = choice
        self.choices = [known[s] for s in schools_of(self.studio.figure) if s in known]
        at = self.current_row
        self.rows.set_keys([choice.school for choice in self.choices])
        if len(self._waiting) == 1 and follows and not self.hasFocus():
            at = next((i for i, c in enumerate(self.choices) if c.chosen), 0)
        self.show_row(min(at, len(self.choices) - 1))
        self._go_on()
        self.looked.emit()

    def _go_on(self) -> None:
        self._waiting = self._waiting[1:]
        if self._waiting:
            self._next.start(15)

    def _choice_words(self, choice: SchoolChoice) -> tuple[str, str]:
        n = len(choice.wires)
        joints = trn("{n} joint", "{n} joints", choice.joints) if choice.joints else tr("no joint")
        wires = trn("{n} wire, {joints}", "{n} wires, {joints}", n, joints=joints)
        return wires, show_length(choice.wire_mm, self.studio.units)

    def describe(self, choice: SchoolChoice) -> str:
        """Return a school and what it takes as a sentence."""
        school = f"wiring.{choice.school}"
        name, what = self.studio.say(Fact(school)), self.studio.say(Fact(f"{school}.tells"))
        count, length = self._choice_words(choice)
        spare = (
            tr(
                ", {spare} of it doubled without need",
                spare=show_length(choice.spare_mm, self.studio.units),
            )
            if (choice.spare_mm > 0.5)
            else ""
        )
        buys = tr("; some wire must be bought") if choice.buys else ""
        return tr(
            "{name}: {what}. {count}, {length} of wire{spare}{buys}.",
            name=name,
            what=what,
            count=count,
            length=length,
            spare=spare,
            buys=buys,
        )

    def _describe_school(self, school: str) -> str:
        return next(
            (self.describe(choice) for choice in self.choices if choice.school == school), ""
        )

    # Painting

    def box(self, row: int) -> QRectF:
        each = min(self.theme.px(118), self.height() / max(1, len(self.choices)))
        return QRectF(2, row * each + 2, self.width() - 4, each - self.theme.px(6))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for i, choice in enumerate(self.choices):
            self._paint_card(painter, self.box(i), choice, i == self.current_row)

    def _paint_card(self, painter: QPainter, box: QRectF, choice: SchoolChoice, here: bool) -> None:
        d, px = self.theme.dyes, self.theme.px
        edge = d.madder if choice.chosen else d.edge
        painter.setPen(QPen(edge, px(2.4 if choice.chosen else 1.2)))
        painter.setBrush(d.paper)
        painter.drawRoundedRect(box, px(9), px(9))
        if here and self.hasFocus():
            painter.setPen(QPen(d.woad, px(1.6)))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(px(3), px(3), -px(3), -px(3)), px(7), px(7))
        name = self.studio.say(Fact(f"wiring.{choice.school}"))
        count, length = self._choice_words(choice)
        left = Qt.AlignmentFlag.AlignLeft
        words = box.adjusted(px(9), px(5), -px(4), 0)
        painter.setFont(self.theme.text(14, bold=choice.chosen))
        painter.setPen(d.ink)
        painter.drawText(words, left, name)
        painter.setFont(self.theme.text(12))
        painter.setPen(d.quiet)
        if box.height() < px(44):
            return  # there its tool tip tells the rest
        # Where a card is too low for three lines, its joints are told by its tool tip alone.
        lines = 2 if box.height() > px(58) else 1
        low = QRectF(words.left(), box.bottom() - px(17 * lines), words.width(), px(17 * lines - 1))
        spare = tr(
            ", {spare} spare",
            spare=show_length(choice.spare_mm, self.studio.units, with_unit=False),
        )
        last = f"{length}{spare if choice.spare_mm > 0.5 else ''}"
        painter.drawText(low, left, f"{count}\n{last}" if lines == 2 else last)
        room = box.adjusted(box.width() * 0.66, px(6), -px(6), -px(6))
        if low.left() + painter.fontMetrics().horizontalAdvance(last) > room.left():
            room.setBottom(box.bottom() - px(17))  # a long last line takes the room below the wires
        roomy = box.height() > px(86)
        if roomy:
            room = box.adjusted(px(30), px(25), -px(8), -px(36))
        self._paint_wires(painter, room, choice)

    def _paint_wires(self, painter: QPainter, room: QRectF, choice: SchoolChoice) -> None:
        """Paint the wires from the front; repeated passes of a bone are drawn side by side."""
        points = np.array([p for wire in choice.wires for p in wire])
        if not len(points):
            return
        low, high = points.min(axis=0), points.max(axis=0)
        scale = min(
            room.width() / max(high[0] - low[0], high[1] - low[1], 1e-6),
            room.height() / max(high[2] - low[2], 1e-6),
        )
        # A figure all in one plane from the front is shown from its side.
        flat = (high[0] - low[0]) < 0.35 * (high[1] - low[1])
        axis = 1 if flat else 0
        centre = (low + high) / 2
        colours = wire_colours(self.theme)
        for i, wire in enumerate(choice.wires):
            seen: dict[frozenset[tuple[float, ...]], int] = {}
            for a, b in itertools.pairwise(wire):
                bone = frozenset((a, b))
                again = seen[bone] = seen.get(bone, -1) + 1
                painter.setPen(QPen(colours[i % len(colours)], self.theme.px(2.2)))
                shift = QPointF(again * self.theme.px(3.4), 0)
                ends = [
                    QPointF(
                        room.center().x() + (p[axis] - centre[axis]) * scale,
                        room.center().y() - (p[2] - centre[2]) * scale,
                    )
                    for p in (a, b)
                ]
                painter.drawLine(ends[0] + shift, ends[1] + shift)

    # Hands

    @property
    def looked_at(self) -> SchoolChoice | None:
        """The current school, once computed."""
        return self.choices[self.current_row] if self.current_row < len(self.choices) else None

    def take_school(self) -> None:
        """Wire the skeleton by the current school."""
        choice = self.looked_at
        if choice is not None:
            self.walk.choose_school(choice.school)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        row = self.row_at(event.position())
        if row >= 0:
            self.select_row(row)
            self.take_school()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.take_school()
            return
        super().keyPressEvent(event)
        if Qt.Key(event.key()) in MOVES and self.choices:
            here = self.mapToGlobal(self.box(self.current_row).topRight().toPoint())
            QToolTip.showText(here, self.describe(self.choices[self.current_row]), self)
