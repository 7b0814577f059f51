"""The rows of the part card: a wool, a wire or a fitting each, with its number in large type."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QHelpEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QToolTip, QWidget

from bambola.core.armature import CutWire
from bambola.core.armature.cuts import by_hand
from bambola.core.bench.wools import SPREAD
from bambola.core.plan import FittingPlan
from bambola.core.quantities import show_bought, show_length, show_mass
from bambola.core.wool import Portion, amount, kept_by, portion_name
from bambola.core.wool.amounts import is_pinch
from bambola.desk.kit.painters.wool import paint_bundle, paint_straight_wire
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.language import tr, trn


def show_told(widget: QWidget, event: QEvent | None, told: Callable[[], str]) -> bool:
    """Show ``told`` as the tool tip of a tool tip event; return False for any other event."""
    if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
        QToolTip.showText(event.globalPos(), told(), widget)
        return True
    return False


def how_sure(portion: Portion) -> str:
    """Return where a weight comes from, and its uncertainty."""
    off = f"±{portion.spread * 100:.0f} %"
    if portion.pieces:
        return tr("{pieces} of your own pieces, {off}", pieces=portion.pieces, off=off)
    return (
        tr("your own measurements, {off}", off=off)
        if portion.spread < SPREAD
        else tr("starting values, {off}", off=off)
    )


class PortionRow(QWidget):
    """One wool of a part: swatch, name, the amount to take and the reserve."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._colour = QColor()
        self._texts = ("", "", "", "")
        self._portion: Portion | None = None

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(280), self.theme.px(42))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(180), self.theme.px(42))

    def show_portion(self, portion: Portion) -> None:
        """Show ``portion``; its tool tip says where the number comes from."""
        wool, units = self.studio.bench.wool_by_id[portion.wool], self.studio.units
        self._colour = QColor(wool.colour)
        say = self.studio.say
        keep = say(amount(portion)) if portion.tear is not None else say(kept_by(portion))
        take = tr("take {take}", take=show_mass(portion.take_g, units))
        self._texts = (wool.name, say(portion_name(portion)), take, keep)
        self._portion = portion
        self.setAccessibleName(", ".join(self._texts))
        self.update()

    def explain(self) -> str:
        """Return where the number comes from, and its uncertainty."""
        portion, units = self._portion, self.studio.units
        if portion is None:
            return ""
        sure = how_sure(portion)
        told = tr(
            "{grams} stays in the figure: {why}.\nHandling loss is added; from {sure}.",
            grams=show_mass(portion.grams, units),
            why=self.studio.say(portion.why),
            sure=sure,
        )
        if portion.tear is not None and not is_pinch(portion):
            told += tr(
                "\nYour scale shows steps of {scale}, too coarse for this: weigh {weigh} and tear it "
                "into {parts}.",
                scale=show_mass(self.studio.bench.scale_g, units),
                weigh=show_mass(portion.tear.weigh_g, units),
                parts=portion.tear.parts,
            )
        return told

    def event(self, event: QEvent | None) -> bool:
        return show_told(self, event, self.explain) or super().event(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, d = self.theme.px, self.theme.dyes
        side = px(26)
        box = QRectF(0, (self.height() - side) / 2, side, side)
        paint_bundle(painter, box, self._colour.name(), False, self.theme)
        left = QRectF(side + px(10), 0, self.width() - side - px(10), self.height())
        top, low = Qt.AlignmentFlag.AlignTop, Qt.AlignmentFlag.AlignBottom
        painter.setFont(self.theme.text(15, bold=True))
        painter.setPen(d.ink)
        painter.drawText(left, top | Qt.AlignmentFlag.AlignLeft, self._texts[0])
        painter.setFont(self.theme.text(17, bold=True))
        painter.setPen(d.madder)
        painter.drawText(left, top | Qt.AlignmentFlag.AlignRight, self._texts[2])
        painter.setFont(self.theme.text(13))
        painter.setPen(d.quiet)
        painter.drawText(
            left.adjusted(0, 0, 0, -px(2)), low | Qt.AlignmentFlag.AlignLeft, self._texts[1]
        )
        painter.drawText(
            left.adjusted(0, 0, 0, -px(2)), low | Qt.AlignmentFlag.AlignRight, self._texts[3]
        )


class WireRow(QWidget):
    """A wire through the part, laid straight with its bends."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._wire: CutWire | None = None

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(280), self.theme.px(48))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(180), self.theme.px(48))

    def show_wire(self, wire: CutWire) -> None:
        """Show ``wire``; its tool tip lists allowances and bends."""
        self._wire = wire
        units = self.studio.units
        self.setAccessibleName(
            tr(
                "{name}, cut {cut}",
                name=self.studio.say(wire.name),
                cut=show_length(wire.cut_mm, units),
            )
        )
        self.update()

    def explain(self) -> str:
        """Return every allowance and bend, and what decides the gauge."""
        wire, units = self._wire, self.studio.units
        if wire is None:
            return ""
        lines = [tr("path {path}", path=show_length(wire.path_mm, units))]
        lines += [f"{self.studio.say(a.why)} {show_length(a.mm, units)}" for a in wire.allowances]
        lines += [self.studio.say(bend.as_fact) for bend in by_hand(wire.bends)]
        lines.append(
            tr(
                "{needed} is what it takes for {governed_by}",
                needed=show_bought(wire.needed_mm, units),
                governed_by=self.studio.say(wire.governed_by),
            )
        )
        return "\n".join(lines)

    def event(self, event: QEvent | None) -> bool:
        return show_told(self, event, self.explain) or super().event(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._wire is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, d, wire = self.theme.px, self.theme.dyes, self._wire
        box = QRectF(0, 0, self.width(), self.height() - px(20))
        painter.setFont(self.theme.text(15, bold=True))
        painter.setPen(d.ink)
        align = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(box, align | Qt.AlignmentFlag.AlignLeft, self.studio.say(wire.name))
        painter.setPen(d.madder)
        cut = tr("cut {cut}", cut=show_length(wire.cut_mm, self.studio.units))
        painter.drawText(box, align | Qt.AlignmentFlag.AlignRight, cut)
        low = QRectF(0, self.height() - px(22), self.width(), px(20))
        stock = f"{self.studio.say(wire.stock)} {show_bought(wire.diameter_mm, self.studio.units)}"
        painter.setFont(self.theme.text(13))
        painter.setPen(d.quiet)
        painter.drawText(low, align | Qt.AlignmentFlag.AlignLeft, stock)
        start = painter.fontMetrics().horizontalAdvance(stock) + px(14)
        paint_straight_wire(painter, low.adjusted(start, 0, -px(4), 0), wire, self.theme)


def _buy_text(fitting: FittingPlan) -> str:
    if fitting.buy:
        return trn(", buy {n}", ", buy {n}", fitting.buy)
    return tr(", there") if fitting.have else ""


class FittingRow(QWidget):
    """A fitting on the part: the size to use, and the size that would match."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._id = ""
        self._words = ("", "", "")

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(280), self.theme.px(42))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(180), self.theme.px(42))

    def show_fitting(self, fitting: FittingPlan) -> None:
        """Show ``fitting``."""
        self._id = fitting.id
        units = self.studio.units
        count = f"{fitting.count} × " if fitting.count > 1 else ""
        off = (
            f"{fitting.deviation_pct:+.0f} %"
            if abs(fitting.deviation_pct) >= 0.5
            else tr("just right")
        )
        self._words = (
            fitting.name,
            tr(
                "{wanted} would match, {off}", wanted=show_length(fitting.wanted_mm, units), off=off
            ),
            f"{count}{show_length(fitting.use_mm, units)}" + _buy_text(fitting),
        )
        self.setAccessibleName(", ".join(self._words))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, d = self.theme.px, self.theme.dyes
        name, told, size = self._words
        self._paint_thing(painter, QPointF(px(13), self.height() / 2))
        left = QRectF(px(36), 0, self.width() - px(36), self.height() - px(2))
        top, low = Qt.AlignmentFlag.AlignTop, Qt.AlignmentFlag.AlignBottom
        painter.setFont(self.theme.text(15, bold=True))
        painter.setPen(d.ink)
        painter.drawText(left, top | Qt.AlignmentFlag.AlignLeft, name)
        painter.setFont(self.theme.text(17, bold=True))
        painter.setPen(d.madder)
        painter.drawText(left, top | Qt.AlignmentFlag.AlignRight, size)
        painter.setFont(self.theme.text(13))
        painter.setPen(d.quiet)
        painter.drawText(left, low | Qt.AlignmentFlag.AlignLeft, told)

    def _paint_thing(self, painter: QPainter, at: QPointF) -> None:
        """Paint an eye as glass, anything else in its colour, and a worn thing as a ring."""
        px, figure = self.theme.px, self.studio.figure
        fitting = next((f for f in figure.fittings if f.id == self._id), None) if figure else None
        painter.setPen(Qt.PenStyle.NoPen)
        if fitting is not None:
            painter.setBrush(QColor(fitting.pieces[0].colour))
            painter.drawEllipse(at, px(9), px(9))
            if fitting.pieces[0].finish != "matt":
                painter.setBrush(QColor("#FFFFFF"))
                painter.drawEllipse(at - QPointF(px(3), px(3)), px(2), px(2))
        elif figure is not None and self._id in figure.by_id:
            wool = self.studio.bench.wool_by_id.get(figure.by_id[self._id].core)
            painter.setPen(QPen(QColor(wool.colour if wool else "#888888"), px(4)))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(at, px(8), px(5))
