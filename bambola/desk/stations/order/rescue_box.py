"""The rescue: what is visibly wrong, two measurements at most, what to do in order, and ways to go on."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QBoxLayout,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.facts import Fact
from bambola.core.figure import Brief, Firmness
from bambola.core.order import Step
from bambola.core.plan.counter.carry_on import like_wools, real_measures, still_to_come
from bambola.core.quantities import (
    QuantityError,
    parse_length,
    parse_mass,
    show_length,
    show_mass,
    show_read,
)
from bambola.core.rescue import (
    SYMPTOM_BY_ID,
    Advice,
    PieceReading,
    ReadingMissingError,
    Symptom,
    advise,
    possible_symptoms,
    remedies,
    wanted_at,
    wanted_of,
)
from bambola.core.rescue.judged import SORTS, Judged
from bambola.core.rescue.upright import StandingJudgement
from bambola.core.words import error_words
from bambola.desk.kit.device_row import DeviceRow
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.order.onward_row import OnwardRow
from bambola.desk.stations.order.picture_row import WHOLE, PictureRow
from bambola.desk.stations.order.symptom_marks import OutlineOverlay, mark, mark_size
from bambola.devices.protocol import Weight
from bambola.language import N_, tr

WEIGHT = "weight"
FEELS: tuple[tuple[Firmness | None, str], ...] = (
    (None, N_("not felt")),
    ("soft", N_("soft: the thumb dents it")),
    ("medium", N_("medium: it gives a little")),
    ("firm", N_("firm: it resists a squeeze")),
)


_ROOMY = 800
"""In a window narrower than this (before scaling) one reading stands below the other."""


class RescueBox(FittedDialog):
    """Symptoms on the left, those that fit the step first; measurements, advice and ways to go on at the
    right."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        step: Step,
        done: Collection[str],
    ) -> None:
        super().__init__(parent)
        self.studio, self.theme, self.step, self.done_keys = studio, theme, step, done
        self.mended = ""
        self.advice: Advice | None = None
        self.setWindowTitle(tr("Something is wrong"))
        self.list = QListWidget()
        self.list.setAccessibleName(tr("What is seen"))
        set_role(self.list, "huge")
        self.list.setSpacing(theme.px(2))
        room = (parent.window() or parent).size()
        self._is_narrow = room.width() < theme.px(_ROOMY)
        self.list.setFixedWidth(min(theme.px(310), round(room.width() * 0.34)))
        self.list.setWordWrap(True)
        self.list.setIconSize(mark_size(theme))
        plan = studio.plan
        self.wanted = wanted_at(plan, step, studio.bench) if plan else None
        for symptom in possible_symptoms(plan, step) if plan else ():
            words = studio.say(Fact(f"symptom.{symptom.id}"))
            item = QListWidgetItem(mark(symptom.id, theme), words)
            item.setData(Qt.ItemDataRole.UserRole, symptom.id)
            self.list.addItem(item)
        self.list.currentRowChanged.connect(lambda _: self._on_symptom_chosen())
        self.fields: dict[str, QLineEdit] = {}
        self.labels: dict[str, QLabel] = {}
        form = QGridLayout()
        for at, (name, told) in enumerate(
            (
                ("length", tr("&length over all")),
                ("thickness", tr("&thickness")),
                ("twin_length", tr("the other, length")),
                ("twin_thickness", tr("the other, thickness")),
                (WEIGHT, tr("&weight, if it was weighed")),
            )
        ):
            field = self.fields[name] = QLineEdit()
            set_role(field, "figure")
            field.textChanged.connect(lambda _: self._show_advice())
            self.labels[name] = self._lay_out_fields(form, at, told, field)
        self.firmness = QComboBox()
        for feel, words in FEELS:
            self.firmness.addItem(tr(words), feel)
        self.firmness.activated.connect(lambda _: self._show_advice())
        self._firm_label = self._lay_out_fields(form, 5, tr("it &feels"), self.firmness)
        self.device = DeviceRow(studio, theme, "caliper", tr("a reading goes where the cursor is"))
        self.device.link.reading.connect(self._enter_reading)
        self.scale = DeviceRow(studio, theme, "scale", tr("what lies still on it is its weight"))
        self.scale.link.weight.connect(self._enter_weight)
        self.photo = PictureRow(studio, step)
        self.photo.judged.connect(self._enter_judged)
        self.picture: NDArray[np.uint8] | None = None
        self.outlines = OutlineOverlay(theme)
        self.should = QLabel()
        self.should.setWordWrap(True)
        set_role(self.should, "amount")
        self.told = QLabel()
        self.told.setWordWrap(True)
        set_role(self.told, "huge")
        self.told.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.onward = OnwardRow(studio, theme)
        self.onward.taken.connect(self._carry_on)
        self.mend = QPushButton(tr("It is &mended"))
        self.close_ = QPushButton(tr("Close"))
        self.mend.clicked.connect(lambda _=False: self._record_mended())
        self.close_.clicked.connect(lambda _=False: self.reject())
        self._compose(form)
        self.set_size(theme, 940, 600)
        self.finished.connect(self._let_go)
        self.list.setCurrentRow(0)
        self.list.setFocus()

    def _lay_out_fields(self, form: QGridLayout, at: int, told: str, field: QWidget) -> QLabel:
        """Lay out two fields a row, since the advice needs the height, or one if that is too wide."""
        label = QLabel(told)
        label.setBuddy(field)
        label.setWordWrap(self._is_narrow)
        row, column = divmod(at, 1 if self._is_narrow else 2)
        form.addWidget(label, row, column * 2)
        form.addWidget(field, row, column * 2 + 1)
        form.setColumnStretch(column * 2 + 1, 1)
        return label

    def _compose(self, form: QGridLayout) -> None:
        buttons = QHBoxLayout()
        set_role(self.mend, "amount")
        buttons.addWidget(self.mend)
        buttons.addStretch(1)
        buttons.addWidget(self.close_)
        page = QWidget()
        right = QVBoxLayout(page)
        right.setContentsMargins(0, 0, 0, 0)
        form.setVerticalSpacing(self.theme.px(3))
        right.setSpacing(self.theme.px(5))
        right.addLayout(form)
        ways = QBoxLayout.Direction
        way = ways.TopToBottom if self._is_narrow else ways.LeftToRight
        devices, sizes = QBoxLayout(way), QBoxLayout(way)
        devices.addWidget(self.device)
        devices.addWidget(self.scale)
        right.addLayout(devices)
        right.addWidget(self.photo)
        sizes.addWidget(self.should, 2)
        sizes.addWidget(self.outlines, 3)
        right.addLayout(sizes)
        right.addWidget(self.told, 1)
        right.addWidget(self.onward)
        beside = QVBoxLayout()
        beside.addWidget(scroll_area(page), 1)
        beside.addLayout(buttons)
        row = QHBoxLayout(self)
        row.addWidget(self.list)
        row.addLayout(beside, 1)
        row.setSpacing(self.theme.px(18))

    # What is seen

    @property
    def symptom(self) -> Symptom | None:
        """The selected symptom."""
        item = self.list.currentItem()
        return SYMPTOM_BY_ID[item.data(Qt.ItemDataRole.UserRole)] if item else None

    @property
    def part(self) -> str | None:
        """The part in question."""
        return self.step.part

    def _on_symptom_chosen(self) -> None:
        symptom = self.symptom
        if symptom is None:
            return
        for name, field in self.fields.items():
            for widget in (field, self.labels[name]):
                widget.setVisible(bool(symptom.reads) if name == WEIGHT else name in symptom.reads)
        read = bool(symptom.reads)
        for row in (self.firmness, self._firm_label):
            row.setVisible(read)
        self.device.setVisible(read)
        self.scale.setVisible(read)
        piece = read and self.step.key.sort in SORTS
        self.photo.setVisible(piece or self.step.key in WHOLE)
        self._show_advice()

    def reading(self) -> PieceReading:
        """Return the entered measurements. Raises :class:`QuantityError`."""
        unit = self.studio.units.length
        symptom, heavy = self.symptom, self.fields[WEIGHT].text().strip()
        reads = symptom.reads if symptom else ()
        found = {
            name: parse_length(field.text(), unit) if field.text().strip() else None
            for name, field in self.fields.items()
            if name in reads
        }
        return PieceReading(
            found.get("length"),
            found.get("thickness"),
            parse_mass(heavy, self.studio.units.mass) if heavy else None,
            self.firmness.currentData(),
            found.get("twin_length"),
            found.get("twin_thickness"),
        )

    def _enter_reading(self, mm: float) -> None:
        """Enter a reading of the caliper into the current field, and go to the next."""
        shown = [f for name, f in self.fields.items() if name != WEIGHT and not f.isHidden()]
        at = next(
            (f for f in shown if f.hasFocus()), next((f for f in shown if not f.text()), None)
        )
        if at is not None:
            at.setText(show_read(mm, self.studio.units))
            self.focusNextChild()

    def _enter_judged(self, judged: Judged | StandingJudgement, picture: NDArray[np.uint8]) -> None:
        """Enter the measurements from a picture, and show its outline."""
        self.picture = picture
        if isinstance(judged, StandingJudgement):
            if judged.is_leaning:
                self._take_symptom("leans")
            return
        units, reading = self.studio.units, judged.reading
        if judged.advice is not None:
            self._take_symptom(judged.advice.symptom)
        for name, mm in (("length", reading.length), ("thickness", reading.thickness)):
            if mm is not None and not self.fields[name].isHidden():
                self.fields[name].setText(show_read(mm, units))
        self.outlines.show_seen(judged.outlines[0])

    def _take_symptom(self, symptom: str) -> None:
        """Select a symptom by its id."""
        for row in range(self.list.count()):
            item = self.list.item(row)
            if item is not None and item.data(Qt.ItemDataRole.UserRole) == symptom:
                self.list.setCurrentRow(row)

    def _enter_weight(self, weight: Weight) -> None:
        """Enter a steady weight from the scale."""
        field = self.fields[WEIGHT]
        if weight.state == "steady" and weight.grams > 0 and not field.hasFocus():
            field.setText(show_mass(weight.grams, self.studio.units))

    def _show_advice(self) -> None:
        """Show what to do with the measurements so far."""
        symptom, plan, part = self.symptom, self.studio.plan, self.part
        self.advice = None
        self.mend.setEnabled(True)
        if symptom is None or plan is None:
            return
        lines: list[str] = []
        try:
            if part is not None:
                self.advice = advise(
                    plan, part, symptom, self.reading(), self.studio.bench, self.wanted
                )
                lines = self._advice_lines(self.advice)
        except QuantityError as error:
            lines = [error_words(error, self.studio.words)]
        except ReadingMissingError as error:
            lines = [error_words(error, self.studio.words), *self._remedy_lines(symptom)]
        if part is None:
            lines = self._remedy_lines(symptom)
        if symptom.id == "ran-out":
            lines += self._to_come()
        self.told.setText("\n".join(lines))
        right = self.advice is not None and self.advice.within
        self.mend.setText(tr("It is right: &keep it") if right else tr("It is &mended"))
        self._tell_size()
        self._tell_onward()

    def _tell_size(self) -> None:
        """Show the wanted size beside the measured one."""
        symptom, plan, part = self.symptom, self.studio.plan, self.part
        sized = symptom is not None and symptom.sized and plan is not None and part is not None
        self.should.setVisible(sized)
        self.outlines.show_sizes(None, None)
        if not sized or plan is None or part is None:
            return
        wanted = self.advice.wanted if self.advice else self.wanted
        assert wanted is not None
        units = self.studio.units
        self.should.setText(
            tr(
                "At this step the {part:lower} should be {long} long and {thick} thick.",
                part=plan.part(part).name,
                long=show_length(wanted.length, units),
                thick=show_length(wanted.thick, units),
            )
        )
        now = self.advice.now if self.advice else None
        self.outlines.show_sizes(
            (wanted.length, wanted.thick), (now.length, now.thick) if now else None
        )

    def _remedy_lines(self, symptom: Symptom) -> list[str]:
        say = self.studio.say
        return [f"{n}  {say(remedy)}" for n, remedy in enumerate(remedies(symptom), 1)]

    def _advice_lines(self, advice: Advice) -> list[str]:
        say = self.studio.say
        told = [action.told for action in advice.actions] or list(advice.words)
        lines = [f"{n}  {say(one)}" for n, one in enumerate(told, 1)]
        return lines + [say(one) for one in advice.follows]

    def _to_come(self) -> list[str]:
        """Return how much of each wool is still to come from this step on."""
        plan = self.studio.plan
        if plan is None:
            return []
        bench, units, wool = self.studio.bench, self.studio.units, self.step.wool
        rows = still_to_come(plan, self.done_keys)
        lines = []
        if wool in bench.wool_by_id and rows.get(wool, 0.0) > 0:
            name, short = bench.wool_by_id[wool].name, show_mass(rows[wool], units)
            lines.append(
                tr("{grams} of {wool} will be missing from here on.", wool=name, grams=short)
            )
            like = [w.name for w in like_wools(plan, bench, wool, self.done_keys)]
            if like:
                lines.append(tr("Nearest to it on your shelf: {wools}.", wools=", ".join(like)))
        rest = ", ".join(
            f"{bench.wool_by_id[w].name} {show_mass(g, units)}"
            for w, g in rows.items() if w != wool and g > 0 and w in bench.wool_by_id
        )  # fmt: skip
        return [*lines, tr("Still to come: {wool}.", wool=rest)] if rest else lines

    # Going on

    def _typed_measures(self) -> dict[str, float]:
        plan, part = self.studio.plan, self.part
        if plan is None or part is None or self.advice is None:
            return {}
        reading = self.reading()
        body, row = plan.resized.figure.by_id[part], plan.part(part)
        # Coat, fringe and what lies within the next part come on top of what is on the pad.
        whole, piece = wanted_of(plan, part, self.studio.bench), self.wanted
        assert piece is not None
        more, stouter = whole.length - piece.length, whole.thick - piece.thick
        return real_measures(
            body,
            row.to_mm,
            (whole.length, whole.thick),
            None if reading.length is None else reading.length + more,
            None if reading.thickness is None else reading.thickness + stouter,
        )

    def _is_round_to_come(self) -> bool:
        """Return whether more rounds of the core follow, which can compensate."""
        plan = self.studio.plan
        rounds = [s.n for s in plan.steps if self._is_round(s)] if plan else []
        return any(n > self.step.n for n in rounds) and self._is_round(self.step)

    def _is_round(self, step: Step) -> bool:
        return self.part is not None and step.key.is_of(self.part, "core")

    def _whole_grams(self) -> float | None:
        """Return what the finished part will weigh if the piece on the pad weighs what was read."""
        plan, part, advice = self.studio.plan, self.part, self.advice
        if plan is None or part is None or advice is None or self.wanted is None:
            return None
        read, right = self.reading().grams, self.wanted.grams + self.wanted.end_g
        return None if read is None else max(0.01, plan.part(part).grams + read - right)

    def _tell_onward(self) -> None:
        """Show the effect of fitting the rest, or leaving it."""
        advice = self.advice
        off = bool(advice and not advice.within and self.symptom and not self.symptom.pair)
        off = off and not self._is_round_to_come()
        self.onward.ask(self.part, self._typed_measures() if off else {}, self._whole_grams())

    def _carry_on(self, brief: Brief, words: str) -> None:
        if self.studio.carry_on(brief, words):
            self.mended = words
            self.accept()

    def _record_mended(self) -> None:
        """Record that it was mended, or measured and found right."""
        symptom = self.symptom
        if self.advice is not None and self.advice.within:
            units, now = self.studio.units, self.advice.now
            long, thick = show_length(now.length, units), show_length(now.thick, units)
            self.mended = tr("read: {long} long, {thick} thick; right", long=long, thick=thick)
        elif symptom is not None:
            told = [self.studio.say(Fact(f"symptom.{symptom.id}"))]
            if self.advice is not None:
                told += [self.studio.say(a.told) for a in self.advice.actions]
            self.mended = ": ".join((told[0], " ".join(told[1:]))) if len(told) > 1 else told[0]
        self.accept()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        entered = event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if entered and self.list.hasFocus():
            self.focusNextChild()
            return
        super().keyPressEvent(event)

    def _let_go(self, _: int) -> None:
        self.device.close_link()
        self.scale.close_link()
        self.photo.close_down()
        self.onward.let_go()
