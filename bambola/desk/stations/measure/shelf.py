"""The shelf of body plans that a figure begins with."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QWidget

from bambola.core.figure import Figure
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.relief import Camera
from bambola.core.solids import Placement, place
from bambola.demo import PICTURES
from bambola.desk.kit.pictures import Darkroom, Print, Shot
from bambola.desk.kit.theme import Theme
from bambola.shipped import body_plans, default_bench

LOOK = Camera(turn=28.0, tip=12.0)
"""From where the plans are seen."""


def picture_of(plan: BodyPlan) -> Path:
    """The shipped picture of a body plan."""
    return PICTURES / "plans" / f"{plan.figure.id}.png"


def step_for(whole: Placement) -> float:
    """Millimetres a pixel for a figure on the shelf."""
    return _extent(whole) / 230


class PlanShelf(QWidget):
    """The body plans standing on a shelf; one is in hand."""

    chosen = pyqtSignal(int)

    def __init__(self, theme: Theme, darkroom: Darkroom) -> None:
        super().__init__()
        self.theme, self.darkroom, self.at = theme, darkroom, 0
        self._placed: dict[int, Placement] = {}
        self.prints: dict[int, Print] = {}
        self._shipped: dict[int, QPixmap] = {}
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Body plans")
        darkroom.developed.connect(self._developed)
        theme.changed.connect(self.update)

    @property
    def plans(self) -> tuple[BodyPlan, ...]:
        """The body plans; read when they are first looked at."""
        return body_plans()

    @property
    def pictured(self) -> dict[int, QPixmap]:
        """The pictures there are: those that were cast, and for the rest those that are shipped."""
        return self._shipped | {i: made.pixmap for i, made in self.prints.items()}

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(640), self.theme.px(470))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(320), self.theme.px(260))

    def _columns(self) -> int:
        return 3 if self.width() > self.theme.px(420) else 2

    def _box(self, i: int) -> QRectF:
        columns = self._columns()
        rows = -(-len(self.plans) // columns)
        wide, high = self.width() / columns, self.height() / rows
        return QRectF((i % columns) * wide, (i // columns) * high, wide, high)

    def show_plan(self, i: int, figure: Figure) -> None:
        """Show a plan as it is adjusted."""
        self._placed[i] = place(figure)
        self._wish(i)

    def showEvent(self, event: object) -> None:
        self._describe()
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
        self.darkroom.wish(f"plan-{i}", Shot(whole, LOOK, step_for(whole), 2))

    def _developed(self, name: str, made: Print) -> None:
        if name.startswith("plan-"):
            self.prints[int(name[5:])] = made
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(
            QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform
        )
        d, px = self.theme.dyes, self.theme.px
        for i, plan in enumerate(self.plans):
            box = self._box(i).adjusted(px(6), px(6), -px(6), -px(6))
            if i == self.at:
                painter.setPen(QPen(d.ink if self.hasFocus() else d.madder, px(2)))
                painter.setBrush(d.paper)
                painter.drawRoundedRect(box, px(14), px(14))
            shelf = box.bottom() - px(30)
            painter.setPen(QPen(d.edge.darker(108), px(1.6)))
            painter.drawLine(
                QPointF(box.left() + px(14), shelf), QPointF(box.right() - px(14), shelf)
            )
            self._paint_figure(painter, i, QRectF(box.left(), box.top() + px(8), box.width(),
                                                  shelf - box.top() - px(8)))  # fmt: skip
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
            QRectF(box.center().x() - wide / 2, box.bottom() - high + 2, wide, high), pixmap,
            QRectF(pixmap.rect()),
        )  # fmt: skip

    def choose(self, i: int) -> None:
        """Take a plan in hand."""
        self.at = i % len(self.plans)
        self._describe()
        self.chosen.emit(self.at)
        self.update()

    def _describe(self) -> None:
        plan = self.plans[self.at]
        self.setAccessibleDescription(f"{plan.figure.name}. {plan.told}")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        for i in range(len(self.plans)):
            if self._box(i).contains(event.position()):
                self.choose(i)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {
            Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -self._columns(),
            Qt.Key.Key_Down: self._columns(),
        }  # fmt: skip
        step = steps.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        else:
            self.choose(self.at + step)

    def focusInEvent(self, event: object) -> None:
        self.update()

    def focusOutEvent(self, event: object) -> None:
        self.update()


def _extent(placement: Placement) -> float:
    """The larger of a figure's height and breadth as the shelf shows it, mm."""
    import numpy as np

    right, up, _ = LOOK.axes()
    ways = np.stack([-right, right, -up, up])
    left, most, low, high = np.max([c.reaches(ways) for c in placement.copies], axis=0)
    return float(max(left + most, low + high))
