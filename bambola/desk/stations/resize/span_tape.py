"""The tape of the dialog *What height?*: a bar for every condition, the heights that meet all, and the
turns."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen

from bambola.core.heights.values import HeightBand
from bambola.core.quantities import show_length
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.painters.marks import flag_box, paint_flag, paint_tape
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.resize.marks import (
    QUIET,
    HeightMark,
    first_past_turn,
    next_marks,
    paint_dot,
)
from bambola.language import tr

_MORE = 1.35
"""So much more than the tallest that is shown the tape reaches. Judged."""
_NARROW_PX, _WORDS_PX = 290, 64
"""Where the tape has less room than this (before scaling) it stands alone; where words have, they are left
out."""


@dataclass(frozen=True, slots=True)
class ConditionBar:
    """The heights that meet one condition, in its colour."""

    told: str
    colour: QColor
    bands: tuple[HeightBand, ...]


def paint_number(painter: QPainter, box: QRectF, n: int, colour: QColor, theme: Theme) -> None:
    """Paint the number of a condition on its colour: which bar is whose is told by both."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    painter.drawRoundedRect(box, box.width() / 4, box.width() / 4)
    painter.setPen(theme.dyes.paper)
    painter.setFont(theme.text(12, bold=True))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(n))


class SpanTape(Painted):
    """Drag or step the flag to a height; Alt with the arrows goes to the next turn."""

    picked = pyqtSignal(float)
    """Another height (mm) is looked at."""

    def __init__(self, studio: EditorSession, theme: Theme, mm: float) -> None:
        super().__init__(theme, tr("Tape of heights"))
        self.studio, self.mm = studio, mm
        self.bars: tuple[ConditionBar, ...] = ()
        self.together: tuple[HeightBand, ...] = ()
        self.marks: tuple[HeightMark, ...] = ()
        self.reach = (0.0, mm)
        self.least = mm
        """The tape reaches at least so high (mm)."""
        self._top = 0.0
        self._pulled = False
        self.setMinimumSize(theme.px(165), theme.px(220))
        self.show_changed()

    def show_answer(self, bars: Sequence[ConditionBar], together: Sequence[HeightBand]) -> None:
        """Show the heights that meet each condition, and those that meet all."""
        self.bars, self.together = tuple(bars), tuple(together) if bars else ()
        self.show_changed()

    def pick(self, mm: float) -> None:
        """Select another height."""
        low, high = self.reach
        mm = min(max(mm, low or 1.0), high)
        if mm != self.mm:
            self.mm = mm
            self.show_changed()
            self.picked.emit(mm)

    def describe(self) -> str:
        units = self.studio.units
        rows = [tr("looked at: {height}", height=show_length(self.mm, units))]
        rows += [f"{bar.told}: {self.spans(bar.bands)}" for bar in self.bars]
        if self.bars:
            rows.append(tr("All of it: {spans}.", spans=self.spans(self.together)))
        return "; ".join(rows)

    def spans(self, bands: Sequence[HeightBand]) -> str:
        """Return ranges of heights as text."""
        return ", ".join(map(self._span_text, bands)) or tr("nowhere")

    def _span_text(self, band: HeightBand) -> str:
        low, high = (show_length(mm, self.studio.units) for mm in (band.from_mm, band.to_mm))
        return tr("{low} to {high}", low=low, high=high)

    # Laying out and painting

    @property
    def _is_narrow(self) -> bool:
        """Whether there is no room for words beside the tape."""
        return self.width() < self.theme.px(_NARROW_PX)

    @property
    def _tape_box(self) -> QRectF:
        px = self.theme.px
        words = px(70) if self.together and not self._is_narrow else 0
        left = px(20) + len(self.bars) * px(20) + words
        return QRectF(left, px(14), px(36), self.height() - px(30))

    @property
    def _tape_range(self) -> float:
        ends = [band.to_mm for band in self.together if not band.open_above]
        return min(max([self.least, self.mm, *ends]) * _MORE, self.reach[1] * 1.02)

    def _y_of(self, mm: float) -> float:
        tape = self._tape_box
        return tape.bottom() - mm / (self._top or self._tape_range) * tape.height()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self._pulled:
            self._top = self._tape_range
        tape, theme = self._tape_box, self.theme
        mm_px = tape.height() / self._top
        ratio = self.devicePixelRatioF()
        paint_tape(painter, tape, mm_px, self.studio.units.length, theme, ratio)
        self._paint_bars(painter, tape)
        self._paint_common(painter, tape)
        x = tape.left() if self._is_narrow else tape.right() + 1
        flag = flag_box(QPointF(x, self._y_of(self.mm)), theme.px(98), theme)
        self._paint_marks(painter, tape, flag)
        told = show_length(self.mm, self.studio.units)
        paint_flag(painter, flag, told, True, self.hasFocus(), theme)

    def _paint_bars(self, painter: QPainter, tape: QRectF) -> None:
        px = self.theme.px
        x = tape.left() - px(16)
        for n, bar in reversed([*enumerate(self.bars, 1)]):
            x -= px(20)
            for band in bar.bands:
                top, foot = self._y_of(min(band.to_mm, self._top)), self._y_of(band.from_mm)
                if foot <= tape.top():
                    continue
                box = QRectF(x, top, px(13), max(foot - top, px(3)))
                fill = QColor(bar.colour)
                fill.setAlpha(70)
                painter.setPen(QPen(bar.colour, px(1.8)))
                painter.setBrush(fill)
                painter.drawRoundedRect(box, px(6), px(6))
            if bar.bands:
                highest = self._y_of(min(bar.bands[-1].to_mm, self._top))
                number = QRectF(x - px(1.5), highest - px(18), px(16), px(16))
                paint_number(painter, number, n, bar.colour, self.theme)

    def _paint_common(self, painter: QPainter, tape: QRectF) -> None:
        d, px = self.theme.dyes, self.theme.px
        for band in self.together:
            top, foot = self._y_of(min(band.to_mm, self._top)), self._y_of(band.from_mm)
            if foot <= tape.top():
                continue
            left = tape.left() - px(16) - len(self.bars) * px(20) - px(6)
            area = QRectF(left, top, tape.right() - left, max(foot - top, px(2)))
            fill = QColor(d.lichen)
            fill.setAlpha(60)
            painter.fillRect(area, fill)
            painter.setPen(QPen(d.lichen, px(2)))
            painter.drawLine(area.topLeft(), area.topRight())
            painter.drawLine(area.bottomLeft(), area.bottomRight())
            if self._is_narrow:
                continue
            painter.setPen(d.lichen.darker(115) if not self.theme.dark else d.lichen.lighter(130))
            painter.setFont(self.theme.text(13, bold=True))
            words = QRectF(0, area.center().y() - px(30), left - px(4), px(60))
            flags = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(
                words, int(flags) | int(Qt.TextFlag.TextWordWrap), self._span_text(band)
            )

    def _paint_marks(self, painter: QPainter, tape: QRectF, flag: QRectF) -> None:
        """Paint dots for turns that need a decision, with words where there is room, nearest first."""
        d, px = self.theme.dyes, self.theme.px
        painter.setFont(self.theme.text(12.5))
        metrics = painter.fontMetrics()
        line, left = metrics.lineSpacing(), tape.right() + px(22)
        taken = [flag.adjusted(0, -px(4), 0, px(4))]
        asking = [m for m in self.marks if m.rank in QUIET and m.mm <= self._top]
        for mark in sorted(asking, key=lambda m: abs(m.mm - self.mm)):
            y = self._y_of(mark.mm)
            paint_dot(painter, QPointF(tape.right() + px(10), y), mark.rank, self.theme)
            box = QRectF(left, y - line / 2, self.width() - left - px(4), line)
            if box.width() < px(_WORDS_PX) or any(box.intersects(other) for other in taken):
                continue
            taken.append(box)
            height = show_length(mark.mm, self.studio.units)
            told = f"{height}  {mark.describe(self.studio.words)}"
            painter.setPen(d.ink)
            text = metrics.elidedText(told, Qt.TextElideMode.ElideRight, round(box.width()))
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, text)

    # Hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.button() == Qt.MouseButton.LeftButton:
            self._pulled = True
            self._drag_flag(event.position().y())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._pulled:
            self._drag_flag(event.position().y())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._pulled = False
        self.update()

    def _drag_flag(self, y: float) -> None:
        tape = self._tape_box
        mm, grain = (tape.bottom() - y) / tape.height() * self._top, self.studio.units.grain_mm
        self.pick(round(mm / grain) * grain)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, alt = event.key(), event.modifiers() == Qt.KeyboardModifier.AltModifier
        steps = {
            Qt.Key.Key_Up: 1.0,
            Qt.Key.Key_Down: -1.0,
            Qt.Key.Key_PageUp: 10.0,
            Qt.Key.Key_PageDown: -10.0,
        }
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and alt:
            up = key == Qt.Key.Key_Up
            mark = next_marks(self.marks, self.mm)[int(up)]
            if mark is not None:
                self.pick(first_past_turn(mark.mm, up, self.studio.units.grain_mm))
        elif key in steps:
            self.pick(self.mm + steps[Qt.Key(key)] * self.studio.units.grain_mm)
        else:
            super().keyPressEvent(event)
