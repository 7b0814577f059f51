"""How widgets are placed: in lines like words, in a scroll area, in the order of Tab."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QFrame, QLayout, QLayoutItem, QScrollArea, QWidget

from bambola.language import tr


def scroll_area(widget: QWidget) -> QScrollArea:
    """Return a scroll area with ``widget`` as wide as its room if possible, with scroll bars if it is
    larger."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setWidget(widget)
    area.setAccessibleName(tr("Card, scrolled with the arrow keys"))
    return area


def tab_before(widget: QWidget, following: QWidget) -> None:
    """Let Tab reach ``widget`` just before ``following``, a widget or the window itself for the end."""
    before = following.previousInFocusChain()
    while before not in (None, following) and before.focusPolicy() == Qt.FocusPolicy.NoFocus:
        before = before.previousInFocusChain()
    QWidget.setTabOrder(before, widget)


def discard(widget: QWidget) -> None:
    """Remove ``widget`` from its page at once and delete it later. It is hidden first: a widget whose page
    was never shown would come up as a window of its own."""
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()


class FlowLayout(QLayout):
    """Places widgets left to right, breaking full lines. If all fit in one line, the last ones may stand at
    its right end."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setContentsMargins(0, 0, 0, 0)
        self._items: list[QLayoutItem] = []
        self._gap = 8
        self._end: int | None = None

    def set_gap(self, gap: int) -> None:
        """Set the space between widgets and lines, px."""
        self._gap = gap
        self.invalidate()

    def set_end(self, first: int) -> None:
        """Right-align the widgets from number ``first`` on in a single line."""
        self._end = first
        self.invalidate()

    def clear(self) -> None:
        """Remove all widgets at once."""
        while self._items:
            widget = self._items.pop().widget()
            if widget:
                discard(widget)

    def addItem(self, item: QLayoutItem | None) -> None:
        assert item is not None
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._lay_out(QRect(0, 0, width, 0), move=False)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._lay_out(rect, move=True)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        size = QSize()
        for item in self._items:
            size = size.expandedTo(item.minimumSize())
        return size

    def _lay_out(self, rect: QRect, move: bool) -> int:
        x, y, line = rect.x(), rect.y(), 0
        spare = rect.width() - self._line_width()
        placed: list[tuple[QLayoutItem, QRect]] = []

        def end_line() -> None:
            for item, box in placed if move else ():
                item.setGeometry(box.translated(0, (line - box.height()) // 2))
            placed.clear()

        for i, item in enumerate(self._items):
            if item.isEmpty():  # hidden: it takes no room, and no gap either
                continue
            hint = item.sizeHint()
            if x + hint.width() > rect.right() + 1 and line:
                end_line()
                x, y, line = rect.x(), y + line + self._gap, 0
            if self._end is not None and i >= self._end and spare > 0:
                x, spare = x + spare, 0
            # Never wider than there is room: what is cut off can still be read from its start.
            wide = min(hint.width(), rect.width())
            placed.append((item, QRect(QPoint(x, y), QSize(wide, hint.height()))))
            x, line = x + hint.width() + self._gap, max(line, hint.height())
        end_line()
        return y + line - rect.y()

    def _line_width(self) -> int:
        """Return the width of all widgets in one line."""
        wides = [item.sizeHint().width() for item in self._items if not item.isEmpty()]
        return sum(wides) + self._gap * max(0, len(wides) - 1)
