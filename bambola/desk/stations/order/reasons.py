"""Why the selected step is where it is, what to check, safety notes, and why it may not go elsewhere."""

from __future__ import annotations

from html import escape

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from bambola.core.facts import Fact
from bambola.core.methods.told import told as card_told
from bambola.core.order import Refusal, Step, waiting_for
from bambola.core.order.steps import duration_fact
from bambola.core.plan.counter.weighing import dress_told, laid_fact
from bambola.desk.kit.locale import day_words
from bambola.desk.kit.step_words import StepSheets
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.sitting_desk import Sittings
from bambola.desk.session.studio import EditorSession
from bambola.language import tr, trn


class Reasons(QScrollArea):
    """Why the selected step is where it is, what to check, and safety notes."""

    along_asked = pyqtSignal(object, int)
    unmove_asked = pyqtSignal()

    def __init__(
        self, studio: EditorSession, theme: Theme, sittings: Sittings, sheets: StepSheets
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.sittings, self.sheets = studio, theme, sittings, sheets
        self._step: Step | None = None
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(tr("About this step"))
        self._words = QLabel()
        self._words.setWordWrap(True)
        self._words.setAlignment(Qt.AlignmentFlag.AlignTop)
        self._words.setTextFormat(Qt.TextFormat.RichText)
        self._words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        page = QWidget()
        self._box = QVBoxLayout(page)
        self.along = QPushButton()
        self.along.clicked.connect(lambda _=False: self._go_along())
        self.unmove = QPushButton(tr("Put it back where it was"))
        self.unmove.clicked.connect(lambda _=False: self.unmove_asked.emit())
        self._box.addWidget(self.along, 0, Qt.AlignmentFlag.AlignLeft)
        self._box.addWidget(self.unmove, 0, Qt.AlignmentFlag.AlignLeft)
        self._box.addWidget(self._words)
        self._box.addStretch(1)
        self.setWidget(page)
        self._no: tuple[Refusal, int] | None = None
        theme.changed.connect(self._show_reasons)
        studio.plan_changed.connect(self._plan_changed)
        studio.units_changed.connect(self._show_reasons)

    def _plan_changed(self) -> None:
        """Drop a shown refusal, which was about another order."""
        self._no = None
        self._show_reasons()

    def show_step(self, step: Step) -> None:
        """Show the reasons of ``step``."""
        self._step, self._no = step, None
        self._show_reasons()

    def show_refusal(self, no: Refusal, to: int) -> None:
        """Show why the step may not go to place ``to``, and what would have to go with it."""
        self._no = (no, to)
        self._show_reasons()

    def _go_along(self) -> None:
        if self._no is not None:
            self.along_asked.emit(*self._no)

    def showEvent(self, event: object) -> None:
        self._show_reasons()

    def _step_now(self) -> Step | None:
        """Return the selected step of the present plan; None if it no longer exists."""
        plan, step = self.studio.plan, self._step
        if plan is None or step is None:
            return None
        return next((known for known in plan.steps if known.key == step.key), None)

    def _show_reasons(self) -> None:
        step = self._step_now()
        if step is None or not self.isVisible():
            return
        d, px, say = self.theme.dyes, self.theme.px, self.studio.say
        set_role(self._words, "body")
        quiet, madder = d.quiet.name(), d.madder.name()
        head = f"font-family:'Fraunces SemiBold'; font-size:{px(20)}px;"
        told = [f'<div style="{head}">{step.n}. {escape(say(step.text))}</div>']
        facts = [
            tr("needle {needle}", needle=step.needle) if step.needle else "",
            say(duration_fact((step,), self.studio.brief.runs)),
        ]
        told.append(f"<p style='color:{quiet}'>{' · '.join(f for f in facts if f)}</p>")
        told += self._forbidding_chain()
        told += self._wool_lines(step, madder)
        told += self._how_lines(step, madder)
        if step.checks:
            told.append(
                f"<p><b>{tr('Check')}</b><br>"
                f"{'<br>'.join(escape(say(check)) for check in step.checks)}</p>"
            )
        if step.why:
            after = ", ".join(map(str, step.after))
            told.append(
                f"<p><b>{tr('Why here')}</b> "
                f"<span style='color:{quiet}'>{tr('after {steps}', steps=after)}</span></p>"
            )
            told += [f"<p>{escape(say(why.text))}</p>" for why in step.why]
        else:
            told.append(f"<p style='color:{quiet}'>{tr('Nothing has to come before it.')}</p>")
        told += self._waiting_steps(step, quiet)
        told += [f"<p style='color:{madder}'>{escape(say(care))}</p>" for care in step.cautions]
        told += self._finish_lines(quiet)
        told += self._making_changes(quiet)
        self._words.setText("".join(told))
        self._show_buttons(step)

    def _show_buttons(self, step: Step) -> None:
        no = self._no[0] if self._no else None
        self.along.setVisible(no is not None and bool(no.along))
        if no is not None and no.along:
            n = len(no.along)
            self.along.setText(tr("Take {n} more along", n=n))
        moves = {move.step for move in self.studio.brief.moves}
        self.unmove.setVisible(step.key in moves)

    def _forbidding_chain(self) -> list[str]:
        """Return the chain of rules that forbids a place, link by link."""
        plan = self.studio.plan
        if self._no is None or plan is None:
            return []
        no, to = self._no
        say = self.studio.say
        words = {s.key: f"{s.n}. {say(s.text)}" for s in plan.steps}
        place = words[plan.steps[to].key]
        slip, ink = self.theme.dyes.slip.name(), self.theme.dyes.ink.name()
        refusal = tr("It cannot go where “{place}” is.", place=escape(place))
        told = [f"<b>{refusal}</b>"]
        for edge in no.chain:
            first, then = escape(words[edge.before]), escape(words[edge.after])
            rule = escape(say(Fact(f"rule.{edge.rule}")))
            told.append(
                tr("“{first}” comes before “{then}”: {rule}", first=first, then=then, rule=rule)
            )
        if not no.along:
            told.append(tr("Nothing that could go with it would allow it."))
        return [f"<div style='background:{slip}; color:{ink};'><p>{'</p><p>'.join(told)}</p></div>"]

    def _waiting_steps(self, step: Step, quiet: str) -> list[str]:
        """Return the steps that wait for this one, and why; the last checks wait for everything."""
        plan = self.studio.plan
        if plan is None or step.n > len(plan.order.tasks):
            return []
        told = []
        for n, why in waiting_for(plan.order, step.n):
            if n < len(plan.steps) - 1:
                waits = escape(f"{n}. {self.studio.say(plan.steps[n - 1].text)}")
                rules = " ".join(self.studio.say(reason.text) for reason in why)
                told.append(
                    f"<p>{tr('“{step}” waits for it.', step=waits)} "
                    f"<span style='color:{quiet}'>{escape(rules)}</span></p>"
                )
        return [f"<p><b>{tr('What follows')}</b></p>", *told] if told else []

    def _wool_lines(self, step: Step, madder: str) -> list[str]:
        """Return the wool the step lays, or the garment it puts on."""
        plan, say = self.studio.plan, self.studio.say
        if plan is None:
            return []
        wool = escape(say(laid_fact(plan, step, self.studio.bench)))
        dress = escape(say(dress_told(plan, step)))
        return [
            *([f"<p style='color:{madder}'><b>{wool}</b></p>"] if wool else []),
            *([f"<p>{dress}</p>"] if dress else []),
        ]

    def _how_lines(self, step: Step, madder: str) -> list[str]:
        """Return how the step is done, and when to stop."""
        sheet = self.sheets.sheet_of(step)
        if sheet is None:
            return []
        said = card_told(sheet.card, self.studio.say)
        how = "".join(
            f"<br><span style='color:{madder}'><b>{n}</b></span> {escape(line)}"
            for n, line in enumerate(said.how, 1)
        )
        stop = escape(tr("Stop: {stop}", stop=said.stop))
        return [
            f"<p><b>{tr('How')}</b>{how}</p>",
            f"<p style='color:{madder}'><b>{stop}</b></p>",
        ]

    def _finish_lines(self, quiet: str) -> list[str]:
        """Return when the figure will be finished, as far as the pace is known."""
        if self.sittings.calendar is None:
            return (
                [f"<p>{escape(self.sittings.reason_for_none)}</p>"]
                if self.sittings.reason_for_none
                else []
            )
        early, late = self.sittings.calendar.earliest, self.sittings.calendar.latest
        when = day_words(early)
        if late != early:
            when = tr("{early} to {late}", early=when, late=day_words(late))
        sittings = len(self.sittings.calendar.sittings)
        many = trn("in {n} sitting", "in {n} sittings", sittings)
        return [f"<p><b>{tr('Finished')}</b> {when} <span style='color:{quiet}'>{many}</span></p>"]

    def _making_changes(self, quiet: str) -> list[str]:
        """Return what is made differently than at the height the figure was made at."""
        plan = self.studio.plan
        if plan is None or not plan.changes:
            return []
        told = [f"<hr><p><b>{tr('What the new size changes')}</b></p>"]
        for change in plan.changes:
            say = self.studio.say
            cause = f"<br><span style='color:{quiet}'>{escape(say(change.cause))}</span>"
            told.append(f"<p>{escape(say(change.text))}{cause}</p>")
        return told
