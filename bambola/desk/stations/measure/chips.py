"""The row of buttons with what a step of measuring offers besides working on the board."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton, QWidget

from bambola.desk.kit.buttons import make_switch, show_as_next, show_switch
from bambola.desk.kit.flow import FlowLayout
from bambola.language import tr


@dataclass(frozen=True)
class Chip:
    """One button: its words and action; for a switch whether it ``is_on``; whether it ``is_next``, the thing
    to do now, and shown ``only_next``. A chip that ``needs_picture`` is shown with a picture on the board,
    one ``while_agreeing`` also while proposed parts are asked about."""

    words: str
    do: Callable[[], object]
    is_on: Callable[[], bool] | None = None
    needs_picture: bool = False
    while_agreeing: bool = False
    is_next: Callable[[], bool] | None = None
    only_next: bool = False


class ChipRow(QWidget):
    """The chips of the present step."""

    used = pyqtSignal()
    """One of them has done what it does."""

    def __init__(self) -> None:
        super().__init__()
        self.buttons: dict[str, QPushButton] = {}
        """By their words, before they are translated."""
        self._chips: tuple[Chip, ...] = ()
        self._flow = FlowLayout(self)

    def set_gap(self, px: int) -> None:
        """Set the space between the chips."""
        self._flow.set_gap(px)

    def fill(self, chips: Sequence[Chip]) -> None:
        """Show these chips."""
        self.hide()  # the page would be laid anew for every button that comes
        self._flow.clear()
        self._chips, self.buttons = tuple(chips), {}
        for chip in chips:
            button = QPushButton(tr(chip.words))
            if chip.is_on is not None:
                make_switch(button, lambda _, chip=chip: self._use_chip(chip))
            else:
                button.clicked.connect(lambda _=False, chip=chip: self._use_chip(chip))
            self._flow.addWidget(button)
            self.buttons[chip.words] = button

    def refresh(self, has_picture: bool, agreeing: bool) -> None:
        """Update the state of the chips."""
        for chip, button in zip(self._chips, self.buttons.values(), strict=True):
            is_next = chip.is_next is not None and chip.is_next() and not agreeing
            button.setVisible(
                (chip.while_agreeing or not agreeing) and (is_next or not chip.only_next)
            )
            button.setEnabled(has_picture or not chip.needs_picture)
            if chip.is_on is not None:
                show_switch(button, chip.is_on())
            if chip.is_next is not None:
                show_as_next(button, is_next)
        self.setVisible(bool(self._chips))

    def _use_chip(self, chip: Chip) -> None:
        chip.do()
        self.used.emit()
