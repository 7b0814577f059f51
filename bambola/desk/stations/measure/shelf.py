"""The shelf of body plans to begin with."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPixmap

from bambola.core.figure import Figure
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.relief import Camera
from bambola.core.solids import Placement, place
from bambola.demo import PICTURES
from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.painted import paint_ring
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.language import tr
from bambola.shipped import body_plans, default_bench

LOOK = Camera(turn=28.0, tip=12.0)
"""From where the plans are seen."""

_LEAST = 118
"""So high (px before scaling) is a row at least: figures that are smaller are not told apart."""


def picture_of(plan: BodyPlan) -> Path:
    """Return the shipped picture of a body plan."""
    return PICTURES / "plans" / f"{plan.figure.id}.png"


def step_for(whole: Placement) -> float:
    """Return millimetres a pixel for a figure on the shelf."""
    return _extent(whole) / 230


class PlanShelf(PaintedList):
    """The body plans on a shelf, one of them selected."""

    def __init__(self, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__(theme, tr("Body plans"), ListModel(self._said))
        self.darkroom = darkroom
        self._placed: dict[int, Placement] = {}
        self.prints: dict[int, RenderResult] = {}
        self._shipped: dict[int, QPixmap] = {}
        darkroom.developed.connect(self._developed)
        theme.changed.connect(self.redraw)

    @property
    def plans(self) -> tuple[BodyPlan, ...]:
        """The body plans, loaded on first use."""
        return body_plans()

    @property
    def pictured(self) -> dict[int, QPixmap]:
        """The pictures: rendered ones, and shipped ones for the rest."""
        return self._shipped | {i: made.pixmap for i, made in self.prints.items()}

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(640), self.theme.px(470))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(270), self.theme.px(_LEAST) * self._lines())

    def resizeEvent(self, event: object) -> None:
        self.setMinimumHeight(self.theme.px(_LEAST) * self._lines())

    def _columns(self) -> int:
        return max(2, min(4, self.width() // self.theme.px(155)))

    def _lines(self) -> int:
        return -(-len(self.plans) // self._columns())

    def box(self, row: int) -> QRectF:
        columns = self._columns()
        wide, high = self.width() / columns, self.height() / self._lines()
        return QRectF((row % columns) * wide, (row // columns) * high, wide, high)

    def beside(self, row: int, right: int, down: int) -> int:
        return row + right + down * self._columns()

    def show_plan(self, i: int, figure: Figure) -> None:
        """Show a plan with its adjustments."""
        self._placed[i] = place(figure)
        self._wish(i)

    def showEvent(self, event: object) -> None:
        if not self.rows.rowCount():
            self.rows.lay([plan.figure.name for plan in self.plans])
            self.show_row(0)
        for i, plan in enumerate(self.plans):
            if i in self._shipped or i in self._placed:
                continue
            # What is shipped is of the usual wools; in others, or missing, it is cast.
            picture = QPixmap(str(picture_of(plan)))
            if picture.isNull() or not self._has_usual_wools():
                self._placed[i] = place(plan.figure)
                self._wish(i)
            else:
                self._shipped[i] = picture

    def _has_usual_wools(self) -> bool:
        now = self.darkroom.colours
        return all(now.get(wool.id) == wool.colour for wool in default_bench().wools)

    def _wish(self, i: int) -> None:
        whole = self._placed[i]
        self.darkroom.wish(f"plan-{i}", RenderRequest(whole, LOOK, step_for(whole), 2))

    def _developed(self, name: str, made: RenderResult) -> None:
        if name.startswith("plan-"):
            self.prints[int(name[5:])] = made
            self.redraw()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.cloth)
        painter.setRenderHints(
            QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform
        )
        d, px = self.theme.dyes, self.theme.px
        for i, plan in enumerate(self.plans):
            box = self.box(i).adjusted(px(6), px(6), -px(6), -px(6))
            if i == self.at:
                paint_ring(painter, box, self.theme, self.hasFocus())
            shelf = box.bottom() - px(30)
            painter.setPen(QPen(d.edge.darker(108), px(1.6)))
            painter.drawLine(
                QPointF(box.left() + px(14), shelf), QPointF(box.right() - px(14), shelf)
            )
            self._paint_figure(
                painter,
                i,
                QRectF(box.left(), box.top() + px(8), box.width(), shelf - box.top() - px(8)),
            )
            painter.setFont(self.theme.text(15, bold=i == self.at))
            painter.setPen(d.ink)
            words = QRectF(box.left(), shelf, box.width(), px(30))
            painter.drawText(words, Qt.AlignmentFlag.AlignCenter, plan.figure.name)

    def _paint_figure(self, painter: QPainter, i: int, box: QRectF) -> None:
        pixmap = self.pictured.get(i)
        if pixmap is None:
            return
        size = pixmap.size()
        share = min(box.width() * 0.86 / size.width(), box.height() / size.height())
        wide, high = size.width() * share, size.height() * share
        painter.drawPixmap(
            QRectF(box.center().x() - wide / 2, box.bottom() - high + 2, wide, high),
            pixmap,
            QRectF(pixmap.rect()),
        )

    def _said(self, name: str) -> str:
        plan = next(plan for plan in self.plans if plan.figure.name == name)
        return f"{name}. {plan.told}"


def _extent(placement: Placement) -> float:
    """Return the larger of a figure's height and breadth on the shelf, mm."""
    import numpy as np

    right, up, _ = LOOK.axes()
    ways = np.stack([-right, right, -up, up])
    left, most, low, high = np.max([c.reaches(ways) for c in placement.copies], axis=0)
    return float(max(left + most, low + high))
