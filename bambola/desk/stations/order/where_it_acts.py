"""Where a choice acts: on which parts of the figure, and at which beads of the thread."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QWidget

from bambola.core.plan.counter.differing import Difference
from bambola.core.relief import Camera
from bambola.desk.kit.painters.beads import paint_bead
from bambola.desk.kit.painters.marks import outline_parts
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.thread import bead_colour
from bambola.desk.session.studio import EditorSession
from bambola.language import tr, trn

WISH = "ways"
CAMERA = Camera(turn=14, tip=3)
_FAINT = 0.22
_PER_LINE = 16


class WhereItActs(QWidget):
    """The figure with the affected parts outlined, and its beads below, affected ones filled."""

    def __init__(self, studio: EditorSession, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__()
        self.studio, self.theme, self.darkroom = studio, theme, darkroom
        self.parts: frozenset[str] = frozenset()
        self.steps: frozenset[str] = frozenset()
        self._print: RenderResult | None = None
        self._outlined: QPixmap | None = None
        self._told = ""
        self.setMinimumSize(theme.px(300), theme.px(360))
        darkroom.developed.connect(self._developed)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(400), self.theme.px(520))

    def show_difference(self, *found: Difference) -> None:
        """Show where these differences act, together."""
        self.parts = frozenset[str]().union(*(each.parts for each in found))
        self.steps = frozenset[str]().union(*(each.steps for each in found))
        plan = self.studio.plan
        n = len(self.steps & {step.key for step in plan.steps}) if plan else 0
        parts = trn("{n} part", "{n} parts", len(self.parts))
        steps = trn("{n} step", "{n} steps", n)
        if n and self.parts:
            self._told = tr("acts on {parts}, at {steps}", parts=parts, steps=steps)
        elif n or self.parts:
            self._told = tr("acts on {what}", what=steps if n else parts)
        else:
            self._told = tr("nothing is changed here")
        self.setAccessibleName(self._told)
        self._outlined = None
        self.update()

    def wish(self) -> None:
        """Request a picture of the figure as planned now."""
        plan = self.studio.plan
        if plan is None:
            return
        placement = plan.solids.placement
        tall = max(60.0, self._figure_box().height()) * self.devicePixelRatioF()
        step = 1.12 * placement.height / tall
        self.darkroom.wish(WISH, RenderRequest(placement, CAMERA, step, 2))

    def showEvent(self, event: object) -> None:
        self.wish()

    def _developed(self, name: str, made: RenderResult) -> None:
        plan = self.studio.plan
        if name == WISH and plan is not None and made.shot.placement is plan.solids.placement:
            self._print, self._outlined = made, None
            self.update()

    @property
    def _lines(self) -> int:
        count = len(self.studio.plan.steps) if self.studio.plan else 0
        return -(-count // _PER_LINE)

    def _figure_box(self) -> QRectF:
        px = self.theme.px
        foot = px(30) + self._lines * px(26)
        return QRectF(0, 0, self.width(), max(px(80), self.height() - foot))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan = self.studio.plan
        if plan is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        box, px, d = self._figure_box(), self.theme.px, self.theme.dyes
        if self._print is not None:
            if self._outlined is None:
                lines = [(part, d.madder) for part in sorted(self.parts)]
                self._outlined = outline_parts(self._print, lines, self.devicePixelRatioF())
            seen = self._outlined
            share = min(box.width() / seen.width(), box.height() / seen.height())
            wide, tall = seen.width() * share, seen.height() * share
            where = QRectF(box.center().x() - wide / 2, box.bottom() - tall, wide, tall)
            painter.drawPixmap(where, seen, QRectF(seen.rect()))
        painter.setPen(d.ink)
        painter.setFont(self.theme.text(15, bold=True))
        line = QRectF(0, box.bottom() + px(4), self.width(), px(22))
        painter.drawText(line, Qt.AlignmentFlag.AlignHCenter, self._told)
        self._paint_beads(painter, line.bottom() + px(14))

    def _paint_beads(self, painter: QPainter, top: float) -> None:
        """Paint the thread in lines of beads, from left to right."""
        plan, px, d = self.studio.plan, self.theme.px, self.theme.dyes
        assert plan is not None
        gap, radius = (self.width() - 2 * px(18)) / (_PER_LINE - 1), px(8)
        places = [
            QPointF(px(18) + i % _PER_LINE * gap, top + i // _PER_LINE * px(26))
            for i in range(len(plan.steps))
        ]
        for first in range(0, len(places), _PER_LINE):
            path = QPainterPath(places[first])
            path.lineTo(places[min(first + _PER_LINE, len(places)) - 1])
            painter.setPen(QPen(d.edge, px(2)))
            painter.drawPath(path)
        for place, step in zip(places, plan.steps, strict=True):
            acts = step.key in self.steps
            painter.setOpacity(1.0 if acts else _FAINT)
            colour: QColor = bead_colour(step, self.studio, self.theme)
            paint_bead(painter, place, radius if acts else radius * 0.7, step, colour, self.theme)
            if acts:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(d.madder, px(2)))
                painter.drawEllipse(place, radius * 1.5, radius * 1.5)
        painter.setOpacity(1.0)
