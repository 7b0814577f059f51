"""The choices of the order as switches: each school says what it would move before it is taken."""

from __future__ import annotations

import difflib
from collections.abc import Sequence

from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QMenu, QPushButton, QWidget

from bambola.core.figure import Brief
from bambola.core.order import CHOICES, Choice, OrderConflictError, Step
from bambola.core.plan import make_plan
from bambola.core.resize import ResizeError
from bambola.core.words import Words, error_words
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import Studio
from bambola.language import tr


class Switches(QWidget):
    """One button for every choice that this figure has; its menu previews each school."""

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.buttons: dict[str, QPushButton] = {}
        flow = FlowLayout(self)
        for choice in CHOICES:
            button = QPushButton()
            menu = QMenu(button)
            menu.aboutToShow.connect(lambda menu=menu, choice=choice: self.fill(menu, choice))
            button.setMenu(menu)
            button.setAccessibleName(studio.say(choice.name))
            flow.addWidget(button)
            self.buttons[choice.id] = button
        studio.plan_changed.connect(self.refresh)
        self.refresh()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Show the choices that apply, and what is chosen."""
        plan = self.studio.plan
        if plan is None or not self.isVisible():
            return
        for choice in CHOICES:
            button = self.buttons[choice.id]
            button.setVisible(choice.id in plan.choices)
            at = self.studio.brief.schools.get(choice.id, choice.default)
            school = at if at in choice.schools else choice.default
            say = self.studio.say
            name, way = say(choice.name), say(choice.called(school))
            button.setText(name if at == choice.default else f"{name}: {way}")
            usual, why = say(choice.called(choice.default)), say(choice.why)
            button.setToolTip(
                tr(
                    "{way}: {does}. Usual: {usual}, because {why}.",
                    way=way,
                    does=say(choice.does(school)),
                    usual=usual,
                    why=why,
                )
            )

    def fill(self, menu: QMenu, choice: Choice) -> None:
        """Offer the schools of a choice with what each would change."""
        menu.clear()
        at = self.studio.brief.schools.get(choice.id, choice.default)
        for school in choice.schools:
            way = self.studio.say(choice.called(school))
            action = QAction(f"{way}: {self.preview(choice, school)}", menu)
            action.setCheckable(True)
            action.setChecked(school == at)
            chosen = None if school == choice.default else school
            action.triggered.connect(
                lambda _=False, c=choice.id, s=chosen: self.studio.school(c, s)
            )
            menu.addAction(action)

    def preview(self, choice: Choice, school: str) -> str:
        """What a school would move, in words."""
        studio = self.studio
        if studio.figure is None or studio.plan is None:
            return ""
        if studio.brief.schools.get(choice.id, choice.default) == school:
            return tr("as it is now")
        brief: Brief = studio.brief.schooled(
            choice.id, None if school == choice.default else school
        )
        try:
            other = make_plan(studio.figure, brief, studio.bench)
        except (ResizeError, OrderConflictError) as error:
            return error_words(error, studio.words)
        return preview_words(studio.plan.steps, other.steps, studio.words)


def preview_words(now: Sequence[Step], then: Sequence[Step], words: Words) -> str:
    """How many steps another order moves, adds or words otherwise, and the first of them."""
    keys, others = [s.key for s in now], [s.key for s in then]
    blocks = difflib.SequenceMatcher(None, keys, others, autojunk=False).get_matching_blocks()
    stay = {others[b.b + i] for b in blocks for i in range(b.size)}
    moved = [s for s in then if s.key not in stay]
    was = {s.key: s for s in now}
    other = [
        s
        for s in then
        if s.key in stay and (s.text, s.needle) != (was[s.key].text, was[s.key].needle)
    ]
    told = []
    if moved:
        more = tr(" and {n} more", n=len(moved) - 1) if len(moved) > 1 else ""
        told.append(tr("moves “{text}”{more}", text=words.say(moved[0].text), more=more))
    if other:
        told.append(tr("{n} steps are done otherwise", n=len(other)))
    return ", ".join(told) or tr("changes nothing here")
