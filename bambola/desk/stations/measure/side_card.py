"""The card beside the board: the selected part, the guided round, contradictions, and all parts."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QFrame,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from bambola.desk.kit.device_row import DeviceRow
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.scrolled import scroll_area
from bambola.desk.kit.switch import make_switch, show_switch
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.doubts import DoubtList
from bambola.desk.stations.measure.part_head import PartHead
from bambola.desk.stations.measure.part_tree import PartTree
from bambola.desk.stations.measure.round_pane import MeasureList
from bambola.desk.stations.measure.scale_pane import WeighPane
from bambola.desk.stations.measure.sighting import Sighting
from bambola.language import N_, tr

PANES = (
    (N_("Part"), N_("The part in hand")),
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
        self.caliper = DeviceRow(
            studio, theme, "caliper", tr("its button takes the measure in hand")
        )
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
            self.panes.addWidget(self._scrolling(widgets))
        self.tree = PartTree(studio, theme, darkroom)
        self.panes.addWidget(self.tree)
        self._box = QVBoxLayout(self)
        self._box.addWidget(head)
        self._box.addWidget(self.panes, 1)
        self._box.addWidget(self.caliper)
        self.doubts.counted.connect(self._count)
        self.caliper.link.reading.connect(self._take_reading)
        self.round.in_hand.connect(self.in_hand)
        self.part_list.in_hand.connect(self._part_in_hand)
        theme.changed.connect(self._restyle)
        self._restyle()
        self.show_pane(PART)

    def _scrolling(self, widgets: tuple[QWidget, ...]) -> QScrollArea:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, self.theme.px(4), 0)
        for widget in widgets:
            column.addWidget(widget)
        column.addStretch(1)
        return scroll_area(page)

    def _restyle(self) -> None:
        d, px = self.theme.dyes, self.theme.px
        self.setStyleSheet(
            f"QFrame#card {{ background: {d.paper.name()}; border: 1px solid {d.edge.name()};"
            f" border-radius: {px(14)}px; }}"
        )
        self._box.setContentsMargins(px(14), px(10), px(10), px(10))

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

    def _count(self, doubts: int) -> None:
        name = tr(PANES[CHECKS][0])
        self.tabs[CHECKS].setText(f"{name} ({doubts})" if doubts else name)

    def _part_in_hand(self, part: str, measure: str) -> None:
        # Rows of a part that has just been put down may still be about to go.
        if part == self.studio.selection.part:
            self.in_hand.emit(part, measure)

    def _take_reading(self, mm: float) -> None:
        """Put the caliper's reading into the current measure of the pane shown."""
        shown = self.round if self.panes.currentIndex() == ROUND else self.part_list
        shown.take(mm)
