"""One undoable change of the open document."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from PyQt6.QtGui import QUndoCommand

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure, Survey
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.resize import ResizeError

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

    def now(self) -> DocumentState:
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
        self.before, self.after = studio.now(), held
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
        self._show(self.after, self.plan_after)

    def undo(self) -> None:
        self._show(self.before, self.plan_before)

    def _show(self, held: DocumentState, known: Planned | None) -> None:
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
