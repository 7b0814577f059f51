"""The selection, shared by every view of every station."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal


class Selection(QObject):
    """The selected part, wire (with one of its runs), step, portion and wool, each by its key, at most one of
    each. A key that no longer exists counts as not selected; each view decides what to show instead. The
    selected bone is the one under the run."""

    part_changed = pyqtSignal()
    wire_changed = pyqtSignal()
    step_changed = pyqtSignal()
    portion_changed = pyqtSignal()
    wool_changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.part: str | None = None
        self.wire, self.run = "", 0
        self.step = ""
        self.portion = ""
        self.wool = ""

    def select_part(self, part: str | None) -> None:
        """Select a part."""
        if part != self.part:
            self.part = part
            self.part_changed.emit()

    def select_wire(self, wire: str, run: int = 0) -> None:
        """Select a run of a wire, counted from 0."""
        if (wire, run) != (self.wire, self.run):
            self.wire, self.run = wire, run
            self.wire_changed.emit()

    def select_step(self, step: str) -> None:
        """Select a step."""
        if step != self.step:
            self.step = step
            self.step_changed.emit()

    def select_portion(self, portion: str) -> None:
        """Select a portion to weigh out."""
        if portion != self.portion:
            self.portion = portion
            self.portion_changed.emit()

    def select_wool(self, wool: str) -> None:
        """Select a wool of the shelf."""
        if wool != self.wool:
            self.wool = wool
            self.wool_changed.emit()

    def begin(self, part: str) -> None:
        """Select ``part`` of another figure and clear everything else; announced once the figure is there."""
        self.part = part
        self.wire, self.run, self.step, self.portion = "", 0, "", ""

    def announce(self) -> None:
        """Announce the whole selection, for a new listener."""
        for changed in (
            self.part_changed,
            self.wire_changed,
            self.step_changed,
            self.portion_changed,
            self.wool_changed,
        ):
            changed.emit()
