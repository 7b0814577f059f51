"""The tool for cutting the figure out: strokes mark what is figure and what is not."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from bambola.core.figure import Stroke
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chips import Chip
from bambola.desk.stations.measure.hands.base import Hand
from bambola.language import N_, tr

ADD, TAKE = N_("Add to it"), N_("Take from it")


class CutHand(Hand):
    """A brush: plain strokes add to the figure, with Shift or the right button they remove."""

    name = N_("Cut it out")
    told = N_(
        "The outline is green where it is certain and red where it is not. Brush over "
        "what is missing; with Shift, or the right button, brush over what does not "
        "belong. [ and ] change the brush size."
    )
    whole_picture, shows_figure, shows_sureness = True, False, True
    cursor = Qt.CursorShape.CrossCursor

    def __init__(self, board: Board) -> None:
        super().__init__(board)
        self.brush = 9.0
        self.adds = True
        self._run: list[QPointF] = []
        self._figure = True
        self._at: QPointF | None = None

    def chips(self) -> list[Chip]:
        return [
            Chip(ADD, partial(setattr, self, "adds", True), lambda: self.adds, True),
            Chip(TAKE, partial(setattr, self, "adds", False), lambda: not self.adds, True),
        ]

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        if self.board.framing is None:
            return
        away = button == Qt.MouseButton.RightButton or bool(
            keys & Qt.KeyboardModifier.ShiftModifier
        )
        self._figure = self.adds != away
        self._run = [at]

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        self._at = at
        if held and self._run and not self.is_near(self._run[-1], at, 3):
            self._run.append(at)

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        run, self._run = self._run, []
        self._add_stroke(run)

    def _add_stroke(self, run: list[QPointF]) -> None:
        framing, lay = self.board.framing, self.board.lay
        if not run or framing is None or lay is None:
            return
        every = max(1, len(run) // 300)
        points = tuple(framing.original(*framing.to_px(*self.mm(point))) for point in run[::every])
        radius = self.theme.px(self.brush) / lay.scale / (framing.mm_px or 1.0)
        stroke = Stroke(points=points, radius=radius, figure=self._figure)
        survey = self.studio.survey.framed(framing.replaced(strokes=(*framing.strokes, stroke)))
        self.studio.edit(tr("Correct the outline"), survey=survey)

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        if self.point_by_key(key, keys):
            pass
        elif text == " " and self.pointer is not None and self.board.framing is not None:
            self._figure = self.adds
            self._add_stroke([self.screen(*self.pointer)])
        elif text in ("[", "]"):
            self.brush = min(60.0, max(2.0, self.brush * (1.25 if text == "]" else 0.8)))
        elif text == "x":
            self.adds = not self.adds
        elif key == Qt.Key.Key_Backspace and self.board.framing and self.board.framing.strokes:
            framing = self.board.framing
            survey = self.studio.survey.framed(framing.replaced(strokes=framing.strokes[:-1]))
            self.studio.edit(tr("Remove a stroke"), survey=survey)
        else:
            return False
        return True

    def paint(self, painter: QPainter) -> None:
        d = self.theme.dyes
        if self._run:
            colour = QColor(d.lichen if self._figure else d.madder)
            colour.setAlpha(150)
            pen = QPen(colour, 2 * self.theme.px(self.brush))
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            for a, b in zip(self._run, self._run[1:] or self._run, strict=False):
                painter.drawLine(a, b)
        elif self._at is not None:
            painter.setPen(QPen(d.ink, 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(self._at, self.theme.px(self.brush), self.theme.px(self.brush))
        self.paint_pointer(painter)
        silhouette = self.board.sighting.silhouette(self.board.view)
        if silhouette is not None and self.board.framing is not None:
            sure = (
                tr("outline {sure:.0f} % sure", sure=silhouette.sure * 100)
                if not silhouette.is_empty
                else tr("no figure found")
            )
            self.board.tag(painter, QPointF(self.board.width(), self.theme.px(20)), sure, d.lichen)

    def give_up(self) -> None:
        self._run = []
