"""A fair: figures with their prices, a date, and how many of each to make by then."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from pathlib import Path
from threading import Event

from PyQt6.QtCore import QDate, QSize, Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import (
    QCheckBox,
    QDateEdit,
    QDialogButtonBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Bench, with_wools_of
from bambola.core.book.fair import MOST_OF_ONE, Fair, FairError, Ware, plan_fair
from bambola.core.export.ics import calendar_ics
from bambola.core.figure import Document
from bambola.core.order.sittings import SittingError
from bambola.core.plan import make_plan
from bambola.core.plan.counter.together import make_together
from bambola.core.quantities import QuantityError, parse_money, show_bought, show_length
from bambola.core.words import error_words
from bambola.desk.kit.buttons import lead_label
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.file_dialogs import ask_save
from bambola.desk.kit.flow import FlowLayout, scroll_area
from bambola.desk.kit.locale import date_form, day_words
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.session.changes import REFUSALS
from bambola.desk.session.studio import EditorSession
from bambola.files import ExportError, write_made
from bambola.language import tr, trn

AHEAD = timedelta(days=28)
"""Where the date stands to begin with."""
_PICTURE_PX = 72


@dataclass(frozen=True)
class OfferedFigure:
    """A figure that could be made for the fair: its design as it was made, and its last price."""

    document: Document
    height_mm: float
    price: Decimal | None
    picture: QPixmap | None


class _FairRow:
    """The price of one figure, and the number to make."""

    def __init__(
        self, grid: QGridLayout, n: int, offered: OfferedFigure, theme: Theme, told: str
    ) -> None:
        self.offered = offered
        self.picture, self.count = QLabel(), QLabel()
        if offered.picture is not None:
            size = QSize(theme.px(_PICTURE_PX), theme.px(_PICTURE_PX))
            keep, smooth = (
                Qt.AspectRatioMode.KeepAspectRatio,
                Qt.TransformationMode.SmoothTransformation,
            )
            self.picture.setPixmap(offered.picture.scaled(size, keep, smooth))
        self.picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.taken = QCheckBox(told)
        self.taken.setChecked(offered.price is not None)
        self.price = QLineEdit("" if offered.price is None else str(offered.price))
        self.price.setPlaceholderText(tr("price"))
        self.price.setAccessibleName(tr("{figure}: the price of one", figure=told))
        self.price.setFixedWidth(theme.px(96))
        self.price.textEdited.connect(lambda text: self.taken.setChecked(bool(text.strip())))
        self.most = QSpinBox()
        self.most.setRange(1, MOST_OF_ONE)
        self.most.setValue(MOST_OF_ONE)
        self.most.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.most.setAccessibleName(tr("{figure}: no more than", figure=told))
        set_role(self.count, "headline")
        self.count.setMinimumWidth(theme.px(64))
        widgets = self.picture, self.taken, self.price, self.most, self.count
        for column, widget in enumerate(widgets):
            grid.addWidget(widget, n, column)


class FairDialog(FittedDialog):
    """Asks for prices and a date, and shows the numbers to make."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        offered: Mapping[str, OfferedFigure],
    ) -> None:
        super().__init__(parent)
        self.studio = studio
        self.fair: Fair | None = None
        self.counts: dict[str, int] = {}
        self._background = Background("fair")
        self._waiting: BackgroundJob | None = None
        self.setWindowTitle(tr("Plan a fair"))
        table = QWidget()
        grid = QGridLayout(table)
        grid.setColumnStretch(1, 1)
        for n, words in enumerate((tr("each costs"), tr("at most"), tr("make")), 2):
            grid.addWidget(QLabel(words), 0, n)
        self.rows: dict[str, _FairRow] = {}
        for n, (key, one) in enumerate(offered.items(), 1):
            high = show_length(one.height_mm, studio.units)
            told = tr("{figure}, {height}", figure=one.document.figure.name, height=high)
            self.rows[key] = _FairRow(grid, n, one, theme, told)
        grid.setRowStretch(len(offered) + 1, 1)
        self.day = QDateEdit()
        self.day.setCalendarPopup(True)
        self.day.setDisplayFormat(date_form())
        self.day.setAccessibleName(tr("The day of the fair"))
        then = date.today() + AHEAD
        self.day.setDate(QDate(then.year, then.month, then.day))
        self.plan = QPushButton(tr("How many of each?"))
        self.plan.setDefault(True)
        self.plan.clicked.connect(lambda _=False: self.work_out())
        self.told = QLabel()
        self.told.setWordWrap(True)
        set_role(self.told, "large")
        self.ics = QPushButton(tr("Save the calendar…"))
        self.ics.clicked.connect(lambda _=False: self.ask_calendar())
        self.ics.setEnabled(False)
        self.kits = QPushButton(tr("Pack the kits…"))
        self.kits.setToolTip(
            tr("The wool of all split once, the wire cut, and a bag for each: as PDF")
        )
        self.kits.clicked.connect(lambda _=False: self.ask_kits())
        self.kits.setEnabled(False)
        line = FlowLayout()
        for widget in (QLabel(tr("ready by")), self.day, self.plan, self.kits, self.ics):
            line.addWidget(widget)
        line.set_end(3)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addWidget(
            lead_label(
                tr(
                    "From your hours, free times, shelf and prices Bambola works out how many of "
                    "which figures earn most by that day. A day to dry, a day to mend and a fifth "
                    "more time than planned are set aside."
                )
            )
        )
        column.addWidget(scroll_area(table), 1)
        column.addLayout(line)
        column.addWidget(self.told)
        column.addWidget(buttons)
        self.set_size(theme, 780, 420)
        self.finished.connect(lambda _: self._close_down())

    def _close_down(self) -> None:
        if self._waiting is not None:
            self._waiting.stop.set()
        self._background.close()

    def work_out(self) -> None:
        """Compute the numbers off the interface thread."""
        bench, words = self.studio.bench, self.studio.words
        chosen = self.day.date()
        due = date(chosen.year(), chosen.month(), chosen.day())
        asked: list[tuple[str, OfferedFigure, Decimal, int]] = []
        try:
            for key, row in self.rows.items():
                if row.taken.isChecked():
                    price = parse_money(row.price.text(), bench.currency)
                    asked.append((key, row.offered, price, row.most.value()))
        except QuantityError as error:
            self.told.setText(error_words(error, words))
            return
        if not asked:
            self.told.setText(tr("Type the price of a figure you could make."))
            return
        self.told.setText(tr("Working out what fits into your evenings…"))
        self.plan.setEnabled(False)
        wanted = tuple((offered, price, most) for _, offered, price, most in asked)
        keys = [key for key, *_ in asked]
        self._waiting = self._background.do(
            lambda: plan_fair(_make_wares(wanted, bench), bench, date.today(), due),
            lambda fair: self._show_fair(keys, fair),
            self._show_failure,
        )

    def _show_failure(self, error: Exception) -> None:
        if isinstance(error, CalledOffError):
            return
        self.plan.setEnabled(True)
        known = isinstance(error, (FairError, SittingError, *REFUSALS))
        self.told.setText(error_words(error, self.studio.words) if known else log_error(error))

    def _show_fair(self, keys: list[str], fair: Fair) -> None:
        self.fair = fair
        self.plan.setEnabled(True)
        self.ics.setEnabled(fair.calendar is not None)
        counts = dict(zip(keys, fair.counts, strict=True))
        self.counts = {key: n for key, n in counts.items() if n}
        self.kits.setEnabled(bool(self.counts))
        for key, row in self.rows.items():
            row.count.setText(f"× {counts[key]}" if key in counts else "")
        self.told.setText("\n".join(self._fair_lines(fair)))

    def _fair_lines(self, fair: Fair) -> list[str]:
        bench, units = self.studio.bench, self.studio.units
        told = {"brings": bench.money_text(fair.brings, units), "hours": fair.minutes / 60}
        lines = [tr("Earns {brings} for {hours:.1f} h of work.", **told)]
        if fair.hourly is not None:
            lines[0] += " " + tr(
                "An hour earns {amount}.", amount=bench.money_text(fair.hourly, units)
            )
        buys = [f"{packs} × {bench.wool_by_id[wool].name}" for wool, packs in fair.buys.items()]
        buys += [
            trn("{n} eye {size}", "{n} eyes {size}", n, size=show_bought(size, units))
            for size, n in fair.eyes.items()
        ]
        if buys:
            lines.append(tr("To buy: {things}.", things=tr(", ").join(buys)))
        if fair.calendar is not None:
            day = day_words(fair.calendar.finish.date())
            n = len(fair.calendar.sittings)
            lines.append(
                trn("{n} sitting, on {day}.", "{n} sittings, the last on {day}.", n, day=day)
            )
        lines.append(
            tr("No other choice that fits brings more.")
            if fair.is_proved
            else tr("A better choice may be found.")
        )
        return lines

    def ask_calendar(self) -> None:
        """Ask for a file for the sittings."""
        kinds = tr("Calendar (*.ics)")
        path = ask_save(self, tr("Save the calendar"), "fair.ics", kinds)
        if path:
            self.write_calendar(Path(path))

    def write_calendar(self, path: Path) -> None:
        """Write the sittings of all that is made for the fair."""
        if self.fair is None or self.fair.calendar is None:
            return
        stamp, words = datetime.now(UTC), self.studio.words
        try:
            write_made(
                path, calendar_ics(tr("Fair"), self.fair.steps, self.fair.calendar, stamp, words)
            )
        except ExportError as error:
            self.told.setText(str(error))

    def ask_kits(self) -> None:
        """Ask for a file for the kits."""
        kinds = tr("PDF (*.pdf)")
        path = ask_save(self, tr("Pack the kits"), "kits.pdf", kinds)
        if path:
            self.write_kits(Path(path))

    def write_kits(self, path: Path) -> None:
        """Split the wool and write the kits, off the interface thread."""
        bench, words = self.studio.bench, self.studio.words
        asked = [
            (
                offered.document.figure.name,
                with_wools_of(offered.document.figure, bench),
                offered.document.brief.at_height(offered.height_mm).replaced(count=n, trial=False),
            )
            for key, n in self.counts.items()
            for offered in [self.rows[key].offered]
        ]
        self.kits.setEnabled(False)
        before = self.told.text()
        self.told.setText(tr("Working out how to split every wool…"))
        stop = Event()

        def written() -> None:
            from bambola.core.export.together_sheets import kits_pdf

            made = make_together(asked, bench)
            write_made(path, kits_pdf(made, bench, words, stop.is_set))

        def done(_: None) -> None:
            self.kits.setEnabled(True)
            self.told.setText(before)

        def failed(error: Exception) -> None:
            if not isinstance(error, CalledOffError):
                self.kits.setEnabled(True)
                self.told.setText(
                    str(error) if isinstance(error, ExportError) else log_error(error)
                )

        self._waiting = self._background.do(written, done, failed, stop)


def _make_wares(asked: tuple[tuple[OfferedFigure, Decimal, int], ...], bench: Bench) -> list[Ware]:
    return [
        Ware(
            make_plan(
                with_wools_of(offered.document.figure, bench),
                offered.document.brief.at_height(offered.height_mm).replaced(count=1),
                bench,
            ),
            price,
            most,
        )
        for offered, price, most in asked
    ]
