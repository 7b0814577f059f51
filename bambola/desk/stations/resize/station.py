"""The station *Resize*: the two figures and the tape in the middle, the card of the selected part beside
them."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QToolButton, QVBoxLayout, QWidget

from bambola.core.quantities import show_length
from bambola.core.relief import Camera
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.icons import icon
from bambola.desk.kit.part_card import PartCard
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.slips import SlipTray
from bambola.desk.kit.theme import Theme, set_spacing
from bambola.desk.kit.thread import WoolShelf
from bambola.desk.kit.views import VIEWS
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.height_desk import HeightDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.page import Page
from bambola.desk.stations.resize.figure_table import FigureTable
from bambola.desk.stations.resize.layout import TWO_PX
from bambola.language import tr

_ROOMY = 500
"""Height (px before scaling) from which the card and an unfolded slip both fit."""
_LONG_PX = 600
"""On a table narrower than this (before scaling) the longer words meet the sizes of the part in hand."""
_LOW = 330
"""Where it is lower the figure needs the room of the wool, which has its own station."""


class ResizeStation(Page):
    """The main station."""

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        heights: HeightDesk,
        bench_desk: BenchDesk,
    ) -> None:
        super().__init__()
        self.bench_desk = bench_desk
        self.studio, self.theme, self.darkroom, self.heights = studio, theme, darkroom, heights
        self._tight = False
        self.table = FigureTable(studio, theme, darkroom, heights)
        self.card = PartCard(studio, theme)
        self.slips = SlipTray(studio, theme)
        self.shelf = WoolShelf(studio, theme)
        self.views = ViewButtons(self.table, theme)
        self.views.ask.clicked.connect(lambda _=False: self.ask_heights())
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(self.table, 1)
        left.addWidget(self.shelf)
        self._right = QVBoxLayout()
        self._right.addWidget(scroll_area(self.card), 1)
        self._right.addWidget(self.slips)
        self._side = QWidget()
        self._side.setLayout(self._right)
        self._row = QHBoxLayout(self)
        self._row.addLayout(left, 1)
        self._row.addWidget(self._side)
        self.views.setParent(self.table)
        self.wheel_over(self.table)
        self.table.camera_changed.connect(self.view_changed)
        self.setTabOrder(self.table, self.views)
        set_spacing(self.theme, self._row, (6, 0, 24, 4), gap=10)
        set_spacing(self.theme, self._right, (0, 4, 0, 0), gap=10)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self._fit_width()

    def _fit_width(self) -> None:
        wide = min(self.theme.px(362), max(self.theme.px(230), round(self.width() * 0.36)))
        self._side.setFixedWidth(wide)
        tight = self.height() < self.theme.px(_ROOMY)
        self.shelf.setVisible(self.height() >= self.theme.px(_LOW))
        if tight != self._tight:
            self._tight = tight
            self.slips.fold(tight)
        self._place_views()

    def _place_views(self) -> None:
        """Place the buttons for views over the table if there is room between tape and dimensions, else
        beside it."""
        beside = self.table.width() < self.theme.px(TWO_PX)
        is_short = self.table.width() < self.theme.px(_LONG_PX)
        self.views.ask.setText(tr("Height?") if is_short else tr("What height?"))
        self.views.adjustSize()
        if beside == (self.views.parentWidget() is self._side):
            return
        if beside:
            self._right.insertWidget(0, self.views)
        else:
            self._right.removeWidget(self.views)
            self.views.setParent(self.table)
            self.views.move(self.theme.px(74), 0)
        self.views.show()

    def take_keys(self) -> None:
        self.table.setFocus()

    def resizeEvent(self, event: object) -> None:
        self._fit_width()

    def showEvent(self, event: object) -> None:
        self.heights.want(True)

    def hideEvent(self, event: object) -> None:
        self.heights.want(False)

    def close_down(self) -> None:
        self.heights.close()

    def ask_heights(self) -> None:
        """Open *What height?*."""
        from bambola.desk.stations.resize.height_dialog import HeightDialog

        if self.studio.plan is None:
            return
        self.studio.let_go()
        dialog = HeightDialog(
            self, self.studio, self.theme, self.darkroom, self.heights, self.bench_desk
        )
        dialog.set_printed.connect(self.set_printed)
        dialog.set_made.connect(lambda heights: self.make_set(dialog, heights))
        dialog.exec()

    def make_set(self, parent: QWidget, heights: Sequence[float]) -> None:
        """Plan one of each of these heights (mm), made at once."""
        from bambola.desk.kit.together_dialog import TogetherDialog

        figure, brief = self.studio.figure, self.studio.brief
        assert figure is not None
        told = [show_length(mm, self.studio.units) for mm in heights]
        offered = [
            (name, (name, figure, brief.at_height(mm)))
            for name, mm in zip(told, heights, strict=True)
        ]
        TogetherDialog(parent, self.studio, self.theme, tr("One of each"), offered).exec()


class ViewButtons(QWidget):
    """Buttons for the side the figures are seen from."""

    def __init__(self, table: FigureTable, theme: Theme) -> None:
        super().__init__(table)
        self.table, self.theme = table, theme
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        row.setSizeConstraint(QHBoxLayout.SizeConstraint.SetFixedSize)
        self.buttons: dict[str, QToolButton] = {}
        for name, told, camera in VIEWS:
            button = QToolButton()
            button.setAccessibleName(tr(told))
            button.setToolTip(tr(told))
            make_switch(button, lambda _, camera=camera: self._turn_camera(camera))
            row.addWidget(button)
            self.buttons[name] = button
        self.ask = QPushButton(tr("What height?"))
        self.ask.setToolTip(
            tr("What changes at other heights, and which height fits your conditions")
        )
        row.addWidget(self.ask)
        table.camera_changed.connect(self._update_view_buttons)
        theme.changed.connect(self._restyle)
        self._restyle()
        self._update_view_buttons()

    def _turn_camera(self, camera: Camera) -> None:
        self.table.turn_to(camera)
        self._update_view_buttons()

    def _restyle(self) -> None:
        side = self.theme.px(26)
        for name, button in self.buttons.items():
            button.setIcon(icon(f"view-{name}", self.theme.dyes.ink))
            button.setIconSize(QSize(side, side))
        self.move(self.theme.px(74), 0)

    def _update_view_buttons(self) -> None:
        for name, _, camera in VIEWS:
            show_switch(self.buttons[name], camera == self.table.camera)
