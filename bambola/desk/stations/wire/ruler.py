"""Each wire laid straight along a ruler, and the stock it is cut from."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QScrollArea, QSizePolicy

from bambola.core.armature import CutWire, StockCut
from bambola.core.quantities import MM_PER, show_bought, show_length
from bambola.desk.kit.painted import Painted, paint_ring
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wire.lines import wire_colours
from bambola.desk.stations.wire.walk import Walk
from bambola.language import N_, tr, trn

_ROW = 118
_STOCK = 58
_SHORT = {
    "end": N_("end"),
    "loop": N_("loop"),
    "binding": N_("binding"),
    "peg": N_("peg"),
}
"""What a stretch that is no run is called where there is little room."""


class RulerView(QScrollArea):
    """The rulers in a scroll area, fitted to the width or at true size."""

    def __init__(
        self, studio: EditorSession, theme: Theme, walk: Walk, true_size: TrueSize
    ) -> None:
        super().__init__()
        self.rulers = Rulers(studio, theme, walk, true_size)
        self.setWidgetResizable(True)
        self.setWidget(self.rulers)
        self.setFocusProxy(self.rulers)
        walk.changed.connect(self._scroll_to_wire)

    def set_true_size(self, true_size: bool) -> None:
        """Show them at 1:1, or as large as the width allows."""
        self.rulers.true_size = true_size
        self.rulers.relaid()

    def _scroll_to_wire(self) -> None:
        box = self.rulers.row_of_wire_in_hand()
        if box is not None and self.isVisible():
            self.ensureVisible(0, int(box.center().y()), 0, int(box.height() / 2))


class Rulers(Painted):
    """A ruler for every wire, the selected one on paper; below them the stock and its cuts."""

    def __init__(self, studio: EditorSession, theme: Theme, walk: Walk, screen: TrueSize) -> None:
        super().__init__(theme, tr("Wires along the ruler"))
        self.studio, self.walk = studio, walk
        self.true_size, self._screen = False, screen
        screen.changed.connect(self.relaid)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        walk.changed.connect(self.relaid)
        studio.units_changed.connect(self.update)
        theme.changed.connect(self.relaid)

    def _planned_wires(self) -> tuple[CutWire, ...]:
        return self.studio.plan.wires if self.studio.plan else ()

    def _planned_cuts(self) -> tuple[StockCut, ...]:
        return self.studio.plan.cutting if self.studio.plan else ()

    def relaid(self) -> None:
        """Lay everything out again, if visible."""
        if not self.isVisible():
            return
        self.setMinimumSize(self.sizeHint())
        self.updateGeometry()
        self.show_changed()
        self.update()

    def showEvent(self, event: object) -> None:
        self.relaid()

    def describe(self) -> str:
        wire, units = self.walk.wire, self.studio.units
        if wire is None:
            return tr("No wire")
        cut = show_length(wire.cut_mm, units)
        return trn(
            "{name}, {cut}, {n} bend",
            "{name}, {cut}, {n} bends",
            len(wire.bends),
            name=self.studio.say(wire.name),
            cut=cut,
        )

    def px_per_mm(self) -> float:
        """Return pixels a mm: the screen's, or fitted to the longest wire."""
        if self.true_size:
            return self._screen.px_per_mm(self)
        longest = max(
            [w.cut_mm for w in self._planned_wires()] + [c.length_mm for c in self._drawn_stock()],
            default=100,
        )
        return max(0.02, (self.width() - self.theme.px(60)) / longest)

    def _drawn_stock(self) -> list[StockCut]:
        """Return stems and offcuts, which are drawn in full; coils are only listed."""
        return [cut for cut in self._planned_cuts() if cut.form != "coil"]

    def sizeHint(self) -> QSize:
        px = self.theme.px
        high = (
            len(self._planned_wires()) * px(_ROW) + px(60) + len(self._planned_cuts()) * px(_STOCK)
        )
        wide = px(300)
        if self.true_size:
            longest = max([w.cut_mm for w in self._planned_wires()], default=100)
            wide = int(longest * self.px_per_mm()) + px(60)
        return QSize(wide, high)

    def _row_box(self, i: int) -> QRectF:
        px = self.theme.px
        return QRectF(px(4), px(4) + i * px(_ROW), self.width() - px(8), px(_ROW) - px(6))

    def row_of_wire_in_hand(self) -> QRectF | None:
        """Return the place of the selected wire."""
        wires, wire = self._planned_wires(), self.walk.wire
        return self._row_box(wires.index(wire)) if wire in wires and wire is not None else None

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scale, px = self.px_per_mm(), self.theme.px
        wires = self._planned_wires()
        walked = self.walk.wires
        colours = wire_colours(self.theme)
        for i, wire in enumerate(wires):
            colour = (
                colours[walked.index(wire) % len(colours)]
                if wire in walked
                else self.theme.dyes.ink
            )
            self._paint_row(painter, self._row_box(i), wire, colour, scale)
        y = len(wires) * px(_ROW) + px(8)
        if not wires:
            painter.setFont(self.theme.text(16))
            painter.setPen(self.theme.dyes.ink)
            painter.drawText(
                QRectF(px(20), px(20), self.width() - px(40), px(40)),
                0,
                tr("There is no wire to cut."),
            )
            return
        painter.setFont(self.theme.title(19))
        painter.setPen(self.theme.dyes.ink)
        painter.drawText(
            QRectF(px(18), y, self.width(), px(30)), Qt.AlignmentFlag.AlignVCenter, tr("Cut from")
        )
        for cut in self._planned_cuts():
            self._paint_stock(
                painter, QRectF(px(18), y + px(32), self.width() - px(36), px(_STOCK)), cut, scale
            )
            y += px(_STOCK)

    def _paint_row(
        self, painter: QPainter, box: QRectF, wire: CutWire, colour: QColor, scale: float
    ) -> None:
        d, px = self.theme.dyes, self.theme.px
        here = wire is self.walk.wire
        if here:
            paint_ring(painter, box, self.theme, self.hasFocus())
        left = box.left() + px(16)
        painter.setFont(self.theme.text(16, bold=True))
        painter.setPen(d.ink)
        name = QRectF(left, box.top() + px(4), box.width() - px(32), px(22))
        painter.drawText(name, Qt.AlignmentFlag.AlignLeft, self.studio.say(wire.name))
        offset = painter.fontMetrics().horizontalAdvance(self.studio.say(wire.name) + "  ")
        painter.setFont(self.theme.text(14))
        painter.setPen(d.quiet)
        painter.drawText(
            name.adjusted(offset, px(1), 0, 0), Qt.AlignmentFlag.AlignLeft, self._wire_text(wire)
        )
        y = box.top() + px(66)
        self._paint_line(painter, wire, left, y, scale, colour)
        self._paint_bends(painter, wire, left, y, scale)
        self._paint_ruler(painter, left, y + px(24), wire.stretches[-1].end_mm, scale)

    def _wire_text(self, wire: CutWire) -> str:
        units = self.studio.units
        told = tr(
            "cut {cut} of {stock}, {diameter}",
            cut=show_length(wire.cut_mm, units),
            stock=self.studio.say(wire.stock),
            diameter=show_bought(wire.diameter_mm, units),
        )
        if len(wire.pieces) > 1:
            told += tr(
                ", in {n} pieces of {lengths}",
                n=len(wire.pieces),
                lengths=", ".join(show_length(p.mm, units) for p in wire.pieces),
            )
        return told

    def _paint_line(
        self, painter: QPainter, wire: CutWire, left: float, y: float, scale: float, colour: QColor
    ) -> None:
        """Paint the wire; allowances are hollow and labelled where there is room."""
        d, px = self.theme.dyes, self.theme.px
        thick = max(px(4), wire.diameter_mm * scale)
        for s in wire.stretches:
            a, b = left + s.start_mm * scale, left + s.end_mm * scale
            bar = QRectF(a, y - thick / 2, max(b - a, 0.5), thick)
            if s.kind == "run":
                painter.fillRect(bar, colour)
                if s.strands > 1:
                    painter.fillRect(bar.translated(0, thick + px(2)), colour)
                continue
            painter.setPen(QPen(colour, px(1.4)))
            painter.setBrush(d.slip)
            painter.drawRect(bar)
            painter.setFont(self.theme.text(12))
            painter.setPen(d.quiet)
            why = self.studio.say(s.why)
            wide = painter.fontMetrics().horizontalAdvance(why) + 2
            told = why if wide <= b - a + px(4) else tr(_SHORT[s.kind])
            wide = painter.fontMetrics().horizontalAdvance(told) + 2
            if wide <= b - a + px(4):
                painter.drawText(
                    QRectF(a, y + px(5), wide, px(16)), Qt.AlignmentFlag.AlignLeft, told
                )
        painter.setPen(QPen(d.ink, px(2)))
        for piece in wire.pieces[:-1]:
            x = left + piece.end_mm * scale
            painter.drawLine(QPointF(x, y - px(12)), QPointF(x, y + px(12)))

    def _paint_bends(
        self, painter: QPainter, wire: CutWire, left: float, y: float, scale: float
    ) -> None:
        """Paint bend marks with distance and angle; where they crowd, on two levels, then the angle only."""
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        painter.setFont(self.theme.text(13, bold=True))
        metrics = painter.fontMetrics()
        free = [left - px(100), left - px(100)]
        for bend in wire.bends:
            x = left + bend.at_mm * scale
            painter.setPen(QPen(d.madder, px(2)))
            painter.drawLine(QPointF(x, y - px(9)), QPointF(x, y + px(7)))
            full = f"{show_length(bend.at_mm, units, with_unit=False)} · {bend.angle_deg:.0f}°"
            for told in (full, f"{bend.angle_deg:.0f}°"):
                wide = metrics.horizontalAdvance(told) + 2
                level = next((k for k in (0, 1) if x - wide / 2 > free[k]), None)
                if level is not None:
                    painter.setPen(d.ink)
                    top = y - px(25) - level * px(15)
                    painter.drawText(
                        QRectF(x - wide / 2, top, wide, px(16)), Qt.AlignmentFlag.AlignCenter, told
                    )
                    free[level] = x + wide / 2 + px(5)
                    break

    def _paint_ruler(
        self, painter: QPainter, left: float, y: float, length: float, scale: float
    ) -> None:
        d, px = self.theme.dyes, self.theme.px
        inch = self.studio.units.length == "in"
        unit = MM_PER["in"] if inch else 10.0
        grain = unit / (8 if inch else 10) if scale * unit > px(60) else unit
        painter.fillRect(QRectF(left, y, length * scale, px(16)), d.tape)
        painter.setPen(QPen(d.tape_ink, 1))
        painter.setFont(self.theme.text(12))
        every = next((n for n in (1, 2, 5, 10, 20) if n * unit * scale > px(34)), 50)
        n = 0
        while n * grain <= length + 1e-9:
            x = left + n * grain * scale
            whole = abs((n * grain / unit) - round(n * grain / unit)) < 1e-6
            painter.drawLine(QPointF(x, y), QPointF(x, y + px(7 if whole else 4)))
            number = round(n * grain / unit)
            if whole and number % every == 0 and number:
                told = str(number if inch else number * 10)
                painter.drawText(
                    QRectF(x + px(2), y + px(1), px(40), px(15)), Qt.AlignmentFlag.AlignLeft, told
                )
            n += 1

    def _paint_stock(self, painter: QPainter, box: QRectF, cut: StockCut, scale: float) -> None:
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        painter.setFont(self.theme.text(14, bold=True))
        painter.setPen(d.madder if cut.to_buy else d.ink)
        stock = self.studio.say(cut.stock)
        head = tr("Buy: {stock}", stock=stock) if cut.to_buy else stock
        painter.drawText(
            QRectF(box.left(), box.top(), box.width(), px(20)), Qt.AlignmentFlag.AlignLeft, head
        )
        offset = painter.fontMetrics().horizontalAdvance(head + "   ")
        painter.setFont(self.theme.text(14))
        painter.setPen(d.quiet)
        told = show_length(cut.length_mm, units)
        if cut.form != "coil":
            waste = show_length(cut.waste_mm, units)
            told = tr("{length}, {waste} left over", length=told, waste=waste)
        elif not cut.to_buy:
            told = tr("{length} off the coil", length=told)
        painter.drawText(
            QRectF(box.left() + offset, box.top(), box.width() - offset, px(20)),
            Qt.AlignmentFlag.AlignLeft,
            told,
        )
        names = {wire.id: self.studio.say(wire.name) for wire in self._planned_wires()}
        scale = min(scale, box.width() / cut.length_mm)
        x, y = box.left(), box.top() + px(24)
        painter.setFont(self.theme.text(12))
        for mm, wire in zip(cut.cuts, cut.wires, strict=True):
            bar = QRectF(x, y, mm * scale, px(18))
            painter.setPen(QPen(d.edge, 1))
            painter.setBrush(d.shade)
            painter.drawRect(bar)
            painter.setPen(d.ink)
            words = f"{show_length(mm, units, with_unit=False)} {names.get(wire, wire)}"
            words = painter.fontMetrics().elidedText(
                words, Qt.TextElideMode.ElideRight, max(0, int(bar.width() - px(6)))
            )
            painter.drawText(bar.adjusted(px(4), 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, words)
            x += mm * scale
        if cut.form != "coil":
            painter.setPen(QPen(d.quiet, 1, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(x, y, cut.waste_mm * scale, px(18)))

    # Hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        for i, wire in enumerate(self._planned_wires()):
            if self._row_box(i).contains(event.position()):
                self.walk.select_wire(wire.id)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        text = event.text()
        if step is not None:
            self.walk.next_wire(step)
        elif text in (">", "<", "."):
            self.walk.ask_gauge({">": 1, "<": -1, ".": 0}[text])
        else:
            super().keyPressEvent(event)
