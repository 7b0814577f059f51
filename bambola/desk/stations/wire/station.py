"""The station *Wire*: the walk over the skeleton, the wires along the ruler, and how the figure stands."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Sight
from bambola.core.relief import Camera
from bambola.desk.kit.buttons import FaceBar, make_switch, show_switch
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.icons import icon
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.slips import SlipTray
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.kit.views import VIEWS
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.menus import GROUND, RULER, WALK, WIRE_FACES
from bambola.desk.stations.page import Page
from bambola.desk.stations.wire.ghost import GhostView
from bambola.desk.stations.wire.ground import GroundView
from bambola.desk.stations.wire.join_card import JoinCard
from bambola.desk.stations.wire.ruler import RulerView
from bambola.desk.stations.wire.school_cards import SchoolCards
from bambola.desk.stations.wire.walk import Walk
from bambola.desk.stations.wire.wire_card import WireCard
from bambola.language import tr

_ROOMY = 520


class WireStation(Page):
    """Three views of the wire on the left, the card of the selection on the right."""

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, true_size: TrueSize
    ) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.walk = Walk(studio)
        self.ghost = GhostView(studio, theme, darkroom, self.walk)
        self.ruler = RulerView(studio, theme, self.walk, true_size)
        self.ground = GroundView(studio, theme, darkroom)
        self.schools = SchoolCards(studio, theme, self.walk)
        self.card = WireCard(studio, theme, self.walk)
        self.joins = JoinCard(studio, theme)
        self.slips = SlipTray(studio, theme)
        self._wished = QLabel()
        self._compose()
        self.wheel_over(self.ruler.rulers, self.ghost)
        studio.plan_changed.connect(self._tell_wish)
        set_role(self._wished, "body")
        set_spacing(self.theme, self._row, (20, 2, 24, 4), gap=14)
        set_spacing(self.theme, self._right, (0, 0, 0, 0), gap=10)
        theme.changed.connect(self._restyle)
        self._restyle()
        self.show_face(WALK)

    def _compose(self) -> None:
        self._bar = FaceBar(self.theme, WIRE_FACES, self.show_face)
        self.faces = self._bar.faces
        self.true_size = QPushButton("1:1")
        self.true_size.setCheckable(True)
        self.true_size.setToolTip(tr("Actual size, if the screen reports its size correctly"))
        self.true_size.toggled.connect(self.ruler.set_true_size)
        self._bar.offer(self.true_size)
        self.steadier, self.less_steady = QToolButton(), QToolButton()
        for knob, glyph, told, by in (
            (self.less_steady, "−", tr("Ask for less steadiness, or less nodding (Down)"), -1.0),
            (self.steadier, "+", tr("Ask for more steadiness, or more nodding (Up)"), 1.0),
        ):
            knob.setText(glyph)
            knob.setToolTip(told)
            knob.setAccessibleName(told)
            knob.clicked.connect(lambda _=False, by=by: self.ground.wish_by(by))
            self._bar.offer(knob)
            if knob is self.less_steady:
                self._bar.offer(self._wished)
        self.views: dict[str, QToolButton] = {}
        for name, told, camera in VIEWS:
            view = QToolButton()
            view.setToolTip(tr(told))
            view.setAccessibleName(tr(told))
            make_switch(view, lambda _, n=name, c=camera: self.turn_to(n, c))
            self._bar.offer(view)
            self.views[name] = view
        self.pages = QStackedWidget()
        walk_page = QWidget()
        beside = QHBoxLayout(walk_page)
        beside.setContentsMargins(0, 0, 0, 0)
        schools = QVBoxLayout()
        schools.addWidget(self.schools, 1)
        self.take_school = QPushButton(tr("Wire it so"))
        self.take_school.setToolTip(tr("Use the school you are looking at (Enter)"))
        self.take_school.clicked.connect(lambda _=False: self.schools.take_school())
        self.schools.looked.connect(self._offer_school)
        self._offer_school()
        schools.addWidget(self.take_school)
        beside.addLayout(schools)
        beside.addWidget(self.ghost, 1)
        for page in (walk_page, self.ruler, self.ground):
            self.pages.addWidget(page)
        left = QVBoxLayout()
        left.addWidget(self._bar)
        left.addWidget(self.pages, 1)
        self._cards = QStackedWidget()
        for card in (self.card, self.joins):
            self._cards.addWidget(scroll_area(card))
        self._right = QVBoxLayout()
        self._right.addWidget(self._cards, 1)
        self._right.addWidget(self.slips)
        self._side = QWidget()
        self._side.setLayout(self._right)
        self._row = QHBoxLayout(self)
        self._row.addLayout(left, 1)
        self._row.addWidget(self._side)

    def _restyle(self) -> None:
        px = self.theme.px
        side = px(26)
        for name, button in self.views.items():
            button.setIcon(icon(f"view-{name}", self.theme.dyes.ink))
            button.setIconSize(QSize(side, side))
        for knob in (self.steadier, self.less_steady):
            set_role(knob, "figure")
            knob.setFixedSize(px(32), px(30))
        self._fit_width()

    def _fit_width(self) -> None:
        self._side.setFixedWidth(
            min(self.theme.px(350), max(self.theme.px(220), round(self.width() * 0.34)))
        )
        self.slips.fold(self.height() < self.theme.px(_ROOMY))

    def resizeEvent(self, event: object) -> None:
        self._fit_width()

    def show_face(self, face: int) -> None:
        """Show one of the three views."""
        self.pages.setCurrentIndex(face)
        self._bar.check(face)
        self.true_size.setVisible(face == RULER)
        for view in self.views.values():
            view.setVisible(face == WALK)
        for knob in (self.steadier, self.less_steady, self._wished):
            knob.setVisible(face == GROUND)
        self._cards.setCurrentIndex(int(face == GROUND))
        if self.isVisible():
            self.take_keys()
        self._update_view_buttons()

    def _offer_school(self) -> None:
        choice = self.schools.looked_at
        self.take_school.setVisible(choice is not None and not choice.chosen)

    def _tell_wish(self) -> None:
        if not self.isVisible():
            return
        self._wished.setText(self.ground.wish_words())

    @property
    def face(self) -> int:
        """The view shown."""
        return self.pages.currentIndex()

    def at_true_size(self, on: bool | None) -> bool:
        if self.face == RULER:
            self.true_size.setChecked(not self.true_size.isChecked() if on is None else on)
        return self.face == RULER

    def take_keys(self) -> None:
        (self.ghost, self.ruler, self.ground)[self.face].setFocus()

    def turn_to(self, view: Sight, camera: Camera) -> bool:
        """Show the skeleton from another side."""
        self.ghost.turn_to(camera)
        self._update_view_buttons()
        self.view_changed.emit()
        return True

    @property
    def seen_from(self) -> Camera:
        return self.ghost.camera

    def _update_view_buttons(self) -> None:
        for name, _, camera in VIEWS:
            show_switch(self.views[name], camera == self.ghost.camera)

    def showEvent(self, event: object) -> None:
        self._tell_wish()

    def close_down(self) -> None:
        """Stop comparing schools."""
        self.schools.close_down()

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being computed or rendered."""
        return self.schools.is_idle
