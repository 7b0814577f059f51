"""A change that is being planned off the interface thread.

The window stays responsive, but the next key or click waits for the outcome, so that two changes are never
made from the same state. It waits without a nested event loop: events handled inside the delivery of another
may delete its receiver.
"""

from __future__ import annotations

from collections.abc import Callable
from contextlib import ExitStack
from dataclasses import dataclass

from PyQt6 import sip
from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QApplication, QMainWindow

from bambola.desk.running.waiting import BusyCursor
from bambola.desk.session.changes import DocumentState

HAND_ACTS = frozenset(
    {
        QEvent.Type.KeyPress,
        QEvent.Type.ShortcutOverride,
        QEvent.Type.MouseButtonPress,
        QEvent.Type.MouseButtonRelease,
        QEvent.Type.MouseButtonDblClick,
        QEvent.Type.Wheel,
        QEvent.Type.TouchBegin,
    }
)
"""What a hand does."""
_WITHIN = frozenset({QEvent.Type.InputMethod, QEvent.Type.Drop})
"""What else must not go on before the change is made, as the closing of the window must not. A list that
drops down and a dialog close, too, and need not wait."""


@dataclass(frozen=True)
class EditRequest:
    """The state requested by a change that undo calls ``words``; ``then`` gets whether it could be made, once
    it is shown or refused."""

    held: DocumentState
    words: str
    gesture: int
    then: Callable[[bool], None]


class UnderWay(QObject):
    """The one change being planned, if any; ``settle`` is called before input is delivered."""

    def __init__(self, settle: Callable[[], None]) -> None:
        super().__init__()
        self.asked: EditRequest | None = None
        self._settle = settle
        self._busy, self._around = BusyCursor(), ExitStack()

    def begin(self, asked: EditRequest) -> None:
        """Register the change being planned."""
        self.asked = asked
        self._around.enter_context(self._busy.work())
        app = QApplication.instance()
        if app is not None:
            app.installEventFilter(self)

    def end(self) -> EditRequest | None:
        """Clear the change being planned, and return it."""
        asked, self.asked = self.asked, None
        if asked is not None:
            self._around.close()
            app = QApplication.instance()
            if app is not None:
                app.removeEventFilter(self)
        return asked

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Settle the change before a key or click is delivered."""
        kind = None if event is None else event.type()
        closes = kind == QEvent.Type.Close and isinstance(watched, QMainWindow)
        if kind in _WITHIN or closes or kind in HAND_ACTS:
            self._settle()
            # What was clicked may have gone with the change.
            return watched is not None and sip.isdeleted(watched)
        return False
