"""The board: a picture, the figure over it, and a tool that works on both."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QKeyEvent, QMouseEvent, QWheelEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from bambola.core.quantities import LengthUnit, QuantityError, parse_length
from bambola.core.words import Words, error_words
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.board_view import BoardView
from bambola.desk.stations.measure.photograph import BoardLayout, zoomed
from bambola.desk.stations.measure.sighting import Sighting
from bambola.language import current_catalogue


class NumberEntry(QLineEdit):
    """A field for a length on the board. Enter accepts, Escape cancels."""

    refused = pyqtSignal(str)

    def __init__(self, board: QWidget, theme: Theme) -> None:
        super().__init__(board)
        self.board, self.theme = board, theme
        self._unit: LengthUnit = "mm"
        self._take: Callable[[float], None] = lambda mm: None
        self.hide()
        self.returnPressed.connect(self._accept_typed)

    def ask(
        self, at: QPointF, text: str, name: str, unit: LengthUnit, take: Callable[[float], None]
    ) -> None:
        """Open at a place; ``take`` gets the length in mm."""
        px = self.theme.px
        self._unit, self._take = unit, take
        self.setAccessibleName(name)
        set_role(self, "amount")
        x = min(max(4, round(at.x()) + px(8)), self.board.width() - px(126))
        y = min(max(4, round(at.y()) - px(15)), self.board.height() - px(34))
        self.setGeometry(x, y, px(122), px(30))
        self.setText(text)
        self.show()
        self.setFocus()
        if len(text) > 1:
            self.selectAll()

    def _accept_typed(self) -> None:
        try:
            mm = parse_length(self.text(), self._unit)
        except QuantityError as error:
            self.refused.emit(error_words(error, Words(catalogue=current_catalogue())))
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


WOOL_MIME = "application/x-bambola-wool"
_QUEUED_S = 0.012
"""A held key repeats more slowly than this: one that comes sooner had been waiting."""


class Board(BoardView):
    """The widget of a board view; the current tool decides what presses, drags and keys mean."""

    wool_laid = pyqtSignal(str, str)
    picture_dropped = pyqtSignal(str)

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, sighting: Sighting
    ) -> None:
        super().__init__(studio, theme, darkroom, sighting)
        self.repeats, self._done_at = 1, 0.0
        self._pan: tuple[QPointF, BoardLayout] | None = None
        self.entry = NumberEntry(self, theme)
        self.entry.refused.connect(studio.refused)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAcceptDrops(True)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        buttons = Qt.MouseButton
        if event.button() == buttons.MiddleButton and self.lay:
            self._pan = (event.position(), self.lay)
        elif self.hand is not None and self.lay is not None:
            self.hand.press(event.position(), event.button(), event.modifiers())
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._pan is not None:
            start, lay = self._pan
            off = event.position() - start
            self.lay = BoardLayout(lay.scale, lay.x + off.x(), lay.y + off.y())
            self._own_lay = True
        elif self.hand is not None and self.lay is not None:
            held = event.buttons() != Qt.MouseButton.NoButton
            self.hand.move(event.position(), held, event.modifiers())
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._pan is not None:
            self._pan = None
        elif self.hand is not None and self.lay is not None:
            self.hand.release(event.position(), event.button())
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self.hand is not None and self.lay is not None:
            self.hand.double(event.position())
        self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        if self.lay is not None:
            self.lay = zoomed(self.lay, event.position(), 1.0015 ** event.angleDelta().y())
            self._own_lay = True
            self._settle.start()
            self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if self._is_behind(event):
            return
        key, text = Qt.Key(event.key()), event.text()
        if key == Qt.Key.Key_Escape and not self.sighting.is_idle:
            self.sighting.stop(self.view)
        elif text in ("+", "="):
            self.zoom(1.25)
        elif text == "-":
            self.zoom(0.8)
        elif key == Qt.Key.Key_Home:
            self.fit_all()
        elif self.hand is None or not self.hand.handle_key(key, text, event.modifiers()):
            super().keyPressEvent(event)
        self._done_at, self.repeats = time.monotonic(), 1
        self.update()

    def _is_behind(self, event: QKeyEvent) -> bool:
        """Return whether a repeated key arrived while the last one was still handled: it is counted, and the
        next handled one goes that much further."""
        queued = time.monotonic() - self._done_at < _QUEUED_S
        if event.isAutoRepeat() and queued:
            self.repeats += 1
            return True
        return False

    def ask(self, at: QPointF, text: str, name: str, take: Callable[[float], None]) -> None:
        """Open a small field at a place; ``take`` gets the length in mm."""
        self.entry.ask(at, text, name, self.studio.units.length, take)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        mime = event.mimeData() if event else None
        if (
            event
            and mime
            and (mime.hasFormat(WOOL_MIME) or any(u.isLocalFile() for u in mime.urls()))
        ):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        mime = event.mimeData() if event else None
        if event is None or mime is None:
            return
        if mime.hasFormat(WOOL_MIME):
            part = self.part_at(event.position()) or self.studio.selection.part
            if part:
                self.wool_laid.emit(mime.data(WOOL_MIME).data().decode(), part)
            return
        files = [u.toLocalFile() for u in mime.urls() if u.isLocalFile()]
        if files:
            self.picture_dropped.emit(files[0])
