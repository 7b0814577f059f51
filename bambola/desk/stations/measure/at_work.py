"""The interface between the board and the tool that works on it."""

from __future__ import annotations

from typing import ClassVar

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter


class AtWork:
    """How a tool wants the board shown, and the input it gets; the base does nothing."""

    whole_picture: ClassVar[bool] = False
    shows_figure: ClassVar[bool] = True
    dims_outside: ClassVar[bool] = True
    shows_sureness: ClassVar[bool] = False
    cursor: ClassVar[Qt.CursorShape] = Qt.CursorShape.ArrowCursor

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        """Handle a pressed button."""

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        """Handle a moved pointer, with or without a button."""

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        """Handle a released button."""

    def double(self, at: QPointF) -> None:
        """Handle a double click."""

    def key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        """Handle a key; return whether it meant anything."""
        return False

    def give_up(self) -> None:
        """Drop what was begun."""

    def paint(self, painter: QPainter) -> None:
        """Paint the tool's handles."""
