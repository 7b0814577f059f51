"""The studio: the one mutable thing in the desk. It holds the figure, the brief and the plan.

Widgets read it and listen; every change goes through its undo stack.
"""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from bambola.core.figure import Bench, Brief, Document, DocumentError, Figure, SizeRule
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.quantities import Units
from bambola.core.resize import ResizeError
from bambola.core.solids import Placement, place
from bambola.demo import default_bench
from bambola.store import open_design, save_design


class Studio(QObject):
    """Figure, brief, bench, plan and selection, announcing their changes."""

    figure_changed = pyqtSignal()
    plan_changed = pyqtSignal()
    selection_changed = pyqtSignal()
    units_changed = pyqtSignal()
    file_changed = pyqtSignal()
    refused = pyqtSignal(str)

    def __init__(self, bench: Bench | None = None) -> None:
        super().__init__()
        self.bench = bench or default_bench()
        self.figure: Figure | None = None
        self.brief = Brief()
        self.plan: Plan | None = None
        self.path: Path | None = None
        self.units = Units()
        self.selected: str | None = None
        self._as_made: Placement | None = None
        self.undo_stack = QUndoStack(self)
        self.undo_stack.cleanChanged.connect(lambda _: self.file_changed.emit())

    # What is open

    def take(self, document: Document, path: Path | None) -> None:
        """Put a checked document on the table; raises if it cannot be planned."""
        brief = document.brief
        if brief.height is None:
            made = make_plan(document.figure, brief, self.bench)
            brief = brief.at(made.from_height_mm)
        plan = make_plan(document.figure, brief, self.bench)
        self.figure, self.brief, self.plan, self.path = document.figure, brief, plan, path
        biggest = max(
            plan.parts, key=lambda part: part.net_cm3 * (part.id != document.figure.parts[0].id)
        )
        self.selected = biggest.id
        self.undo_stack.clear()
        self.figure_changed.emit()
        self.plan_changed.emit()
        self.selection_changed.emit()
        self.file_changed.emit()

    def open(self, path: Path) -> bool:
        """Open a design; a refused file leaves everything as it is and says why."""
        try:
            self.take(open_design(path, self.bench), path)
        except (DocumentError, ResizeError, OrderConflictError) as error:
            self.refused.emit(str(error))
            return False
        return True

    def save(self, path: Path) -> bool:
        """Save to ``path``; on failure says why and stays unsaved."""
        assert self.figure is not None
        try:
            save_design(path, self.figure, self.brief)
        except OSError as error:
            self.refused.emit(str(error))
            return False
        self.path = path
        self.undo_stack.setClean()
        self.file_changed.emit()
        return True

    @property
    def is_saved(self) -> bool:
        """Whether nothing would be lost by closing."""
        return self.figure is None or self.undo_stack.isClean()

    def placement_as_made(self) -> Placement:
        """The figure as it was made, placed; worked out once for each figure."""
        assert self.figure is not None
        if self._as_made is None or self._as_made.figure is not self.figure:
            self._as_made = place(self.figure)
        return self._as_made

    # What is asked

    def set_height(self, mm: float, gesture: int = 0) -> bool:
        """Ask for another finished height; one ``gesture`` is one step of undo."""
        return self._ask(self.brief.at(mm), "Change the height", gesture)

    def answer(self, code: str, option: str | None) -> bool:
        """Answer a question, or take the answer back."""
        return self._ask(self.brief.answered(code, option), "Answer a question")

    def hold(self, part: str, held: bool) -> bool:
        """Hold a part at the size it was made, or let it follow the height again."""
        rules = (SizeRule(rule="hold"),) if held else ()
        return self._ask(self.brief.ruled(part, rules), "Hold a size" if held else "Let a size go")

    def is_held(self, part: str) -> bool:
        """Whether the brief holds the whole part."""
        return any(r.rule == "hold" and r.measure == "all" for r in self.brief.rules.get(part, ()))

    def _ask(self, brief: Brief, words: str, gesture: int = 0) -> bool:
        if self.figure is None or brief == self.brief:
            return self.figure is not None
        try:
            plan = make_plan(self.figure, brief, self.bench)
        except (ResizeError, OrderConflictError) as error:
            self.refused.emit(str(error))
            return False
        self.undo_stack.push(_BriefChange(self, brief, plan, words, gesture))
        return True

    def show(self, brief: Brief, plan: Plan) -> None:
        """Put a brief and its plan in place; for undo commands only."""
        self.brief, self.plan = brief, plan
        self.plan_changed.emit()

    # How it is looked at

    def select(self, part: str | None) -> None:
        """Bring a part to hand."""
        if part != self.selected:
            self.selected = part
            self.selection_changed.emit()

    def set_units(self, units: Units) -> None:
        """Show lengths and weights in other units."""
        self.units = units
        self.units_changed.emit()


class _BriefChange(QUndoCommand):
    """One frozen brief in place of another."""

    def __init__(self, studio: Studio, brief: Brief, plan: Plan, words: str, gesture: int) -> None:
        super().__init__(words)
        self.studio, self.gesture = studio, gesture
        self.before, self.after = (studio.brief, studio.plan), (brief, plan)

    def id(self) -> int:
        return self.gesture or -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, _BriefChange) or other.gesture != self.gesture:
            return False
        self.after = other.after
        return True

    def redo(self) -> None:
        brief, plan = self.after
        assert plan is not None
        self.studio.show(brief, plan)

    def undo(self) -> None:
        brief, plan = self.before
        assert plan is not None
        self.studio.show(brief, plan)
