"""The station *Measure*: the maker's own figure, from pictures, from a tape, or shaped by hand."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, get_args

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QToolButton, QVBoxLayout

from bambola.core.figure import Coat, Sight
from bambola.core.figure.graft import with_part
from bambola.core.plan.reading.checks import Doubt
from bambola.core.relief import Camera
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.icons import icon
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.stitched_path import StitchedPath
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.kit.views import VIEW_WORDS, VIEWS
from bambola.desk.running.background import Background
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.agreeing import ProposalReview, strokes_of_sure_parts
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chips import Chip, ChipRow
from bambola.desk.stations.measure.drawing import PartDrawing
from bambola.desk.stations.measure.hands import (
    CutHand,
    DressHand,
    FaceHand,
    FrameHand,
    Hand,
    PlaceHand,
    ShapeHand,
    WireHand,
)
from bambola.desk.stations.measure.likeness_dialog import LikenessDialog
from bambola.desk.stations.measure.new_part import NewPartSlip
from bambola.desk.stations.measure.outfit import ask_outfit
from bambola.desk.stations.measure.part_dialogs import (
    ask_bent,
    ask_core,
    ask_furrows,
    ask_graft,
    ask_row,
)
from bambola.desk.stations.measure.pattern_dialog import PatternImport
from bambola.desk.stations.measure.picture_actions import PictureActions
from bambola.desk.stations.measure.side_card import PART, SideCard
from bambola.desk.stations.measure.sighting import Sighting
from bambola.desk.stations.measure.sizes_table import ask_table
from bambola.desk.stations.measure.swatches import Swatches
from bambola.desk.stations.menus import (
    DRESS,
    FACE,
    OUTLINE,
    PARTS,
    PICTURE,
    PLACES,
    SHAPE,
    STEPS,
)
from bambola.desk.stations.page import Page
from bambola.language import N_, tr
from bambola.shipped import body_plans

if TYPE_CHECKING:  # what reads pictures is loaded when it is asked for
    from bambola.core.plan.reading.proposing import Proposal
    from bambola.core.strokes.building import DrawnFigure
    from bambola.core.strokes.document import PartStroke

PROPOSE = N_("Propose its parts…")
ONWARD = {
    PICTURE: N_("On to the outline ▸"),
    OUTLINE: N_("On to the parts ▸"),
    PARTS: N_("On to the shape ▸"),
    SHAPE: N_("On to the face ▸"),
}
"""What leads from a step to the next."""
_ROOMY, _LOW = 560, 300
"""Height (px before scaling) from which a line of advice has room, and the wools at every step."""


class MeasureStation(Page):
    """The board in the middle, the card of the selected part beside it, the wools beneath."""

    has_thread = False

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, settings: Settings
    ) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.sighting = Sighting(studio)
        self.board = Board(studio, theme, darkroom, self.sighting)
        self.pictures = PictureActions(self.board, self.sighting, settings)
        self.pattern = PatternImport(self, studio, theme, settings)
        self.slip = NewPartSlip(theme, self.board)
        self.drawing = PartDrawing(studio, self.board, self.slip, self._chip_state)
        self.agreeing = ProposalReview(self.drawing, self.board, self.sighting, self._chip_state)
        self.agreeing.unlike = self.draw_unlike
        self.agreeing.agreed = lambda: self.go_to_step(SHAPE)  # where a click picks a part
        self.line = self.drawing.line
        self.face = FaceHand(self.board)
        self.frame_hand, self.cut, self.shape = (
            FrameHand(self.board),
            CutHand(self.board),
            ShapeHand(self.board),
        )
        self.wire, self.dress = WireHand(self.board), DressHand(self.board)
        self.places = PlaceHand(self.board)
        self.hands: tuple[Hand, ...] = (
            self.frame_hand,
            self.cut,
            self.line,
            self.shape,
            self.face,
            self.wire,
            self.dress,
            self.places,
        )
        self.steps = StitchedPath(tuple(map(tr, STEPS)), theme, tr("Steps of measuring"))
        self.swatches = Swatches(studio, theme)
        self.card = SideCard(studio, theme, self.sighting, darkroom)
        self._tables = Background("tables")
        self._told = QLabel()
        self._told.setWordWrap(True)
        self.wheel_over(self.board)
        self._compose()
        self._join_up()
        self._new_figure()

    def step_in_hand(self, step: int) -> None:
        """Go to a step of measuring and focus the board."""
        self.go_to_step(step)
        self.board.setFocus()

    def ask_core(self) -> None:
        """Ask for the hard core of the selected part."""
        ask_core(self, self.studio)

    def ask_bent(self) -> None:
        """Ask for the bend of the selected flat part."""
        ask_bent(self, self.studio)

    def ask_row(self) -> None:
        """Ask for a row of the selected part."""
        ask_row(self, self.studio)

    def ask_furrows(self) -> None:
        """Ask for the furrows of the selected part."""
        ask_furrows(self, self.studio)

    def take_keys(self) -> None:
        self.board.setFocus()

    def turn_to(self, view: Sight, camera: Camera) -> bool:
        self.board.turn_to(view)
        return True

    @property
    def seen_from(self) -> Camera:
        return next(camera for name, _, camera in VIEWS if name == self.board.view)

    # Composition

    def _compose(self) -> None:
        self._views = QHBoxLayout()
        self.view_buttons: dict[Sight, QToolButton] = {}
        for view in get_args(Sight):
            button = QToolButton()
            button.setAccessibleName(tr(VIEW_WORDS[view]))
            button.setToolTip(tr(VIEW_WORDS[view]))
            make_switch(button, lambda _, view=view: self._look_at(view))
            self._views.addWidget(button)
            self.view_buttons[view] = button
        self._views.addStretch(1)
        self._views.addWidget(self.steps)
        self._views.addStretch(1)
        self.chips = ChipRow()
        self.chips.used.connect(self._chip_state)
        left = self._left = QVBoxLayout()
        left.addLayout(self._views)
        left.addWidget(self._told)
        left.addWidget(self.chips)
        left.addWidget(self.board, 1)
        left.addWidget(self.swatches)
        self._row = QHBoxLayout(self)
        self._row.addLayout(left, 1)
        self._row.addWidget(self.card)
        self.theme.changed.connect(self._restyle)
        self._restyle()

    def _join_up(self) -> None:
        self.steps.taken.connect(lambda row, _: self.go_to_step(row))
        self.board.view_changed.connect(self._update_view_buttons)
        self.board.view_changed.connect(self.view_changed)
        self.board.wool_laid.connect(lambda wool, part: self.lay_wool(wool, "coat", part))
        self.board.picture_dropped.connect(lambda path: self.pictures.load_picture(Path(path)))
        self.swatches.laid.connect(
            lambda wool, role: self.lay_wool(wool, role, self.studio.selection.part)
        )
        self.swatches.chosen.connect(self._wool_chosen)
        self.card.doubts.asked.connect(self.go_to_doubt)
        self.card.head.graft_asked.connect(lambda: ask_graft(self, self.studio))
        self.card.head.outfit_asked.connect(lambda: ask_outfit(self, self.studio))
        self.sighting.trouble.connect(self.studio.refused)
        self.sighting.changed.connect(lambda _: self._chip_state())
        self.studio.survey_changed.connect(self._chip_state)
        self.studio.figure_changed.connect(self._new_figure)
        self.studio.selection.part_changed.connect(self._chip_state)
        self.studio.plan_changed.connect(self._on_planned)
        self.card.in_hand.connect(self.show_measure)

    def _on_planned(self) -> None:
        if self.isVisible():  # a pull elsewhere is not held up for it
            self._chip_state()

    def showEvent(self, event: object) -> None:
        self._chip_state()

    def _restyle(self) -> None:
        d, px = self.theme.dyes, self.theme.px
        self._row.setContentsMargins(px(16), 0, px(24), px(4))
        self._row.setSpacing(px(12))
        self._left.setSpacing(px(4))
        set_role(self._told, "note", "quiet")
        self.chips.set_gap(px(6))
        for view, button in self.view_buttons.items():
            button.setIcon(icon(f"view-{view}", d.ink))
            button.setIconSize(QSize(px(24), px(24)))
        self._fit_width()

    def _fit_width(self) -> None:
        px = self.theme.px
        self.card.setFixedWidth(min(px(404), max(px(230), round(self.width() * 0.36))))
        # Where there is little room the board gets it; the words are then on the steps.
        self._told.setVisible(self.height() > px(_ROOMY))
        self.swatches.setVisible(self.height() > px(_LOW) or self.steps.current_row == DRESS)

    def resizeEvent(self, event: object) -> None:
        self._fit_width()

    # Steps

    def go_to_step(self, step: int) -> None:
        """Go to a step of measuring, with its tool on the board."""
        self.steps.show_row(step)
        self.slip.hide()
        self.line.proposed = None
        self.board.use(self.hands[step])
        self.chips.fill(self._chips_of_step())
        self._fit_width()
        self._update_view_buttons()

    @property
    def step(self) -> int:
        """The index of the current step."""
        return self.steps.current_row

    @property
    def hand(self) -> Hand:
        """The tool of the current step."""
        return self.hands[self.step]

    def _chips_of_step(self) -> list[Chip]:
        """Return the buttons of the current step."""
        own = self.hand.chips()
        if self.step == PICTURE:
            own = [*self.pictures.chips(), *own]
        elif self.step == PARTS:
            propose = Chip(
                PROPOSE, self.propose_parts, needs_picture=True, while_agreeing=True,
                is_next=lambda: self._has_picture and self.drawing.is_untouched(),
            )  # fmt: skip
            stroke = Chip(N_("One stroke for each part…"), self.draw_strokes, needs_picture=True)
            own = [stroke, propose, *own]
        return [*own, *self._next_step_chips()]

    def _next_step_chips(self) -> list[Chip]:
        """Return the button to the next step, highlighted once this one is done."""
        if self.step not in ONWARD:
            return []

        def is_done() -> bool:
            if self.step in (PICTURE, OUTLINE):
                return self._has_picture
            return not self.drawing.is_untouched()

        step = self.step + 1
        return [
            Chip(ONWARD[self.step], lambda: self.go_to_step(step), is_next=is_done, only_next=True)
        ]

    def _show_help(self) -> None:
        """Show what the tool does."""
        told = tr(self.hand.told)
        if self.step == PARTS and self.line.regroups:
            told = tr(self.line.strokes_told)
        elif self.step == PICTURE and not self._has_picture:
            told = tr(self.frame_hand.camera_told)
        self._told.setText(told)
        self.steps.setToolTip(told)

    def _chip_state(self) -> None:
        self._show_help()
        self.chips.refresh(self._has_picture, self.agreeing.asks)

    @property
    def _has_picture(self) -> bool:
        return self.studio.survey.framing(self.board.view) is not None

    def _look_at(self, view: Sight) -> None:
        self.board.turn_to(view)
        self._update_view_buttons()

    def _update_view_buttons(self) -> None:
        for view, button in self.view_buttons.items():
            show_switch(button, view == self.board.view)
        self._chip_state()

    def _new_figure(self) -> None:
        self.agreeing.leave()
        for framing in self.studio.survey.framings:
            if framing.view == self.pictures.settings.picture_view:
                self.board.turn_to(framing.view)
        self.go_to_step(PARTS if self.studio.survey.framings else SHAPE)
        self.card.show_pane(PART)

    # Pictures

    def paste_picture(self) -> None:
        """Load the copied picture."""
        self.step_in_hand(PICTURE)
        self.pictures.paste()

    # Parts

    def propose_parts(self) -> None:
        """Ask what the figure is like and which way it looks, then look for its parts."""
        self.step_in_hand(PARTS)
        if not self.agreeing.may_propose():
            return
        laid = self.sighting.laid.get("side")
        seen = self.sighting.framed_silhouettes()
        side = laid.shown if laid is not None and "side" in seen else None
        dialog = LikenessDialog(self, self.theme, body_plans(), side)
        dialog.accepted.connect(lambda: self.agreeing.propose(dialog.likes, dialog.looks_left))
        dialog.finished.connect(dialog.deleteLater)
        dialog.open()

    def draw_unlike(self, found: Proposal) -> None:
        """Open the strokes dialog for a figure unlike any body plan, with the surely found parts already
        drawn."""
        self.studio.refused.emit(
            tr("It is like none of the body plans: name its parts, and draw one stroke along each.")
        )
        self.draw_strokes(strokes_of_sure_parts(found))

    def draw_strokes(self, drawn: Sequence[PartStroke] = ()) -> None:
        """Open the dialog for one line along each part, some of them ``drawn`` already. The resulting figure
        is one step of undo."""
        from bambola.desk.stations.measure.strokes_dialog import StrokesDialog

        figure = self.studio.figure
        parts = [] if figure is None or self.drawing.is_untouched() else figure.parents_first
        names = [part.name for part in parts]
        dialog = StrokesDialog(self, self.studio, self.theme, self.sighting, names, drawn)
        dialog.accepted.connect(lambda: self._take_drawn(dialog.found))
        dialog.finished.connect(dialog.deleteLater)
        dialog.open()

    def _take_drawn(self, found: DrawnFigure | None) -> None:
        if found is None:
            return
        drawn = found.survey
        survey = self.studio.survey.replaced(
            framings=drawn.framings, traces=drawn.traces, taken=drawn.taken
        )
        self.studio.edit(tr("Draw the parts"), found.figure, survey, waits=False)
        self.go_to_step(SHAPE)

    def regroup(self) -> None:
        """Use strokes to join and cut parts, or to draw again."""
        self.step_in_hand(PARTS)
        self.line.turn_regrouping()
        self._chip_state()

    # Wool, measures, doubts

    def _wool_chosen(self, wool: str) -> None:
        self.face.wool = wool

    def lay_wool(self, wool: str, role: str, part: str | None) -> None:
        """Set a wool as a part's coat or core, or remove its coat."""
        figure = self.studio.figure
        if figure is None or part is None:
            return
        body = figure.by_id[part]
        if self.step == PLACES and role == "coat" and body.places:
            self.studio.selection.select_part(part)
            self.places.lay_wool(wool)
            return
        if role == "core":
            new = body.replaced(core=wool)
        elif role == "bare":
            new = body.replaced(coat=None)
        else:
            cover = body.coat.cover if body.coat else "over"
            new = body.replaced(coat=Coat(wool=wool, cover=cover))
        words = {"core": tr("Change a core"), "bare": tr("Take a coat off")}.get(
            role, tr("Lay a coat")
        )
        self.studio.edit_by(words, lambda f: with_part(f, new))

    def show_measure(self, part: str, measure: str) -> None:
        """Show the current measure on the figure, from a side where it is visible."""
        self.studio.selection.select_part(part)
        self.shape.grip = measure
        if self.step == SHAPE and measure not in self.shape.grips():
            for view in ("front", "side", "top"):
                self.board.turn_to(view)
                if measure in self.shape.grips():
                    break
            self.shape.grip = measure
        self.board.update()

    def go_to_doubt(self, doubt: Doubt) -> None:
        """Select the place of a contradiction."""
        if doubt.view is not None:
            self.board.turn_to(doubt.view)
        if doubt.code.startswith("landmark:"):
            self.go_to_step(FACE)
        elif doubt.part is not None:
            self.go_to_step(PARTS if doubt.view is not None else SHAPE)
            self.studio.selection.select_part(doubt.part)
        self.board.setFocus()

    def ask_table(self) -> None:
        """Import sizes from a spreadsheet."""
        ask_table(self, self.studio, self.theme, self._tables)

    def close_down(self) -> None:
        """Release devices and cancel background work."""
        self.card.caliper.close_link()
        self.sighting.close()
        self.pattern.close_down()
        self._tables.close()
