"""The order as a thread of beads along the foot of the window, and the wool it takes above it."""

from __future__ import annotations

import math

from PyQt6.QtCore import QEvent, QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import QToolTip, QWidget

from bambola.core.order import Step
from bambola.core.quantities import show_length, show_mass
from bambola.desk.kit.painters.beads import paint_bead
from bambola.desk.kit.painters.wool import paint_bundle
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import CALM_MS, at_most_every, nudge
from bambola.desk.session.studio import Studio


def bead_colour(step: Step, studio: Studio, theme: Theme) -> QColor:
    """The wool a step lays, or grey for wire and joins."""
    if step.wool:
        return QColor(studio.bench.wool_by_id[step.wool].colour)
    return QColor("#9A948E") if step.kind in ("cut wire", "bend and bind") else theme.dyes.woad


class ThreadStrip(QWidget):
    """All steps on one thread; arrow keys walk it, the step in hand is told below."""

    step_changed = pyqtSignal(int)

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.at = 0
        self._keys: tuple[str, ...] = ()
        self._retell = at_most_every(self, CALM_MS, self._update_line)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Order of making")
        studio.plan_changed.connect(self._plan_changed)
        studio.units_changed.connect(self.update)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(600, self.theme.px(74))

    minimumSizeHint = sizeHint

    @property
    def steps(self) -> tuple[Step, ...]:
        """The steps on the thread."""
        return self.studio.plan.steps if self.studio.plan else ()

    def _plan_changed(self) -> None:
        keys = tuple(step.key for step in self.steps)
        if keys != self._keys:
            self._keys = keys
            self.at = min(self.at, max(0, len(self.steps) - 1))
            self.setAccessibleDescription(self._caption())
            self.update()
        else:
            nudge(self._retell)

    def _update_line(self) -> None:
        """The beads stay: only what is written under them is new."""
        self.update(QRect(0, self._line_y(), self.width(), self.height()))

    def walk_to(self, index: int, select: bool = True) -> None:
        """Take the step at ``index`` in hand; its part is selected."""
        if not self.steps:
            return
        self.at = max(0, min(index, len(self.steps) - 1))
        step = self.steps[self.at]
        if select and step.part:
            self.studio.select(step.part)
        self.setAccessibleDescription(self._caption())
        self.step_changed.emit(self.at)
        self.update()

    def _caption(self) -> str:
        if not self.steps:
            return ""
        step = self.steps[self.at]
        return f"{step.n} of {len(self.steps)}   {step.text}"

    def _bead_at(self, i: int) -> QPointF:
        n = max(1, len(self.steps) - 1)
        edge = self.theme.px(30)
        x = edge + i / n * (self.width() - 2 * edge)
        return QPointF(x, self.theme.px(24) + math.sin(i * 0.55) * self.theme.px(5))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self.steps:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        if event is not None and event.rect().top() >= self._line_y():
            self._paint_words(painter)
            return
        path = QPainterPath(QPointF(0, px(26)))
        for i in range(len(self.steps)):
            path.lineTo(self._bead_at(i))
        path.lineTo(self.width(), px(26))
        painter.setPen(QPen(d.madder, px(2)))
        painter.drawPath(path)
        room = (self.width() - 2 * px(30)) / max(1, len(self.steps))
        radius = min(px(9), max(px(4), room * 0.42))
        for i, step in enumerate(self.steps):
            if i != self.at:
                paint_bead(
                    painter,
                    self._bead_at(i),
                    radius,
                    step,
                    bead_colour(step, self.studio, self.theme),
                    self.theme,
                )
        step = self.steps[self.at]
        at = self._bead_at(self.at)
        painter.setPen(QPen(d.madder, px(2)) if self.hasFocus() else QPen(d.weld, px(2)))
        painter.setBrush(d.ground)
        painter.drawEllipse(at, px(15), px(15))
        paint_bead(
            painter, at, px(11), step, bead_colour(step, self.studio, self.theme), self.theme
        )
        self._paint_words(painter)

    def _line_y(self) -> int:
        return self.height() - self.theme.px(28)

    def _paint_words(self, painter: QPainter) -> None:
        plan = self.studio.plan
        assert plan is not None
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        line = QRectF(px(4), self._line_y(), self.width() - px(8), px(24))
        mid = Qt.AlignmentFlag.AlignVCenter
        wire = sum(wire.cut_mm for wire in plan.wires)
        left = f"{show_mass(plan.wool_g, units)} wool" + (
            f" · {show_length(wire, units)} wire" if wire else ""
        )
        right = f"about {plan.minutes / 60:.0f} h of work"
        painter.setFont(self.theme.text(14))
        painter.setPen(d.quiet)
        painter.drawText(line, mid | Qt.AlignmentFlag.AlignLeft, left)
        painter.drawText(line, mid | Qt.AlignmentFlag.AlignRight, right)
        side = max(painter.fontMetrics().horizontalAdvance(t) for t in (left, right)) + px(16)
        centre = line.adjusted(side, 0, -side, 0)
        painter.setFont(self.theme.text(15, bold=True))
        painter.setPen(d.ink)
        told = painter.fontMetrics().elidedText(
            self._caption(), Qt.TextElideMode.ElideRight, int(centre.width())
        )
        painter.drawText(centre, mid | Qt.AlignmentFlag.AlignHCenter, told)

    def _nearest(self, x: float) -> int:
        n = max(1, len(self.steps) - 1)
        edge = self.theme.px(30)
        return round((x - edge) / max(1, self.width() - 2 * edge) * n)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.walk_to(self._nearest(event.position().x()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.walk_to(self._nearest(event.position().x()))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        moves = {
            Qt.Key.Key_Right: self.at + 1, Qt.Key.Key_Left: self.at - 1,
            Qt.Key.Key_Home: 0, Qt.Key.Key_End: len(self.steps) - 1,
        }  # fmt: skip
        key = Qt.Key(event.key())
        if key in moves:
            self.walk_to(moves[key])
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent) and self.steps:
            i = max(0, min(self._nearest(event.pos().x()), len(self.steps) - 1))
            QToolTip.showText(event.globalPos(), f"{i + 1}  {self.steps[i].text}", self)
            return True
        return super().event(event)

    def focusInEvent(self, event: object) -> None:
        self.update()

    def focusOutEvent(self, event: object) -> None:
        self.update()


class WoolShelf(QWidget):
    """Every wool of the plan as a bundle on a shelf, sized by its weight, with what to buy."""

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.setAccessibleName("Wool for the whole figure")
        self._retell = at_most_every(self, CALM_MS, self._plan_changed)
        studio.plan_changed.connect(lambda: nudge(self._retell))
        studio.units_changed.connect(self.update)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(500, self.theme.px(62))

    minimumSizeHint = sizeHint

    def _plan_changed(self) -> None:
        plan, units = self.studio.plan, self.studio.units
        if plan:
            told = ", ".join(f"{w.name} {show_mass(w.grams, units)}" for w in plan.wools)
            self.setAccessibleDescription(told)
        self.update()

    def _boxes(self) -> list[QRectF]:
        plan = self.studio.plan
        if plan is None or not plan.wools:
            return []
        left, n = self.theme.px(18), len(plan.wools)
        columns = max(1, min(n, int((self.width() - left) / self.theme.px(82))))
        rows = math.ceil(n / columns)
        columns = math.ceil(n / rows)
        wide, tall = (self.width() - left) / columns, self.height() / rows
        return [
            QRectF(left + i % columns * wide, i // columns * tall, wide, tall) for i in range(n)
        ]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan = self.studio.plan
        if plan is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        # A figure that is all wire has wools of no weight.
        most = max((wool.grams for wool in plan.wools), default=0.0) or 1.0
        for box, wool in zip(self._boxes(), plan.wools, strict=True):
            # A bundle's side goes with the cube root of its weight, as it does in the hand.
            tall = box.height() - px(4)
            side = max(px(12), tall * (wool.grams / most) ** (1 / 3))
            named = box.width() >= px(104) and box.height() >= px(40)
            side = min(side, box.width() * (0.42 if named else 0.26))
            paint_bundle(
                painter,
                QRectF(box.left(), box.center().y() - side / 2, side, side),
                wool.colour,
                True,
                self.theme,
            )
            words = box.adjusted(side + px(6), 0, -px(2), 0)
            painter.setFont(self.theme.text(15, bold=True))
            painter.setPen(d.ink)
            top = QRectF(
                words.left(),
                words.center().y() - px(20 if named else 10),
                words.width() + px(8),
                px(20),
            )
            painter.drawText(top, Qt.AlignmentFlag.AlignVCenter, show_mass(wool.grams, units))
            if not named:
                continue
            painter.setFont(self.theme.text(13))
            painter.setPen(d.quiet)
            name = painter.fontMetrics().elidedText(
                wool.name, Qt.TextElideMode.ElideRight, int(words.width())
            )
            painter.drawText(
                QRectF(words.left(), words.center().y(), words.width(), px(18)),
                Qt.AlignmentFlag.AlignVCenter,
                name,
            )

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent) and self.studio.plan:
            for box, wool in zip(self._boxes(), self.studio.plan.wools, strict=True):
                if box.contains(QPointF(event.pos())):
                    units = self.studio.units
                    QToolTip.showText(
                        event.globalPos(),
                        f"{wool.name}: {show_mass(wool.grams, units)} in the figure.\n"
                        f"Buy {show_mass(wool.buy_g, units)}, {wool.packs} pack(s):"
                        f" enough nine times in ten.",
                        self,
                    )
                    return True
        return super().event(event)
