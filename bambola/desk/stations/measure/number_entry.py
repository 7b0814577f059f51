"""A number written right where it belongs."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from bambola.core.quantities import LengthUnit, QuantityError, parse_length
from bambola.core.words import Words, error_words
from bambola.desk.kit.theme import Theme
from bambola.language import spoken


class NumberEntry(QLineEdit):
    """A length written on a board. Enter takes it, Escape gives up."""

    refused = pyqtSignal(str)

    def __init__(self, board: QWidget, theme: Theme) -> None:
        super().__init__(board)
        self.board, self.theme = board, theme
        self._unit: LengthUnit = "mm"
        self._take: Callable[[float], None] = lambda mm: None
        self.hide()
        self.returnPressed.connect(self._typed)

    def ask(
        self, at: QPointF, text: str, name: str, unit: LengthUnit, take: Callable[[float], None]
    ) -> None:
        """Open at a place; ``take`` gets the length in mm once it is written."""
        px = self.theme.px
        self._unit, self._take = unit, take
        self.setAccessibleName(name)
        self.setFont(self.theme.text(16, bold=True))
        x = min(max(4, round(at.x()) + px(8)), self.board.width() - px(126))
        y = min(max(4, round(at.y()) - px(15)), self.board.height() - px(34))
        self.setGeometry(x, y, px(122), px(30))
        self.setText(text)
        self.show()
        self.setFocus()
        if len(text) > 1:
            self.selectAll()

    def _typed(self) -> None:
        try:
            mm = parse_length(self.text(), self._unit)
        except QuantityError as error:
            self.refused.emit(error_words(error, Words(catalogue=spoken())))
            return
        self.hide()
        self.board.setFocus()
        self._take(mm)
        self.board.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
            self.board.setFocus()
        else:
            super().keyPressEvent(event)
        event.accept()
