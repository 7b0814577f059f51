"""The base of tools that edit the selected part by dragging beads."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt

from bambola.core.figure import Figure, Part
from bambola.desk.stations.measure.board import Board
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
        return next((n for n, spot in beads if self.near(self.screen(*spot), at, _REACH)), None)

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        name = self.bead_at(at)
        part = None if name else self.board.part_at(at)
        if name is not None:
            self.grip, self._held = name, True
            self.board.hold_still()
        elif part is not None:
            self.studio.selection.take_part(part)

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
