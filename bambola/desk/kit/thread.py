"""The order as a thread of beads along the foot of the window, with its wool above."""

from __future__ import annotations

import math
from collections.abc import Iterable

from PyQt6.QtCore import QEvent, QModelIndex, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import (
    QColor,
    QHelpEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import QToolTip, QWidget

from bambola.core.order import Step
from bambola.core.quantities import show_length, show_mass
from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.painted import paint_round_ring
from bambola.desk.kit.painters.wool import paint_bead, paint_bundle
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import CALM_MS, at_most_every, start_unless_running
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


def bead_colour(step: Step, studio: EditorSession, theme: Theme) -> QColor:
    """Return the wool a step lays, or grey for wire and joins."""
    if step.wool:
        return QColor(studio.bench.wool_by_id[step.wool].colour)
    return QColor("#9A948E") if step.kind in ("cut wire", "bend and bind") else theme.dyes.woad


def place_in_hand(studio: EditorSession) -> int:
    """Return the index of the selected step; the first if none is selected."""
    keys: list[str] = [step.key for step in studio.plan.steps] if studio.plan else []
    return keys.index(studio.selection.step) if studio.selection.step in keys else 0


def take_up(studio: EditorSession, step: Step) -> None:
    """Select a step and its part."""
    studio.selection.select_step(step.key)
    if step.part:
        studio.selection.select_part(step.part)


class StepList(PaintedList):
    """The steps in their order; all views share the selection."""

    def __init__(self, studio: EditorSession, theme: Theme, name: str) -> None:
        super().__init__(theme, name, ListModel(self._bead_caption))
        self.studio = studio
        self.taken.connect(self._on_row_chosen)
        studio.plan_changed.connect(self._plan_changed)
        studio.selection.step_changed.connect(self.show_in_hand)

    @property
    def steps(self) -> tuple[Step, ...]:
        """The steps on the thread."""
        return self.studio.plan.steps if self.studio.plan else ()

    def _plan_changed(self) -> None:
        keys, selection = tuple(step.key for step in self.steps), self.studio.selection
        if keys == self.rows.keys:
            self.steps_stay()
            return
        if keys and selection.step not in keys:
            # What stands where a step has gone is in hand now; of another figure, the first.
            selection.select_step(
                keys[min(self.current_row, len(keys) - 1) if selection.step else 0]
            )
        self.rows.set_keys(keys)
        self.show_in_hand()

    def steps_stay(self) -> None:
        """Refresh the words of unchanged steps in unchanged order."""

    def show_in_hand(self) -> None:
        """Show the selected step."""
        self.show_row(self.rows.row_of(self.studio.selection.step))

    def _find_step(self, key: str) -> Step | None:
        return next((step for step in self.steps if step.key == key), None)

    def _on_row_chosen(self, _: int, key: str) -> None:
        step = self._find_step(key)
        if step is not None:
            take_up(self.studio, step)

    def _bead_caption(self, key: str) -> str:
        step = self._find_step(key)
        return (
            tr(
                "{n} of {of}   {text}",
                n=step.n,
                of=len(self.steps),
                text=self.studio.say(step.text),
            )
            if step
            else ""
        )


LOW_PX = 480
"""In a window lower than this (before scaling) the figure needs the room of the beads."""


class ThreadStrip(StepList):
    """All steps on one thread; arrow keys move along it, and the selected step is described below."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__(studio, theme, tr("Order of making"))
        self._retell = at_most_every(self, CALM_MS, self._update_line)
        studio.units_changed.connect(self.redraw)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(600, self.theme.px(28 if self._is_low else 74))

    minimumSizeHint = sizeHint

    @property
    def _is_low(self) -> bool:
        """Whether the window is so low that only the words fit."""
        window = self.window()
        return window is not None and window.height() < self.theme.px(LOW_PX)

    def steps_stay(self) -> None:
        start_unless_running(self._retell)

    def _update_line(self) -> None:
        self.rows.set_keys(self.rows.keys)

    def dataChanged(
        self, top_left: QModelIndex, bottom_right: QModelIndex, roles: Iterable[int] = ()
    ) -> None:
        """Refresh only the words below the beads."""
        self.cloth.update(QRect(0, self._line_y(), self.width(), self.height()))

    def _bead_at(self, i: int) -> QPointF:
        n = max(1, len(self.steps) - 1)
        edge = self.theme.px(30)
        x = edge + i / n * (self.width() - 2 * edge)
        return QPointF(x, self.theme.px(24) + math.sin(i * 0.55) * self.theme.px(5))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self.steps:
            return
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        if self._is_low or (event is not None and event.rect().top() >= self._line_y()):
            self._paint_words(painter)
            return
        path = QPainterPath(QPointF(0, px(26)))
        for i in range(len(self.steps)):
            path.lineTo(self._bead_at(i))
        path.lineTo(self.width(), px(26))
        painter.setPen(QPen(d.madder, px(2)))
        painter.drawPath(path)
        room = (self.width() - 2 * px(30)) / max(1, len(self.steps))
        radius = min(px(9), max(px(4), room * 0.42))
        for i, step in enumerate(self.steps):
            if i != self.current_row:
                paint_bead(
                    painter,
                    self._bead_at(i),
                    radius,
                    step,
                    bead_colour(step, self.studio, self.theme),
                    self.theme,
                )
        step = self.steps[self.current_row]
        at = self._bead_at(self.current_row)
        paint_round_ring(painter, at, px(15), self.theme, self.hasFocus())
        paint_bead(
            painter, at, px(11), step, bead_colour(step, self.studio, self.theme), self.theme
        )
        self._paint_words(painter)

    def _line_y(self) -> int:
        return self.height() - self.theme.px(28)

    def _paint_words(self, painter: QPainter) -> None:
        plan = self.studio.plan
        assert plan is not None
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        line = QRectF(px(4), self._line_y(), self.width() - px(8), px(24))
        mid = Qt.AlignmentFlag.AlignVCenter
        wire = sum(wire.cut_mm for wire in plan.wires)
        left = tr("{wool} of wool in the figure", wool=show_mass(plan.wool_g, units)) + (
            tr(" · {wire} wire", wire=show_length(wire, units)) if wire else ""
        )
        right = tr("about {minutes:.0f} h of work", minutes=plan.minutes / 60)
        painter.setFont(self.theme.text(14))
        painter.setPen(d.quiet)
        painter.drawText(line, mid | Qt.AlignmentFlag.AlignLeft, left)
        painter.drawText(line, mid | Qt.AlignmentFlag.AlignRight, right)
        side = max(painter.fontMetrics().horizontalAdvance(t) for t in (left, right)) + px(16)
        centre = line.adjusted(side, 0, -side, 0)
        painter.setFont(self.theme.text(15, bold=True))
        painter.setPen(d.ink)
        told = painter.fontMetrics().elidedText(
            self._bead_caption(self.steps[self.current_row].key),
            Qt.TextElideMode.ElideRight,
            int(centre.width()),
        )
        painter.drawText(centre, mid | Qt.AlignmentFlag.AlignHCenter, told)

    def box(self, row: int) -> QRectF:
        at = self._bead_at(row)
        wide = (self.width() - 2 * self.theme.px(30)) / max(1, len(self.steps) - 1)
        return QRectF(at.x() - wide / 2, 0, wide, self._line_y())

    def row_at(self, at: QPointF) -> int:
        n, edge = max(1, len(self.steps) - 1), self.theme.px(30)
        row = round((at.x() - edge) / max(1, self.width() - 2 * edge) * n)
        return max(0, min(len(self.steps) - 1, row))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.select_row(self.row_at(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        self.mousePressEvent(event)


class WoolShelf(QWidget):
    """Every wool of the plan as a bundle on a shelf, sized by its weight, with what to buy."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.setAccessibleName(tr("Wool for the whole figure"))
        self._retell = at_most_every(self, CALM_MS, self._plan_changed)
        studio.plan_changed.connect(lambda: start_unless_running(self._retell))
        studio.units_changed.connect(self.update)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(500, self.theme.px(62))

    minimumSizeHint = sizeHint

    def _plan_changed(self) -> None:
        plan, units = self.studio.plan, self.studio.units
        if plan:
            told = ", ".join(f"{w.name} {show_mass(w.grams, units)}" for w in plan.wools)
            self.setAccessibleDescription(told)
        self.update()

    def _wool_boxes(self) -> list[QRectF]:
        plan = self.studio.plan
        if plan is None or not plan.wools:
            return []
        left, n = self.theme.px(18), len(plan.wools)
        columns = max(1, min(n, int((self.width() - left) / self.theme.px(82))))
        rows = math.ceil(n / columns)
        columns = math.ceil(n / rows)
        wide, tall = (self.width() - left) / columns, self.height() / rows
        return [
            QRectF(left + i % columns * wide, i // columns * tall, wide, tall) for i in range(n)
        ]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan = self.studio.plan
        if plan is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        # A figure that is all wire has wools of no weight.
        most = max((wool.grams for wool in plan.wools), default=0.0) or 1.0
        for box, wool in zip(self._wool_boxes(), plan.wools, strict=True):
            # A bundle's side goes with the cube root of its weight, as it does in the hand.
            tall = box.height() - px(4)
            side = max(px(12), tall * (wool.grams / most) ** (1 / 3))
            named = box.width() >= px(104) and box.height() >= px(40)
            side = min(side, box.width() * (0.42 if named else 0.26))
            paint_bundle(
                painter,
                QRectF(box.left(), box.center().y() - side / 2, side, side),
                wool.colour,
                True,
                self.theme,
            )
            words = box.adjusted(side + px(6), 0, -px(2), 0)
            painter.setFont(self.theme.text(15, bold=True))
            painter.setPen(d.ink)
            top = QRectF(
                words.left(),
                words.center().y() - px(20 if named else 10),
                words.width() + px(8),
                px(20),
            )
            painter.drawText(top, Qt.AlignmentFlag.AlignVCenter, show_mass(wool.grams, units))
            if not named:
                continue
            painter.setFont(self.theme.text(13))
            painter.setPen(d.quiet)
            name = painter.fontMetrics().elidedText(
                wool.name, Qt.TextElideMode.ElideRight, int(words.width())
            )
            painter.drawText(
                QRectF(words.left(), words.center().y(), words.width(), px(18)),
                Qt.AlignmentFlag.AlignVCenter,
                name,
            )

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent) and self.studio.plan:
            for box, wool in zip(self._wool_boxes(), self.studio.plan.wools, strict=True):
                if box.contains(QPointF(event.pos())):
                    units = self.studio.units
                    QToolTip.showText(
                        event.globalPos(),
                        tr(
                            "{name}: {grams} in the figure.\nBuy {buy}, packs: {packs}. "
                            "Enough nine times in ten.",
                            name=wool.name,
                            grams=show_mass(wool.grams, units),
                            buy=show_mass(wool.buy_g, units),
                            packs=wool.packs,
                        ),
                        self,
                    )
                    return True
        return super().event(event)
