"""Lists with a look of our own: a model of keys and words, and a view that paints its rows anywhere.

Selection, keys, tool tips and screen readers are Qt's: to them a thread of beads is a list like any other.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import Any

from PyQt6.QtCore import (
    QAbstractListModel,
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QPoint,
    QPointF,
    QRect,
    QRectF,
    QSize,
    Qt,
    pyqtSignal,
)
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QRegion, QWheelEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QFrame,
    QHeaderView,
    QListView,
    QTableView,
    QWidget,
)

from bambola.desk.kit.theme import Theme

_Move = QAbstractItemView.CursorAction
MOVES = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}
"""Which way a key leads: right, down."""
_WAYS = {
    _Move.MoveLeft: (-1, 0),
    _Move.MoveRight: (1, 0),
    _Move.MoveUp: (0, -1),
    _Move.MoveDown: (0, 1),
}


_TOLD = (
    Qt.ItemDataRole.DisplayRole,
    Qt.ItemDataRole.ToolTipRole,
    Qt.ItemDataRole.AccessibleTextRole,
    Qt.ItemDataRole.AccessibleDescriptionRole,
)


class ListModel(QAbstractListModel):
    """A list of keys. The words for each are computed on demand; a stale key has none."""

    def __init__(self, words: Callable[[str], str]) -> None:
        super().__init__()
        self.keys: tuple[str, ...] = ()
        self._words = words

    def set_keys(self, keys: Sequence[str]) -> None:
        """Set the keys. If they are unchanged, only the words are announced as new."""
        keys = tuple(keys)
        if keys == self.keys:
            if keys:
                self.dataChanged.emit(self.index(0), self.index(len(keys) - 1))
            return
        self.beginResetModel()
        self.keys = keys
        self.endResetModel()

    def row_of(self, key: str) -> int:
        """Return the row of a key, or -1."""
        return self.keys.index(key) if key in self.keys else -1

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.keys)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not 0 <= index.row() < len(self.keys):
            return None
        return self._words(self.keys[index.row()]) if role in _TOLD else None


class PaintedList(QListView):
    """A list painted by its subclass: ``box`` gives the place of each row, ``paintEvent`` draws. It lies at
    full size in a scroll area and never scrolls itself."""

    taken = pyqtSignal(int, str)
    """The maker, or a screen reader, has brought a row to hand: where it stands, and its key."""

    def __init__(self, theme: Theme, name: str, model: ListModel) -> None:
        super().__init__()
        self.theme, self.rows = theme, model
        self._shown_only = False
        self.setUniformItemSizes(True)  # boxes are told: of no row is asked how large it would be
        self.setModel(model)
        self.setAccessibleName(name)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.cloth.setAutoFillBackground(False)

    @property
    def cloth(self) -> QWidget:
        """The widget that is painted on and gets mouse events."""
        port = self.viewport()
        assert port is not None
        return port

    def box(self, row: int) -> QRectF:
        """Return the rectangle of a row."""
        raise NotImplementedError

    def redraw(self) -> None:
        """Repaint the list."""
        self.cloth.update()

    # What is in hand

    @property
    def current_row(self) -> int:
        """The current row; 0 if there is none."""
        return max(0, self.currentIndex().row())

    def show_row(self, row: int) -> None:
        """Show a row as current after another view selected it."""
        self._shown_only = True
        try:
            self.setCurrentIndex(self.rows.index(row) if row >= 0 else QModelIndex())
        finally:
            self._shown_only = False
        self._update_description()
        self.redraw()

    def select_row(self, row: int) -> None:
        """Select a row, or the nearest that exists."""
        count = self.rows.rowCount()
        if count:
            self.setCurrentIndex(self.rows.index(max(0, min(count - 1, row))))

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        self._update_description()
        self.redraw()
        if current.isValid() and not self._shown_only:
            self.taken.emit(current.row(), self.rows.keys[current.row()])

    def selectionChanged(self, selected: QItemSelection, deselected: QItemSelection) -> None:
        super().selectionChanged(selected, deselected)
        chosen = self.selectedIndexes()
        if chosen and chosen[0] != self.currentIndex():
            self.setCurrentIndex(chosen[0])  # a screen reader selects without pointing

    def _update_description(self) -> None:
        """Set the current row as the description of the whole list, since some readers ask only for that."""
        told = self.rows.data(self.currentIndex(), Qt.ItemDataRole.AccessibleDescriptionRole)
        self.setAccessibleDescription(told or "")

    def dataChanged(
        self, top_left: QModelIndex, bottom_right: QModelIndex, roles: Iterable[int] = ()
    ) -> None:
        """Repaint only: Qt's own view would ask every row for its size and lay all of them out again."""
        QAbstractItemView.dataChanged(self, top_left, bottom_right, roles)

    # Where things lie

    def visualRect(self, index: QModelIndex) -> QRect:
        return self.box(index.row()).toAlignedRect() if index.isValid() else QRect()

    def indexAt(self, p: QPoint) -> QModelIndex:
        return self.rows.index(self.row_at(QPointF(p)))

    def row_at(self, at: QPointF) -> int:
        """Return the row at a place, or -1."""
        rows = range(self.rows.rowCount())
        return next((row for row in rows if self.box(row).contains(at)), -1)

    def next_row(self, row: int, right: int, down: int) -> int:
        """Return the row one step to the right or down."""
        return row + right + down

    def moveCursor(self, action: _Move, modifiers: Qt.KeyboardModifier) -> QModelIndex:
        count, row = self.rows.rowCount(), self.current_row
        if not count:
            return QModelIndex()
        if action in (_Move.MoveHome, _Move.MoveEnd):
            row = 0 if action == _Move.MoveHome else count - 1
        elif action in _WAYS:
            row = self.next_row(row, *_WAYS[action])
        return self.rows.index(max(0, min(count - 1, row)))

    def setSelection(self, rect: QRect, command: QItemSelectionModel.SelectionFlag) -> None:
        # What is in hand is selected; a rectangle would be looked up among places that nobody has laid.
        chosen = self.selectionModel()
        if chosen is not None:
            chosen.select(self.currentIndex(), command)

    def visualRegionForSelection(self, selection: QItemSelection) -> QRegion:
        return QRegion(self.cloth.rect())  # rings reach beyond the boxes they are round

    def scrollTo(self, *_: object) -> None:
        """Make the scroll area follow the current row."""

    def doItemsLayout(self) -> None:
        """Do nothing: the subclass gives the boxes."""

    def updateGeometries(self) -> None:
        """Do nothing: the list never scrolls itself."""

    # Hands and keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if Qt.Key(event.key()) in (*MOVES, Qt.Key.Key_Home, Qt.Key.Key_End):
            super().keyPressEvent(event)
            event.accept()  # at the end of a list, too: it goes no further
        else:
            event.ignore()  # letters are the window's: no row is looked for by them

    def wheelEvent(self, e: QWheelEvent | None) -> None:
        if e is not None:
            e.ignore()  # what it lies in is scrolled

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.redraw()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.redraw()


def lay_as_shelf(table: QTableView) -> None:
    """Give a table the look of a shelf: one line to a thing, with room to breathe, and no grid."""
    high = table.fontMetrics().height()
    table.setShowGrid(False)
    table.setFrameShape(QFrame.Shape.NoFrame)
    table.setIconSize(QSize(high * 5 // 4, high * 5 // 4))
    head, side = table.horizontalHeader(), table.verticalHeader()
    assert head is not None and side is not None
    head.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    head.setMinimumSectionSize(high * 9 // 2)
    head.setStretchLastSection(True)
    head.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
    side.setVisible(False)
    side.setDefaultSectionSize(high * 2)
