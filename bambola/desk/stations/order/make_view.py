"""*Make it*: one step at a time in large type, for beside the felting pad."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent

from bambola.core.bench.making import Outcome
from bambola.core.facts import NOTHING
from bambola.core.figure.fields import MOST_NOTE
from bambola.core.methods import Card, StepSheet
from bambola.core.methods.alike import alike_amount, alike_rows, alike_title
from bambola.core.methods.slots import time_range
from bambola.core.methods.told import for_one_who_knows, in_short
from bambola.core.order import Step
from bambola.core.order.steps import base_part, duration_fact
from bambola.core.plan import Plan
from bambola.core.plan.counter.carry_on import felted_at, place_in
from bambola.core.plan.counter.weighing import dress_told
from bambola.core.wool.learning import is_credible
from bambola.core.wool.pan import is_right_size
from bambola.desk.kit.hold_view import HoldView
from bambola.desk.kit.menu_action import presses_button
from bambola.desk.kit.step_words import CardNotes, new_in
from bambola.desk.kit.thread import take_up
from bambola.desk.running.timers import start_unless_running
from bambola.desk.stations.order.make_page import SEEN, MakePage
from bambola.desk.stations.order.mended import with_mended
from bambola.desk.stations.order.rescue_box import RescueBox
from bambola.language import tr


class MakeView(MakePage):
    """The current step: how it is done in words and as a picture, when to stop, and a clock. Space goes
    on."""

    left = pyqtSignal()
    lesson_ended = pyqtSignal(str)
    finished = pyqtSignal(str)
    """All its steps are done, of a lesson or of a figure: the id of the making."""

    def _connect_signals(self) -> None:
        self.which.chosen.connect(self.take_other)
        self.begun.taken.connect(self.take_plan)
        self.begun.gone_back.connect(self.go_back)
        self.looking_back.told.connect(self._looked_back)
        self.note.ended.connect(self.setFocus)
        self.note.inputRejected.connect(self._note_full)
        self.note.textEdited.connect(self._note_typed)
        self.note.textEdited.connect(lambda _: start_unless_running(self._note_soon))
        self.note.editingFinished.connect(self._keep_note)
        self.done.clicked.connect(lambda _=False: self.step(1))
        self.back.clicked.connect(lambda _=False: self.step(-1))
        self.pause.toggled.connect(self._on_paused)
        self.leave.clicked.connect(lambda _=False: self.left.emit())
        self.wrong.clicked.connect(lambda _=False: self.ask_rescue())
        self.hold.clicked.connect(lambda _=False: self.hold_here())
        self.fold.clicked.connect(lambda _=False: self.turn_fold())
        self.singly.clicked.connect(lambda _=False: self.turn_singly())
        self.came_out.clicked.connect(lambda _=False: self.read_piece())
        self._tick.timeout.connect(self._tell_clock)
        self._keeping.timeout.connect(self._keep_clock)
        self.desk.changed.connect(self._on_database_changed)
        self.studio.design_copied.connect(self._on_design_copied)
        self.studio.plan_changed.connect(self._plan_changed)
        self.studio.units_changed.connect(self.refresh)
        self.lesson.changed.connect(self.refresh)
        self.theme.changed.connect(self._restyle)

    # What is in hand

    @property
    def current_index(self) -> int:
        """The index of the current step."""
        keys: list[str] = [step.key for step in self.steps]
        step = self.studio.selection.step
        return keys.index(step) if step in keys else 0

    @property
    def current_step(self) -> Step | None:
        """The current step."""
        return self.steps[self.current_index] if self.steps else None

    def showEvent(self, event: object) -> None:
        self.resume()

    def hideEvent(self, event: object) -> None:
        self._stop_clock()
        self._keeping.stop()
        self._keep_note()
        self._save_minutes()
        self.looking_back.call_off()  # it is looked at again when this is shown

    def resume(self) -> None:
        """Continue where the maker stopped."""
        self._load_making()
        self.which.refresh()
        if self.steps:
            take_up(self.studio, self.steps[place_in(self.steps, self.making)])
        self.pause.setChecked(False)
        self._cautioned.clear()
        told = self.welcome_back() or self.undecided()
        self.welcome.setText(told)
        self._show_lead()
        self.trial.show_for(self.making, self.lesson.is_on)
        self._since = self.clock()
        self._tick.start()
        self._keeping.start()
        self.setFocus()
        self.look_for_changes()
        self.refresh()

    def _plan_changed(self) -> None:
        figure = self.studio.figure
        if not self.isVisible() or figure is None:
            return
        if self.desk.in_hand != self._of:  # another has come to the table meanwhile
            self._since = None
            self.resume()
        if self._is_mending:  # the maker has just said how it goes on
            self.take_plan()
        self.look_for_changes()
        self.refresh()

    def step(self, by: int) -> None:
        """Go to the next or previous step and save the clock of the one left. Refused until the maker has
        chosen a plan, if that has changed."""
        if by > 0 and self.begun.asks:
            self.begun.take.setFocus()
            return
        self._keep_note()
        self._stop_clock()
        left = self.current_step
        done = self.in_hand
        if self.steps:
            to = self.current_index + by + (len(done) - 1 if by > 0 else 0)
            now = self._card_of(self.steps[max(0, min(len(self.steps) - 1, to))])[0]
            take_up(self.studio, now)
            behind = tuple(step.key for step in self.steps[: now.n - 1])
            before, begun = self.making, self.making.begun
            self.making = before if begun else self._with_plan(before)
            self.making = self.making.replaced(at=now.key, behind=behind)
            self._note_entry(before, self.making)
            self.welcome.setText("")
            self.trial.hide()
            self._show_lead()
        if by > 0 and left is not None and not self._is_as_begun:
            for step in done:
                self._write_record(step)
            self._mark_learned(left)
        self._save_minutes()
        if by > 0 and left is not None and done[-1] is self.steps[-1]:
            self._save_entry(self.making.replaced(finished=self.today().isoformat()))
            if self.lesson.is_on:
                self.lesson_ended.emit(self.desk.in_hand)
            else:
                self.finished.emit(self.desk.in_hand)
            return
        if not self.pause.isChecked():
            self._since = self.clock()
        self.refresh()

    def take_other(self, name: str) -> None:
        """Continue with another figure of the same design."""
        self._keep_note()
        self._stop_clock()
        self._save_minutes()
        self.desk.choose_making(name)
        self.resume()

    def _on_database_changed(self) -> None:
        """Update after another window has written to the database."""
        if self.isVisible():
            self._merge_other_window()
            self.refresh()

    def _on_design_copied(self, _: str) -> None:
        """Follow the design to its new name."""
        self._of = self.desk.in_hand

    def _note_full(self) -> None:
        self.studio.refused.emit(tr("A note holds {most} characters.", most=MOST_NOTE))

    def refresh(self) -> None:
        """Show the current step."""
        step, plan = self.current_step, self.studio.plan
        if step is None or plan is None or not self.isVisible():
            return
        for told in (self.words, self.note):  # its card is none before the plan is agreed upon
            told.setVisible(not self.begun.asks)
        if self._is_as_begun:
            self._show_as_begun(step)
            return
        for shown in (self.wrong, self.hold, self.fold, self.picture):
            shown.show()
        self._row.setStretch(0, SEEN)
        say = self.studio.say
        shared = self.in_hand
        self._text.setText(say(alike_title(shared)))
        self.last_time.show_step(step)
        self._tell_sheet(step, plan)
        felted = felted_at(plan, step)
        # One who learns is asked anyway.
        can_be_read = felted is not None and felted.can_be_read
        self.came_out.setVisible(can_be_read and not self.lesson.is_on and len(shared) == 1)
        self._tell_buttons(step)
        self.setAccessibleDescription(f"{step.n}: {say(step.text)}")
        self.figure.show_step(shared[-1].n)
        self._tell_clock()

    def _tell_buttons(self, step: Step) -> None:
        """Update the note and the buttons to go on and back."""
        if not self.note.hasFocus() or self._before_note is None:
            self.note.setText(self.making.notes.get(step.key, ""))
        self.back.setEnabled(self.current_index > 0)
        shared = (step,) if self._is_as_begun else self.sheets.sharing(step)
        self.singly.setVisible(len(shared) > 1)
        is_opened = shared[0].key in self._opened
        told = tr("On one card (O)") if is_opened else tr("One by one (O)")
        self.under.set_text(self.singly, told, told)
        last = self.in_hand[-1] is self.steps[-1]
        words = tr("Finished") if last else tr("Done, and on (Space)")
        self.under.set_text(self.done, words, tr("Finished") if last else tr("Done (Space)"))

    def _show_as_begun(self, step: Step) -> None:
        """Show a step's card as it was saved when the making began."""
        card = self.making.cards[self.current_index]
        self._text.setText(card.text)
        self.last_time.show_step(step)
        self.picture.hide()
        self._row.setStretch(0, 0 if self.figure.isHidden() else SEEN)  # words have all the room
        self.words.show_kept(card.lines, card.stop)
        for button in (self.wrong, self.hold, self.came_out, self.fold, self.singly):
            button.hide()  # all these ask the plan of now
        self._count.setText(tr("{n} of {of}", n=step.n, of=len(self.steps)))
        self._tell_buttons(step)
        self.setAccessibleDescription(f"{step.n}: {card.text}")
        known = self.studio.plan.steps if self.studio.plan else ()
        self.figure.show_step(next((s.n for s in known if s.key == step.key), self.figure.n))
        self._tell_clock()

    def _tell_sheet(self, step: Step, plan: Plan) -> None:
        """Show how the step is done, in words and as a picture."""
        say, sheet = self.studio.say, self._sheet_of(step)
        if sheet is None:
            self.picture.show_sheet(None)
            self.words.clear()
            return
        only = self._shown_sentences(step, sheet.card)
        self.picture.show_sheet(sheet, only)
        figures = self.desk.runs[0]
        shared = self.in_hand
        low, high = time_range(sum(one.minutes_of(figures) for one in shared))
        told = {"low": low, "high": high}
        lasts = (
            say(duration_fact(shared, (figures,)))
            if step.kind == "wait"
            else tr("{low:.0f} to {high:.0f} min", **told)
            if figures == 1
            else tr("{low:.0f} to {high:.0f} min for all {n}", n=figures, **told)
        )
        if plan.runs != (figures,) and len(self.desk.runs) > 1:
            lasts = tr("{lasts}, the trial", lasts=lasts)
        numbers = f"{step.n}" if len(shared) == 1 else f"{step.n}–{shared[-1].n}"
        self._count.setText(" · ".join((tr("{n} of {of}", n=numbers, of=len(self.steps)), lasts)))
        rows = alike_rows(plan, shared, self.studio.bench) if len(shared) > 1 else ()
        own = sheet.card.amount if len(shared) == 1 else NOTHING
        amount = say(own) or say(alike_amount(plan, shared, self.studio.bench))
        cautions = [c for one in shared for c in plan.cautions_at(one, self._cautioned)]
        care = " ".join(map(say, dict.fromkeys(cautions)))
        checks = self.making.checks.get(step.key, {})
        words = tr("In short (H)") if only is None else tr("All of it (H)")
        self.under.set_text(self.fold, words, tr("Short (H)") if only is None else tr("All (H)"))
        self.words.show_card(
            sheet.card,
            say,
            CardNotes(
                amount,
                say(dress_told(plan, step)),
                care,
                self.lesson.is_on and only is None,
                {int(n): came for n, came in checks.items() if n.isdecimal()},
                self.making.mended.get(step.key, ()),
                rows,
            ),
            only,
        )
        self.sheets.ahead(next((s for s in self.steps if s.n == shared[-1].n + 1), None))

    def _shown_sentences(self, step: Step, card: Card) -> tuple[int, ...] | None:
        """Return the numbers of the card's sentences to show: in short, and two lines for a kind of step done
        before; for someone who learns, all of a new way and what is new of a known one. For the step in hand
        the maker may turn that round."""
        known = card.method in self.lesson.known
        is_short = known if self.lesson.is_on else True
        if self._turned_round == step.key:
            is_short = not is_short
        if not is_short:
            return None
        if self.lesson.is_on:
            return new_in(card) if known else in_short(card)
        return for_one_who_knows(card) if known else in_short(card)

    def _sheet_of(self, step: Step) -> StepSheet | None:
        """Return the sheet of the card that ``step`` is on."""
        return self.sheets.sheet_of(self._card_of(step)[0])

    def turn_singly(self) -> None:
        """Show the steps of a shared card one by one, or together again."""
        step = self.current_step
        if step is None or self._is_as_begun:
            return
        self._stop_clock()
        shared = self.sheets.sharing(step)
        if len(shared) > 1:
            self._opened ^= {shared[0].key}
        if not self.pause.isChecked():
            self._since = self.clock()
        self.refresh()

    def turn_fold(self) -> None:
        """Show all sentences of the current step, or only the short form."""
        if self.current_step is not None:
            self._turned_round = (
                None if self._turned_round == self.current_step.key else self.current_step.key
            )
            self.refresh()

    def _mark_learned(self, step: Step) -> None:
        """Mark the method of ``step`` as known: where there is a piece to measure once one was as told, else
        once it took a time that can be believed."""
        sheet, plan = self._sheet_of(step), self.studio.plan
        if sheet is None or plan is None:
            return
        felted = felted_at(plan, step)
        if felted is not None and felted.has_size:
            record = self._read.get(step.key)
            found = record.finished_mm if record is not None else None
            is_known = found is not None and is_right_size(
                found, tuple(felted.portion.finished_mm.values())
            )
        else:
            making = self.making
            planned = making.planned.get(step.key, 0.0)
            is_known = is_credible(planned, making.minutes.get(step.key, 0.0))
        if is_known:
            self.lesson.mark_done(sheet.card.method)

    # Checks, and what went wrong

    def answer(self, n: int) -> None:
        """Set the result of a check by its number: passed, failed, skipped, or open. A failed one opens the
        rescue."""
        step = self.current_step
        sheet = self._sheet_of(step) if step else None
        if step is None or sheet is None or n > len(sheet.card.checks):
            return
        outcomes = dict(self.making.checks.get(step.key, {}))
        rest: tuple[Outcome | None, ...] = ("passed", "failed", "skipped", None)
        now = outcomes.pop(str(n), None)
        then = rest[(rest.index(now) + 1) % len(rest)]
        if then is not None:
            outcomes[str(n)] = then
        self._save_entry(self.making.replaced(checks={**self.making.checks, step.key: outcomes}))
        if self._shown_sentences(step, sheet.card) is not None:
            self.turn_fold()  # in short the checks are not seen
        self.refresh()

    def ask_rescue(self) -> None:
        """Open the rescue: what is visible, and what to do about it."""
        step, plan = self.current_step, self.studio.plan
        if step is None or plan is None:
            return
        self._stop_clock()
        box = RescueBox(self, self.studio, self.theme, step, self._done_keys())
        self._is_mending = True
        box.exec()
        self.studio.let_go()
        self._is_mending = False
        if box.mended:
            self._save_entry(with_mended(self.making, step, box, self.desk))
        if not self.pause.isChecked():
            self._since = self.clock()
        self.refresh()

    def undo(self) -> None:
        """Undo the last entry at the pad: a check, a note, a mending, going on."""
        self._stop_clock()
        if self.take_back():
            step = next((s for s in self.steps if s.key == self.making.at), None)
            if step is not None:
                take_up(self.studio, step)
        if not self.pause.isChecked():
            self._since = self.clock()
        self.refresh()

    def hold_here(self) -> None:
        """Show the piece after this step at true size on the screen."""
        part, key = (
            (base_part(self.current_step.part), self.current_step.key)
            if self.current_step
            else (None, None)
        )
        HoldView(self, self.studio, self.theme, self.true_size, part, key).exec()

    def _done_keys(self) -> frozenset[str]:
        """Return the keys of the steps before the current one."""
        return frozenset(step.key for step in self.steps[: self.current_index])

    # Hands

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if presses_button(event):
            return
        is_digit = Qt.Key.Key_1 <= key <= Qt.Key.Key_9
        if self._is_as_begun and (is_digit or key in _OF_NOW):
            return  # these ask the plan of now
        if is_digit:
            self.answer(int(key) - int(Qt.Key.Key_0))
        elif key in _KEYS:
            _KEYS[key](self)
        else:
            super().keyPressEvent(event)


