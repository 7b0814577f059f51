"""The widget style, which also keeps what a maker wrote from being read as markup.

Qt guesses from the text of a label or tool tip whether it is HTML, and then loads the files it names.
"""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QProxyStyle


class PlainTextStyle(QProxyStyle):
    """Shows every label as plain text unless its own text format says otherwise.

    A style polishes each widget before it is measured or shown. Tool tips and the words of Qt's own dialogs
    are labels too, so this one place covers them all.
    """

    def __init__(self) -> None:
        super().__init__("Fusion")

    def polish(self, target: Any) -> Any:
        """Prepare a widget, a palette or the application."""
        if isinstance(target, QLabel) and target.textFormat() == Qt.TextFormat.AutoText:
            target.setTextFormat(Qt.TextFormat.PlainText)
        return super().polish(target)
