"""A change that is being planned off the interface thread.

The window goes on meanwhile, but the next key or click waits for what comes of the change: whoever acts
acts on what is on the table, and two changes are never made of the same state.
"""

from __future__ import annotations

from collections.abc import Callable
from contextlib import ExitStack
from dataclasses import dataclass

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QApplication

from bambola.desk.running.waiting import BusyCursor
from bambola.desk.session.changes import DocumentState

_INPUT = frozenset(
    {
        QEvent.Type.KeyPress,
        QEvent.Type.ShortcutOverride,
        QEvent.Type.MouseButtonPress,
        QEvent.Type.MouseButtonRelease,
        QEvent.Type.MouseButtonDblClick,
        QEvent.Type.Wheel,
        QEvent.Type.TouchBegin,
        QEvent.Type.InputMethod,
        QEvent.Type.Drop,
        QEvent.Type.Close,
    }
)
"""What a hand does."""


@dataclass(frozen=True)
class Asked:
    """What is asked to be on the table, by a change that undo calls by ``words``."""

    held: DocumentState
    words: str
    gesture: int


class UnderWay(QObject):
    """The one change that is being planned, if there is one; ``settle`` is called before a hand acts."""

    def __init__(self, settle: Callable[[], None]) -> None:
        super().__init__()
        self.asked: Asked | None = None
        self._settle = settle
        self._busy, self._around = BusyCursor(), ExitStack()

    def begin(self, asked: Asked) -> None:
        """From now on this is being planned."""
        self.asked = asked
        self._around.enter_context(self._busy.work())
        app = QApplication.instance()
        if app is not None:
            app.installEventFilter(self)

    def end(self) -> Asked | None:
        """Nothing is being planned any more; what was."""
        asked, self.asked = self.asked, None
        if asked is not None:
            self._around.close()
            app = QApplication.instance()
            if app is not None:
                app.removeEventFilter(self)
        return asked

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """The next act of a hand finds the change made."""
        if event is not None and event.type() in _INPUT:
            self._settle()
        return False
