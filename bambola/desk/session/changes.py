"""One change of what is on the table, to be undone as a whole."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from PyQt6.QtGui import QUndoCommand

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure, Survey
from bambola.core.plan import Plan, make_plan

if TYPE_CHECKING:
    from bambola.desk.session.studio import Studio


@dataclass(frozen=True)
class Held:
    """The frozen values on the table, replaced together."""

    figure: Figure
    brief: Brief
    survey: Survey


class Change(QUndoCommand):
    """Some frozen values in place of others."""

    def __init__(self, studio: Studio, held: Held, plan: Plan, words: str, gesture: int) -> None:
        super().__init__(words)
        self.studio, self.gesture = studio, gesture
        assert studio.plan is not None
        self.before = (studio.now(), studio.plan, studio.bench)
        self.after = (held, plan, studio.bench)

    def id(self) -> int:
        return self.gesture or -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, Change) or other.gesture != self.gesture:
            return False
        self.after = other.after
        return True

    def redo(self) -> None:
        self._show(*self.after)

    def undo(self) -> None:
        self._show(*self.before)

    def _show(self, held: Held, plan: Plan, bench: Bench) -> None:
        if bench is not self.studio.bench:  # counted or learned anew in the meantime
            plan = make_plan(held.figure, held.brief, self.studio.bench)
        self.studio.show(held, plan)
