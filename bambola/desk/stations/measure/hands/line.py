"""The tool for drawing along a part: it reads the widths across and proposes the part."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from functools import partial
from typing import Protocol

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen

from bambola.core.figure import Trace
from bambola.core.figure.survey import Spot
from bambola.core.sight.profile import (
    by_hand,
    is_beside,
    place_at_station,
    pull_handle,
    read_trace,
    read_within,
    without_duplicates,
)
from bambola.core.solids import place
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chalk import paint_names
from bambola.desk.stations.measure.chips import Chip
from bambola.desk.stations.measure.hands.base import ARROWS, ENTER, Hand
from bambola.language import N_, tr

IN_HAND, NEW = N_("The selected part"), N_("A new part")
BARE, JOIN = N_("Without the outline"), N_("Join and cut")
NAMES_SHARE = 0.2
"""The share of the board's width that names have on either side."""
_CORRECT_AT = (0, 2, 4, 6, 8)
_HAND_STATIONS = 9


class Strokes(Protocol):
    """The interface for strokes that join and cut parts."""

    def effect_words(self, start: Spot, end: Spot) -> str:
        """Return what a stroke would do, in few words."""

    def accept_stroke(self, start: Spot, end: Spot) -> None:
        """Accept a finished stroke."""


class LineHand(Hand):
    """Drag from a part's base to its tip, or click along a bent one and press Enter at its end."""

    name = N_("Draw along the parts")
    told = N_(
        "Draw from where a part is joined to its tip. Click along a bent part and press Enter at its end. "
        "The widths are read from the outline; H draws without it. Then pull the beads where they are off. "
        "By keys: arrows point, Space sets a point, G takes a bead."
    )
    strokes_told = N_(
        "A stroke from one part to another joins them; one across a part, from edge to "
        "edge, cuts it in two. Beads can still be dragged. By keyboard: the arrows "
        "move, Space starts the stroke, Enter ends it."
    )
    """What is told while strokes regroup parts."""
    cursor = Qt.CursorShape.CrossCursor

    def __init__(
        self, board: Board, drawn: Callable[[Trace], None], strokes: Strokes | None = None
    ) -> None:
        super().__init__(board)
        self.drawn, self.strokes = drawn, strokes
        self.regroups = False
        self.for_new = False
        self.by_hand = False
        self.proposed: Trace | None = None
        self.named: tuple[str, ...] = ()  # parts whose names stand beside the picture
        self._points: list[tuple[float, float]] = []
        self._to: tuple[float, float] | None = None
        self._dragging = False
        self._bead: tuple[str, int] | None = None
        self._shown: Trace | None = None

    def chips(self) -> list[Chip]:
        return [
            Chip(IN_HAND, partial(self.take_up, False), lambda: not self.for_new),
            Chip(NEW, partial(self.take_up, True), lambda: self.for_new),
            Chip(BARE, self.turn_bare, lambda: self.by_hand),
            Chip(JOIN, self.turn_regrouping, lambda: self.regroups, while_agreeing=True),
        ]

    def take_up(self, new: bool) -> None:
        """Draw a new part from now on, or the selected one."""
        self.for_new = new
        self.give_up()
        self.board.update()

    def turn_bare(self) -> None:
        """Draw without using the outline, or with it again."""
        self.by_hand = not self.by_hand

    def turn_regrouping(self) -> None:
        """Use strokes to join and cut parts, or to draw again."""
        self.give_up()
        self.regroups = not self.regroups

    # The trace in hand

    def trace(self) -> Trace | None:
        """Return the selected part's line in this view during a correction."""
        if self._shown is not None:
            return self._shown
        if self.for_new or self.studio.selection.part is None:
            return None
        found = [
            t
            for t in self.studio.survey.traces_of(self.studio.selection.part)
            if t.view == self.board.view
        ]
        return found[0] if found else None

    def beads(self, trace: Trace) -> dict[tuple[str, int], QPointF]:
        """Return the handles of a trace: its points, and the ends of five widths."""
        found = {("point", i): self.screen(*p) for i, p in enumerate(trace.points)}
        for i in self._correct_at(trace):
            centre, aside = place_at_station(trace, i)
            for side, sense, reach in (("left", 1, trace.left[i]), ("right", -1, trace.right[i])):
                found[(side, i)] = self.screen(*(centre + sense * reach * aside))
        return found

    def _correct_at(self, trace: Trace) -> list[int]:
        last = len(trace.left) - 1
        if last < _HAND_STATIONS:
            return list(range(last + 1))
        return [round(last * i / 8) for i in _CORRECT_AT]

    # Hands

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        trace = self.trace()
        if button == Qt.MouseButton.RightButton:
            self.finish()
            return
        if trace is not None and not self._points:
            for name, place in self.beads(trace).items():
                if self.is_near(place, at, 9):
                    self._bead, self._shown = name, trace
                    return
        self._points.append(self.mm(at))
        self._to = self.mm(at)
        self._dragging = True

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        if held and self._bead is not None and self._shown is not None:
            self._shown = pull_handle(self._shown, self._bead, self.mm(at))
        elif self._points:
            self._to = self.mm(at)

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        if self._bead is not None:
            shown, bead = self._shown, self._bead
            self._shown = self._bead = None
            if shown is not None:
                # An end that was moved reads its widths anew; a width that was pulled stays.
                reads = bead[0] == "point" and shown.edges == "outline"
                self._hand_over(self._read_widths(shown.points, shown.part) if reads else shown)
            return
        if self._dragging and self._points:
            self._dragging = False
            if not self.is_near(self.screen(*self._points[-1]), at, 8):
                self._points.append(self.mm(at))
                if len(self._points) == 2:
                    self.finish()

    def double(self, at: QPointF) -> None:
        self.finish()

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        if self._bead is not None and key in ARROWS:
            self._nudge_bead(key, keys)
        elif self.point_by_key(key, keys):
            self._to = self.pointer
        elif text == " " and self.pointer is not None:
            self._points.append(self.pointer)
        elif key in ENTER and self._points:
            if self.regroups and self.pointer is not None:
                self._points.append(self.pointer)
            self.finish()
        elif key == Qt.Key.Key_Escape and (self._points or self._bead):
            self.give_up()
        elif text in ("g", "G"):
            self._next_bead(-1 if text == "G" else 1)
        elif key == Qt.Key.Key_Backspace and self._points:
            self._points.pop()
        elif text == "h":
            self.turn_bare()
        elif text == "n":
            self.for_new = not self.for_new
        else:
            return False
        return True

    def _next_bead(self, by: int) -> None:
        """Select the next bead of the part's line for the arrow keys."""
        trace = self.trace()
        if trace is not None:
            names = list(self.beads(trace))
            at = names.index(self._bead) if self._bead in names else -1 if by > 0 else 0
            self._bead = names[(at + by) % len(names)]

    def _nudge_bead(self, key: Qt.Key, keys: Qt.KeyboardModifier) -> None:
        trace, bead = self.trace(), self._bead
        if trace is None or bead is None or bead not in self.beads(trace):
            return
        u, v = self.mm(self.beads(trace)[bead])
        du, dv = ARROWS[key]
        step = self.step(keys)
        self._hand_over(pull_handle(trace, bead, (u + du * step, v + dv * step)))
        self._bead = bead

    def draw(self, points: list[tuple[float, float]]) -> None:
        """Draw a whole line at once, in mm of this view."""
        self._points = list(points)
        self.finish()

    def finish(self) -> None:
        """Read the finished line."""
        points = without_duplicates(self._points)
        self.give_up()
        if len(points) < 2:
            return
        if self.regroups and self.strokes is not None:
            self.strokes.accept_stroke(points[0], points[-1])
            return
        part = (
            self.studio.selection.part if not self.for_new and self.studio.selection.part else "new"
        )
        self._hand_over(self._read_widths(tuple(points), part))

    def _hand_over(self, trace: Trace) -> None:
        if trace.edges == "outline" and is_beside(trace):
            self.studio.refused.emit(
                tr(
                    "The line lies beside the figure’s outline: draw it on the figure, or without the "
                    "outline."
                )
            )
            return
        self.drawn(trace)

    def _read_widths(self, points: tuple[tuple[float, float], ...], part: str) -> Trace:
        board = self.board
        silhouette, framing = board.sighting.silhouette(board.view), board.framing
        length = sum(math.dist(a, b) for a, b in itertools.pairwise(points))
        if self.by_hand or silhouette is None or framing is None:
            return by_hand(part, board.view, points, self._likely_width(part, length))

        def to_px(u: float, v: float) -> tuple[float, float]:
            return framing.original(*framing.to_px(u, v))

        trace = read_trace(silhouette, to_px, part, board.view, points)
        taken = board.sighting.laid[board.view].taken
        return read_within(silhouette, (taken.pixels, taken.scale), to_px, trace)

    def _likely_width(self, part: str, length: float) -> float:
        figure = self.studio.figure
        if figure is not None and part in figure.by_id:
            measures = figure.by_id[part].shape.measures()
            across = [mm for name, mm in measures.items() if name not in ("length", "height")]
            return max(across)
        return length / 3

    def give_up(self) -> None:
        self._points, self._to, self._dragging = [], None, False
        self._bead = self._shown = None

    # Painting

    def paint(self, painter: QPainter) -> None:
        d, px = self.theme.dyes, self.theme.px
        trace = self.trace()
        if trace is not None and not self._points:
            self._paint_trace(painter, trace)
        if self.proposed is not None:
            self._paint_trace(painter, self.proposed)
        self._name_parts(painter)
        self.paint_pointer(painter)
        if self._points:
            run = [*self._points, self._to] if self._to else self._points
            self.board.draw_run(painter, run, d.madder, 2.2, closed=False)
            painter.setPen(QPen(d.ink, 1))
            painter.setBrush(d.madder)
            for point in self._points:
                painter.drawEllipse(self.screen(*point), px(4.5), px(4.5))
            if self._to:
                self.board.tag(painter, self.screen(*self._to), self._run_told(run))

    def _name_parts(self, painter: QPainter) -> None:
        """Paint the names of all proposed parts."""
        figure = self.studio.figure
        if figure is None or not self.named:
            return
        placed, spots = place(figure), []
        names = {part.id: part.name for part in figure.parts if part.id in self.named}
        for part in names:
            copy = placed.copies_of(part)[0]
            at = self.screen(*self.board.seen_from(copy.point(0.5)))
            spots.append((at.x(), at.y(), part))
        area, lit = QRectF(self.board.rect()), self.studio.selection.part or ""
        paint_names(painter, area, NAMES_SHARE * area.width(), spots, lit, names, self.theme)

    def _run_told(self, run: list[tuple[float, float]]) -> str:
        if self.regroups and self.strokes is not None:
            return self.strokes.effect_words(run[0], run[-1])
        far = sum(math.dist(a, b) for a, b in itertools.pairwise(run))
        return tr("{length} long", length=self.length(far))

    def _paint_trace(self, painter: QPainter, trace: Trace) -> None:
        d, px = self.theme.dyes, self.theme.px
        self.board.draw_run(painter, list(trace.points), d.madder, 1.8, closed=False)
        beads = self.beads(trace)
        for i in self._correct_at(trace):
            painter.setPen(QPen(d.woad, px(1.4)))
            painter.drawLine(beads[("left", i)], beads[("right", i)])
        for (kind, _), at in beads.items():
            painter.setPen(QPen(d.ink, 1))
            painter.setBrush(d.madder if kind == "point" else d.paper)
            size = px(5.5 if kind == "point" else 4.5)
            painter.drawEllipse(at, size, size)
        if self._bead is not None and self._bead in beads:
            i = self._bead[1]
            text = (
                tr("{length} long", length=self.length(trace.length))
                if self._bead[0] == "point"
                else tr("{length} wide", length=self.length(trace.left[i] + trace.right[i]))
            )
            self.board.tag(painter, beads[self._bead], text)
