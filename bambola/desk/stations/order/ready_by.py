"""*Ready by*: when a figure must be begun for a date, and what could be left out if it is too late."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta

from PyQt6.QtCore import QDate
from PyQt6.QtWidgets import QCheckBox, QDateEdit, QLabel, QPushButton, QVBoxLayout, QWidget

from bambola.core.order.sittings import SittingError
from bambola.core.plan.counter.carry_on import place_in
from bambola.core.plan.counter.in_time import InTime, in_time
from bambola.core.words import error_words
from bambola.desk.kit.buttons import lead_label, ok_cancel
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.locale import date_form, day_words
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.bench_desk import BenchDesk
from bambola.language import tr

AHEAD = timedelta(days=28)
"""Where the date stands to begin with."""


def found_for(desk: BenchDesk, due: date, today: date) -> InTime | None:
    """Return the open figure counted back from a day. Raises :class:`SittingError`."""
    plan = desk.studio.plan
    if plan is None:
        return None
    done = place_in(plan.steps, desk.last_making)
    return in_time(plan, desk.studio.bench, due, today, done)


class ReadyButton(QPushButton):
    """Shows the date it must be ready by, and asks for it."""

    def __init__(self, desk: BenchDesk, theme: Theme) -> None:
        super().__init__()
        self.desk, self.theme = desk, theme
        self.today = date.today
        self._known: tuple[object, ...] = ()
        self._late = False
        self.setToolTip(tr("When you must begin to be ready on a day"))
        self.clicked.connect(lambda _=False: self.ask())

    def refresh(self) -> None:
        """Update the text; from the first evening on which it is too late, say so."""
        due = self.desk.last_making.due
        day = date.fromisoformat(due) if due is not None else None
        late = day is not None and self._is_late(day)
        if day is None:
            self.setText(tr("Ready by…"))
        elif late:
            self.setText(tr("Too late for {day}", day=day_words(day)))
        else:
            self.setText(tr("Ready by {day}", day=day_words(day)))
        set_role(self, tone="late" if late else "")

    def _is_late(self, day: date) -> bool:
        """Return whether it is too late; cached until something it depends on changes, since it is called at
        every step."""
        plan, bench = self.desk.studio.plan, self.desk.studio.bench
        key = (plan, bench.free, bench.glue, day, self.today(), self.desk.last_making.at)
        same = (
            len(self._known) == len(key) and self._known[0] is plan and self._known[1:] == key[1:]
        )
        if not same:
            self._known = key
            try:
                found = found_for(self.desk, day, self.today())
                self._late = found is not None and found.is_late
            except SittingError:
                self._late = False  # the thread tells why there are no sittings
        return self._late

    def ask(self) -> None:
        """Ask for the date."""
        dialog = ReadyDialog(self, self.theme, self.desk, self.today())
        if dialog.exec():
            due = dialog.chosen_date
            self.desk.change_making(self.desk.in_hand, due=due.isoformat() if due else None)
            self.refresh()


class ReadyDialog(FittedDialog):
    """Asks for a date and shows at once what follows from it."""

    def __init__(self, parent: QWidget, theme: Theme, desk: BenchDesk, today: date) -> None:
        super().__init__(parent)
        self.desk, self.today = desk, today
        self.setWindowTitle(tr("Ready by"))
        self.wanted = QCheckBox(tr("It has to be ready on a day"))
        self.day = QDateEdit()
        self.day.setCalendarPopup(True)
        self.day.setDisplayFormat(date_form())
        self.day.setAccessibleName(tr("The day it must be ready"))
        self.day.setMinimumDate(QDate(today.year, today.month, today.day))
        known = desk.last_making.due
        day = date.fromisoformat(known) if known else today + AHEAD
        self.day.setDate(QDate(day.year, day.month, day.day))
        self.wanted.setChecked(True)
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.told.setMinimumWidth(theme.px(420))
        set_role(self.told, "large")
        column = QVBoxLayout(self)
        told = tr(
            "Counted back from that day over your free times, with a day to dry, a day to "
            "mend, and a fifth more time than planned."
        )
        for widget in (lead_label(told), self.wanted, self.day, self.told):
            column.addWidget(widget)
        column.addStretch()
        column.addWidget(ok_cancel(self))
        self.wanted.toggled.connect(lambda _: self._show_answer())
        self.day.dateChanged.connect(lambda _: self._show_answer())
        self._show_answer()
        self.day.setFocus()

    @property
    def chosen_date(self) -> date | None:
        """The chosen date; None for none."""
        chosen = self.day.date()
        found = date(chosen.year(), chosen.month(), chosen.day())
        return found if self.wanted.isChecked() else None

    def _show_answer(self) -> None:
        due = self.chosen_date
        self.day.setEnabled(due is not None)
        if due is None:
            self.told.setText("")
            return
        try:
            found = found_for(self.desk, due, self.today)
        except SittingError as error:
            self.told.setText(error_words(error, self.desk.studio.words))
            return
        if found is not None:
            self.told.setText("\n".join(self._answer_lines(found)))

    def _answer_lines(self, found: InTime) -> Iterator[str]:
        if found.begin is not None and not found.is_late:
            yield tr("Begin by {day}.", day=day_words(found.begin))
            if found.order_by is not None:
                late = found.order_by < self.today
                yield (
                    tr("Missing things may arrive too late: order today, by the quickest way.")
                    if late
                    else tr("Order what is missing by {day}.", day=day_words(found.order_by))
                )
            return
        yield (
            tr("Too late: you would have had to begin by {day}.", day=day_words(found.begin))
            if found.begin is not None
            else tr("Too late: there is not enough free time before that day.")
        )
        for n, spare in enumerate(found.spare):
            what, hours = self.desk.studio.say(spare.what), spare.minutes / 60
            line = tr("{what}, {hours:.1f} h", what=what, hours=hours)
            yield (
                tr("Could be left out: {what}", what=line)
                if n == 0
                else tr("and: {what}", what=line)
            )
            if spare.is_enough:
                yield tr("Then it is in time.")
                return
        yield tr("Leaving something out is not enough: choose another day, or add free time.")
