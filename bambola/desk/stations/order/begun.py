"""The plan a making was begun with.

If the design has changed since, the differences are shown, and the maker must first choose the new plan or
return to the old one. If a newer program plans the same design differently, the cards stay as they were until
the maker chooses the new ones.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QFrame, QLabel, QPushButton, QVBoxLayout, QWidget

from bambola.core.bench import Making
from bambola.core.bench.making import KeptCard
from bambola.core.book.kept import design_then
from bambola.core.facts import NOTHING
from bambola.core.figure import Document
from bambola.core.methods.told import cards_told
from bambola.core.order import Step
from bambola.core.order.keys import TaskKey
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.differing import Difference, compare_plans
from bambola.core.quantities import show_length, show_mass
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.session.changes import REFUSALS
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


def on_the_table(studio: EditorSession) -> str:
    """Return the figure and brief in the form a making keeps them."""
    assert studio.figure is not None
    return Document(figure=studio.figure, brief=studio.brief).model_dump_json()


def begun_with(making: Making, studio: EditorSession) -> Document | None:
    """Return what a making was begun with, if that differs from the open design."""
    begun = design_then(making)
    if begun is None or studio.figure is None:
        return None  # if it was written by another version, what lies on the table goes on
    same = begun.figure == studio.figure and begun.brief == studio.brief
    return None if same else begun


def steps_as_begun(cards: Sequence[KeptCard], steps: Sequence[Step]) -> tuple[Step, ...]:
    """Return the steps whose ``cards`` were saved, in order: each as it is in ``steps`` now, or with only its
    key if it no longer exists."""
    known: dict[str, Step] = {step.key: step for step in steps}
    found = []
    for n, card in enumerate(cards, 1):
        key = TaskKey(card.step)
        gone = Step(n, "", None, NOTHING, (), (), None, None, 0.0, (), (), key, "")
        found.append(replace(known[key], n=n) if key in known else gone)
    return tuple(found)


class LookingBack(QObject):
    """Plans what a making was begun with, off the interface thread, and reports the differences."""

    told = pyqtSignal(str)

    def __init__(self, studio: EditorSession) -> None:
        super().__init__()
        self._studio = studio
        self._background = Background("begun")
        self._job: BackgroundJob | None = None

    def ask(self, begun: Document) -> None:
        """Find the differences and report them later; nothing is reported if no step differs."""
        self.call_off()
        bench = self._studio.bench

        def failed(error: Exception) -> None:
            if isinstance(error, REFUSALS):
                self.told.emit(tr("The plan you began with can no longer be made."))
            elif not isinstance(error, CalledOffError):
                self.told.emit(log_error(error))

        def planned(then: Plan) -> None:
            if self._job is job and self._studio.plan is not None:
                self.told.emit(_what_changed(then, self._studio.plan, self._studio))

        job = self._background.do(
            lambda: make_plan(begun.figure, begun.brief, bench), planned, failed
        )
        self._job = job

    def tell_cards(self, plan: Plan, then: Callable[[tuple[KeptCard, ...]], None]) -> None:
        """Call ``then`` with the texts of the cards of ``plan``."""
        bench, say = self._studio.bench, self._studio.say

        def failed(error: Exception) -> None:
            if not isinstance(error, (*REFUSALS, CalledOffError)):
                log_error(error)

        self._background.do(lambda: cards_told(plan, bench, say), then, failed)

    def call_off(self) -> None:
        """Cancel the request."""
        if self._job is not None:
            self._job.stop.set()
            self._job = None

    def close(self) -> None:
        """Stop for good."""
        self.call_off()
        self._background.close()


def _what_changed(then: Plan, now: Plan, studio: EditorSession) -> str:
    found = compare_plans(then, now)
    height = then.to_height_mm != now.to_height_mm
    if not (height or found.steps or found.parts):
        return ""
    return " ".join(_difference_lines(found, then, now, studio))


def _difference_lines(found: Difference, then: Plan, now: Plan, studio: EditorSession) -> list[str]:
    units = studio.units
    said = [tr("The plan has changed since you began this.")]
    if then.to_height_mm != now.to_height_mm:
        high, was = (show_length(plan.to_height_mm, units) for plan in (now, then))
        said.append(tr("Height: {now}, it was {then}.", now=high, then=was))
    otherwise = len(found.otherwise) + len(found.moved)
    if found.new:
        said.append(tr("New steps: {n}.", n=len(found.new)))
    if found.gone:
        said.append(tr("Steps that are gone: {n}.", n=len(found.gone)))
    if otherwise:
        said.append(tr("Steps done differently or at another time: {n}.", n=otherwise))
    if abs(found.grams) >= 0.01:
        grams = show_mass(abs(found.grams), units)
        more = found.grams > 0
        said.append(
            tr("Wool: {grams} more.", grams=grams)
            if more
            else tr("Wool: {grams} less.", grams=grams)
        )
    names = [part.name for part in now.parts if part.id in found.parts]
    if 0 < len(names) <= len(now.parts) / 2:
        said.append(tr("Seen on: {parts}.", parts=", ".join(names)))
    return said


class BegunSlip(QFrame):
    """Shows what has changed since the making was begun, and asks which plan to follow. ``asks``: it must be
    answered first."""

    taken = pyqtSignal()
    gone_back = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.setObjectName("begun")
        self.asks = False
        self._words = QLabel()
        self._words.setWordWrap(True)
        self.take, self.back = (
            QPushButton(tr("Take the new plan")),
            QPushButton(tr("Back to the plan you began with")),
        )
        self.take.clicked.connect(lambda _=False: self.taken.emit())
        self.back.clicked.connect(lambda _=False: self.gone_back.emit())
        buttons = QWidget()
        self._column, row = QVBoxLayout(self), FlowLayout(buttons)
        row.addWidget(self.take)
        row.addWidget(self.back)
        self._column.addWidget(self._words)
        self._column.addWidget(buttons)
        self.hide()
        set_role(self._words, "large")
        set_role(self, "note-slip")
        set_spacing(self.theme, self._column, (12, 8, 12, 10))

    def wait(self) -> None:
        """Show that changes are being looked for; nothing can be answered before."""
        self.show_message(tr("Checking what has changed since you began…"))
        for button in (self.take, self.back):
            button.setEnabled(False)

    def show_message(self, words: str, asks: bool = True, has_old: bool = True) -> None:
        """Ask, or hide if there is nothing to say. Unless it ``asks``, no answer is needed; it offers the old
        plan if that can be made."""
        self.asks = asks and bool(words)
        self.back.setVisible(has_old)
        for button in (self.take, self.back):
            button.setEnabled(True)
        self._words.setText(words)
        self.setAccessibleName(words)
        self.setVisible(bool(words))
