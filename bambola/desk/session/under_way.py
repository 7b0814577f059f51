"""A change that is being planned off the interface thread.

The window goes on meanwhile, but the next key or click waits for what comes of the change: whoever acts
acts on what is on the table, and two changes are never made of the same state. It waits for the plan itself,
with no event loop within the event loop: events handled in the midst of another event's delivery may delete
what that is delivered to.
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
    """What is asked to be on the table, by a change that undo calls by ``words``; ``then`` hears whether it
    could be made, once it is there or refused."""

    held: DocumentState
    words: str
    gesture: int
    then: Callable[[bool], None]


class UnderWay(QObject):
    """The one change that is being planned, if there is one; ``settle`` is called before a hand acts."""

    def __init__(self, settle: Callable[[], None]) -> None:
        super().__init__()
        self.asked: EditRequest | None = None
        self._settle = settle
        self._busy, self._around = BusyCursor(), ExitStack()

    def begin(self, asked: EditRequest) -> None:
        """From now on this is being planned."""
        self.asked = asked
        self._around.enter_context(self._busy.work())
        app = QApplication.instance()
        if app is not None:
            app.installEventFilter(self)

    def end(self) -> EditRequest | None:
        """Nothing is being planned any more; what was."""
        asked, self.asked = self.asked, None
        if asked is not None:
            self._around.close()
            app = QApplication.instance()
            if app is not None:
                app.removeEventFilter(self)
        return asked

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Return the next act of a hand finds the change made."""
        kind = None if event is None else event.type()
        closes = kind == QEvent.Type.Close and isinstance(watched, QMainWindow)
        if kind in _WITHIN or closes or kind in HAND_ACTS:
            self._settle()
            # What was clicked may have gone with the change.
            return watched is not None and sip.isdeleted(watched)
        return False
