"""Where a number comes from, told on hovering and worked out only then."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent
from PyQt6.QtGui import QHelpEvent
from PyQt6.QtWidgets import QToolTip, QWidget


def show_told(widget: QWidget, event: QEvent | None, told: Callable[[], str]) -> bool:
    """Answer a tool tip event with what ``told`` says; False for any other event."""
    if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
        QToolTip.showText(event.globalPos(), told(), widget)
        return True
    return False
