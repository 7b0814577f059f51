"""A sheet of paper with labels and fields, for the right side of a station."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QFrame, QLabel, QVBoxLayout, QWidget

from bambola.desk.kit.theme import Theme, set_role


class SheetWidgets(QFrame):
    """Creates labels that wrap, combo boxes and fields in the colours of the sheet."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self.theme = theme
        set_role(self, "sheet")
        self.setAccessibleName(name)
        self.box = QVBoxLayout(self)
        theme.changed.connect(self._apply_theme)

    def label(self, text: str = "") -> QLabel:
        """Add a plain-text label that wraps at the end of the sheet, and return it."""
        made = QLabel(text)
        made.setWordWrap(True)
        self.box.addWidget(made)
        return made

    def _apply_theme(self) -> None:
        px = self.theme.px
        self.box.setContentsMargins(px(16), px(12), px(14), px(12))
        self.box.setSpacing(px(5))
        self.restyle()

    def restyle(self) -> None:
        """Update the fonts after a change of the look."""


def labelled(name: str, field: QWidget) -> QVBoxLayout:
    """Return a field with its name in small letters above it."""
    label = QLabel(name)
    label.setBuddy(field)
    set_role(label, "small", "quiet")
    column = QVBoxLayout()
    column.setSpacing(1)
    column.addWidget(label)
    column.addWidget(field)
    return column


_LEAST_LETTERS = 10


class ElidedLabel(QLabel):
    """A label as wide as its text if possible, and elided if not."""

    def setText(self, text: str | None) -> None:
        super().setText(text)
        self.setToolTip(text or "")

    def minimumSizeHint(self) -> QSize:
        wide = self.fontMetrics().averageCharWidth() * _LEAST_LETTERS
        return QSize(min(wide, self.sizeHint().width()), super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        told = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        QPainter(self).drawText(self.rect(), int(self.alignment()), told)
