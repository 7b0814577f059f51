"""One measure as a row: its number, how it was taken, and the rule its size follows."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import (
    QBoxLayout,
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Figure, Survey, Taken
from bambola.core.figure.shapes import LEAST_MM
from bambola.core.figure.survey import How
from bambola.core.plan.reading.round import Effect
from bambola.core.plan.reading.typed_height import with_typed_height
from bambola.core.quantities import QuantityError, parse_length, show_length, show_mass, show_read
from bambola.core.sight.build import with_traces
from bambola.core.solids.edit import stretch_part
from bambola.core.tape import by_tape, tape_now, ways_of_taking
from bambola.core.words import error_words, kind
from bambola.desk.kit.sizes_row import RuleButton
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr

HOW_WORDS: dict[How, str] = {
    "straight": N_("straight"),
    "girth": N_("girth"),
    "over the surface": N_("over it"),
    "caliper": N_("caliper"),
    "picture": N_("picture"),
    "plan": N_("not yet"),
}


def take_measure(studio: EditorSession, part: str, measure: str, mm: float, how: How) -> bool:
    """Set a measure of a part to ``mm``, taken ``how``; refused in words."""
    studio.let_go()  # a caliper may send while a change is under way
    body = studio.figure.by_id.get(part) if studio.figure else None
    # A row may be written in while the part it stood for is already gone, or of another shape.
    if studio.figure is None or body is None or measure not in body.shape.measure_names:
        return False
    figure = studio.figure
    if not LEAST_MM <= mm <= 1_000_000:
        studio.refused.emit(
            tr(
                "{name}: {measure} must lie above 0 and up to 1000 m.",
                name=body.name,
                measure=studio.say(kind("measure", measure)),
            )
        )
        return False
    try:
        measures = by_tape(body.shape, measure, mm, how)
        new = stretch_part(figure, part, measures)
    except ValueError as error:
        said = error_words(error, studio.words)
        studio.refused.emit(said if said.startswith(body.name) else f"{body.name}: {said}.")
        return False
    now = new.by_id[part].shape.measures()
    taken = (Taken(part=part, measure=name, mm=now[name], how=how) for name in measures)
    return edit_rebuilt(
        studio, tr("Measure {name:lower}", name=body.name), new, studio.survey.with_readings(*taken)
    )


def edit_rebuilt(studio: EditorSession, words: str, figure: Figure, survey: Survey) -> bool:
    """Change figure and survey, rebuild traced parts from their traces, and keep the typed height; refused in
    words."""
    try:
        made, survey = with_traces(figure, survey) if survey.traces else (figure, survey)
        if studio.figure is not None:
            made = with_typed_height(studio.figure, made, survey)
    except ValueError as error:
        studio.refuse(error)
        return False
    return studio.edit(words, made, survey, waits=False)


class MeasureRow(QWidget):
    """A measure of a part. The focused row is the current measure."""

    in_hand = pyqtSignal(str, str)
    taken = pyqtSignal()

    def __init__(
        self, studio: EditorSession, theme: Theme, effect: Effect, show_part: bool
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.effect = studio, theme, effect
        self.heaviest, self._show_part = 0.0, show_part
        self._title, self._told = QLabel(), QLabel()
        for label in (self._title, self._told):
            label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
            label.setWordWrap(True)
        self.entry = _MeasureEntry()
        self.entry.returnPressed.connect(self._save_typed)
        self.entry.came_to_hand.connect(lambda: self.in_hand.emit(effect.part, effect.measure))
        self.way = QComboBox()
        self.way.currentIndexChanged.connect(self._show_number)
        self.rule = RuleButton(studio, theme, effect.part, effect.measure)
        words = QVBoxLayout()
        words.setSpacing(0)
        words.addWidget(self._title)
        words.addWidget(self._told)
        self._controls = QHBoxLayout()
        for widget in (self.entry, self.way, self.rule):
            self._controls.addWidget(widget)
        self._row = QBoxLayout(QBoxLayout.Direction.LeftToRight, self)
        self._row.addLayout(words, 1)
        self._row.addLayout(self._controls)
        set_role(self._title, "strong")
        set_role(self._told, "small")
        set_role(self.entry, "amount", "faint")
        set_spacing(self.theme, self._row, (10, 3, 2, 3), gap=3)
        set_spacing(self.theme, self._controls, gap=4)
        theme.changed.connect(self._restyle)
        self._restyle()

    def show_value(self, effect: Effect, heaviest: float) -> None:
        """Show the present value of the measure."""
        self.effect, self.heaviest = effect, heaviest
        figure = self.studio.figure
        assert figure is not None
        self._part = figure.by_id[effect.part]
        name, measure = self._part.name, self.studio.say(kind("measure", effect.measure))
        self._title.setText(f"{name}: {measure}" if self._show_part else measure.capitalize())
        self._told.setText(self._row_words())
        self.entry.setAccessibleName(f"{name}, {measure}")
        self.way.setAccessibleName(tr("How {name} {measure} is taken", name=name, measure=measure))
        ways = ways_of_taking(self._part.shape, effect.measure)
        self.way.blockSignals(True)
        if [self.way.itemData(i) for i in range(self.way.count())] != list(ways):
            self.way.clear()
            for how in ways:
                self.way.addItem(tr(HOW_WORDS[how]), how)
        self.way.setCurrentIndex(max(0, self.way.findData(effect.how)))
        self.way.blockSignals(False)
        self.rule.refresh()
        self.setToolTip(self._origin_text())
        self._apply_colour()
        self._show_number()
        self.update()

    @property
    def _is_wanting(self) -> bool:
        """Whether an original is being measured and this is missing. The sizes of a design that was never
        measured are simply its own."""
        survey = self.studio.survey
        return self.effect.is_missing and bool(survey.framings or survey.taken)

    def _origin_text(self) -> str:
        """Return where the number comes from."""
        effect, units = self.effect, self.studio.units
        grams = show_mass(effect.grams, units)
        if effect.is_missing:
            return tr("Not measured yet: the wool could be off by {grams}.", grams=grams)
        return tr(
            "Taken {how}; that leaves {grams} of wool uncertain.",
            how=tr(HOW_WORDS[effect.how]),
            grams=grams,
        )

    def _row_words(self) -> str:
        effect, units = self.effect, self.studio.units
        if effect.is_missing:
            if self._is_wanting:
                return tr("missing, ±{grams}", grams=show_mass(effect.grams, units))
            return tr("as designed")
        return f"{tr(HOW_WORDS[effect.how])}, ±{show_mass(effect.grams, units)}"

    def _restyle(self) -> None:
        self._apply_colour()

    def _apply_colour(self) -> None:
        set_role(self._told, tone="warning" if self._is_wanting else "quiet")

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        # With large text the controls go beneath the words, where the ways have what room is left.
        narrow, tight = (self.width() < self.theme.px(wide) for wide in (340, 230))
        self.entry.setFixedWidth(self.theme.px(74 if tight else 88))
        self.way.setMinimumWidth(self.theme.px(66 if tight else 90))
        self.way.setMaximumWidth(self.theme.px(150 if narrow else 90))
        ways = QBoxLayout.Direction
        self._row.setDirection(ways.TopToBottom if narrow else ways.LeftToRight)

    def _show_number(self) -> None:
        read = tape_now(self._part.shape, self.effect.measure, self.taken_by)
        by_caliper = self.effect.how == "caliper" and self.taken_by in ("caliper", "straight")
        show = show_read if by_caliper else show_length
        self.entry.setText(show(read, self.studio.units))
        self.entry.was = self.entry.text()

    @property
    def taken_by(self) -> How:
        """The way the measure is taken."""
        how: How = self.way.currentData()
        return how

    def _save_typed(self) -> None:
        try:
            mm = parse_length(self.entry.text(), self.studio.units.length)
        except QuantityError as error:
            self.studio.refuse(error)
            return
        self.enter_reading(mm, self.taken_by)

    def enter_reading(self, mm: float, how: How) -> None:
        """Enter a reading into this measure, and go to the next."""
        if take_measure(self.studio, self.effect.part, self.effect.measure, mm, how):
            self.taken.emit()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        # A strand along the left edge, as thick as what is in doubt.
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        share = self.effect.grams / self.heaviest if self.heaviest else 0.0
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(d.madder if self._is_wanting else d.lichen)
        high = self.height() - px(10)
        painter.drawRoundedRect(QRectF(0, px(5), max(2.0, px(7) * share**0.5), high), 2, 2)
        if self.entry.hasFocus():
            painter.setPen(QPen(d.madder, 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(
                QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), px(7), px(7)
            )


class _MeasureEntry(QLineEdit):
    """The field for a measure. Escape restores the old value."""

    came_to_hand = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.was = ""
        self.setAlignment(Qt.AlignmentFlag.AlignRight)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.selectAll()
        self.came_to_hand.emit()
        parent = self.parentWidget()
        if parent:
            parent.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        parent = self.parentWidget()
        if parent:
            parent.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.setText(self.was)
            self.selectAll()
        elif event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            step = Qt.Key.Key_Backtab if event.key() == Qt.Key.Key_Up else Qt.Key.Key_Tab
            self.focusNextPrevChild(step == Qt.Key.Key_Tab)
        else:
            super().keyPressEvent(event)
        event.accept()
