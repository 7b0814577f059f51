"""The tool for shaping: move, turn and stretch the selected part, with the number beside the pointer."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from bambola.core.figure import Figure, Taken
from bambola.core.figure.graft import descendants
from bambola.core.plan.reading.typed_height import with_typed_height
from bambola.core.quantities import show_length
from bambola.core.solids import Copy, own_copy, place
from bambola.core.solids.edit import axis_ends, move_part, stretch_part, turn_part
from bambola.core.words import error_words
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.hands.base import ARROWS, ENTER, Hand
from bambola.language import N_, tr

Array = NDArray[np.float64]
MOVE, TURN = "move", "turn"
_FORESHORTENED = 0.35
"""A measure seen shorter than this share of itself has no grip in that view: it could not be aimed."""
_WORDS = {
    "height": N_("high"),
    "length": N_("long"),
    "width": N_("wide"),
    "depth": N_("deep"),
    "thickness": N_("thick"),
    "diameter": N_("thick"),
    "base": N_("at its base"),
    "tip": N_("at its tip"),
}


@dataclass(frozen=True, slots=True)
class Grip:
    """A handle: its place (mm in the view), and for a measure its origin and direction. Dragging it by ``t``
    along ``way`` (mm in the view) makes the measure ``share`` times ``t``."""

    at: tuple[float, float]
    root: tuple[float, float] = (0.0, 0.0)
    way: tuple[float, float] = (1.0, 0.0)
    share: float = 1.0


class ShapeHand(Hand):
    """Drag a part to move it, its round knob to turn it, its square beads to stretch it."""

    name = N_("Shape it")
    told = N_(
        "Drag a part to move it, the knob to turn it, the beads to stretch it. G "
        "selects the next grip; the arrow keys move it, and you can type a number. Drop"
        " a wool on a part to change its coat."
    )

    def __init__(self, board: Board) -> None:
        super().__init__(board)
        self.grip = MOVE
        self._start: tuple[float, float] | None = None
        self._seen: str | None = None
        self._shown: tuple[Figure, str] | None = None
        self._do: Callable[[Figure], Figure] | None = None

    # Grips

    def copy(self) -> Copy | None:
        """Return the copy of the selected part that is edited."""
        if self.studio.selection.part is None or self.studio.figure is None:
            return None
        return own_copy(self.board.placement(), self.studio.selection.part)

    def grips(self) -> dict[str, Grip]:
        """Return by name every grip of the selected part that can be reached in this view."""
        copy = self.copy()
        if copy is None:
            return {}
        base, tip = axis_ends(copy)
        middle = (base + tip) / 2
        found = {MOVE: Grip(self.board.seen_from(middle))}
        found.update(self._measure_grips(copy, base, tip, middle))
        b, t = (np.array(self.board.seen_from(p)) for p in (base, tip))
        way = t - b if np.linalg.norm(t - b) > 1e-6 else np.array([0.0, 1.0])
        out = t + way / np.linalg.norm(way) * self.theme.px(34) / self._view_scale()
        found[TURN] = Grip((float(out[0]), float(out[1])), root=(float(b[0]), float(b[1])))
        return found

    def _measure_grips(self, copy: Copy, base: Array, tip: Array, middle: Array) -> dict[str, Grip]:
        found: dict[str, Grip] = {}
        measures = copy.shape.measures()
        x, y = copy.matrix[:3, 0], copy.matrix[:3, 1]
        axis = (tip - base) / max(float(np.linalg.norm(tip - base)), 1e-9)
        across = self._across_view(axis)
        along = next(name for name in ("height", "length") if name in measures)
        run = float(np.linalg.norm(tip - base))
        self._add_grip(found, along, base, axis, run, measures[along] / max(run, 1e-9))
        for name, root, way in (
            ("width", middle, x),
            ("depth", middle, -y),
            ("thickness", middle, across),
            ("diameter", middle, across),
            ("base", base, across),
            ("tip", tip, across),
        ):
            if name in measures:
                if name == "thickness" and copy.shape.flat:
                    way = -y
                self._add_grip(found, name, root, way, measures[name] / 2, 2.0)
        return found

    def _across_view(self, axis: Array) -> Array:
        """Return the direction perpendicular to a round part's axis and across the view."""
        way = np.cross(self.board.axes[2], axis)
        size = np.linalg.norm(way)
        found: Array = way / size if size > 1e-6 else self.board.axes[0]
        return found

    def _add_grip(
        self, found: dict[str, Grip], name: str, root: Array, way: Array, reach: float, share: float
    ) -> None:
        seen = self.board.axes[:2] @ way
        if np.linalg.norm(seen) < _FORESHORTENED:
            return
        at = self.board.seen_from(root + way * reach)
        found[name] = Grip(at, self.board.seen_from(root), (float(seen[0]), float(seen[1])), share)

    def _view_scale(self) -> float:
        return self.board.lay.scale if self.board.lay else 1.0

    # Pulling

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        self._start, self._do, self._shown, self._seen = self.mm(at), None, None, None
        grips = self.grips()
        for name, grip in grips.items():
            if name != MOVE and self.is_near(self.screen(*grip.at), at, 11):
                self.grip = name
                self.board.hold_still()
                return
        self._seen = self.board.part_at(at)
        if not self._is_on_part(at):
            if self._seen is None:
                self._start = None
                return
            self.studio.selection.select_part(self._seen)
        self.grip = MOVE
        self.board.hold_still()

    def _is_on_part(self, at: QPointF) -> bool:
        """Return whether the selected part lies there, even if covered."""
        part = self.studio.selection.part
        return part is not None and any(
            QPolygonF([self.screen(*place) for place in self.board.outline(copy)]).containsPoint(
                at, Qt.FillRule.OddEvenFill
            )
            for copy in self.board.placement().copies_of(part)
        )

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        if not held or self._start is None or self.studio.figure is None:
            return
        if self.is_near(self.screen(*self._start), at, 3) and self._do is None:
            return
        self._drag_grip(self.grip, self._start, self.mm(at))

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        do, self._do, self._start, self._shown = self._do, None, None, None
        if do is not None:
            self._apply_edit(do, 0)
        elif self._seen is not None:  # clicked, not pulled: what is seen there comes to hand
            self.studio.selection.select_part(self._seen)
        self._seen = None
        self.board.let_go()

    def _drag_grip(self, name: str, start: tuple[float, float], to: tuple[float, float]) -> None:
        figure, part = self.studio.figure, self.studio.selection.part
        grips = self.grips()
        if figure is None or part is None or name not in grips:
            return
        grip = grips[name]
        if name == MOVE:
            du, dv = to[0] - start[0], to[1] - start[1]
            do, told = self._move_edit(du, dv), f"{self.signed(du)}, {self.signed(dv)}"
        elif name == TURN:
            a, b = (math.atan2(p[1] - grip.root[1], p[0] - grip.root[0]) for p in (grip.at, to))
            degrees = math.degrees(math.remainder(b - a, 2 * math.pi))
            do, told = self._turn_edit(degrees), f"{degrees:+.0f}°"
        else:
            way = np.array(grip.way)
            t = float((np.array(to) - grip.root) @ way / (way @ way))
            mm = max(0.2, t * grip.share)
            do, told = (
                self._stretch_edit({name: mm}),
                f"{self.length(mm)} {tr(_WORDS.get(name, name))}",
            )
        try:
            self._shown, self._do = (do(figure), told), do
        except ValueError as error:
            self._shown, self._do = (figure, error_words(error, self.studio.words)), None

    def signed(self, mm: float) -> str:
        """Return a length with its sign, in the maker's units."""
        return ("−" if mm < 0 else "+") + show_length(abs(mm), self.studio.units)

    def _move_edit(self, du: float, dv: float) -> Callable[[Figure], Figure]:
        part, by = (
            self.studio.selection.part or "",
            du * self.board.axes[0] + dv * self.board.axes[1],
        )
        return lambda figure: move_part(figure, part, by)

    def _turn_edit(self, degrees: float) -> Callable[[Figure], Figure]:
        part, about = self.studio.selection.part or "", self.board.axes[2]
        return lambda figure: turn_part(figure, part, degrees, about)

    def _stretch_edit(self, measures: dict[str, float]) -> Callable[[Figure], Figure]:
        part, survey = self.studio.selection.part or "", self.studio.survey
        return lambda figure: with_typed_height(
            figure, stretch_part(figure, part, measures), survey
        )

    def _apply_edit(self, do: Callable[[Figure], Figure], gesture: int) -> None:
        """Apply the change; it replaces the part's traces."""
        figure, part = self.studio.figure, self.studio.selection.part
        if figure is None or part is None:
            return
        try:
            new = do(figure)
        except ValueError as error:
            self.studio.refuse(error)
            return
        survey = self.studio.survey
        old, now = (f.by_id[part].shape.measures() for f in (figure, new))
        changed = [n for n in now if abs(now[n] - old.get(n, 0.0)) > 1e-9]
        if survey.traces_of(part):
            kept = tuple(t for t in survey.traces if t.part != part)
            survey = survey.replaced(traces=kept)
        survey = survey.with_readings(
            *(Taken(part=part, measure=n, mm=now[n], how="straight") for n in changed)
        )
        words = {MOVE: tr("Move a part"), TURN: tr("Turn a part")}.get(
            self.grip, tr("Stretch a part")
        )
        self.studio.edit(words, new, survey, gesture)

    # Keys

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        grips = self.grips()
        if not grips:
            return False
        if self.grip not in grips:
            self.grip = MOVE
        if text.lower() == "g":
            names = list(grips)
            by = -1 if text == "G" else 1
            self.grip = names[(names.index(self.grip) + by) % len(names)]
        elif key in ARROWS:
            self.nudge(*ARROWS[key], self.step(keys))
        elif key in ENTER or text.isdigit():
            self.type_number(text if text.isdigit() else "")
        else:
            return False
        return True

    def nudge(self, du: float, dv: float, step: float) -> None:
        """Apply one arrow key to the current grip: in mm, or in degrees for turning."""
        copy, gesture = self.copy(), self.burst()
        if copy is None:
            return
        if self.grip == MOVE:
            self._apply_edit(self._move_edit(du * step, dv * step), gesture)
        elif self.grip == TURN:
            self._apply_edit(self._turn_edit((dv - du) * step), gesture)
        else:
            mm = copy.shape.measures()[self.grip] + (du + dv) * step
            self._apply_edit(self._stretch_edit({self.grip: mm}), gesture)

    def type_number(self, start: str = "") -> None:
        """Type the current measure; for the move or turn grip, the first measure."""
        copy, grips = self.copy(), self.grips()
        if copy is None:
            return
        measures = copy.shape.measures()
        name = (
            self.grip if self.grip in measures else next((n for n in grips if n in measures), None)
        )
        if name is None:
            return
        self.grip = name
        self.board.ask(
            self.screen(*grips[name].at),
            start or self.length(measures[name]),
            f"{copy.part.name}: {name}",
            lambda mm: self._apply_edit(self._stretch_edit({name: mm}), 0),
        )

    def double(self, at: QPointF) -> None:
        for name, grip in self.grips().items():
            if name not in (MOVE, TURN) and self.is_near(self.screen(*grip.at), at, 12):
                self.grip = name
                self.type_number()

    def give_up(self) -> None:
        self._start = self._do = self._shown = None

    # Painting

    def paint(self, painter: QPainter) -> None:
        grips, d, px = self.grips(), self.theme.dyes, self.theme.px
        if self._shown is not None:
            self._paint_ghost(painter, self._shown[0])
        if not grips:
            return
        copy = self.copy()
        assert copy is not None
        turn = grips[TURN]
        painter.setPen(QPen(d.woad, px(1.4), Qt.PenStyle.DotLine))
        painter.drawLine(self.screen(*turn.root), self.screen(*turn.at))
        for name, grip in grips.items():
            at = self.screen(*grip.at)
            mine = name == self.grip
            painter.setPen(QPen(d.ink, px(2.2) if mine else 1.2))
            painter.setBrush(d.woad if name == TURN else d.madder if mine else d.paper)
            size = px(8 if mine else 6)
            if name in (MOVE, TURN):
                painter.drawEllipse(at, size, size)
            else:
                painter.drawRect(round(at.x() - size), round(at.y() - size), 2 * size, 2 * size)
        self._paint_tag(painter, copy, grips)

    def _paint_tag(self, painter: QPainter, copy: Copy, grips: dict[str, Grip]) -> None:
        name = self.grip if self.grip in grips else MOVE
        at = self.screen(*grips[name].at) + QPointF(self.theme.px(8), -self.theme.px(20))
        if self._shown is not None:
            self.board.tag(painter, at, self._shown[1])
            return
        measures = copy.shape.measures()
        text = copy.part.name
        if name in measures:
            text = f"{self.length(measures[name])} {tr(_WORDS.get(name, name))}"
        elif name == TURN:
            text = "turn"
        self.board.tag(painter, at, text)

    def _paint_ghost(self, painter: QPainter, figure: Figure) -> None:
        part = self.studio.selection.part
        if part is None:
            return
        with_it = descendants(figure, part)
        for copy in place(figure).copies:
            if copy.part.id in with_it:
                mine = copy.part.id == part
                colour = self.theme.dyes.madder if mine else self.theme.dyes.woad
                self.board.draw_run(
                    painter, self.board.outline(copy), colour, 2.2, style=Qt.PenStyle.DashLine
                )
