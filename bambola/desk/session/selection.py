"""What is in hand: one selection for every view of every station."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal


class Selection(QObject):
    """At most one part, wire with one of its runs, step, portion and wool, each by its key.

    What a key no longer stands for is not in hand: who shows it says what is instead. The bone in hand is the
    one under the run.
    """

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

    def take_part(self, part: str | None) -> None:
        """Bring a part to hand."""
        if part != self.part:
            self.part = part
            self.part_changed.emit()

    def take_wire(self, wire: str, run: int = 0) -> None:
        """Bring a run of a wire to hand, counted from nought."""
        if (wire, run) != (self.wire, self.run):
            self.wire, self.run = wire, run
            self.wire_changed.emit()

    def take_step(self, step: str) -> None:
        """Bring a step to hand."""
        if step != self.step:
            self.step = step
            self.step_changed.emit()

    def take_portion(self, portion: str) -> None:
        """Bring a portion to hand, to be weighed out."""
        if portion != self.portion:
            self.portion = portion
            self.portion_changed.emit()

    def take_wool(self, wool: str) -> None:
        """Bring a wool of the shelf to hand."""
        if wool != self.wool:
            self.wool = wool
            self.wool_changed.emit()

    def begin(self, part: str) -> None:
        """Take up ``part`` of another figure, and nothing else of the last one; told once it is there."""
        self.part = part
        self.wire, self.run, self.step, self.portion = "", 0, "", ""

    def tell(self) -> None:
        """Announce everything, as to one who has just come."""
        for changed in (
            self.part_changed,
            self.wire_changed,
            self.step_changed,
            self.portion_changed,
            self.wool_changed,
        ):
            changed.emit()
