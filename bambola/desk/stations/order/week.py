"""A week to mark free times on: drag where you are free, and the sittings follow."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from bambola.core.bench import FreeTime
from bambola.core.order.sittings import (
    SNAP_MIN,
    begin_minute,
    end_minute,
    merge_slots,
    move_slot,
    nearest_free_time,
)
from bambola.desk.kit.buttons import lead_label, ok_cancel
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.locale import weekday_words
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.theme import Theme
from bambola.language import tr, trn

FIRST_H, LAST_H = 6, 24
NEW = (19 * 60 + 30, 21 * 60)
"""Where a new free time is laid by key: an evening."""
_LAYS = (Qt.Key.Key_Insert, Qt.Key.Key_Plus, Qt.Key.Key_Space)
_TAKES_AWAY = (Qt.Key.Key_Delete, Qt.Key.Key_Backspace)
MOST = 60


@dataclass(frozen=True)
class _Pull:
    """A drag that began ``at`` minutes of a day: creating a slot, moving one, or dragging its end."""

    kind: str
    weekday: int
    at: float
    slot: FreeTime | None


class Week(Painted):
    """Seven days from morning to night with the free times on them."""

    changed = pyqtSignal()

    def __init__(self, theme: Theme, free: Sequence[FreeTime]) -> None:
        super().__init__(theme, tr("Free times in the week"))
        self.free = merge_slots(free)
        self.chosen: FreeTime | None = self.free[0] if self.free else None
        self.day = self.chosen.weekday if self.chosen else 0
        self._pull: _Pull | None = None
        self._rest: tuple[FreeTime, ...] = ()
        self.setMinimumSize(theme.px(480), theme.px(260))
        self._update_description()

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(760), self.theme.px(430))

    # Where things are

    def _field_box(self) -> QRectF:
        px = self.theme.px
        return QRectF(px(52), px(34), self.width() - px(60), self.height() - px(54))

    def spot(self, weekday: int, minutes: float) -> QPointF:
        """Return the place of a time of a day, in the middle of its column."""
        field = self._field_box()
        down = (minutes / 60 - FIRST_H) / (LAST_H - FIRST_H)
        return QPointF(
            field.left() + (weekday + 0.5) * field.width() / 7, field.top() + down * field.height()
        )

    def _time_at(self, at: QPointF) -> tuple[int, float]:
        field = self._field_box()
        day = int((at.x() - field.left()) / field.width() * 7)
        down = (at.y() - field.top()) / field.height()
        return max(0, min(6, day)), (FIRST_H + down * (LAST_H - FIRST_H)) * 60

    def _slot_box(self, slot: FreeTime) -> QRectF:
        wide = self._field_box().width() / 7
        top, low = (
            self.spot(slot.weekday, begin_minute(slot)),
            self.spot(slot.weekday, end_minute(slot)),
        )
        return QRectF(top.x() - wide / 2 + 4, top.y(), wide - 8, max(6.0, low.y() - top.y()))

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px, field = self.theme.dyes, self.theme.px, self._field_box()
        painter.setFont(self.theme.text(14, bold=True))
        for day in range(7):
            column = QRectF(field.left() + day * field.width() / 7, 0, field.width() / 7, px(30))
            painter.setPen(d.ink)
            painter.drawText(column, Qt.AlignmentFlag.AlignCenter, weekday_words(day, short=True))
            if day == self.day and self.hasFocus():
                painter.setPen(QPen(d.madder, px(2.6)))
                under = QPointF(column.center().x(), column.bottom() - px(3))
                painter.drawLine(under - QPointF(px(16), 0), under + QPointF(px(16), 0))
        painter.setFont(self.theme.text(13))
        for hour in range(FIRST_H, LAST_H + 1, 2):
            y = self.spot(0, hour * 60).y()
            painter.setPen(QPen(d.edge, 1))
            painter.drawLine(QPointF(field.left(), y), QPointF(field.right(), y))
            painter.setPen(d.quiet)
            label = QRectF(0, y - px(10), field.left() - px(8), px(20))
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(label, right, f"{hour % 24}:00" if hour < 24 else "24")
        for slot in self.free:
            self._paint_slot(painter, slot)
        if not self.free:
            painter.setPen(d.quiet)
            painter.setFont(self.theme.text(17))
            painter.drawText(
                field, Qt.AlignmentFlag.AlignCenter, tr("Drag over the times when you are free.")
            )

    def _paint_slot(self, painter: QPainter, slot: FreeTime) -> None:
        d, px, box = self.theme.dyes, self.theme.px, self._slot_box(slot)
        chosen = slot == self.chosen
        painter.setPen(QPen(d.madder if chosen else d.lichen, px(3 if chosen else 1)))
        painter.setBrush(d.lichen)
        painter.drawRoundedRect(box, px(9), px(9))
        painter.setPen(d.on_dye)
        painter.setFont(self.theme.text(13, bold=True))
        words = (
            slot.start
            if box.height() < px(40)
            else tr("{start}\n{minutes} min", start=slot.start, minutes=slot.minutes)
        )
        if box.height() >= px(15):
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    # By hand

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        at = event.position()
        self.day, minutes = self._time_at(at)
        slot = next((s for s in reversed(self.free) if self._slot_box(s).contains(at)), None)
        if slot is None:
            if len(self.free) < MOST:
                self._begin_drag(_Pull("lay", self.day, minutes, None), None)
            return
        low = self._slot_box(slot).bottom() - at.y() < self.theme.px(9)
        self._begin_drag(_Pull("end" if low else "move", self.day, minutes, slot), slot)

    def _begin_drag(self, pull: _Pull, slot: FreeTime | None) -> None:
        self._pull, self.chosen = pull, slot
        self._rest = tuple(s for s in self.free if s != slot)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        pull = self._pull
        if pull is None:
            return
        day, minutes = self._time_at(event.position())
        if pull.slot is None:
            new = nearest_free_time(pull.weekday, pull.at, minutes)
        elif pull.kind == "end":
            new = nearest_free_time(
                pull.weekday,
                begin_minute(pull.slot),
                max(minutes, begin_minute(pull.slot) + SNAP_MIN),
            )
        else:
            new = move_slot(pull.slot, day, begin_minute(pull.slot) + minutes - pull.at)
        self.chosen, self.free, self.day = new, (*self._rest, new), new.weekday
        self._update_description()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._pull is not None:
            self._pull = None
            self._merge_slots()

    def _merge_slots(self) -> None:
        """Merge overlapping slots and keep the current one."""
        middle = (begin_minute(self.chosen) + end_minute(self.chosen)) / 2 if self.chosen else 0
        self.free = merge_slots(self.free)
        if self.chosen is not None:
            self.chosen = next(
                (
                    s
                    for s in self.free
                    if s.weekday == self.day and begin_minute(s) <= middle <= end_minute(s)
                ),
                None,
            )
        self._update_description()

    # By key

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, shift = (
            Qt.Key(event.key()),
            bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier),
        )
        sideways = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(key)
        upright = {Qt.Key.Key_Up: -SNAP_MIN, Qt.Key.Key_Down: SNAP_MIN}.get(key)
        if sideways:
            self._move_sideways(sideways, shift)
        elif upright and self.chosen:
            self._move_upright(self.chosen, upright, shift)
        elif key in _LAYS and len(self.free) < MOST:
            self.chosen = nearest_free_time(self.day, *NEW)
            self.free = (*self.free, self.chosen)
            self._merge_slots()
        elif key in _TAKES_AWAY and self.chosen:
            self.free = tuple(s for s in self.free if s != self.chosen)
            self._go_to(self.day)
        else:
            super().keyPressEvent(event)

    def _move_sideways(self, days: int, pulls: bool) -> None:
        """Go to another day, or move the current slot to another day."""
        if pulls and self.chosen:
            self._replace_slot(
                move_slot(self.chosen, (self.chosen.weekday + days) % 7, begin_minute(self.chosen))
            )
        else:
            self._go_to((self.day + days) % 7)

    def _move_upright(self, chosen: FreeTime, minutes: int, pulls: bool) -> None:
        """Lengthen, shorten or move the current slot."""
        start = begin_minute(chosen)
        if pulls:
            self._replace_slot(
                nearest_free_time(
                    self.day, start, max(end_minute(chosen) + minutes, start + SNAP_MIN)
                )
            )
        else:
            self._replace_slot(move_slot(chosen, self.day, start + minutes))

    def _go_to(self, day: int) -> None:
        self.day = day
        self.chosen = next((s for s in self.free if s.weekday == day), None)
        self._update_description()

    def _replace_slot(self, new: FreeTime) -> None:
        self.free = (*(s for s in self.free if s != self.chosen), new)
        self.chosen, self.day = new, new.weekday
        self._merge_slots()

    def _update_description(self) -> None:
        self.show_changed()
        self.changed.emit()

    def describe(self) -> str:
        day = [
            tr("{start}, {minutes} min", start=s.start, minutes=s.minutes)
            for s in self.free
            if s.weekday == self.day
        ]
        held = tr("; in hand {start}", start=self.chosen.start) if self.chosen else ""
        return f"{weekday_words(self.day)}: {', '.join(day) or tr('nothing')}{held}"


class WeekDialog(FittedDialog):
    """Asks for the maker's free times."""

    def __init__(self, parent: QWidget, theme: Theme, free: Sequence[FreeTime]) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Free times"))
        told = lead_label(
            tr(
                "Drag over the times when you are free. Space adds an evening, the arrows move "
                "it, with Shift they change its length or day, Delete removes it."
            )
        )
        self.week = Week(theme, free)
        self.sum = QLabel()
        buttons = ok_cancel(self)
        column = QVBoxLayout(self)
        column.addWidget(told)
        column.addWidget(self.week, 1)
        column.addWidget(self.sum)
        column.addWidget(buttons)
        self.week.changed.connect(self._add_up)
        self._add_up()
        self.week.setFocus()

    def _add_up(self) -> None:
        free = self.week.free
        times = trn("{n} sitting a week", "{n} sittings a week", len(free))
        hours = sum(slot.minutes for slot in free) / 60
        self.sum.setText(
            tr("{times}, {hours:.4g} hours", times=times, hours=hours)
            if free
            else tr("No free time yet")
        )
