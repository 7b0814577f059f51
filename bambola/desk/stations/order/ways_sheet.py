"""*How you work*: every choice of making on one sheet, with where it acts on figure and thread."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QRadioButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure.schools import ChoiceId
from bambola.core.order import CHOICES, Choice, OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.differing import Difference, compare_plans
from bambola.core.quantities import show_mass
from bambola.core.relief import Camera
from bambola.core.resize import ResizeError
from bambola.core.words import error_words
from bambola.desk.kit.buttons import show_switch
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.painters.marks import outline_parts
from bambola.desk.kit.painters.wool import paint_bead
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.kit.thread import bead_colour
from bambola.desk.running.background import Background
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.language import tr, trn

WISH = "ways"
CAMERA = Camera(turn=14, tip=3)
_FAINT = 0.22
_PER_LINE = 16


class WhereItActs(QWidget):
    """The figure with the affected parts outlined, and its beads below, affected ones filled."""

    def __init__(self, studio: EditorSession, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__()
        self.studio, self.theme, self.darkroom = studio, theme, darkroom
        self.parts: frozenset[str] = frozenset()
        self.steps: frozenset[str] = frozenset()
        self._print: RenderResult | None = None
        self._outlined: QPixmap | None = None
        self._told = ""
        self.setMinimumSize(theme.px(190), theme.px(240))
        darkroom.developed.connect(self._developed)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(400), self.theme.px(520))

    def show_difference(self, *found: Difference) -> None:
        """Show where these differences act, together."""
        self.parts = frozenset[str]().union(*(each.parts for each in found))
        self.steps = frozenset[str]().union(*(each.steps for each in found))
        plan = self.studio.plan
        n = len(self.steps & {step.key for step in plan.steps}) if plan else 0
        parts = trn("{n} part", "{n} parts", len(self.parts))
        steps = trn("{n} step", "{n} steps", n)
        if n and self.parts:
            self._told = tr("acts on {parts}, at {steps}", parts=parts, steps=steps)
        elif n or self.parts:
            self._told = tr("acts on {what}", what=steps if n else parts)
        else:
            self._told = tr("nothing is changed here")
        self.setAccessibleName(self._told)
        self._outlined = None
        self.update()

    def request_picture(self) -> None:
        """Request a picture of the figure as planned now."""
        plan = self.studio.plan
        if plan is None:
            return
        placement = plan.solids.placement
        tall = max(60.0, self._figure_box().height()) * self.devicePixelRatioF()
        step = 1.12 * placement.height / tall
        self.darkroom.request(WISH, RenderRequest(placement, CAMERA, step, 2))

    def showEvent(self, event: object) -> None:
        self.request_picture()

    def _developed(self, name: str, made: RenderResult) -> None:
        plan = self.studio.plan
        if name == WISH and plan is not None and made.shot.placement is plan.solids.placement:
            self._print, self._outlined = made, None
            self.update()

    @property
    def _line_count(self) -> int:
        count = len(self.studio.plan.steps) if self.studio.plan else 0
        return -(-count // _PER_LINE)

    def _figure_box(self) -> QRectF:
        px = self.theme.px
        foot = px(30) + self._line_count * px(26)
        return QRectF(0, 0, self.width(), max(px(80), self.height() - foot))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan = self.studio.plan
        if plan is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        box, px, d = self._figure_box(), self.theme.px, self.theme.dyes
        if self._print is not None:
            if self._outlined is None:
                lines = [(part, d.madder) for part in sorted(self.parts)]
                self._outlined = outline_parts(self._print, lines, self.devicePixelRatioF())
            seen = self._outlined
            share = min(box.width() / seen.width(), box.height() / seen.height())
            wide, tall = seen.width() * share, seen.height() * share
            where = QRectF(box.center().x() - wide / 2, box.bottom() - tall, wide, tall)
            painter.drawPixmap(where, seen, QRectF(seen.rect()))
        painter.setPen(d.ink)
        painter.setFont(self.theme.text(15, bold=True))
        line = QRectF(0, box.bottom() + px(4), self.width(), px(22))
        painter.drawText(line, Qt.AlignmentFlag.AlignHCenter, self._told)
        self._paint_beads(painter, line.bottom() + px(14))

    def _paint_beads(self, painter: QPainter, top: float) -> None:
        """Paint the thread in lines of beads, from left to right."""
        plan, px, d = self.studio.plan, self.theme.px, self.theme.dyes
        assert plan is not None
        gap, radius = (self.width() - 2 * px(18)) / (_PER_LINE - 1), px(8)
        places = [
            QPointF(px(18) + i % _PER_LINE * gap, top + i // _PER_LINE * px(26))
            for i in range(len(plan.steps))
        ]
        for first in range(0, len(places), _PER_LINE):
            path = QPainterPath(places[first])
            path.lineTo(places[min(first + _PER_LINE, len(places)) - 1])
            painter.setPen(QPen(d.edge, px(2)))
            painter.drawPath(path)
        for place, step in zip(places, plan.steps, strict=True):
            acts = step.key in self.steps
            painter.setOpacity(1.0 if acts else _FAINT)
            colour: QColor = bead_colour(step, self.studio, self.theme)
            paint_bead(painter, place, radius if acts else radius * 0.7, step, colour, self.theme)
            if acts:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(d.madder, px(2)))
                painter.drawEllipse(place, radius * 1.5, radius * 1.5)
        painter.setOpacity(1.0)


_FEW_MINUTES = 5.0
_FEW_GRAMS = 0.05
"""Less is not worth telling."""


def _time_words(minutes: float) -> str:
    """Return a time in words: to five minutes, or to half an hour if it is long."""
    if minutes < 90:
        return tr("{n} minutes", n=round(minutes / 5) * 5)
    return tr("{n:g} hours", n=round(minutes / 30) / 2)


class WayCard(QFrame):
    """One choice: its name and school; unfolded, all its schools and what each would change."""

    taken_up = pyqtSignal(str)
    chosen = pyqtSignal(str, str)

    def __init__(self, studio: EditorSession, theme: Theme, choice: Choice) -> None:
        super().__init__()
        self.studio, self.theme, self.choice = studio, theme, choice
        say = studio.say
        self.head = QPushButton()
        self.head.setCheckable(True)
        set_role(self.head, tone="left")
        self.head.clicked.connect(lambda _=False: self.taken_up.emit(choice.id))
        self.ways: dict[str, QRadioButton] = {}
        self.told: dict[str, QLabel] = {}
        self._body = QWidget()
        body = QVBoxLayout(self._body)
        body.setContentsMargins(theme.px(18), theme.px(4), theme.px(6), theme.px(8))
        body.setSpacing(theme.px(1))
        group = QButtonGroup(self)
        for school in choice.schools:
            way = self.ways[school] = QRadioButton(say(choice.school_name(school)))
            set_role(way, "strong")
            way.toggled.connect(
                lambda on, school=school: self.chosen.emit(choice.id, school) if on else None
            )
            group.addButton(way)
            told = self.told[school] = QLabel()
            told.setWordWrap(True)
            set_role(told, "note")
            told.setContentsMargins(theme.px(24), 0, 0, theme.px(4))
            body.addWidget(way)
            body.addWidget(told)
        why = QLabel(tr("Usual: {usual}, because {why}.", usual=say(choice.school_name(choice.default)),
                        why=say(choice.reason)))  # fmt: skip
        why.setWordWrap(True)
        set_role(why, "small")
        body.addWidget(why)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(4))
        column.addWidget(self.head)
        column.addWidget(self._body)
        self.show_at(choice.default)
        self.unfold(False)

    @property
    def is_unfolded(self) -> bool:
        """Whether its schools are shown."""
        return not self._body.isHidden()

    def unfold(self, on: bool) -> None:
        """Show its schools, or its name alone."""
        self._body.setVisible(on)
        show_switch(self.head, on)

    def show_at(self, school: str) -> None:
        """Show which school is followed."""
        say, choice = self.studio.say, self.choice
        self.head.setText(f"{say(choice.name)}: {say(choice.school_name(school))}")
        show_switch(self.ways[school], True)

    def show_school(self, school: str, consequence: str) -> None:
        """Show what a school does, and its effect."""
        does = self.studio.say(self.choice.what_makers_do(school))
        text = f"{does}. {consequence}"
        self.told[school].setText(text[:1].upper() + text[1:])
        self.ways[school].setAccessibleDescription(text)


class WaysSheet(FittedDialog):
    """The choices of this figure; those left as usual are folded away below the others."""

    def __init__(
        self, parent: QWidget, studio: EditorSession, theme: Theme, darkroom: RenderQueue
    ) -> None:
        super().__init__(parent)
        self.studio, self.theme = studio, theme
        self.setWindowTitle(tr("How you work"))
        self._work = Background("ways")
        self._found: dict[tuple[str, str], Difference | str] = {}
        self._of: Plan | None = None
        self._in_hand: ChoiceId | None = None
        self.cards = {choice.id: WayCard(studio, theme, choice) for choice in CHOICES}
        self.more = QPushButton()
        self.more.setCheckable(True)
        self.more.toggled.connect(lambda _: self._lay_out_cards())
        self.where = WhereItActs(studio, theme, darkroom)
        self._settle = one_shot_timer(self, 0)  # when the card has its new height
        self._settle.timeout.connect(self._bring_in)
        self._compose()
        for card in self.cards.values():
            card.taken_up.connect(self._take_up)
            card.chosen.connect(self._choose_school)
        studio.plan_changed.connect(self._update_effects)
        self.finished.connect(self._put_away)
        self._update_effects()
        self._take_up(next((c.id for c in self._shown_choices()), None))

    def _compose(self) -> None:
        px = self.theme.px
        lead = QLabel(
            tr(
                "Everyone does these differently, and all of it is right. The rings show where "
                "a choice acts; the steps follow as you choose."
            )
        )
        lead.setWordWrap(True)
        set_role(lead, "body")
        page = QWidget()
        self._column = QVBoxLayout(page)
        self._column.setSpacing(px(8))
        for card in self.cards.values():
            self._column.addWidget(card)
        self._column.addWidget(self.more, 0, Qt.AlignmentFlag.AlignLeft)
        self._column.addStretch(1)
        scroll = self._scroll = scroll_area(page)
        row = QHBoxLayout()
        row.addWidget(scroll, 5)
        row.addWidget(self.where, 4)
        done = QPushButton(tr("Done"))
        done.setDefault(True)
        done.clicked.connect(lambda _=False: self.accept())
        column = QVBoxLayout(self)
        column.setContentsMargins(px(22), px(18), px(22), px(16))
        column.setSpacing(px(12))
        column.addWidget(lead)
        column.addLayout(row, 1)
        column.addWidget(done, 0, Qt.AlignmentFlag.AlignRight)
        self.set_size(self.theme, 900, 660)

    # What is shown

    def school(self, choice: Choice) -> str:
        """Return the school that is followed."""
        at = self.studio.brief.schools.get(choice.id, choice.default)
        return at if at in choice.schools else choice.default

    def _shown_choices(self) -> list[Choice]:
        plan = self.studio.plan
        there = [c for c in CHOICES if plan is not None and c.id in plan.choices]
        return sorted(there, key=lambda c: self.school(c) == c.default)

    def _lay_out_cards(self) -> None:
        """Lay out the changed choices first, and the others on request or if there are no changed ones."""
        shown = self._shown_choices()
        usual = [c for c in shown if self.school(c) == c.default]
        folded = 0 < len(usual) < len(shown) and not self.more.isChecked()
        for at, choice in enumerate(shown):
            self._column.removeWidget(self.cards[choice.id])
            self._column.insertWidget(at, self.cards[choice.id])
        for choice in CHOICES:
            hidden = choice not in shown or (
                folded and choice in usual and choice.id != self._in_hand
            )
            self.cards[choice.id].setVisible(not hidden)
        hidden_now = sum(self.cards[c.id].isHidden() for c in usual)
        self.more.setVisible(len(usual) < len(shown))
        self.more.setText(
            trn("{n} more as usual", "{n} more as usual", hidden_now)
            if hidden_now
            else tr("Hide the usual choices")
        )

    def _update_effects(self) -> None:
        """Update the effects after the plan has changed."""
        if self.studio.plan is None:
            self.reject()
            return
        self._of = self.studio.plan
        self._found.clear()
        for choice in CHOICES:
            self.cards[choice.id].show_at(self.school(choice))
        self._lay_out_cards()
        self.where.request_picture()
        if self._in_hand:
            self._work_out(self._in_hand)

    def _take_up(self, choice: ChoiceId | None) -> None:
        """Unfold a choice; a second click folds it."""
        self._in_hand = None if choice == self._in_hand else choice
        for name, card in self.cards.items():
            card.unfold(name == self._in_hand)
        self._lay_out_cards()
        if not self._in_hand:
            self.where.show_difference()
            return
        self._work_out(self._in_hand)
        self._settle.start()

    def _bring_in(self) -> None:
        """Give the cards the width they need, and scroll to the unfolded one."""
        page, bar = self._scroll.widget(), self._scroll.verticalScrollBar()
        if page is not None and bar is not None:
            needs = page.minimumSizeHint().width() + bar.sizeHint().width()
            self._scroll.setMinimumWidth(max(self.theme.px(330), needs))
        if self._in_hand:
            self._scroll.ensureWidgetVisible(self.cards[self._in_hand], 0, self.theme.px(12))

    def _choose_school(self, choice: ChoiceId, school: str) -> None:
        default = next(c.default for c in CHOICES if c.id == choice)
        self.studio.school(choice, None if school == default else school)

    # Consequences

    def _work_out(self, choice_id: str) -> None:
        choice = next(c for c in CHOICES if c.id == choice_id)
        self._show_effect(choice)
        for school in choice.schools:
            if (choice.id, school) not in self._found and school != self.school(choice):
                self._ask_for_effect(choice, school)

    def _ask_for_effect(self, choice: Choice, school: str) -> None:
        studio, of = self.studio, self._of
        figure, bench = studio.figure, studio.bench
        if figure is None or of is None:
            return
        brief = studio.brief.schooled(choice.id, None if school == choice.default else school)

        def work() -> Difference:
            return compare_plans(of, make_plan(figure, brief, bench), choice)

        def take(found: Difference | str) -> None:
            if self._of is of:
                self._found[choice.id, school] = found
                self._show_effect(choice)

        def fail(error: Exception) -> None:
            refused = isinstance(error, ResizeError | OrderConflictError)
            take(error_words(error, studio.words) if refused else tr("cannot be worked out"))

        self._work.do(work, take, fail)

    def _show_effect(self, choice: Choice) -> None:
        card, at = self.cards[choice.id], self.school(choice)
        for school in choice.schools:
            if school == at:
                card.show_school(school, tr("As it is now."))
                continue
            found = self._found.get((choice.id, school))
            if found is None:
                card.show_school(school, "…")
            else:
                card.show_school(
                    school, found if isinstance(found, str) else self._effect_words(found)
                )
        if choice.id == self._in_hand:
            mine = [f for (c, _), f in self._found.items() if c == choice.id]
            self.where.show_difference(*(f for f in mine if isinstance(f, Difference)))

    def _effect_words(self, found: Difference) -> str:
        """Return the effect of a school in words."""
        told = []
        if found.moved:
            told.append(trn("moves {n} step", "moves {n} steps", len(found.moved)))
        if found.new:
            told.append(trn("adds {n} step", "adds {n} steps", len(found.new)))
        if found.gone:
            told.append(trn("saves {n} step", "saves {n} steps", len(found.gone)))
        if found.otherwise:
            n = len(found.otherwise)
            told.append(trn("{n} step is done differently", "{n} steps are done differently", n))
        if abs(found.grams) >= _FEW_GRAMS:
            mass = show_mass(abs(found.grams), self.studio.units)
            more = found.grams > 0
            told.append(
                tr("{mass} more wool", mass=mass) if more else tr("{mass} less wool", mass=mass)
            )
        if abs(found.minutes) >= _FEW_MINUTES:
            time = _time_words(abs(found.minutes))
            more = found.minutes > 0
            told.append(tr("{time} longer", time=time) if more else tr("{time} less", time=time))
        text = ", ".join(told) or tr("changes nothing here")
        return f"{text[:1].upper()}{text[1:]}."

    def _put_away(self) -> None:
        self._work.close()
        self.studio.plan_changed.disconnect(self._update_effects)