_KEYS: dict[Qt.Key, Callable[[MakeView], object]] = {
    **dict.fromkeys(
        (Qt.Key.Key_Space, Qt.Key.Key_Right, Qt.Key.Key_Return, Qt.Key.Key_Enter),
        lambda view: view.step(1),
    ),
    **dict.fromkeys((Qt.Key.Key_Left, Qt.Key.Key_Backspace), lambda view: view.step(-1)),
    Qt.Key.Key_PageDown: lambda view: view.words.turn(1),
    Qt.Key.Key_PageUp: lambda view: view.words.turn(-1),
    Qt.Key.Key_U: MakeView.undo,
    Qt.Key.Key_W: MakeView.ask_rescue,
    Qt.Key.Key_M: MakeView.read_piece,
    Qt.Key.Key_T: MakeView.hold_here,
    Qt.Key.Key_H: MakeView.turn_fold,
    Qt.Key.Key_O: MakeView.turn_singly,
    Qt.Key.Key_P: lambda view: view.pause.toggle(),
    Qt.Key.Key_N: lambda view: view.note.setFocus(),
    Qt.Key.Key_Escape: lambda view: view.left.emit(),
}
"""What a key does at the pad; digits answer the checks."""
_OF_NOW = (Qt.Key.Key_W, Qt.Key.Key_M, Qt.Key.Key_T, Qt.Key.Key_H, Qt.Key.Key_O)
"""Keys that ask the plan as it is now, and are idle while the cards are those begun with."""
