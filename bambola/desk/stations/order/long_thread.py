"""The order as a long thread of beads, a row for each sitting. Beads can be dragged to where they may go."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QScrollArea

from bambola.core.order import Refusal, Step, places_for, why_not_move
from bambola.core.plan import Plan
from bambola.desk.kit.lists import MOVES
from bambola.desk.kit.locale import clock_words, day_words
from bambola.desk.kit.painted import paint_round_ring
from bambola.desk.kit.painters.wool import paint_bead
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.thread import StepList, bead_colour
from bambola.desk.running.timers import at_most_every, start_unless_running
from bambola.desk.session.sitting_desk import Sittings
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


@dataclass(frozen=True)
class BeadRow:
    """One line of beads: its first step, their number, and the text before it."""

    first: int
    count: int
    title: str
    told: str
    goes_on: str = ""


Span = tuple[int, int, str, str, str]
"""First step and end, and what a :class:`Row` tells."""


class LongThread(QScrollArea):
    """The thread in a scroll area."""

    def __init__(self, studio: EditorSession, theme: Theme, sittings: Sittings) -> None:
        super().__init__()
        self.beads = Beads(studio, theme, sittings)
        self.setAccessibleName(tr("The order, sitting by sitting"))
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setWidget(self.beads)
        self.setFocusProxy(self.beads)
        studio.selection.step_changed.connect(self._show_current_step)

    def _show_current_step(self) -> None:
        if self.isVisible() and self.beads.studio.plan is not None:
            at = self.beads.spot(self.beads.current_row)
            self.ensureVisible(round(at.x()), round(at.y()), 60, 90)


class Beads(StepList):
    """Beads in rows. Shift with an arrow, or a drag, moves the current one; a refusal says why."""

    refused = pyqtSignal(object, int)
    moved = pyqtSignal()

    def __init__(self, studio: EditorSession, theme: Theme, sittings: Sittings) -> None:
        super().__init__(studio, theme, tr("The order, sitting by sitting"))
        self.sittings = sittings
        self.may: frozenset[int] = frozenset()
        self._pull: QPointF | None = None
        self._slot: int | None = None
        self._rows: tuple[BeadRow, ...] = ()
        self._soon = at_most_every(self, 60, self.relay)
        studio.plan_changed.connect(
            lambda: start_unless_running(self._soon) if self.isVisible() else None
        )
        studio.selection.step_changed.connect(self._on_walked)
        theme.changed.connect(self.relay)

    def showEvent(self, event: object) -> None:
        self.relay()

    def resizeEvent(self, event: object) -> None:
        self.relay()

    def relay(self) -> None:
        """Lay out sittings and rows again, if visible."""
        plan = self.studio.plan
        if plan is None or not self.isVisible():
            return
        self._rows = tuple(self._lay_out_rows(plan))
        self.setMinimumHeight(len(self._rows) * self._row_high() + self.theme.px(20))
        self._on_walked()

    def _lay_out_rows(self, plan: Plan) -> list[BeadRow]:
        """Return rows of beads, each sitting on as many lines as it needs."""
        fit = max(3, int((self.width() - self._left_px() - self.theme.px(24)) // self._gap_px()))
        rows: list[BeadRow] = []
        for start, end, title, told, goes_on in self._sitting_spans(plan):
            if start == end:
                rows.append(BeadRow(start, 0, title, told, goes_on))
            for first in range(start, end, fit):
                head = first == start
                rows.append(
                    BeadRow(
                        first, min(fit, end - first), title if head else "", told if head else ""
                    )
                )
        return rows

    def _sitting_spans(self, plan: Plan) -> list[Span]:
        """Return the steps (first to end) of each sitting: a step belongs to the sitting that finishes it. A
        sitting that finishes none has a span without steps that says what continues."""
        if self.sittings.calendar is None:
            return [(0, len(plan.steps), tr("no sittings"), "", "")]
        done_in: dict[int, int] = {}
        for i, sitting in enumerate(self.sittings.calendar.sittings):
            for piece in sitting.pieces:
                done_in[piece.n] = i
        spans: list[Span] = []
        start, last = 0, -1
        for at, step in enumerate((*plan.steps, None)):
            in_it = (
                max(last, done_in.get(step.n, last))
                if step
                else len(self.sittings.calendar.sittings)
            )
            if in_it != last:
                if at > start and last < 0:
                    spans.append((start, at, tr("done"), "", ""))
                elif at > start:
                    spans.append(self._make_span(start, at, last, plan))
                spans += [self._make_span(at, at, i, plan) for i in range(last + 1, in_it)]
                start, last = at, in_it
        return spans

    def _make_span(self, start: int, end: int, i: int, plan: Plan) -> Span:
        assert self.sittings.calendar is not None
        sitting = self.sittings.calendar.sittings[i]
        minutes = sum(p.minutes for p in sitting.pieces)
        longest = max(sitting.pieces, key=lambda p: p.minutes)
        return (
            start,
            end,
            day_words(sitting.start),
            tr("{start}, {minutes:.0f} min", start=clock_words(sitting.start), minutes=minutes),
            tr(
                "going on with {n}. {text}",
                n=longest.n,
                text=self.studio.say(plan.steps[longest.n - 1].text),
            ),
        )

    # Where beads are

    def _gap_px(self) -> float:
        return self.theme.px(40)

    def _left_px(self) -> float:
        return self.theme.px(118)

    def _row_high(self) -> int:
        return self.theme.px(58)

    def spot(self, i: int) -> QPointF:
        """Return the place of bead ``i``."""
        for r, row in enumerate(self._rows):
            if row.first <= i < row.first + row.count:
                x = self._left_px() + (i - row.first + 0.5) * self._gap_px()
                y = self.theme.px(38) + r * self._row_high() + math.sin(i * 0.7) * self.theme.px(4)
                return QPointF(x, y)
        return QPointF(self._left_px(), self.theme.px(38))

    def box(self, row: int) -> QRectF:
        side = self._gap_px()
        at = self.spot(row)
        return QRectF(at.x() - side / 2, at.y() - side / 2, side, side)

    def row_at(self, at: QPointF) -> int:
        return min(
            range(len(self.steps)),
            key=lambda i: (self.spot(i) - at).manhattanLength(),
            default=-1,
        )

    def next_row(self, row: int, right: int, down: int) -> int:
        if not down:
            return row + right
        return self.row_at(self.spot(row) + QPointF(0, down * self._row_high()))

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self.steps or not self._rows:
            return
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_rows(painter)
        self._paint_thread(painter)
        radius = self.theme.px(12)
        for i, step in enumerate(self.steps):
            if i != self.current_row:
                self._paint_bead(painter, i, step, self.spot(i), radius)
        self._paint_in_hand(painter, radius)

    def _paint_bead(
        self, painter: QPainter, i: int, step: Step, at: QPointF, radius: float
    ) -> None:
        colour = bead_colour(step, self.studio, self.theme)
        d, px = self.theme.dyes, self.theme.px
        if self._pull is not None:
            # While a bead is pulled the others say whether it may take their place.
            painter.setOpacity(1.0 if i in self.may else 0.28)
        paint_bead(painter, at, radius, step, colour, self.theme)
        painter.setOpacity(1.0)
        if self._pull is not None and i in self.may:
            painter.setPen(QPen(d.lichen, px(2)))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(at, radius + px(4), radius + px(4))

    def _paint_rows(self, painter: QPainter) -> None:
        d, px = self.theme.dyes, self.theme.px
        for r, row in enumerate(self._rows):
            if not row.title:
                continue
            top = px(16) + r * self._row_high()
            painter.setFont(self.theme.text(15, bold=True))
            painter.setPen(d.ink)
            painter.drawText(
                QRectF(px(4), top, self._left_px(), px(22)), Qt.AlignmentFlag.AlignLeft, row.title
            )
            painter.setFont(self.theme.text(13))
            painter.setPen(d.quiet)
            left = Qt.AlignmentFlag.AlignLeft
            painter.drawText(QRectF(px(4), top + px(20), self._left_px(), px(20)), left, row.told)
            if not row.count:
                beside = QRectF(
                    self._left_px() + px(34), top, self.width() - self._left_px() - px(40), px(42)
                )
                words = painter.fontMetrics().elidedText(
                    row.goes_on, Qt.TextElideMode.ElideRight, int(beside.width())
                )
                painter.drawText(beside, left | Qt.AlignmentFlag.AlignVCenter, words)

    def _paint_thread(self, painter: QPainter) -> None:
        px = self.theme.px
        path = QPainterPath(self.spot(0) - QPointF(px(16), 0))
        for i in range(len(self.steps)):
            at, last = self.spot(i), path.currentPosition()
            if at.x() < last.x():  # round the end to the next row
                path.cubicTo(
                    QPointF(last.x() + px(46), last.y() + px(4)),
                    QPointF(at.x() - px(46), at.y() - px(4)),
                    at,
                )
            else:
                path.lineTo(at)
        painter.setPen(QPen(self.theme.dyes.madder, px(2)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)

    def _paint_in_hand(self, painter: QPainter, radius: float) -> None:
        d, px = self.theme.dyes, self.theme.px
        i = min(self.current_row, len(self.steps) - 1)
        step = self.steps[i]
        at = self._pull if self._pull is not None else self.spot(i)
        if self._slot is not None and self._slot not in self.may:
            painter.setPen(QPen(d.quiet, px(2.4), Qt.PenStyle.DashLine))
            painter.setBrush(d.ground)
            painter.drawEllipse(at, radius + px(6), radius + px(6))
        else:
            paint_round_ring(painter, at, radius + px(6), self.theme, self.hasFocus())
        paint_bead(
            painter, at, radius, step, bead_colour(step, self.studio, self.theme), self.theme
        )

    # Walking and pulling

    def _on_walked(self) -> None:
        plan = self.studio.plan
        if plan is None or not self.steps:
            return
        at = min(self.current_row, len(self.steps) - 1)
        self.may = frozenset(places_for(plan.order, self.steps[at].key)) - {at}
        self.redraw()

    def put(self, to: int) -> bool:
        """Move the current bead to place ``to``, or say why it may not go there."""
        plan, at = self.studio.plan, self.current_row
        if plan is None or to == at or not 0 <= to < len(self.steps):
            return False
        key = self.steps[at].key
        no = why_not_move(plan.order, key, to)
        if no is not None:
            self.refused.emit(no, to)
            return False
        rest = [s.key for s in self.steps if s.key != key]
        return self._move_and_show([(key, rest[to - 1] if to else None)], key)

    def put_along(self, no: Refusal, to: int) -> bool:
        """Move the current bead to ``to`` with the steps that must go with it."""
        key = self.steps[self.current_row].key
        keys = [s.key for s in self.steps]
        later = to > self.current_row
        group = [k for k in keys if k in (*no.along, key)]
        rest = [k for k in keys if k not in group]
        place = to - len(group) + 1 if later else to
        before = rest[place - 1] if place > 0 else None
        moves: list[tuple[str, str | None]] = []
        for one in group:
            moves.append((one, before))
            before = one
        # Those that go later must leave from the back, so that none passes another.
        return self._move_and_show(_in_order(moves, later), key)

    def _move_and_show(self, moves: Sequence[tuple[str, str | None]], key: str) -> bool:
        if not self.studio.move_steps(moves):
            return False
        now: list[str] = [s.key for s in self.steps]
        self.relay()
        self.select_row(now.index(key))
        self.moved.emit()
        return True

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self.steps:
            self.select_row(self.row_at(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        away = (event.position() - self.spot(self.current_row)).manhattanLength()
        if self._pull is None and away < self.theme.px(14):
            return
        self._pull = event.position()
        self._slot = self.row_at(event.position())
        self.redraw()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        slot, self._pull, self._slot = self._slot, None, None
        if slot is not None:
            self.put(slot)
        self.redraw()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        by, _ = MOVES.get(Qt.Key(event.key()), (0, 0))
        if by and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.put(self.current_row + by)
        elif event.key() == Qt.Key.Key_Backspace and self.steps:
            self.studio.unmove(self.steps[self.current_row].key)
        else:
            super().keyPressEvent(event)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(420), self.theme.px(300))


def _in_order(moves: list[tuple[str, str | None]], later: bool) -> list[tuple[str, str | None]]:
    """Return the moves in an order in which each is possible after the ones before: later ones from the
    back."""
    if not later or not moves:
        return moves
    anchor = moves[0][1]
    return [(key, anchor) for key, _ in reversed(moves)]
