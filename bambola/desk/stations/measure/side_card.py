"""The card beside the board: the selected part, the guided round, contradictions, and all parts."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from bambola.core.plan.reading.checks import Doubt, WeightFinding, find_doubts, weigh_original
from bambola.core.quantities import QuantityError, parse_mass, show_mass
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.device_row import DeviceRow
from bambola.desk.kit.flow import FlowLayout, discard, scroll_area
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.running.timers import at_most_every, one_shot_timer, start_unless_running
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.part_head import PartHead
from bambola.desk.stations.measure.part_tree import PartTree
from bambola.desk.stations.measure.round_pane import MeasureList
from bambola.desk.stations.measure.sighting import Sighting
from bambola.language import N_, tr

_SETTLE_MS = 250


class DoubtList(QWidget):
    """One slip of paper for each contradiction, removed once it no longer holds."""

    asked = pyqtSignal(object)
    counted = pyqtSignal(int)

    def __init__(self, studio: EditorSession, theme: Theme, sighting: Sighting) -> None:
        super().__init__()
        self.studio, self.theme, self.sighting = studio, theme, sighting
        self.doubts: tuple[Doubt, ...] = ()
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._none = QLabel(tr("Everything that was measured goes together."))
        self._none.setWordWrap(True)
        self._box.addWidget(self._none)
        self._slips = QVBoxLayout()
        self._box.addLayout(self._slips)
        self._box.addStretch(1)
        self._timer = one_shot_timer(self, _SETTLE_MS)
        self._timer.timeout.connect(self.refresh)
        for signal in (
            studio.survey_changed,
            studio.figure_changed,
            studio.plan_changed,
            sighting.changed,
            studio.units_changed,
        ):
            signal.connect(lambda *_: self._timer.start())
        theme.changed.connect(lambda: self._timer.start())

    def refresh(self) -> None:
        """Check everything again."""
        figure = self.studio.figure
        if figure is None or not self.studio_is_here():
            return
        self.doubts = find_doubts(
            figure,
            self.studio.plan_as_made(),
            self.studio.survey,
            self.studio.bench,
            self.sighting.framed_silhouettes(),
        )
        while (item := self._slips.takeAt(0)) is not None:
            if widget := item.widget():
                discard(widget)
        for doubt in self.doubts:
            self._slips.addWidget(self._doubt_slip(doubt))
        self._none.setVisible(not self.doubts)
        self.counted.emit(len(self.doubts))

    def studio_is_here(self) -> bool:
        """Return whether the station *Measure* is shown."""
        parent = self.parentWidget()
        return parent is not None and parent.isVisible()

    def _doubt_slip(self, doubt: Doubt) -> QFrame:
        slip = QFrame()
        set_role(slip, "note-slip")
        told = self.studio.say(doubt.text)
        words = QLabel(told)
        words.setWordWrap(True)
        set_role(words, "body")
        row = QHBoxLayout(slip)
        row.addWidget(words, 1)
        if doubt.part or doubt.view:
            go = QPushButton(tr("Go there"))
            go.setAccessibleName(tr("Go to {told}", told=told))
            go.clicked.connect(lambda _=False: self.asked.emit(doubt))
            row.addWidget(go)
        return slip


class WeighPane(QWidget):
    """Takes the original's weight, tells how firmly it is felted, and offers to use that."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._found: WeightFinding | None = None
        self.entry = QLineEdit()
        self.entry.setPlaceholderText(tr("weight"))
        self.entry.setAccessibleName(tr("Weight of the original"))
        self.entry.returnPressed.connect(self._save_weight)
        self._label = QLabel(tr("The original weighs"))
        self._label.setWordWrap(True)
        self._told = QLabel()
        self._told.setWordWrap(True)
        self.use = QPushButton(tr("Felt it like the original"))
        self.use.clicked.connect(self.set_firmness)
        line = QHBoxLayout()
        line.addWidget(self._label, 1)
        line.addWidget(self.entry)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(4), 0, 0)
        column.addLayout(line)
        column.addWidget(self._told)
        column.addWidget(self.use)
        self._soon = at_most_every(self, 0, self.refresh)
        for signal in (studio.survey_changed, studio.figure_changed, studio.units_changed):
            signal.connect(lambda: start_unless_running(self._soon))
        set_role(self.entry, "amount")
        set_role(self._told, "note")
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.entry.setFixedWidth(self.theme.px(96))

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Show what the weight means for the present figure."""
        weight = self.studio.survey.weight
        self._found = None
        if self.studio.figure is None or not self.isVisible():
            return
        if weight is None:
            self.entry.setText("")
            self._told.setText(
                tr("Put the finished original on the scale: its weight tells its firmness.")
            )
        else:
            self.entry.setText(show_mass(weight, self.studio.units))
            self._found = weigh_original(
                self.studio.figure, weight, self.studio.bench, self.studio.plan_as_made()
            )
            expected = show_mass(self._found.expected_g, self.studio.units)
            self._told.setText(
                tr(
                    "As drawn it would weigh {expected}. {told}",
                    expected=expected,
                    told=self.studio.say(self._found.as_fact),
                )
            )
        found = self._found
        same = found is not None and abs(found.expected_g / found.weight_g - 1) < 0.005
        self.use.setVisible(bool(found and found.figure and found.believable and not same))

    def _save_weight(self) -> None:
        try:
            grams = parse_mass(self.entry.text(), self.studio.units.mass)
            if not 0 < grams <= 1_000_000:
                raise QuantityError(tr("A weight must lie above 0 and up to 1000 kg."))
        except QuantityError as error:
            self.studio.refuse(error)
            return
        self.studio.let_go()
        self.studio.edit(tr("Weigh the original"), survey=self.studio.survey.replaced(weight=grams))

    def set_firmness(self) -> None:
        """Give the figure the firmness of its original."""
        if self._found is not None and self._found.figure is not None:
            self.studio.edit(tr("Felt it like the original"), self._found.figure, waits=False)


PANES = (
    (N_("Part"), N_("The selected part")),
    (N_("Round"), N_("The guided round")),
    (N_("Checks"), N_("What does not go together")),
    (N_("All"), N_("All parts, each under what it sits on")),
)
PART, ROUND, CHECKS, ALL = range(4)


class SideCard(QFrame):
    """Four panes, one shown at a time, with the caliper beneath. A reading goes to the pane shown."""

    in_hand = pyqtSignal(str, str)

    def __init__(
        self, studio: EditorSession, theme: Theme, sighting: Sighting, darkroom: RenderQueue
    ) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.setObjectName("card")
        self.head = PartHead(studio, theme)
        self.part_list = MeasureList(studio, theme, whole_figure=False)
        self.round = MeasureList(studio, theme, whole_figure=True)
        self.weigh = WeighPane(studio, theme)
        self.doubts = DoubtList(studio, theme, sighting)
        self.caliper = DeviceRow(studio, theme, "caliper", tr("its button selects the measure"))
        head = QWidget()
        tabs = FlowLayout(head)
        self.tabs: list[QPushButton] = []
        for i, (name, told) in enumerate(PANES):
            button = QPushButton(tr(name))
            button.setAccessibleName(tr(told))
            button.setToolTip(tr(told))
            make_switch(button, lambda _, i=i: self.show_pane(i))
            tabs.addWidget(button)
            self.tabs.append(button)
        self.panes = QStackedWidget()
        for widgets in ((self.head, self.part_list), (self.round, self.weigh), (self.doubts,)):
            self.panes.addWidget(self._scroll_page(widgets))
        self.tree = PartTree(studio, theme, darkroom)
        self.panes.addWidget(self.tree)
        self._box = QVBoxLayout(self)
        self._box.addWidget(head)
        self._box.addWidget(self.panes, 1)
        self._box.addWidget(self.caliper)
        self.doubts.counted.connect(self._show_count)
        self.caliper.link.reading.connect(self._take_reading)
        self.round.in_hand.connect(self.in_hand)
        self.part_list.in_hand.connect(self._part_in_hand)
        set_role(self, "card")
        set_spacing(self.theme, self._box, (14, 10, 10, 10))
        self.show_pane(PART)

    def _scroll_page(self, widgets: tuple[QWidget, ...]) -> QScrollArea:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, self.theme.px(4), 0)
        for widget in widgets:
            column.addWidget(widget)
        column.addStretch(1)
        return scroll_area(page)

    def show_pane(self, pane: int) -> None:
        """Show one of the panes."""
        self.panes.setCurrentIndex(pane)
        for i, button in enumerate(self.tabs):
            show_switch(button, i == pane)
        if pane == CHECKS:
            self.doubts.refresh()

    def show_all(self) -> None:
        """Show all parts, for the keyboard."""
        self.show_pane(ALL)
        self.tree.setFocus()

    def _show_count(self, doubts: int) -> None:
        name = tr(PANES[CHECKS][0])
        self.tabs[CHECKS].setText(f"{name} ({doubts})" if doubts else name)

    def _part_in_hand(self, part: str, measure: str) -> None:
        # Rows of a part that has just been put down may still be about to go.
        if part == self.studio.selection.part:
            self.in_hand.emit(part, measure)

    def _take_reading(self, mm: float) -> None:
        """Put the caliper's reading into the current measure of the pane shown."""
        shown = self.round if self.panes.currentIndex() == ROUND else self.part_list
        shown.enter_reading(mm)
