"""What is recorded at the pad: the clock of each step, its note, and a record when a core is done."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date

from PyQt6.QtWidgets import QLabel, QLineEdit, QPushButton

from bambola.core.bench import Making, Record
from bambola.core.bench.making import Sitting, merge_making
from bambola.core.bench.wools import Size3
from bambola.core.order import Step
from bambola.core.order.keys import TaskKey
from bambola.core.plan.counter.carry_on import FeltedWool, felted_at, likely_weight, record_of
from bambola.core.plan.counter.weighing import weighings
from bambola.core.wool.learning import LEAST_MIN, is_credible
from bambola.desk.kit.step_words import StepSheets
from bambola.desk.kit.theme import Theme
from bambola.desk.session.lesson import Lesson
from bambola.desk.stations.order.followed_plan import FollowedPlan
from bambola.desk.stations.order.lesson_boxes import SizeBox
from bambola.language import tr, trn

AWAY_DAYS = 7
"""Who was away longer than this is told where it is and what to fetch. Judged."""
AHEAD = 4
"""So many steps are fetched for."""
MOST_PAST = 200


class KeptSteps(FollowedPlan):
    """Saves the progress of a figure; the view decides which step is current."""

    theme: Theme
    lesson: Lesson
    sheets: StepSheets
    clock: Callable[[], float]
    note: QLineEdit
    pause: QPushButton
    today: Callable[[], date]
    _clock: QLabel
    _since: float | None
    _past: list[tuple[Making, Making]]
    _sitting: tuple[float, str, tuple[Sitting, ...]]
    _of: str
    _before_note: Making | None
    _read: dict[TaskKey, Record]
    _opened: frozenset[TaskKey]

    @property
    def in_hand(self) -> tuple[Step, ...]:
        """The steps of the current card, from the current one on."""
        step = self.current_step
        return tuple(s for s in self._card_of(step) if s.n >= step.n) if step is not None else ()

    def _card_of(self, step: Step) -> tuple[Step, ...]:
        """Return the steps that share the card of ``step``, except those opened one by one."""
        if self._is_as_begun:
            return (step,)
        shared = self.sheets.sharing(step)
        return (step,) if shared[0].key in self._opened else shared

    # Entries, each of which can be taken back

    def _save_entry(self, making: Making) -> None:
        """Save an entry, remembering the state before it."""
        self._note_entry(self.making, making)
        self.making = making
        self._save_minutes()

    def _note_entry(self, before: Making, after: Making) -> None:
        self._past = [*self._past[-MOST_PAST:], (before, after)]

    def take_back(self) -> bool:
        """Undo the last entry; return whether there was one."""
        if not self._past:
            return False
        *self._past, (before, after) = self._past
        # Time that passed has passed, and what another window has entered since stays.
        was = before.replaced(minutes=after.minutes, sittings=after.sittings)
        self.making = merge_making(self.making, after, was)
        self._save_minutes()
        return True

    # Sittings as they really were

    def _load_making(self) -> None:
        """Load the making in hand, to go on with it in a new sitting."""
        self.making = self.desk.take_making()
        self._of, self._before_note, self._read = self.desk.in_hand, None, {}
        self._past = []
        self._begin_sitting()

    def _begin_sitting(self) -> None:
        making = self.making
        self._sitting = (sum(making.minutes.values()), making.at, making.sittings)

    def _with_sitting(self) -> Making:
        """Return the making with the present sitting, if any work was done in it."""
        before, first, others = self._sitting
        spent = sum(self.making.minutes.values()) - before
        if spent < LEAST_MIN:
            return self.making.replaced(sittings=others)
        step = self.current_step
        mine = Sitting(
            day=self.today().isoformat(),
            minutes=spent,
            first=first,
            last=step.key if step else "",
        )
        return self.making.replaced(sittings=(*others, mine))

    def undecided(self) -> str:
        """Tell a maker who begins with open questions how many there are."""
        plan = self.studio.plan
        n = sum(notice.is_open for notice in plan.notices) if plan else 0
        if not n or self.making.is_begun:
            return ""
        return trn(
            "One question is still open: some cards may change with the answer.",
            "{n} questions are still open: some cards may change with the answers.",
            n,
        )

    def welcome_back(self) -> str:
        """Tell a maker after a break how long it was, what lies on the pad, and what to fetch for the next
        steps."""
        sittings, plan = self.making.sittings, self.studio.plan
        if not sittings or plan is None or self.current_step is None or self._is_as_begun:
            return ""
        away = (self.today() - date.fromisoformat(sittings[-1].day)).days
        if away < AWAY_DAYS:
            return ""
        step = self.current_step
        ahead = self.steps[step.n - 1 : step.n - 1 + AHEAD]
        names = {w.id: w.name for w in self.studio.bench.wools}
        wools = dict.fromkeys(names[s.wool] for s in ahead if s.wool in names)
        needles = dict.fromkeys(str(s.needle) for s in ahead if s.needle)
        fetch = [*wools, *(tr("needle {gauge}", gauge=gauge) for gauge in needles)]
        said = [
            tr("You were away for {n} days. Next: {step}.", n=away, step=self.studio.say(step.text))
        ]
        if step.part is not None and step.part in plan.resized.figure.by_id:
            said.append(tr("On the pad lies the {part:lower}.", part=plan.part(step.part).name))
        if fetch:
            said.append(tr("To fetch: {things}.", things=", ".join(fetch)))
        return " ".join(said)

    def _on_paused(self, paused: bool) -> None:
        if paused:
            self._stop_clock()
            self._save_minutes()
        else:
            self._since = self.clock()
        self._tell_clock()

    def _stop_clock(self) -> None:
        step = self.current_step
        if self._since is not None and step is not None:
            spent, shared = (self.clock() - self._since) / 60, self.in_hand
            whole = sum(s.minutes for s in shared)
            minutes, planned = dict(self.making.minutes), dict(self.making.planned)
            sorts = dict(self.making.sorts)
            for s in shared:  # one clock for all, as long as each is likely to take of it
                share = s.minutes / whole if whole else 1 / len(shared)
                minutes[s.key] = minutes.get(s.key, 0.0) + share * spent
                planned[s.key], sorts[s.key] = self.desk.minutes_by_start_values(s), s.sort
            self.making = self.making.replaced(
                minutes=minutes, planned=planned, sorts=sorts, at=step.key
            )
        self._since = None

    @property
    def minutes(self) -> float:
        """The minutes on the clock of the current card."""
        running = (self.clock() - self._since) / 60 if self._since is not None else 0.0
        return sum(self.making.minutes.get(s.key, 0.0) for s in self.in_hand) + running

    def _tell_clock(self) -> None:
        seconds = round(self.minutes * 60)
        clock = f"{seconds // 60}:{seconds % 60:02d}"
        self._clock.setText(tr("{clock} paused", clock=clock) if self.pause.isChecked() else clock)

    def _keep_clock(self) -> None:
        """Save the running clock, since the machine may stop at any moment."""
        if self._since is not None:
            self._stop_clock()
            self._since = self.clock()
            self._save_minutes()

    def _note_typed(self, text: str) -> None:
        """Save a note while it is typed, as one undoable entry."""
        step = self.current_step
        if step is not None:
            self._before_note = self._before_note or self.making
            self.making = self.making.replaced(notes={**self.making.notes, step.key: text})

    def _keep_note(self) -> None:
        """End the entry of the note."""
        step = self.current_step
        if step is not None and self.note.text() != self.making.notes.get(step.key, ""):
            self._note_typed(self.note.text())
        if self._before_note is not None:
            self._note_entry(self._before_note, self.making)
            self._before_note = None
            self._save_minutes()

    def _save_minutes(self) -> None:
        # Before anything was taken up here, or when another figure came, there is nothing of it to keep.
        if self._of and self.desk.in_hand == self._of and self.steps:
            mine = self._with_sitting()
            self._continue_with(self.desk.keep_making(mine) or mine, mine)

    def _merge_other_window(self) -> None:
        """Merge what another window has recorded for the same figure."""
        if self._of == self.desk.in_hand and self.desk.making != self.desk.last_making:
            mine = self._with_sitting()
            self._continue_with(self.desk.follow_making(mine), mine)

    def _continue_with(self, making: Making, mine: Making) -> None:
        """Continue with ``making``, which may be ``mine`` merged with what another window wrote."""
        spent, first, others = self._sitting
        spent += sum(making.minutes.values()) - sum(mine.minutes.values())
        own = mine.sittings[len(others) :]
        self._sitting = (spent, first, tuple(s for s in making.sittings if s not in own))
        self.making = making

    def _write_record(self, step: Step) -> None:
        """Write the minutes of a finished core into a record, from which the pace is learned. A learner is
        asked for its size."""
        plan = self.studio.plan
        felted = felted_at(plan, step) if plan is not None else None
        if felted is None or step.part in self.making.recorded:
            return
        size = None
        if self.lesson.is_on and self._core_minutes(step) >= LEAST_MIN:
            size = self._ask_piece(felted, is_taught=True)[0]
        if size is not None or self._credible_minutes(step) is not None:
            self._keep_record(step, felted, size, None)

    def read_piece(self) -> None:
        """Record the size and weight of the current piece, like those of a swatch."""
        step, plan = self.current_step, self.studio.plan
        felted = felted_at(plan, step) if step is not None and plan is not None else None
        if step is None or felted is None or not felted.can_be_read:
            return
        self._stop_clock()
        size, grams = self._ask_piece(felted, is_taught=False)
        if size is not None or grams is not None:
            self._keep_record(step, felted, size, grams)
        if not self.pause.isChecked():
            self._since = self.clock()
        self.refresh()

    def _ask_piece(self, felted: FeltedWool, is_taught: bool) -> tuple[Size3 | None, float | None]:
        """Ask for size and weight of a piece; None for what is not given."""
        plan, words = self.studio.plan, self.studio.words
        assert plan is not None
        part = plan.part(felted.part)
        wanted: Size3 | None = None
        if felted.has_size:
            along, across, through = felted.portion.finished_mm.values()
            wanted = along, across, through
        planned = None
        if felted.can_be_weighed and not is_taught:
            planned = likely_weight(plan, felted, self.making.weights.get(part.id))
        if wanted is None and planned is None:
            return None, None
        box = SizeBox(self, self.theme, words, part.name, wanted, planned)
        return (box.size_mm, box.grams) if box.exec() else (None, None)

    def _keep_record(
        self, step: Step, felted: FeltedWool, size: Size3 | None, grams: float | None
    ) -> None:
        """Save what is known of a piece as a record, replacing an earlier one of it."""
        plan = self.studio.plan
        assert plan is not None
        part, portion = plan.part(felted.part), felted.portion
        laid, trimmed = self._weighed_out(felted), None
        if grams is not None:
            before = self.making.weights.get(part.id, 0.0) if portion.role != "core" else 0.0
            self.making = self.making.replaced(weights={**self.making.weights, part.id: grams})
            stays = (grams - before) * (1 - part.end_share)
            if stays > 0 and (portion.role == "core" or before):
                laid = max(laid or stays, stays)
                trimmed = laid - stays if self._weighed_out(felted) else None
        minutes = self._credible_minutes(step)
        try:
            record = record_of(
                plan,
                self.studio.bench,
                felted,
                laid or portion.take_g,
                self.today().isoformat(),
                trimmed,
                size,
                None if minutes is None else minutes / part.count,
                tr("by the clock"),
            )
        except ValueError:
            self.studio.refused.emit(
                tr("No piece can have this size and weight: check the numbers.")
            )
            return
        read_before = self._read.pop(step.key, None)
        if read_before is not None:
            self.desk.drop_record(read_before)
        if self.desk.add_record(record.replaced(making=self.desk.in_hand)):
            self._read[step.key] = self.desk.records[-1]
            if portion.role == "core" and part.id not in self.making.recorded:
                recorded = (*self.making.recorded, part.id)
                self.making = self.making.replaced(recorded=recorded)
        self._save_minutes()

    def _weighed_out(self, felted: FeltedWool) -> float | None:
        """Return what was weighed out for one piece without its loose end, g; None if it was not weighed."""
        plan = self.studio.plan
        assert plan is not None
        keys = {
            w.key
            for w in weighings(plan)
            if w.part == felted.part
            and (w.portion.role, w.portion.detail) == (felted.portion.role, felted.portion.detail)
        }
        rows = [w.grams for key, w in self.desk.weighed.items() if key in keys]
        end = plan.part(felted.part).end_share if felted.portion.role == "core" else 0.0
        return sum(rows) / len(rows) * (1 - end) if rows else None

    def _credible_minutes(self, step: Step) -> float | None:
        """Return the minutes on the core that ``step`` completes; None if it was paged over or left on the
        clock."""
        minutes = self._core_minutes(step)
        planned = sum(self.making.planned.get(s.key, 0.0) for s in self._rounds_of(step))
        return minutes if is_credible(planned, minutes) else None

    def _rounds_of(self, step: Step) -> list[Step]:
        return [s for s in self.steps if s.part == step.part and s.key.sort == "core"]

    def _core_minutes(self, step: Step) -> float:
        """Return the minutes on the core that ``step`` completes; 0 if it completes none."""
        if step.key.sort != "core":
            return 0.0
        mine = self._rounds_of(step)
        if step is not mine[-1]:
            return 0.0
        return sum(self.making.minutes.get(s.key, 0.0) for s in mine)
