"""What works on the board: its view and the board know a hand by this."""

from __future__ import annotations

from typing import ClassVar

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter


class AtWork:
    """How it wants the board shown, and what it is told; by itself it does nothing."""

    whole_picture: ClassVar[bool] = False
    shows_figure: ClassVar[bool] = True
    dims_outside: ClassVar[bool] = True
    shows_sureness: ClassVar[bool] = False
    cursor: ClassVar[Qt.CursorShape] = Qt.CursorShape.ArrowCursor

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        """A button went down."""

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        """The pointer moved, with a button held or not."""

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        """A button came up."""

    def double(self, at: QPointF) -> None:
        """A double click."""

    def key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        """Return a key; whether it meant anything."""
        return False

    def give_up(self) -> None:
        """Forget what was begun."""

    def paint(self, painter: QPainter) -> None:
        """Draw what this hand works with."""
