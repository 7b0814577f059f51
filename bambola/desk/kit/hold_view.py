"""*Hold it here*: the screen as a template.

A part or the whole figure is shown at true size, dark on bright or the reverse, with a grid of 10 mm or half
an inch, to hold the work against.
"""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PyQt6.QtWidgets import QWidget

from bambola.core.figure import Part, Shape
from bambola.core.methods.in_hand import shape_in_hand
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.quantities import MM_PER, show_length
from bambola.core.solids import Copy, Detail, outline_of_copy, outlines
from bambola.core.solids.forms import Array
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

VIEWS = ("front", "side", "back")
_BRIGHT, _DARK = QColor("#FFFFFF"), QColor("#101010")
GRID_MM, GRID_IN = 10.0, 0.5
"""Squares of the grid, by the maker's units."""


class HoldView(FittedDialog):
    """Fills the screen with one outline. V turns to another side, B swaps bright and dark, G the grid, F
    figure or part; arrows or the mouse move it, Escape closes it."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        true_size: TrueSize,
        part: str | None,
        step: str | None = None,
    ) -> None:
        super().__init__(parent)
        self.studio, self.theme, self.true_size = studio, theme, true_size
        # What was in hand may be gone: the height may leave it out, or another figure lies on the table.
        known = studio.plan.resized.figure.by_id if studio.plan else {}
        self.part = part if part in known else None
        self.whole = self.part is None
        self.step = step
        self._held: tuple[Plan, Shape] | None = None
        self.view, self.bright, self.grid = "front", True, True
        self.shift = QPointF(0, 0)
        self._from: QPointF | None = None
        self.setWindowTitle(tr("Hold it here"))
        self.setAccessibleName(tr("Hold it here, at actual size"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        above = parent.window()
        if above is not None:
            self.resize(above.size())
        self._update_description()

    # What is shown

    def runs(self) -> list[Array]:
        """Return the outlines, mm, y upwards."""
        plan = self.studio.plan
        if plan is None:
            return []
        if self.whole or self.part is None:
            return outlines(plan.solids.placement, self.view, Detail.CLOSE)
        part = plan.resized.figure.by_id[self.part]
        view = "side" if self.view == "side" else "front"
        copy = Copy(part, None, self._shape_in(plan, part), np.eye(4))
        return [outline_of_copy(copy, view, detail=Detail.CLOSE)]

    def _shape_in(self, plan: Plan, part: Part) -> Shape:
        """Return the shape shown of ``plan``, cached because it is painted at every mouse move."""
        if self._held is None or self._held[0] is not plan:
            step = self._step_of(plan)
            made = shape_in_hand(plan, step, self.studio.bench) if step else None
            self._held = plan, made or part.shape
        return self._held[1]

    def _step_of(self, plan: Plan) -> Step | None:
        return next((step for step in plan.steps if step.key == self.step), None)

    @property
    def px_per_mm(self) -> float:
        """Pixels per millimetre on this screen."""
        return self.true_size.px_per_mm(self)

    def describe(self) -> str:
        """Return what is shown, from which side, and its size."""
        plan = self.studio.plan
        runs = self.runs()
        if plan is None or not runs:
            return ""
        points = np.vstack(runs)
        wide, high = np.ptp(points, axis=0)
        step = self._step_of(plan)
        if self.whole or self.part is None:
            name = plan.figure
        elif step is not None and step.key.sort == "core":
            name = self.studio.say(step.text)
        else:
            name = plan.part(self.part).name
        sides = {"front": tr("front"), "side": tr("left side"), "back": tr("back")}
        units = self.studio.units
        return tr(
            "{name}, {side}: {wide} wide, {high} high",
            name=name,
            side=sides[self.view],
            wide=show_length(float(wide), units),
            high=show_length(float(high), units),
        )

    def _update_description(self) -> None:
        self.setAccessibleDescription(self.describe())
        self.update()

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ground, ink = (_BRIGHT, _DARK) if self.bright else (_DARK, _BRIGHT)
        painter.fillRect(self.rect(), ground)
        runs, scale, px = self.runs(), self.px_per_mm, self.theme.px
        if not runs:
            return
        points = np.vstack(runs)
        low, high = points.min(axis=0), points.max(axis=0)
        middle = QPointF(self.width() / 2, self.height() / 2) + self.shift
        if self.grid:
            self._paint_grid(painter, middle, scale, ink)
        painter.setPen(QPen(ink, px(4)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        centre = (low + high) / 2
        for run in runs:
            placed = (run - centre) * [scale, -scale]
            painter.drawPolygon(QPolygonF([QPointF(x, y) + middle for x, y in placed.tolist()]))
        painter.setPen(ink)
        painter.setFont(self.theme.text(20, bold=True))
        line = QRectF(px(16), px(10), self.width() - px(32), px(30))
        painter.drawText(line, Qt.AlignmentFlag.AlignLeft, self.describe())
        painter.setFont(self.theme.text(15))
        foot = QRectF(px(16), self.height() - px(58), self.width() - px(32), px(50))
        in_lines = Qt.AlignmentFlag.AlignBottom | Qt.TextFlag.TextWordWrap
        painter.drawText(foot, in_lines, self._key_help())

    def _key_help(self) -> str:
        keys = tr(
            "V other side · B bright or dark · G grid · F figure or part · Space back to the middle"
        )
        if self.true_size.is_measured(self):
            return keys
        return (
            tr("The screen is not measured yet (View › Measure the screen), so this may be off. ")
            + keys
        )

    def _paint_grid(self, painter: QPainter, middle: QPointF, scale: float, ink: QColor) -> None:
        faint = QColor(ink)
        faint.setAlphaF(0.16)
        painter.setPen(QPen(faint, 1))
        inches = self.studio.units.length == "in"
        step = scale * (GRID_IN * MM_PER["in"] if inches else GRID_MM)
        x = middle.x() % step
        while x < self.width():
            painter.drawLine(QPointF(x, 0), QPointF(x, self.height()))
            x += step
        y = middle.y() % step
        while y < self.height():
            painter.drawLine(QPointF(0, y), QPointF(self.width(), y))
            y += step

    # Hands

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, by = Qt.Key(event.key()), self.theme.px(40)
        moves = {
            Qt.Key.Key_Left: (-by, 0), Qt.Key.Key_Right: (by, 0),
            Qt.Key.Key_Up: (0, -by), Qt.Key.Key_Down: (0, by),
        }  # fmt: skip
        if key in moves:
            self.shift += QPointF(*moves[key])
        elif key == Qt.Key.Key_V:
            self.view = VIEWS[(VIEWS.index(self.view) + 1) % len(VIEWS)]
        elif key == Qt.Key.Key_B:
            self.bright = not self.bright
        elif key == Qt.Key.Key_G:
            self.grid = not self.grid
        elif key == Qt.Key.Key_F and self.part is not None:
            self.whole = not self.whole
        elif key == Qt.Key.Key_Space:
            self.shift = QPointF(0, 0)
        else:
            super().keyPressEvent(event)
            return
        self._update_description()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            delta = event.angleDelta()
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                if delta.y() < 0:
                    self.reject()  # by the wheel it came, by the wheel it goes
                return
            self.shift += QPointF(delta.x() / 3, delta.y() / 3)
            self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._from = event.position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._from is not None:
            self.shift += event.position() - self._from
            self._from = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._from = None
