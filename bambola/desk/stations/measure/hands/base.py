"""The base of all tools."""

from __future__ import annotations

import math
import time
from typing import ClassVar

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPen

from bambola.core.quantities import show_length
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chips import Chip
from bambola.desk.stations.measure.photograph import BoardTool

_BURST_S = 0.9


class Hand(BoardTool):
    """One tool of the board."""

    name: ClassVar[str]
    told: ClassVar[str]

    def __init__(self, board: Board) -> None:
        self.board, self.studio, self.theme = board, board.studio, board.theme
        self._gesture, self._last_key = board.studio.new_gesture(), 0.0
        self.pointer: tuple[float, float] | None = None

    def chips(self) -> list[Chip]:
        """Return the buttons shown while this tool is in use."""
        return []

    def mm(self, at: QPointF) -> tuple[float, float]:
        """Return a place on the board in mm."""
        assert self.board.lay is not None
        return self.board.lay.to_mm(at)

    def screen(self, u: float, v: float) -> QPointF:
        """Return a place in mm in pixels of the board."""
        assert self.board.lay is not None
        return self.board.lay.to_screen(u, v)

    def is_near(self, a: QPointF, b: QPointF, reach: float = 11.0) -> bool:
        """Return whether two places on the board are within a fingertip of each other."""
        return math.hypot(a.x() - b.x(), a.y() - b.y()) <= self.theme.px(reach)

    def length(self, mm: float) -> str:
        """Return a length in the maker's units."""
        return show_length(mm, self.studio.units)

    def burst(self) -> int:
        """Return the gesture for this key press: one burst of keys is one step of undo."""
        now = time.monotonic()
        if now - self._last_key > _BURST_S:
            self._gesture = self.studio.new_gesture()
        self._last_key = now
        return self._gesture

    def point_by_key(self, key: Qt.Key, keys: Qt.KeyboardModifier) -> bool:
        """Move the keyboard's pointer over the board, starting in the middle, in mm."""
        if key not in ARROWS:
            return False
        middle = QPointF(self.board.width() / 2, self.board.height() / 2)
        u, v = self.pointer or self.mm(middle)
        du, dv = ARROWS[key]
        far = self.step(keys) * (5.0 if keys & Qt.KeyboardModifier.AltModifier else 1.0)
        self.pointer = (u + du * far, v + dv * far)
        return True

    def paint_pointer(self, painter: QPainter) -> None:
        """Paint the keyboard's pointer while the board has the focus."""
        if self.pointer is None or not self.board.hasFocus():
            return
        at, arm = self.screen(*self.pointer), self.theme.px(11)
        for colour, thick in ((self.theme.dyes.paper, 4.5), (self.theme.dyes.ink, 1.8)):
            painter.setPen(QPen(colour, thick))
            painter.drawLine(at - QPointF(arm, 0), at + QPointF(arm, 0))
            painter.drawLine(at - QPointF(0, arm), at + QPointF(0, arm))

    def step(self, keys: Qt.KeyboardModifier) -> float:
        """Return the step of an arrow key: 1 mm, or a tenth with Shift; a held key makes up for skipped
        repeats."""
        return (0.1 if keys & Qt.KeyboardModifier.ShiftModifier else 1.0) * self.board.repeats


ARROWS = {
    Qt.Key.Key_Left: (-1.0, 0.0),
    Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, 1.0),
    Qt.Key.Key_Down: (0.0, -1.0),
}
ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
