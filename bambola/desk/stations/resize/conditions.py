"""The conditions on a height: rows to tick, each with its field."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date

from PyQt6.QtCore import QDate, QRectF, QSignalBlocker, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDateEdit,
    QDoubleSpinBox,
    QGridLayout,
    QInputDialog,
    QLineEdit,
    QSizePolicy,
    QToolButton,
    QWidget,
)

from bambola.core.bench import Niche
from bambola.core.heights.conditions import (
    Condition,
    EyesOf,
    FitsPlace,
    NoQuestions,
    ReadyBy,
    StandsUpright,
    WireOnShelf,
    WoolOnShelf,
    cost_at_most,
    grams_at_most,
    hours_at_most,
    size_is,
    sized_eyes,
)
from bambola.core.plan import Plan
from bambola.core.quantities import (
    QuantityError,
    parse_length,
    parse_mass,
    parse_money,
    parse_sides,
    show_bought,
    show_length,
    show_mass,
)
from bambola.core.resize.laws import measure_fact
from bambola.core.words import error_words
from bambola.desk.kit.locale import date_form
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.resize.span_tape import paint_number
from bambola.language import tr

AHEAD_DAYS = 14
"""A day that is asked for is at first so many days ahead. Judged."""
_MOST_HOURS = 9999.0


@dataclass(frozen=True)
class ConditionField:
    """A row: its check box, its field if it has one, and the function that makes the condition."""

    box: QCheckBox
    field: QWidget | None
    make: Callable[[], Condition]


class ConditionRows(QWidget):
    """Rows to tick. Typing ticks a row; unreadable text is reported and ignored."""

    changed = pyqtSignal()

    def __init__(self, studio: EditorSession, plan: Plan, theme: Theme, desk: BenchDesk) -> None:
        super().__init__()
        self.studio, self.plan, self.theme, self.desk = studio, plan, theme, desk
        self.fault = ""
        self.room, self.keep = QComboBox(), QToolButton()
        set_role(self, "conditions")
        px = theme.px
        self._grid = QGridLayout(self)
        self._grid.setHorizontalSpacing(px(6))
        self._grid.setVerticalSpacing(px(4))
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setColumnStretch(1, 1)
        self.rows: dict[str, ConditionField] = dict(self._make_rows())
        for row in self.rows.values():
            row.box.toggled.connect(lambda _: self.changed.emit())
        self.stack(False)

    def stack(self, on: bool) -> None:
        """Put every field below its check box, if there is no room beside it."""
        for n, row in enumerate(self.rows.values()):
            self._grid.addWidget(row.box, 2 * n, 0, 1, 1 if row.field and not on else 2)
            if row.field is not None:
                under = (2 * n + 1, 0, 1, 2) if on else (2 * n, 1, 1, 1)
                self._grid.addWidget(row.field, *under)

    def _make_rows(self) -> Iterator[tuple[str, ConditionField]]:
        plan, bench, units = self.plan, self.studio.bench, self.studio.units
        figure = plan.resized.was
        yield "wool", self._plain_field(tr("the &wool on the shelf"), WoolOnShelf())
        yield "wire", self._plain_field(tr("the w&ire on the shelf"), WireOnShelf())
        eyes = sized_eyes(figure)
        if eyes:
            sizes = QComboBox()
            for size in bench.eye_sizes:
                sizes.addItem(show_bought(size, units), size)
            used = next(row.use_mm for row in plan.fittings if row.id == eyes[0])
            sizes.setCurrentIndex(max(0, sizes.findData(used)))
            sizes.activated.connect(lambda _: self._tick_row("eyes"))
            yield (
                "eyes",
                self._named_field(
                    tr("&eyes of"), sizes, lambda: EyesOf(float(sizes.currentData()), eyes)
                ),
            )
        hours = QDoubleSpinBox()
        hours.setRange(0.1, _MOST_HOURS)
        hours.setDecimals(1)
        hours.setSuffix(tr(" h"))
        hours.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
        hours.setValue(round(plan.minutes / 60))
        hours.valueChanged.connect(lambda _: self._tick_row("hours"))
        yield (
            "hours",
            self._named_field(tr("&hours at most"), hours, lambda: hours_at_most(hours.value())),
        )
        grams = self._make_line_edit("grams", show_mass(round(plan.balance.mass_g), units))
        yield (
            "grams",
            self._named_field(
                tr("&light: at most"),
                grams,
                lambda: grams_at_most(parse_mass(grams.text(), units.mass)),
            ),
        )
        cost = self._make_line_edit("cost", "")
        cost.setPlaceholderText(tr("a sum"))
        yield (
            "cost",
            self._named_field(
                tr("&costs at most"),
                cost,
                lambda: cost_at_most(float(parse_money(cost.text(), bench.currency)), bench),
            ),
        )
        yield from self._of_size()
        day = QDateEdit(QDate.currentDate().addDays(AHEAD_DAYS))
        day.setCalendarPopup(True)
        day.setDisplayFormat(date_form())
        day.dateChanged.connect(lambda _: self._tick_row("ready"))
        yield (
            "ready",
            self._named_field(tr("&ready by"), day, lambda: ReadyBy(_date_of(day), date.today())),
        )
        if figure.stance != "hanging":
            yield "stands", self._plain_field(tr("it s&tands"), StandsUpright())
        yield "questions", self._plain_field(tr("&nothing to decide"), NoQuestions())

    def _of_size(self) -> Iterator[tuple[str, ConditionField]]:
        plan, units = self.plan, self.studio.units
        box = QWidget()
        line = QGridLayout(box)
        line.setContentsMargins(0, 0, 0, 0)
        of = QComboBox()
        of.setAccessibleName(tr("Measure of a part"))
        for part in plan.parts:
            for measure in part.to_mm:
                name = tr("{part}: {measure}", part=part.name, measure=self._measure_name(measure))
                of.addItem(name, f"{part.id}.{measure}")
        chosen = self.studio.selection.part
        of.setCurrentIndex(
            next((i for i in range(of.count()) if str(of.itemData(i)).startswith(f"{chosen}.")), 0)
        )
        of.setMinimumContentsLength(6)
        of.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        size = self._make_line_edit("size", "")
        size.setAccessibleName(tr("Size of the part"))

        def offered(_: int) -> None:
            part, measure = str(of.currentData()).split(".")
            blocked = QSignalBlocker(size)
            size.setText(show_length(plan.part(part).to_mm[measure], units))
            blocked.unblock()

        offered(0)
        of.activated.connect(offered)
        line.setSpacing(self.theme.px(3))
        line.addWidget(of, 0, 0)
        line.addWidget(size, 1, 0)

        def made() -> Condition:
            named = str(of.currentData())
            part = named.partition(".")[0]
            mm = parse_length(size.text(), units.length)
            return size_is(plan.part(part).name, named, mm)

        yield "size", self._named_field(tr("a &part so large"), box, made)
        yield (
            "room",
            self._named_field(
                tr("r&oom for it"), self._make_room_row(), lambda: FitsPlace(self.niche())
            ),
        )

    # Places that figures are made for

    def _make_room_row(self) -> QWidget:
        box = QWidget()
        line = QGridLayout(box)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(self.theme.px(3))
        self.room.setEditable(True)
        self.room.setAccessibleName(tr("Room for it"))
        self.room.setToolTip(tr("its height, or height × width × depth"))
        self.room.setMinimumContentsLength(6)
        self.room.setSizeAdjustPolicy(
            QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
        )
        self.room.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._show_niches(show_length(self.plan.to_height_mm, self.studio.units))
        self.room.activated.connect(lambda _: self._tick_row("room"))
        edit = self.room.lineEdit()
        assert edit is not None
        edit.textEdited.connect(lambda _: self._tick_row("room"))
        self.room.currentTextChanged.connect(lambda _: self._dress_keep())
        self.keep.clicked.connect(lambda _=False: self.keep_or_forget())
        line.addWidget(self.room, 0, 0)
        line.addWidget(self.keep, 1, 0)
        return box

    def _show_niches(self, text: str) -> None:
        blocked = QSignalBlocker(self.room)
        self.room.clear()
        self.room.addItems([niche.name for niche in self.studio.bench.niches])
        self.room.setCurrentIndex(self.room.findText(text))  # what Enter would go back to
        self.room.setEditText(text)
        blocked.unblock()
        self._dress_keep()

    @property
    def _known_niche(self) -> Niche | None:
        text = self.room.currentText().strip()
        return next((n for n in self.studio.bench.niches if n.name == text), None)

    def _dress_keep(self) -> None:
        self.keep.setText(
            tr("keep this place …") if self._known_niche is None else tr("forget this place")
        )

    def niche(self) -> Niche:
        """Return the chosen place, or one of the typed sides. Raises :class:`QuantityError`."""
        if self._known_niche is not None:
            return self._known_niche
        text = self.room.currentText().strip()
        length = self.studio.units.length
        sides = parse_sides(text, length) or (parse_length(text, length),)
        high, wide, deep = (*sides, None, None)[:3]
        return Niche(name=text[:120], height=high, width=wide, depth=deep)

    def keep_or_forget(self) -> None:
        """Save the typed room as a named place of the maker's, or delete the chosen one."""
        if self._known_niche is not None:
            self.desk.drop_niche(self._known_niche.name)
            self._show_niches(show_length(self.plan.to_height_mm, self.studio.units))
            return
        try:
            niche = self.niche()
        except (QuantityError, ValueError) as error:
            self.studio.refuse(error)
            return
        name, given = QInputDialog.getText(
            self, tr("Keep a place"), tr("What is it called?"), text=niche.name
        )
        name = " ".join(name.split())[:120]
        if given and name and self.desk.keep_niche(niche.replaced(name=name)):
            self._show_niches(name)
            self._tick_row("room")

    def _measure_name(self, measure: str) -> str:
        return self.studio.say(measure_fact(measure))

    def _plain_field(self, words: str, condition: Condition) -> ConditionField:
        return ConditionField(QCheckBox(words), None, lambda: condition)

    def _named_field(
        self, words: str, field: QWidget, make: Callable[[], Condition]
    ) -> ConditionField:
        if not field.accessibleName():
            field.setAccessibleName(words.replace("&", ""))
        return ConditionField(QCheckBox(words), field, make)

    def _make_line_edit(self, row: str, text: str) -> QLineEdit:
        line = QLineEdit(text)
        line.textEdited.connect(lambda _: self._tick_row(row))
        return line

    def _tick_row(self, name: str) -> None:
        """Tick the row that is typed in."""
        box = self.rows[name].box
        if box.isChecked():
            self.changed.emit()
        else:
            box.setChecked(True)

    def ticked_conditions(self) -> tuple[tuple[str, Condition], ...]:
        """Return the ticked conditions by row; unreadable ones are left out and reported as :attr:`fault`."""
        found, self.fault = [], ""
        for name, row in self.rows.items():
            if row.box.isChecked():
                try:
                    found.append((name, row.make()))
                except (QuantityError, ValueError) as error:
                    self.fault = self.fault or error_words(error, self.studio.words)
        return tuple(found)

    def colour(self, colours: dict[str, QColor]) -> None:
        """Show the colour of every condition that has one."""
        side, ratio = self.theme.px(17), self.devicePixelRatioF()
        numbers = {name: n for n, name in enumerate(colours, 1)}
        for name, row in self.rows.items():
            swatch = QPixmap(round(side * ratio), round(side * ratio))
            swatch.setDevicePixelRatio(ratio)
            swatch.fill(Qt.GlobalColor.transparent)
            if name in colours:
                painter = QPainter(swatch)
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                box = QRectF(0, 0, side, side)
                paint_number(painter, box, numbers[name], colours[name], self.theme)
                painter.end()
            row.box.setIcon(QIcon(swatch))


def _date_of(field: QDateEdit) -> date:
    found: date = field.date().toPyDate()
    return found
