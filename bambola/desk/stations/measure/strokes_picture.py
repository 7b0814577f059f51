"""A picture to draw one line along each part, by mouse or by keys."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QSizePolicy, QWidget

from bambola.core.figure.survey import Spot
from bambola.desk.kit.theme import Theme
from bambola.desk.stations.measure.chalk import paint_names, paint_run
from bambola.language import tr

DRAG_PX = 6.0
"""A pointer that moved less between press and release has clicked, and not drawn."""
NAMES_SHARE = 0.17
"""The share of the width that names have on either side."""
STEP_PX, FINE_PX = 12, 2
ARROWS: Mapping[Qt.Key, tuple[int, int]] = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class StrokesPicture(QWidget):
    """One picture. A line is dragged, or clicked from end to end; by keys the arrows move a cross (slowly
    with Shift), Space sets a point, and Enter the last one. ``drawn`` emits the points in pixels of the
    file."""

    drawn = pyqtSignal(list)

    def __init__(self, theme: Theme, pixmap: QPixmap, scale: float, name: str) -> None:
        super().__init__()
        self.theme, self._pixmap, self._scale = theme, pixmap, scale
        self._begun: list[QPointF] = []
        self._pointer = QPointF()
        self._pressed: QPointF | None = None
        self._lines: dict[str, list[Sequence[Spot]]] = {}
        self._outlines: dict[str, list[Sequence[Spot]]] = {}
        self._lit = ""
        self.is_wanted = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setMinimumSize(theme.px(180), theme.px(200))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(name)
        self.setAccessibleDescription(
            tr("Arrows move the cross, Space sets a point, Enter the last one.")
        )

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(420), self.theme.px(460))

    def show_lines(
        self,
        lines: Mapping[str, list[Sequence[Spot]]],
        outlines: Mapping[str, list[Sequence[Spot]]],
        lit: str,
    ) -> None:
        """Show the drawn lines and the outlines found along them by part (pixels of the file), those of one
        part ``lit``."""
        self._lines, self._outlines, self._lit = dict(lines), dict(outlines), lit
        self.update()

    def forget(self) -> None:
        """Drop an unfinished line."""
        self._begun, self._pressed = [], None
        self.update()

    # Places

    def _picture_box(self) -> QRectF:
        size = self._pixmap.size()
        share = min(self.width() / size.width(), self.height() / size.height())
        room = self.width() * (1 - 2 * NAMES_SHARE)  # names stand beside it
        share = min(share, room / size.width())
        box = QRectF(0, 0, size.width() * share, size.height() * share)
        box.moveCenter(QRectF(self.rect()).center())
        return box

    def to_screen(self, x: float, y: float) -> QPointF:
        """Return the place in the widget of a pixel of the file."""
        box = self._picture_box()
        share = box.width() / self._pixmap.width() * self._scale
        return QPointF(box.left() + x * share, box.top() + y * share)

    def _to_file(self, at: QPointF) -> Spot:
        box = self._picture_box()
        share = self._pixmap.width() / box.width() / self._scale
        most = self._pixmap.width() / self._scale, self._pixmap.height() / self._scale
        x, y = (at.x() - box.left()) * share, (at.y() - box.top()) * share
        return min(max(x, 0.0), most[0]), min(max(y, 0.0), most[1])

    # By mouse

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self.setFocus()
        self._pressed = event.position()
        self._begun.append(event.position())
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self._pointer = event.position()
        if (
            self._pressed is not None
            and (self._pointer - self._pressed).manhattanLength() > DRAG_PX
        ):
            self._begun.append(self._pointer)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._pressed is None:
            return
        dragged = (event.position() - self._pressed).manhattanLength() > DRAG_PX
        self._pressed = None
        if dragged or len(self._begun) > 1:
            self._finish_line()

    # By keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key = Qt.Key(event.key())
        if key in ARROWS:
            fine = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            step = self.theme.px(FINE_PX if fine else STEP_PX)
            x, y = ARROWS[key]
            moved = self._pointer + QPointF(x * step, y * step)
            box = self._picture_box()
            self._pointer = QPointF(
                min(max(moved.x(), box.left()), box.right()),
                min(max(moved.y(), box.top()), box.bottom()),
            )
        elif key == Qt.Key.Key_Space:
            self._begun.append(QPointF(self._pointer))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._begun:
            self._begun.append(QPointF(self._pointer))
            self._finish_line()
        elif key == Qt.Key.Key_Escape and self._begun:
            self.forget()
        else:
            event.ignore()
            return
        self.update()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        if not self._picture_box().contains(self._pointer):
            self._pointer = self._picture_box().center()
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self.update()

    def _finish_line(self) -> None:
        points = list(dict.fromkeys(self._to_file(at) for at in self._begun))
        self.forget()
        if len(points) > 1:
            self.drawn.emit(points)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, d, px = QPainter(self), self.theme.dyes, self.theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        box = self._picture_box()
        painter.drawPixmap(box, self._pixmap, QRectF(self._pixmap.rect()))
        for name, runs in self._outlines.items():
            lit = name == self._lit
            pen = QPen(d.madder if lit else d.woad, px(2.2 if lit else 1.4), Qt.PenStyle.DashLine)
            for run in runs:
                paint_run(painter, [self.to_screen(*at) for at in run], pen, self.theme, True, True)
        for name, runs in self._lines.items():
            lit = name == self._lit
            for run in runs:
                screen = [self.to_screen(*at) for at in run]
                paint_run(
                    painter,
                    screen,
                    QPen(d.madder if lit else d.woad, px(3)),
                    self.theme,
                    False,
                    True,
                )
        spots = [
            (at.x(), at.y(), name)
            for name, (run, *_) in self._lines.items()
            for at in [self.to_screen(*run[len(run) // 2])]
        ]
        side = max(0.0, (self.width() - box.width()) / 2)
        names = {name: name for name in self._lines}
        paint_names(painter, QRectF(self.rect()), side, spots, self._lit, names, self.theme)
        if self._begun:
            begun = [*self._begun, self._pointer]
            paint_run(painter, begun, QPen(d.madder, px(3)), self.theme, False, True)
        if self.hasFocus():
            painter.setPen(QPen(d.paper, 3))
            for _ in range(2):
                for x, y in ((px(9), 0), (0, px(9))):
                    off = QPointF(x, y)
                    painter.drawLine(self._pointer - off, self._pointer + off)
                painter.setPen(QPen(d.madder, 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(d.madder if self.is_wanted else d.edge, px(3 if self.is_wanted else 1)))
        painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), px(6), px(6))
