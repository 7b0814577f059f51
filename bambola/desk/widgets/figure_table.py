"""The table: a standing tape and the two figures, old and new, on one ground line."""

from __future__ import annotations

import math
import time
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QRadialGradient,
    QResizeEvent,
)
from PyQt6.QtWidgets import QLineEdit, QWidget

from bambola.core.quantities import MM_PER, QuantityError, parse_length, show_length
from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.desk.painters.marks import outline_of, paint_dimension, paint_span
from bambola.desk.painters.tape import flag_box, paint_flag, paint_tape
from bambola.desk.pictures import Darkroom, Print, Shot
from bambola.desk.studio import Studio
from bambola.desk.theme import Theme
from bambola.desk.widgets.dimensions import part_dimensions

OLD, NEW = "old", "new"
_SETTLE_MS = 150
_BURST_S = 0.9


@dataclass
class _Spot:
    """Where one figure stands on the table: pixel x of its axis, and its extent as seen (mm)."""

    axis: float
    left: float
    right: float
    low: float
    high: float


class FigureTable(QWidget):
    """Pull the flag, type, or nudge by key; click a part; turn the figures by hand."""

    camera_changed = pyqtSignal()

    def __init__(self, studio: Studio, theme: Theme, darkroom: Darkroom) -> None:
        super().__init__()
        self.studio, self.theme, self.darkroom = studio, theme, darkroom
        self.camera = Camera()
        self._prints: dict[str, Print] = {}
        self._outlines: dict[tuple[int, str, str], QPixmap | None] = {}
        self._spots: dict[str, _Spot] = {}
        self._drag: str | None = None
        self._press = QPointF()
        self._press_turn = 0.0
        self._grab = 0.0
        self._range = 0.0
        self._gesture, self._last_key = 1, 0.0
        self._hover: str | None = None
        self._settle = QTimer(self, singleShot=True, interval=_SETTLE_MS)
        self._settle.timeout.connect(lambda: self._wish(fine=True))
        self._entry = QLineEdit(self)
        self._entry.hide()
        self._entry.setAccessibleName("New height")
        self._entry.returnPressed.connect(self._typed)
        self._entry.editingFinished.connect(self._leave_entry)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(360, 260)
        self.setAccessibleName("Figures and measuring tape")
        studio.figure_changed.connect(self._new_figure)
        studio.plan_changed.connect(self._plan_changed)
        studio.selection_changed.connect(self.update)
        studio.units_changed.connect(self.update)
        theme.changed.connect(self._restyle)
        darkroom.developed.connect(self._developed)

    # Looking

    def look(self, camera: Camera) -> None:
        """Turn both figures to ``camera``."""
        if camera != self.camera:
            self.camera = camera
            self._wish(fine=False)
            self._settle.start()
            self.update()
            self.camera_changed.emit()

    def turn_by(self, degrees: float) -> None:
        """Turn both figures about their own height."""
        self.look(Camera((self.camera.turn + degrees) % 360, 0.0 if self.camera.tip > 60 else self.camera.tip))

    @property
    def _from_top(self) -> bool:
        return self.camera.tip > 60

    def _placements(self) -> dict[str, Placement]:
        plan = self.studio.plan
        if plan is None or self.studio.figure is None:
            return {}
        old = self.studio.placement_as_made()
        return {OLD: old, NEW: plan.solids.placement}

    def _new_figure(self) -> None:
        self._prints.clear()
        self._outlines.clear()
        self._range = 0.0
        self.camera = Camera()
        self.camera_changed.emit()

    def _plan_changed(self) -> None:
        self._lay_out()
        if not self._prints and self.isVisible():
            self._wish(fine=False)
        plan = self.studio.plan
        if plan is not None and not plan.resized.even:
            self._wish(fine=False, only=NEW)
        self._settle.start()
        self.setAccessibleDescription(self._describe())
        self.update()

    def _restyle(self) -> None:
        self._outlines.clear()
        self._lay_out()
        self._settle.start()
        self.update()

    def _describe(self) -> str:
        plan = self.studio.plan
        if plan is None:
            return ""
        units = self.studio.units
        return (
            f"{plan.figure}, made at {show_length(plan.from_height_mm, units)}, "
            f"wanted at {show_length(plan.to_height_mm, units)}, {plan.datum}"
        )

    def _wish(self, fine: bool, only: str | None = None) -> None:
        """Ask for pictures that suit the present scale; coarse ones while something moves."""
        ratio = self.devicePixelRatioF()
        for name, placement in self._placements().items():
            if only not in (None, name) or self._mm_px <= 0:
                continue
            step = 1 / (self._mm_px * ratio)
            shot = Shot(placement, self.camera, step if fine else step * 2.2, 2 if fine else 1)
            had = self._prints.get(name)
            if had is None or had.shot.placement is not placement or (
                had.shot.camera,
                round(math.log(had.shot.step / shot.step), 2),
                had.shot.smooth,
            ) != (shot.camera, 0.0, shot.smooth):
                self.darkroom.wish(name, shot)

    def _developed(self, name: str, made: Print) -> None:
        if made.shot.placement.figure.id != (self.studio.figure.id if self.studio.figure else None):
            return
        self._prints[name] = made
        self._outlines.clear()
        self.update()

    # Laying out

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._lay_out()
        self._settle.start()

    def showEvent(self, event: object) -> None:
        self._lay_out()
        if not self._prints:
            self._wish(fine=False)
            self._settle.start()

    def _lay_out(self) -> None:
        plan = self.studio.plan
        placements = self._placements()
        if plan is None or not placements:
            return
        px = self.theme.px
        self._ground_y = self.height() - px(44)
        top_y = px(34)
        tallest = max(plan.from_height_mm, plan.to_height_mm)
        extents = {name: self._extent(placement) for name, placement in placements.items()}
        crown = max(high for *_, high in extents.values())
        wanted = max(tallest, crown) * 1.08
        if self._drag == "flag" and self._range:
            wanted = max(self._range, wanted if plan.to_height_mm * 1.03 > self._range else 0.0)
        self._range = wanted
        self._tape = QRectF(px(22), top_y, px(36), self._ground_y - top_y)
        room_left = self._tape.right() + px(118)
        # On the right, room for what is written on the dimension lines.
        room = max(60.0, self.width() - room_left - px(104))
        gap = px(34) if self.width() < 700 * self.theme.scale else px(56)
        wide = sum(right - left for left, right, *_ in extents.values())
        self._mm_px = min((self._ground_y - top_y) / self._range, (room - gap) / wide)
        spare = room - gap - wide * self._mm_px
        x = room_left + spare * 0.30
        self._spots = {}
        for name, (left, right, low, high) in extents.items():
            self._spots[name] = _Spot(x - left * self._mm_px, left, right, low, high)
            x += (right - left) * self._mm_px + gap + spare * 0.20

    _mm_px = 0.0
    _ground_y = 0.0
    _tape = QRectF()

    def _extent(self, placement: Placement) -> tuple[float, float, float, float]:
        """Left, right, low, high of a figure as seen (mm), heights from the ground."""
        right, up, _ = self.camera.axes()
        xs = [copy.reach(right) for copy in placement.copies]
        xn = [copy.reach(-right) for copy in placement.copies]
        ys = [copy.reach(up) for copy in placement.copies]
        base = self._base(placement)
        return -max(xn), max(xs), 0.0, max(ys) - base

    def _base(self, placement: Placement) -> float:
        """The mm, as seen, that stands on the ground line."""
        _, up, _ = self.camera.axes()
        if not self._from_top:
            return placement.ground * float(up[2])
        return -max(copy.reach(-up) for copy in placement.copies)

    def _flag_y(self, mm: float) -> float:
        return self._ground_y - mm * self._mm_px

    def _flag(self, mm: float) -> QRectF:
        wide = self.theme.px(98)
        return flag_box(QPointF(self._tape.right() + 1, self._flag_y(mm)), wide, self.theme)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        plan = self.studio.plan
        if plan is None:
            return
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        if not self._from_top:
            painter.setPen(QPen(d.edge.darker(108), px(1.6)))
            y = self._ground_y
            painter.drawLine(QPointF(self._tape.left() - px(8), y), QPointF(self.width() - px(8), y))
        for name in self._spots:
            self._paint_figure(painter, name)
        paint_tape(painter, self._tape, self._mm_px, units.length, self.theme)
        self._paint_levels(painter)
        self._paint_dimensions(painter)
        self._paint_captions(painter)
        for mm, filled in ((plan.from_height_mm, False), (plan.to_height_mm, True)):
            focused = filled and self.hasFocus()
            paint_flag(painter, self._flag(mm), show_length(mm, units), filled, focused, self.theme)

    def _paint_levels(self, painter: QPainter) -> None:
        plan = self.studio.plan
        if plan is None or self._from_top:
            return
        d = self.theme.dyes
        spots = self._spots
        for mm, colour, name in (
            (plan.from_height_mm, d.woad, OLD),
            (plan.to_height_mm, d.madder, NEW),
        ):
            y = self._flag_y(mm)
            spot = spots[name]
            end = spot.axis + (spot.right if name == NEW else spot.right * 0.6) * self._mm_px
            painter.setPen(QPen(colour, 1.3, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(self._flag(mm).right(), y), QPointF(end, y))

    def _paint_figure(self, painter: QPainter, name: str) -> None:
        spot, made = self._spots[name], self._prints.get(name)
        wide = (spot.right - spot.left) * self._mm_px
        if not self._from_top:
            self._paint_shadow(painter, spot.axis + (spot.left + spot.right) / 2 * self._mm_px, wide)
        if made is None:
            return
        picture, box = made.picture, self._picture_box(name)
        painter.drawPixmap(box, made.pixmap, QRectF(made.pixmap.rect()))
        for part, colour in ((self._hover, self.theme.dyes.woad), (self.studio.selected, self.theme.dyes.madder)):
            if part is None:
                continue
            key = (id(picture), part, colour.name())
            if key not in self._outlines:
                thick = max(2, round(self.devicePixelRatioF() * self.theme.scale * 1.6))
                self._outlines[key] = outline_of(picture, part, colour, thick)
            line = self._outlines[key]
            if line is not None:
                painter.drawPixmap(box, line, QRectF(line.rect()))

    def _paint_shadow(self, painter: QPainter, x: float, wide: float) -> None:
        painter.save()
        painter.translate(x, self._ground_y)
        painter.scale(1.0, 0.055)
        shade = QRadialGradient(QPointF(0, 0), wide * 0.62)
        dark = QColor(0, 0, 0, 120 if self.theme.dark else 70)
        shade.setColorAt(0.0, dark)
        shade.setColorAt(1.0, QColor(0, 0, 0, 0))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        painter.drawEllipse(QPointF(0, 0), wide * 0.62, wide * 0.62)
        painter.restore()

    def _picture_box(self, name: str) -> QRectF:
        """Where a picture lies: it is reused, stretched, until a new one is made."""
        made, placement = self._prints[name], self._placements()[name]
        stretch = placement.height / made.shot.placement.height * self._mm_px
        picture, spot = made.picture, self._spots[name]
        rows, columns = picture.owner.shape
        base = self._base(made.shot.placement)
        return QRectF(
            spot.axis + picture.left * stretch,
            self._ground_y - (picture.top - base) * stretch,
            columns * picture.step * stretch,
            rows * picture.step * stretch,
        )

    def _paint_dimensions(self, painter: QPainter) -> None:
        plan, part = self.studio.plan, self.studio.selected
        if plan is None or part is None or NEW not in self._spots:
            return
        spot, units = self._spots[NEW], self.studio.units
        placement = plan.solids.placement
        base = self._base(placement)
        inside = QRectF(self._tape.right(), 0, self.width() - self._tape.right(), self.height())
        old = plan.part(part).from_mm
        for line in part_dimensions(placement, part, self.camera):
            ends = [
                QPointF(spot.axis + x * self._mm_px, self._ground_y - (y - base) * self._mm_px)
                for x, y in (line.start, line.end)
            ]
            text = f"{show_length(line.mm, units)} {line.word}"
            if line.across:
                paint_span(painter, *ends, text, self.theme)
                continue
            offset = QPointF(line.away[0], -line.away[1]) * (line.clear * self._mm_px + self.theme.px(20))
            was = f"was {show_length(old[line.measure], units)}"
            paint_dimension(painter, *ends, offset, text, was, self.theme, inside)

    def _paint_captions(self, painter: QPainter) -> None:
        plan = self.studio.plan
        assert plan is not None
        painter.setFont(self.theme.text(14))
        painter.setPen(self.theme.dyes.quiet)
        y = self._ground_y + self.theme.px(8)
        for name, text in (
            (OLD, "as made"),
            (NEW, f"resized ×{plan.scale:.2f}, {plan.datum}"),
        ):
            spot = self._spots[name]
            middle = spot.axis + (spot.left + spot.right) / 2 * self._mm_px
            wide = painter.fontMetrics().horizontalAdvance(text)
            x = min(max(middle - wide / 2, self._tape.right()), self.width() - wide - 6)
            painter.drawText(QRectF(x, y, wide + 2, self.theme.px(22)), Qt.AlignmentFlag.AlignLeft, text)

    # Hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.button() != Qt.MouseButton.LeftButton or self.studio.plan is None:
            return
        at = event.position()
        self._press, self._press_turn = at, self.camera.turn
        flag = self._flag(self.studio.plan.to_height_mm)
        if flag.adjusted(-8, -6, 8, 6).contains(at):
            self._drag, self._grab = "flag", at.y() - flag.center().y()
            self._gesture += 1
        elif self._tape.adjusted(-6, -8, 6, 8).contains(at):
            self._drag, self._grab = "flag", 0.0
            self._gesture += 1
            self._pull_to(at.y(), fine=False)
        else:
            self._drag = "maybe turn"

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        at = event.position()
        if self._drag == "flag":
            fine = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._pull_to(at.y() - self._grab, fine)
        elif self._drag in ("maybe turn", "turn"):
            if abs(at.x() - self._press.x()) > 6:
                self._drag = "turn"
            if self._drag == "turn":
                self.look(Camera((self._press_turn - (at.x() - self._press.x()) * 0.6) % 360, 0.0))
        else:
            self._hover_at(at)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        was, self._drag = self._drag, None
        if was == "maybe turn":
            part = self._part_at(event.position())
            if part:
                self.studio.select(part)
        elif was == "flag":
            self._lay_out()
            self._settle.start()
            self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self.studio.plan and self._flag(self.studio.plan.to_height_mm).contains(event.position()):
            self._drag = None
            self.type_height()

    def leaveEvent(self, event: object) -> None:
        self._hover = None
        self.update()

    def _hover_at(self, at: QPointF) -> None:
        plan = self.studio.plan
        over_flag = plan is not None and self._flag(plan.to_height_mm).contains(at)
        part = self._part_at(at)
        cursor = Qt.CursorShape.SizeVerCursor if over_flag or self._tape.contains(at) else (
            Qt.CursorShape.PointingHandCursor if part else Qt.CursorShape.ArrowCursor
        )
        self.setCursor(cursor)
        if part != self._hover:
            self._hover = part
            self.setToolTip(plan.part(part).name if plan and part else "")
            self.update()

    def _part_at(self, at: QPointF) -> str | None:
        for name in (NEW, OLD):
            made = self._prints.get(name)
            if made is None:
                continue
            box = self._picture_box(name)
            if box.contains(at):
                picture = made.picture
                rows, columns = picture.owner.shape
                x = picture.left + (at.x() - box.left()) / box.width() * columns * picture.step
                y = picture.top - (at.y() - box.top()) / box.height() * rows * picture.step
                part = picture.part_at(x, y)
                if part:
                    return part
        return None

    def _pull_to(self, y: float, fine: bool) -> None:
        mm = (self._ground_y - y) / self._mm_px
        grain = self._grain() / (10 if fine else 1)
        mm = max(grain, round(mm / grain) * grain)
        self.studio.set_height(mm, self._gesture)

    def _grain(self) -> float:
        """The step of the flag: a millimetre, or a sixteenth of an inch."""
        return MM_PER["in"] / self.studio.units.inch_fraction if self.studio.units.length == "in" else 1.0

    def nudge(self, grains: float) -> None:
        """Raise or lower the flag by so many of its steps; one burst of keys is one undo."""
        plan = self.studio.plan
        if plan is None:
            return
        now = time.monotonic()
        if now - self._last_key > _BURST_S:
            self._gesture += 1
        self._last_key = now
        self.studio.set_height(max(self._grain(), plan.to_height_mm + grains * self._grain()), self._gesture)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        nudges = {
            Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0, Qt.Key.Key_PageUp: 10.0, Qt.Key.Key_PageDown: -10.0,
        }  # fmt: skip
        turns = {Qt.Key.Key_Left: -15.0, Qt.Key.Key_Right: 15.0}
        key = Qt.Key(event.key())
        if key in nudges and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            fine = 0.1 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self.nudge(nudges[key] * fine)
        elif key in turns and not event.modifiers():
            self.turn_by(turns[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2):
            self.type_height()
        elif event.text().isdigit() and not event.modifiers():
            self.type_height(event.text())
        else:
            super().keyPressEvent(event)

    # Typing

    def type_height(self, start: str = "") -> None:
        """Open the flag for typing."""
        plan = self.studio.plan
        if plan is None:
            return
        box = self._flag(plan.to_height_mm)
        self._entry.setFont(self.theme.text(16, bold=True))
        self._entry.setGeometry(
            round(box.left() + 10), round(box.top() - 2), round(box.width() + self.theme.px(26)), round(box.height() + 4)
        )
        self._entry.setText(start or show_length(plan.to_height_mm, self.studio.units))
        self._entry.show()
        self._entry.setFocus()
        if not start:
            self._entry.selectAll()

    def _typed(self) -> None:
        try:
            mm = parse_length(self._entry.text(), self.studio.units.length)
            if not 0 < mm <= 1_000_000:
                raise QuantityError(
                    f"“{self._entry.text()}” is not a height that can be made; write one above zero, such as 220 mm."
                )
        except QuantityError as error:
            self.studio.refused.emit(str(error))
            return
        self._gesture += 1
        if self.studio.set_height(mm, self._gesture):
            self._close_entry()

    def _leave_entry(self) -> None:
        if self._entry.isVisible() and not self._entry.hasFocus():
            self._close_entry()

    def _close_entry(self) -> None:
        self._entry.hide()
        self.setFocus()

    def focusInEvent(self, event: object) -> None:
        self.update()

    def focusOutEvent(self, event: object) -> None:
        self.update()


