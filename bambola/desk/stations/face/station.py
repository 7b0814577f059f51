"""The station *Face*: the new head beside the old at one size, its marks as numbered pins, and the strips."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Sight
from bambola.core.relief import Camera
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.flow import FlowLayout, scroll_area
from bambola.desk.kit.icons import icon
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.theme import Theme, set_spacing
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.kit.views import VIEWS
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.face.heads import HeadsView
from bambola.desk.stations.face.looks_bar import LooksBar
from bambola.desk.stations.face.mark_card import MarkCard
from bambola.desk.stations.face.strip import StripView
from bambola.desk.stations.page import Page
from bambola.language import tr


class FaceStation(Page):
    """The heads and their strips on the left, the marks on the right."""

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        true_size: TrueSize,
        desk: BenchDesk,
    ) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.heads = HeadsView(studio, theme, darkroom)
        self.strips = StripView(studio, theme, true_size)
        self.card = MarkCard(studio, theme, desk)
        head = QWidget()
        bar = FlowLayout(head)
        self.views: dict[str, QToolButton] = {}
        for name, told, camera in VIEWS:
            view = QToolButton()
            view.setToolTip(tr(told))
            view.setAccessibleName(tr(told))
            make_switch(view, lambda _, c=camera: self.heads.turn_to(c))
            bar.addWidget(view)
            self.views[name] = view
        self.looks = LooksBar(studio, theme)
        self.looks.beside_chosen.connect(self.heads.put_beside)
        self.heads.together_wanted.connect(self.looks.make_together)
        self.one_to_one = QPushButton("1:1")
        self.one_to_one.setCheckable(True)
        self.one_to_one.setToolTip(
            tr("The strips at actual size, if the screen reports its size correctly")
        )
        self.one_to_one.toggled.connect(self.strips.set_true_size)
        bar.addWidget(self.one_to_one)
        bar.set_end(len(VIEWS))
        table = QWidget()
        left = QVBoxLayout(table)
        left.setContentsMargins(0, 0, 0, 0)
        left.addWidget(head)
        left.addWidget(self.looks)
        left.addWidget(self.heads, 1)
        left.addWidget(self.strips)
        self._side = scroll_area(self.card)
        self._row = QHBoxLayout(self)
        self._row.addWidget(scroll_area(table), 1)
        self._row.addWidget(self._side)
        self.heads.taken.connect(self._on_mark_selected)
        self.heads.camera_changed.connect(self._update_view_buttons)
        pieces = self.card.pieces
        self.heads.piece_wanted.connect(pieces.add.showMenu)
        self.heads.proposed_taken.connect(pieces.lay_proposed)
        pieces.laid_on.connect(self._laid_on)
        self.heads.piece_away.connect(pieces.take_away)
        self.card.taken.connect(self.heads.select_mark)
        self.card.part_taken.connect(self._part_taken)
        self.wheel_over(self.strips, self.heads)
        studio.plan_changed.connect(self._on_planned)
        studio.units_changed.connect(self._on_planned)
        set_spacing(self.theme, self._row, (20, 2, 24, 4), gap=14)
        theme.changed.connect(self._restyle)
        self._restyle()
        self._update_view_buttons()

    def _restyle(self) -> None:
        px = self.theme.px
        self.heads.setMinimumHeight(min(px(250), 350))
        side = px(26)
        for name, button in self.views.items():
            button.setIcon(icon(f"view-{name}", self.theme.dyes.ink))
            button.setIconSize(QSize(side, side))
        self._fit_width()

    def _fit_width(self) -> None:
        wide = min(self.theme.px(362), max(self.theme.px(230), round(self.width() * 0.36)))
        self._side.setFixedWidth(wide)

    def resizeEvent(self, event: object) -> None:
        self._fit_width()

    def showEvent(self, event: object) -> None:
        self._on_planned()

    def _on_planned(self) -> None:
        if self.isVisible():
            self.heads.refresh()
            self._on_mark_selected(self.heads.mark)

    def _on_mark_selected(self, mark: str) -> None:
        in_hand = self.heads.in_hand
        id = in_hand.id if in_hand else ""
        self.strips.show_face(self.heads.face, id)
        self.card.show_face(self.heads.face.part if self.heads.face else "", in_hand)

    def _part_taken(self, part: str) -> None:
        self.heads.part = part
        self._on_planned()

    def _laid_on(self, part: str, mark: str) -> None:
        """Select a new piece as soon as it exists."""
        self.heads.part, self.heads.mark = part, mark

    def _update_view_buttons(self) -> None:
        for name, _, camera in VIEWS:
            show_switch(self.views[name], camera == self.heads.camera)
        self.view_changed.emit()

    def at_true_size(self, on: bool | None) -> bool:
        self.one_to_one.setChecked(not self.one_to_one.isChecked() if on is None else on)
        return True

    def close_down(self) -> None:
        """Disconnect the caliper."""
        self.card.caliper.close_link()

    def take_keys(self) -> None:
        self.heads.setFocus()

    def turn_to(self, view: Sight, camera: Camera) -> bool:
        self.heads.turn_to(camera)
        return True

    @property
    def seen_from(self) -> Camera:
        return self.heads.camera
