"""A row of buttons that say less where there is little room, rather than being cut off."""

from __future__ import annotations

import re

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLayout, QPushButton, QWidget

_KEY = re.compile(r" \([^()]*\)$")


class ButtonRow(QWidget):
    """Buttons side by side, the first as wide as the others leave it. A screen reader hears it whole."""

    def __init__(self, *buttons: QPushButton) -> None:
        super().__init__()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSizeConstraint(QLayout.SizeConstraint.SetNoConstraint)
        self._told: dict[QPushButton, tuple[str, str]] = {}
        for at, button in enumerate(buttons):
            self._row.addWidget(button, 1 if at == 0 else 0)
            self._told[button] = (button.text(), button.text())
            button.setAccessibleName(button.text())

    def tell(self, button: QPushButton, words: str, fewer: str) -> None:
        """What a button says, and what it says where that has no room."""
        self._told[button] = (words, fewer)
        button.setAccessibleName(words)
        button.setToolTip(words)
        self.fit()

    def fit(self) -> None:
        """Say as much as there is room for."""
        shown = [button for button in self._told if not button.isHidden()]
        for which in range(3):
            for button in shown:
                words, fewer = self._told[button]
                # With no room at all its key is in its tool tip alone.
                said = (words, fewer, _KEY.sub("", fewer))[which]
                if button.text() != said:
                    button.setText(said)
            spacing = self._row.spacing() * (len(shown) - 1)
            if sum(b.sizeHint().width() for b in shown) + spacing <= self.width():
                return

    def minimumSizeHint(self) -> QSize:
        """As narrow as it must be: it is the words that give way, not the window."""
        return QSize(0, super().minimumSizeHint().height())

    def resizeEvent(self, a0: QResizeEvent | None) -> None:
        self.fit()
        super().resizeEvent(a0)
