"""The base of tools that edit the selected part by dragging beads."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, Qt

from bambola.core.figure import Figure, Part, Place
from bambola.core.figure.graft import led_by, stretch_band
from bambola.core.figure.places import Band, Line, Near, Outline
from bambola.core.solids import Copy
from bambola.core.solids.regions import drawn_on, run_of, settle_places, view_axes
from bambola.core.solids.touch import skin_point, skin_seat
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.board_view import BoardView
from bambola.desk.stations.measure.hands.base import Hand

_REACH = 12.0
"""Within so many px a bead is under the hand. Judged."""


class BeadHand(Hand):
    """Keeps track of the dragged bead; a subclass gives the places of its beads and applies a changed
    part."""

    def __init__(self, board: Board, grip: str) -> None:
        super().__init__(board)
        self.grip = grip
        self._held = False

    def spots(self) -> dict[str, tuple[float, float]]:
        """Return the places of the selected part's beads, mm in the view."""
        raise NotImplementedError

    def fitted(self, figure: Figure, part: Part) -> Figure:
        """Return ``figure`` with ``part`` changed. Raises ``ValueError`` in one sentence."""
        raise NotImplementedError

    @property
    def part(self) -> Part | None:
        """The selected part."""
        figure = self.studio.figure
        return figure.by_id.get(self.studio.selection.part or "") if figure else None

    def bead_at(self, at: QPointF) -> str | None:
        """Return the bead at a place on the board."""
        beads = self.spots().items()
        return next((n for n, spot in beads if self.is_near(self.screen(*spot), at, _REACH)), None)

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        name = self.bead_at(at)
        part = None if name else self.board.part_at(at)
        if name is not None:
            self.grip, self._held = name, True
            self.board.hold_still()
        elif part is not None:
            self.studio.selection.select_part(part)

    def put_down(self) -> None:
        """Release the dragged bead."""
        if self._held:
            self.board.let_go()
        self._held = False

    def take_in(self, new: Part, words: str, gesture: int = 0) -> None:
        """Apply a changed part, or say why it cannot be."""
        figure = self.studio.figure
        if figure is None:
            return
        try:
            changed = self.fitted(figure, new)
        except ValueError as error:
            self.studio.refuse(error)
            return
        self.studio.edit(words, changed, gesture=gesture, waits=bool(gesture))


Array = NDArray[np.float64]
BEGIN, END, MIDDLE, SIDE = "begin", "end", "middle", "side"
WIDE, WITHIN, HAIR = "wide", "within", "hair"
POINT = "point "
_TURNS = np.linspace(-180.0, 180.0, 73)
_LEAST_MM, _LEAST_DEG = 0.2, 4.0
"""Nothing is pulled narrower. Judged."""


