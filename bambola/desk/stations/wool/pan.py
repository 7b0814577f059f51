"""The pan: the live weight against the target of the current portion, and what comes next."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF

from bambola.core.quantities import show_mass
from bambola.core.wool.bundles import heap_across
from bambola.core.wool.pan import WeighingTarget
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.painters.wool import paint_heap
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wool.hand import PortionQueue, WoolHand
from bambola.desk.stations.wool.weigher import Weigher
from bambola.language import tr

_MARK_SHARE = 0.008
"""Half the least width of the mark for the weight to take, as a share of the dial."""
_START, _SWEEP = 200.0, 220.0
"""The dial runs clockwise from here (degrees, 0 to the right) over so many."""
_TALL = 1.34
"""How high the dial and its pan are, in its radius."""
_NUMBER, _WORDS, _QUEUE = 58, 82, 88
"""How high the number, the lines of words under it and the queue are (px before scaling)."""
_LEAST_RADIUS = 84
"""A smaller dial (px before scaling) cannot be read from where the scale stands."""


class PanView(Painted):
    """A dial over the pan; for the second of a pair, a beam with the first on its other end."""

    def __init__(
        self, studio: EditorSession, theme: Theme, hand: WoolHand, weigher: Weigher
    ) -> None:
        super().__init__(theme, tr("The pan"))
        self.studio, self.hand, self.weigher = studio, hand, weigher
        self.queue = PortionQueue(studio, theme, hand)
        for signal in (hand.changed, studio.units_changed, theme.changed):
            signal.connect(self._refresh_if_visible)
        weigher.changed.connect(self._scale_says)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(420), self.theme.px(420))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(300), self.theme.px(300))

    def showEvent(self, event: object) -> None:
        self.weigher.active = True
        self._refresh_if_visible()

    def hideEvent(self, event: object) -> None:
        self.weigher.active = False

    def _refresh_if_visible(self) -> None:
        if self.isVisible():
            self.show_changed()

    def _scale_says(self) -> None:
        """Repaint only the dial: the scale reports many times a second, and the queue below stays."""
        if self.isVisible():
            self.show_changed(self.scale_box() if self.weigher.aim is not None else None)

    def describe(self) -> str:
        grams = show_mass(self.weigher.state.grams, self.studio.units)
        return f"{grams}. {self.weigher.words}"

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        aim, queue = self.weigher.aim, self.queue_box()
        if aim is None:
            painter.setFont(self.theme.text(17))
            painter.setPen(self.theme.dyes.ink)
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, self.weigher.words)
            return
        self._paint_scale(painter, self.scale_box(), aim)
        if queue.height() and (event is None or event.rect().bottom() > queue.top()):
            self.queue.paint(painter, queue, self.hasFocus())

    def places(self, box: QRectF) -> tuple[QPointF, float, QRectF, QRectF]:
        """Return the centre of the dial in ``box``, its radius (0 if there is no room), and the places of
        number and words."""
        px = self.theme.px
        words, number, above = px(_WORDS), px(_NUMBER), px(28)  # a line may stand over the ring
        if box.height() < words + number:
            # A small window with large text: just the number, and what to do beside it.
            left, right = QRectF(box), QRectF(box)
            left.setRight(box.left() + box.width() * 0.4)
            right.setLeft(left.right())
            return box.center(), 0.0, left, right
        radius = min((box.height() - words - number - above) / _TALL, box.width() * 0.44)
        dial, beside = box, box
        if radius < px(_LEAST_RADIUS):
            # Too low for one under the other: the number and the words stand beside the dial.
            dial = QRectF(box.left(), box.top(), box.width() * 0.5, box.height())
            beside = QRectF(dial.right(), box.top(), dial.width(), box.height())
            radius = min((box.height() - above) / _TALL, dial.width() * 0.36)
        middle = QPointF(dial.center().x(), dial.top() + radius + above)
        top, bottom = middle.y() + radius * 0.30, box.bottom() - words
        if beside is not box:
            top = box.center().y() - (number + words) / 2
            bottom = top + number
        return (
            middle,
            radius,
            QRectF(beside.left(), top, beside.width(), number),
            QRectF(beside.left(), bottom, beside.width(), words),
        )

    def _paint_scale(self, painter: QPainter, box: QRectF, aim: WeighingTarget) -> None:
        middle, radius, number, words = self.places(box)
        if radius and self.hand.twin_g is not None:
            self._paint_beam(painter, middle, radius, aim)
        elif radius:
            self._paint_dial(painter, middle, radius, aim)
        self._paint_number(painter, number)
        self._paint_words(painter, words, aim)

    def _most_shown(self, aim: WeighingTarget) -> float:
        return max(aim.most * 1.35, self.weigher.step_g * 10)

    def _dial_angle(self, grams: float, aim: WeighingTarget) -> float:
        """Return the angle of a weight on the dial, degrees."""
        share = max(-0.02, min(1.0, grams / self._most_shown(aim)))
        return _START - _SWEEP * share

    def _dial_spot(self, middle: QPointF, radius: float, angle: float) -> QPointF:
        a = math.radians(angle)
        return QPointF(middle.x() + radius * math.cos(a), middle.y() - radius * math.sin(a))

    def _paint_dial(
        self, painter: QPainter, middle: QPointF, radius: float, aim: WeighingTarget
    ) -> None:
        d, px = self.theme.dyes, self.theme.px
        ring = QRectF(middle.x() - radius, middle.y() - radius, 2 * radius, 2 * radius)
        ring = ring.adjusted(px(14), px(14), -px(14), -px(14))
        thick = px(18)

        def arc(low: float, high: float, colour: QColor, width: int) -> None:
            a, b = self._dial_angle(low, aim), self._dial_angle(high, aim)
            painter.setPen(QPen(colour, width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
            painter.drawArc(ring, round(a * 16), round((b - a) * 16))

        painter.setBrush(Qt.BrushStyle.NoBrush)
        arc(0.0, self._most_shown(aim), d.shade, thick)
        half = self.weigher.step_g / 2
        if aim.parts == 1 and aim.most > aim.best:
            arc(aim.best, aim.most + half, d.weld, thick // 2)
        mark = max(half, self._most_shown(aim) * _MARK_SHARE)
        arc(aim.least - mark, aim.best + mark, d.lichen, thick)
        self._paint_ticks(painter, middle, ring.width() / 2 - thick / 2, aim)
        self._paint_pan(painter, middle, radius, aim)
        if self.weigher.state.clear:
            self._paint_needle(painter, middle, ring.width() / 2, thick, aim)
        self._paint_band_words(painter, middle, radius, aim)

    def _paint_needle(
        self, painter: QPainter, middle: QPointF, radius: float, thick: float, aim: WeighingTarget
    ) -> None:
        d, px, grams = self.theme.dyes, self.theme.px, self.weigher.state.grams
        base = self._dial_angle(grams, aim)
        tip, inner = self._dial_spot(middle, radius + thick * 0.6, base), radius - thick * 1.3
        needle = QPolygonF(
            [
                tip,
                self._dial_spot(middle, inner, base - 2.4),
                self._dial_spot(middle, inner, base + 2.4),
            ]
        )
        painter.setPen(QPen(d.paper, px(1.4)))
        painter.setBrush(d.madder)
        painter.drawPolygon(needle)

    def _paint_ticks(
        self, painter: QPainter, middle: QPointF, radius: float, aim: WeighingTarget
    ) -> None:
        d, px = self.theme.dyes, self.theme.px
        most = self._most_shown(aim)
        unit = 10 ** math.floor(math.log10(most / 4))
        step = next((unit * k for k in (1, 2, 5, 10) if most / (unit * k) <= 8), unit * 10)
        painter.setFont(self.theme.text(13))
        n = 0
        while n * step <= most:
            angle = self._dial_angle(n * step, aim)
            painter.setPen(QPen(d.quiet, px(1.4)))
            painter.drawLine(
                self._dial_spot(middle, radius - px(3), angle),
                self._dial_spot(middle, radius - px(9), angle),
            )
            at = self._dial_spot(middle, radius - px(22), angle)
            told = show_mass(n * step, self.studio.units).split()[0]
            painter.drawText(
                QRectF(at.x() - px(22), at.y() - px(9), px(44), px(18)),
                Qt.AlignmentFlag.AlignCenter,
                told,
            )
            n += 1

    def _paint_band_words(
        self, painter: QPainter, middle: QPointF, radius: float, aim: WeighingTarget
    ) -> None:
        """Paint the weight to take, and the end of the reserve, outside the dial."""
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        edges = [(aim.least, show_mass(aim.least, units), d.lichen, True)]
        if aim.parts == 1 and aim.most > aim.best:
            reserve = tr("with the reserve {weight}", weight=show_mass(aim.most, units))
            edges.append((aim.most, reserve, d.quiet, False))
        for grams, told, colour, bold in edges:
            painter.setFont(self.theme.text(15 if bold else 13, bold=bold))
            painter.setPen(colour)
            wide, tall = painter.fontMetrics().horizontalAdvance(told) + px(4), px(20)
            # So far out that no corner of the words lies on the dial, wherever they stand.
            rim = radius + px(8)
            way = (self._dial_spot(middle, rim, self._dial_angle(grams, aim)) - middle) / rim
            far = rim + abs(way.x()) * wide / 2 + abs(way.y()) * tall / 2
            at = middle + way * far
            left = min(max(at.x() - wide / 2, px(2)), self.width() - wide - px(2))
            box = QRectF(left, max(0.0, at.y() - tall / 2), wide, tall)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, told)

    def _paint_pan(
        self, painter: QPainter, middle: QPointF, radius: float, aim: WeighingTarget
    ) -> None:
        """Paint the wool on its pan, sized by weight, with the weight in large figures."""
        d, px = self.theme.dyes, self.theme.px
        now, grams = self.hand.current, self.weigher.state.grams
        assert now is not None
        pan = QRectF(
            middle.x() - radius * 0.56, middle.y() - radius * 0.02, radius * 1.12, radius * 0.30
        )
        painter.setPen(QPen(d.edge, px(1.6)))
        painter.setBrush(d.paper)
        painter.drawEllipse(pan)
        painter.setBrush(d.shade)
        painter.drawEllipse(pan.adjusted(px(10), px(4), -px(10), -px(8)))
        wool = self.studio.bench.wool_by_id[now.portion.wool]
        if grams > 0:
            full = heap_across(max(aim.most, 1e-6), wool)
            wide = radius * 0.95 * min(1.25, heap_across(grams, wool) / full)
            heap = QRectF(0, 0, wide, wide * 0.62)
            heap.moveCenter(QPointF(middle.x(), pan.center().y() - heap.height() * 0.34))
            paint_heap(painter, heap, wool.colour, self.theme)

    def _paint_number(self, painter: QPainter, box: QRectF) -> None:
        d, state = self.theme.dyes, self.weigher.state
        painter.setFont(self.theme.title(46 * min(1.0, box.height() / self.theme.px(_NUMBER))))
        live = self.weigher.link.is_open
        right = state.standing in ("right", "hold still")
        painter.setPen((d.lichen if right else d.ink) if live else d.quiet)
        told = (
            "—"
            if not live
            else "over"
            if state.standing == "over"
            else show_mass(state.grams, self.studio.units)
        )
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, told)

    def _paint_beam(
        self, painter: QPainter, middle: QPointF, radius: float, aim: WeighingTarget
    ) -> None:
        """Paint a beam: the first of the pair at the left, the pan at the right."""
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        now, first, grams = self.hand.current, self.hand.twin_g, self.weigher.state.grams
        assert now is not None and first is not None
        off = (grams - first) / max(first * (aim.most / aim.best - 1), 1e-9)
        lean = math.radians(max(-1.6, min(1.6, off)) * 9)
        pivot = QPointF(middle.x(), middle.y() - radius * 0.62)
        arm = radius * 0.80
        ends = [
            QPointF(pivot.x() + s * arm * math.cos(lean), pivot.y() + s * arm * math.sin(lean))
            for s in (-1, 1)
        ]
        painter.setPen(QPen(d.ink, px(4), Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawLine(*ends)
        painter.setBrush(d.weld)
        painter.setPen(QPen(d.ink, px(1.6)))
        painter.drawEllipse(pivot, px(7), px(7))
        colour = self.studio.bench.wool_by_id[now.portion.wool]
        for end, weight, told in (
            (ends[0], first, tr("the first")),
            (ends[1], grams, tr("this one")),
        ):
            dish = QRectF(
                end.x() - radius * 0.36, end.y() + radius * 0.62, radius * 0.72, radius * 0.16
            )
            painter.setPen(QPen(d.quiet, px(1.4)))
            painter.drawLine(end, QPointF(dish.left() + px(4), dish.center().y()))
            painter.drawLine(end, QPointF(dish.right() - px(4), dish.center().y()))
            painter.setPen(QPen(d.edge, px(1.6)))
            painter.setBrush(d.paper)
            painter.drawEllipse(dish)
            if weight > 0:
                size = (
                    radius
                    * 0.60
                    * min(1.2, heap_across(weight, colour) / heap_across(aim.most, colour))
                )
                heap = QRectF(0, 0, size, size * 0.7)
                heap.moveCenter(
                    QPointF(dish.center().x(), dish.center().y() - heap.height() * 0.36)
                )
                paint_heap(painter, heap, colour.colour, self.theme)
            painter.setFont(self.theme.text(14))
            painter.setPen(d.quiet)
            line = QRectF(dish.left(), dish.bottom() + px(1), dish.width(), px(18))
            words = f"{told}, {show_mass(weight, units)}" if weight is first else told
            painter.drawText(
                line.adjusted(-px(30), 0, px(30), 0), Qt.AlignmentFlag.AlignCenter, words
            )

    def _paint_words(self, painter: QPainter, box: QRectF, aim: WeighingTarget) -> None:
        d, px, units, now = self.theme.dyes, self.theme.px, self.studio.units, self.hand.current
        assert now is not None
        painter.setPen(d.ink)
        if box.height() < px(_WORDS):
            self._paint_fitting(painter, box, self.weigher.words, bold=True)
            return
        line = QRectF(box.left(), box.top(), box.width(), px(30))
        self._paint_fitting(painter, line, self.weigher.words, bold=True)
        painter.setPen(d.quiet)
        if aim.parts > 1:
            told = tr(
                "One is too light for a scale that shows {step}: weigh {least} and tear it into"
                " {parts}",
                step=show_mass(self.weigher.step_g, units),
                least=show_mass(aim.least, units),
                parts=aim.parts,
            )
        elif self.hand.twin_g is not None:
            told = tr(
                "as much as the first: {least} to {most}",
                least=show_mass(aim.least, units),
                most=show_mass(aim.most, units),
            )
        else:
            told = tr(
                "use {least}; keep another {most} beside you",
                least=show_mass(aim.least, units),
                most=show_mass(aim.most - aim.least, units),
            )
        self._paint_fitting(painter, line.translated(0, px(28)), told)
        if self.weigher.said:
            painter.setPen(d.lichen)
            painter.setFont(self.theme.text(14, bold=True))
            done = f"✓ {self.weigher.said}"
            painter.drawText(line.translated(0, px(53)), Qt.AlignmentFlag.AlignCenter, done)

    def _paint_fitting(
        self, painter: QPainter, line: QRectF, told: str, bold: bool = False
    ) -> None:
        """Paint a line of words: smaller if there is little room, or in two lines."""
        for size in (21, 19, 17, 15) if bold else (15, 14, 13, 12):
            painter.setFont(self.theme.text(size, bold))
            if painter.fontMetrics().horizontalAdvance(told) <= line.width():
                painter.drawText(line, Qt.AlignmentFlag.AlignCenter, told)
                return
        two = line.adjusted(0, 0, 0, self.theme.px(4))
        wrapped = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(two, wrapped, told)

    # Where all stands

    def queue_box(self) -> QRectF:
        """Return the area of the portions to come; empty if number and words need all the room."""
        px = self.theme.px
        high = px(_QUEUE) if self.height() >= px(_QUEUE + _NUMBER + _WORDS + 12) else 0
        return QRectF(px(6), self.height() - px(4) - high, self.width() - px(12), high)

    def scale_box(self) -> QRectF:
        """Return the area above the queue for everything the scale reports."""
        px = self.theme.px
        return QRectF(0, px(4), self.width(), self.queue_box().top() - px(8))

    # Hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        for i, cell in self.queue.cells(self.queue_box()):
            if cell.contains(event.position()):
                self.hand.select_portion(self.hand.portions[i].key)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.hand.step(1 if key == Qt.Key.Key_Right else -1)
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.weigher.take_now()
        elif key == Qt.Key.Key_N:
            self.weigher.tare()
        elif key == Qt.Key.Key_Backspace:
            self.weigher.strike_last()
        else:
            super().keyPressEvent(event)
