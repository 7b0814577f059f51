"""One undoable change of the open document."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import ExitStack
from dataclasses import dataclass
from typing import Protocol

from PyQt6 import sip
from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtGui import QUndoCommand
from PyQt6.QtWidgets import QApplication, QMainWindow

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure, Survey
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.resize import ResizeError
from bambola.desk.running.aside import SLOW_MS
from bambola.desk.running.timers import BusyCursor, one_shot_timer

REFUSALS = (ResizeError, OrderConflictError)
"""Why something cannot be planned."""


@dataclass(frozen=True)
class DocumentState:
    """The frozen values of the open document, replaced together."""

    figure: Figure
    brief: Brief
    survey: Survey


@dataclass(frozen=True)
class Planned:
    """A plan, and the bench it was made with."""

    plan: Plan
    bench: Bench


class DocumentStore(Protocol):
    """The open document and its latest plan."""

    plan: Plan | None
    bench: Bench

    def current_state(self) -> DocumentState:
        """Return the present state."""

    def show(self, held: DocumentState, plan: Plan) -> None:
        """Replace the present state."""

    def refuse(self, error: Exception) -> None:
        """Tell the maker that something cannot be done."""


class UndoableChange(QUndoCommand):
    """An undo command that swaps two states, keeping their plans as long as memory allows."""

    def __init__(
        self, studio: DocumentStore, held: DocumentState, plan: Plan, words: str, gesture: int
    ) -> None:
        super().__init__(words)
        self.studio, self.gesture, self.is_merged = studio, gesture, False
        assert studio.plan is not None
        self.before, self.after = studio.current_state(), held
        self.plan_before: Planned | None = Planned(studio.plan, studio.bench)
        self.plan_after: Planned | None = Planned(plan, studio.bench)

    def let_plans_go(self) -> None:
        """Drop the plans, which take half a megabyte each and can be made again: a day has thousands of
        changes."""
        self.plan_before = self.plan_after = None

    def id(self) -> int:
        return self.gesture or -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, UndoableChange) or other.gesture != self.gesture:
            return False
        self.after, self.plan_after = other.after, other.plan_after
        other.is_merged = True
        return True

    def redo(self) -> None:
        self._apply_state(self.after, self.plan_after)

    def undo(self) -> None:
        self._apply_state(self.before, self.plan_before)

    def _apply_state(self, held: DocumentState, known: Planned | None) -> None:
        bench = self.studio.bench
        if known is None or known.bench is not bench:  # let go, or counted and learned anew since
            try:
                plan = make_plan(held.figure, held.brief, bench)
            except REFUSALS as error:
                self.setObsolete(True)  # with the bench as it is now it cannot be
                self.studio.refuse(error)
                return
        else:
            plan = known.plan
        self.studio.show(held, plan)


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


@dataclass
class EditRequest:
    """The state requested by a change that undo calls ``words``; ``then`` gets whether it could be made, once
    it is shown or refused."""

    held: DocumentState
    words: str
    gesture: int
    then: Callable[[bool], None]
    is_made: bool = False


class UnderWay(QObject):
    """The one change being planned, if any; ``settle`` is called before input is delivered. ``slow`` hears
    (true) that it takes a while, and (false) of its end."""

    def __init__(self, settle: Callable[[], None], slow: Callable[[bool], None]) -> None:
        super().__init__()
        self.asked: EditRequest | None = None
        self._settle, self._slow = settle, slow
        self._busy, self._around = BusyCursor(), ExitStack()
        self._late = one_shot_timer(self, SLOW_MS)
        self._late.timeout.connect(lambda: self._slow(True))

    def begin(self, asked: EditRequest) -> None:
        """Register the change being planned."""
        self.asked = asked
        self._late.start()
        self._around.enter_context(self._busy.work())
        app = QApplication.instance()
        if app is not None:
            app.installEventFilter(self)

    def end(self) -> EditRequest | None:
        """Clear the change being planned, and return it."""
        asked, self.asked = self.asked, None
        if asked is not None:
            self._around.close()
            if not self._late.isActive():
                self._slow(False)
            self._late.stop()
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