class PlaceBeads:
    """The beads of one place of one part, on a board."""

    def __init__(
        self, board: BoardView, figure: Figure, part: Part, place: Place, copy: Copy
    ) -> None:
        self.board, self.figure, self.part, self.place, self.copy = board, figure, part, place, copy

    def at(self) -> dict[str, tuple[float, float]]:
        """Return the beads of the place, mm in the view."""
        place, copy = self.place, self.copy
        found: dict[str, Array] = {}
        where = place.where
        match where:
            case Band():
                around = where.around if where.wide < 360 else self._right_edge_angle()
                found[BEGIN] = copy.point(where.begin, around, 1.0)
                found[END] = copy.point(where.end, around, 1.0)
                half = (where.begin + where.end) / 2
                if where.wide < 360:
                    found[MIDDLE] = copy.point(half, where.around, 1.0)
                    found[SIDE] = copy.point(half, where.around + where.wide / 2, 1.0)
            case Line():
                for n, (along, around) in enumerate(where.way):
                    found[f"{POINT}{n}"] = copy.point(along, around, 1.0)
                found[WIDE] = found[f"{POINT}0"] + self._view_up() * where.wide / 2
            case Near():
                middle = self._surface_spot(where)
                found[WITHIN] = middle + self._view_up() * where.within
        if place.fur is not None:
            root = copy.point(0.5, self._right_edge_angle(), 1.0)
            out = root - copy.point(0.5, 0.0, 0.0)
            found[HAIR] = root + out / max(float(np.linalg.norm(out)), 1e-9) * place.fur.hair
        return {name: self.board.seen_from(point) for name, point in found.items()}

    def _view_up(self) -> Array:
        found: Array = self.board.axes[1]
        return found

    def _right_edge_angle(self) -> float:
        """Return the angle where the part's middle is farthest right in the view."""
        points = np.array([self.copy.point(0.5, float(a), 1.0) for a in _TURNS])
        return float(_TURNS[int(np.argmax(points @ self.board.axes[0]))])

    def _surface_spot(self, where: Near) -> Array:
        other = self.figure.by_id[where.part]
        if self.part.parent == other.id:
            return self.copy.point(0.0, 0.0, 0.0)
        return self.copy.point(min(1.0, max(0.0, other.seat.along)), other.seat.around, 1.0)

    def pulled(self, grip: str, u: float, v: float) -> dict[str, object]:
        """Return the changed fields when the bead ``grip`` is dragged to (u, v), mm in the view."""
        place, copy, where = self.place, self.copy, self.place.where
        if grip in (BEGIN, END) and isinstance(where, Band):
            return {"where": stretch_band(where, **{grip: self._share_along(u, v)})}
        if grip == HAIR and place.fur:
            root = self.board.seen_from(copy.point(0.5, self._right_edge_angle(), 1.0))
            return {
                "fur": place.fur.replaced(hair=max(1.0, float(np.hypot(u - root[0], v - root[1]))))
            }
        if grip == WIDE and isinstance(where, Line):
            at = self.at()[f"{POINT}0"]
            return {
                "where": where.replaced(
                    wide=max(_LEAST_MM, 2 * float(np.hypot(u - at[0], v - at[1])))
                )
            }
        if grip == WITHIN and isinstance(where, Near):
            at = self.board.seen_from(self._surface_spot(where))
            return {
                "where": where.replaced(
                    within=max(_LEAST_MM, float(np.hypot(u - at[0], v - at[1])))
                )
            }
        shift = self.board.axes[:2] @ self.board.origin
        seat = skin_seat(copy, self.board.axes, u - float(shift[0]), v - float(shift[1]))
        if seat is None:
            return {}
        along, around = seat
        if grip == MIDDLE and isinstance(where, Band):
            return {"where": where.replaced(around=around)}
        if grip == SIDE and isinstance(where, Band):
            off = abs((around - where.around + 180) % 360 - 180)
            return {"where": where.replaced(wide=min(359.0, max(_LEAST_DEG, 2 * off)))}
        if grip.startswith(POINT) and isinstance(where, Line):
            return {"where": led_by(where, int(grip.removeprefix(POINT)), along, around)}
        return {}

    def _share_along(self, u: float, v: float) -> float:
        shares = np.linspace(0.0, 1.0, 201)
        seen = np.array([self.board.seen_from(self.copy.point(float(s), 0.0, 0.0)) for s in shares])
        return float(shares[int(np.argmin(np.hypot(seen[:, 0] - u, seen[:, 1] - v)))])

    def edge(self) -> Iterator[list[tuple[float, float]]]:
        """Yield the visible edge of a place."""
        copy = self.copy
        where = next(
            p.where for p in settle_places(self.part, self.figure) if p.id == self.place.id
        )
        match where:
            case Band():
                for along in (where.begin, where.end):
                    half = min(where.wide, 360.0) / 2
                    turns = np.linspace(where.around - half, where.around + half, 49)
                    yield from self._in_sight([(along, float(a)) for a in turns])
                for side in (-1, 1) if where.wide < 360 else ():
                    around = where.around + side * where.wide / 2
                    alongs = np.linspace(where.begin, where.end, 25)
                    yield from self._in_sight([(float(a), around) for a in alongs])
            case Line():
                turn, shift = copy.matrix[:3, :3], copy.matrix[:3, 3]
                yield [self.board.seen_from(p) for p in run_of(copy.shape, where) @ turn.T + shift]
            case Outline():
                view, flat = drawn_on(copy.shape, where)
                points = view_axes(copy.shape, view, flat) @ copy.matrix[:3, :3].T
                run = [self.board.seen_from(p + copy.matrix[:3, 3]) for p in points]
                yield [*run, run[0]]

    def _in_sight(self, seats: list[tuple[float, float]]) -> Iterator[list[tuple[float, float]]]:
        towards, run = self.board.axes[2], []
        for along, around in seats:
            point = skin_point(self.copy, along, around)
            out = point - self.copy.point(along, 0.0, 0.0)
            if float(out @ towards) >= -0.05 * float(np.linalg.norm(out)):
                run.append(self.board.seen_from(point))
            elif len(run) > 1:
                yield run
                run = []
            else:
                run = []
        if len(run) > 1:
            yield run
