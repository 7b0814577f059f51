"""A step's picture: the piece in hand with its numbers and the path of the needle."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from bambola.core.methods import StepSheet
from bambola.core.methods.drawing import fills_of
from bambola.core.methods.layout import Disc, Mark, Stroked, Written, lay_out, patch_of
from bambola.core.methods.slots import pinch_of
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

LETTERS = 19.0
"""How high the numbers are, px: read from 70 cm."""


class StepPicture(QWidget):
    """Paints a step's drawing as large as there is room."""

    def __init__(self, studio: EditorSession, theme: Theme, true_size: TrueSize) -> None:
        super().__init__()
        self.studio, self.theme, self.true_size = studio, theme, true_size
        true_size.changed.connect(lambda: self.show_sheet(self.sheet, self._told))
        self.sheet: StepSheet | None = None
        self._told: tuple[int, ...] | None = None
        self._marks: tuple[Mark, ...] = ()
        self._fills: dict[str, str] = {}
        self.setAccessibleName(tr("How it is done, as a picture"))

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(440), self.theme.px(320))

    def show_sheet(self, sheet: StepSheet | None, told: tuple[int, ...] | None = None) -> None:
        """Show the picture of a step, with only the numbers of the sentences ``told``, if given."""
        self.sheet, self._told = sheet, told
        self._fills = fills_of(sheet.at, "paper") if sheet else {}
        self._lay_out_picture()
        numbers = [mark.text for mark in self._marks if isinstance(mark, Written)]
        self.setAccessibleDescription(", ".join(numbers))
        self.update()

    @property
    def marks(self) -> tuple[Mark, ...]:
        """The elements drawn."""
        return self._marks

    def resizeEvent(self, event: object) -> None:
        self._lay_out_picture()

    def _lay_out_picture(self) -> None:
        if self.sheet is None or self.width() < 40 or self.height() < 40:
            self._marks = ()
            return
        size = min(self.theme.px(LETTERS), self.height() / 11, self.width() / 22)
        room = self.height() - self.pinch_px  # it lies below what is drawn
        marks = lay_out(self.sheet.drawing, self.studio.say, float(self.width()), room, size)
        self._marks = tuple(
            mark
            for mark in marks
            if self._told is None or not isinstance(mark, Disc) or int(mark.text) in self._told
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d = self.theme.dyes
        painter.setPen(QPen(d.edge, 1))
        painter.setBrush(d.paper)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.drawRoundedRect(box, self.theme.px(14), self.theme.px(14))
        painter.setClipRect(box.adjusted(2, 2, -2, -2))
        for mark in self._marks:
            match mark:
                case Stroked():
                    self._draw_stroke(painter, mark)
                case Disc():
                    self._draw_disc(painter, mark)
                case Written():
                    self._draw_text(painter, mark)
        self._lay_pinch(painter)

    @property
    def pinch_px(self) -> float:
        """The diameter of the pinch to take on this screen, at true size; 0 if there is none."""
        mm = pinch_of(self.sheet.card.amount) if self.sheet is not None else 0.0
        return mm * self.true_size.px_per_mm(self)

    def _lay_pinch(self, painter: QPainter) -> None:
        """Draw the pinch in the corner at true size, to compare the wool with."""
        wide = self.pinch_px
        if not wide or self.sheet is None:
            return
        d, px = self.theme.dyes, self.theme.px
        font = self._font_of(px(14), bold=False)
        told, line = tr("pinch, actual size"), QFontMetricsF(font)
        beside = line.horizontalAdvance(told) + px(14)
        left, foot = px(14), self.height() - px(12)
        box = QRectF(left, foot - max(wide, line.height()), wide, wide)
        painter.setPen(QPen(d.ink, 1.2))
        painter.setBrush(QColor(self._fills["wool"]))
        painter.drawEllipse(box)
        painter.setPen(d.quiet)
        painter.setFont(font)
        words = QRectF(
            box.right() + px(8), box.center().y() - line.height() / 2, beside, line.height()
        )
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, told)

    def _colour_of(self, role: str) -> QColor:
        d = self.theme.dyes
        return {
            "skin": d.ink,
            "hidden": d.quiet,
            "cut": d.madder,
            "wire": d.woad,
            "thread": d.ink,
            "hair": d.quiet,
            "ground": d.weld,
            "measure": d.madder,
            "needle": d.ink,
        }[role]

    def _draw_stroke(self, painter: QPainter, mark: Stroked) -> None:
        run = QPolygonF([QPointF(float(x), float(y)) for x, y in mark.points])
        if mark.closed:
            fill = self._fills[mark.fill]
            painter.setPen(Qt.PenStyle.NoPen)
            if fill != "none":
                painter.setBrush(self.theme.dyes.paper if fill == "paper" else QColor(fill))
                painter.drawPolygon(run)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        lines = painter.drawPolygon if mark.closed else painter.drawPolyline
        if mark.stroke in ("skin", "needle"):  # seen on wool as pale or dark as itself
            painter.setPen(self._make_pen(self.theme.dyes.paper, mark.width + 2.4))
            lines(run)
        pen = self._make_pen(self._colour_of(mark.stroke), mark.width)
        if mark.dashed:
            pen.setDashPattern([6 / mark.width, 5 / mark.width])
        painter.setPen(pen)
        lines(run)

    def _make_pen(self, colour: QColor, width: float) -> QPen:
        pen = QPen(colour, width)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        return pen

    def _draw_disc(self, painter: QPainter, mark: Disc) -> None:
        d, at = self.theme.dyes, QPointF(mark.x, mark.y)
        painter.setPen(QPen(d.paper, 1.5))
        painter.setBrush(d.madder)
        painter.drawEllipse(at, mark.radius, mark.radius)
        painter.setPen(d.on_dye)
        painter.setFont(self._font_of(mark.radius * 1.25, bold=True))
        box = QRectF(mark.x - mark.radius, mark.y - mark.radius, 2 * mark.radius, 2 * mark.radius)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, mark.text)

    def _draw_text(self, painter: QPainter, mark: Written) -> None:
        paper = QColor(self.theme.dyes.paper)
        paper.setAlphaF(0.92)
        box = QRectF(*patch_of(mark))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(paper)
        painter.drawRoundedRect(box, 5, 5)
        painter.setPen(self._colour_of(mark.role))
        painter.setFont(self._font_of(mark.size, mark.bold))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, mark.text)

    def _font_of(self, size: float, bold: bool) -> QFont:
        font = self.theme.text(bold=bold)
        font.setPixelSize(max(8, round(size)))
        return font
