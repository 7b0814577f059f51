"""What a lesson asks and tells: how large a piece came out, and what the hands have taught by the end."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QLabel, QLineEdit, QVBoxLayout, QWidget

from bambola.core.bench.records import Size3
from bambola.core.quantities import QuantityError, Units, parse_sides, show_length
from bambola.core.wool.learning import Estimate
from bambola.core.words import Words, error_words
from bambola.desk.kit.ok_cancel import take_or_leave
from bambola.desk.kit.theme import Theme
from bambola.language import tr, trn

_LIKE = 0.05
"""Nearer than this to the usual number it is the usual one. Judged."""


class SizeBox(QDialog):
    """Asks for the three sizes of the piece that has just been felted; one alone is a ball's."""

    def __init__(
        self, parent: QWidget, theme: Theme, words: Words, part: str, wanted: Size3
    ) -> None:
        super().__init__(parent)
        self.words = words
        self.size_mm: Size3 | None = None
        self.setWindowTitle(tr("How large did it come out?"))
        self.is_round = max(wanted) - min(wanted) < 0.02 * max(wanted)
        across = show_length(wanted[0], words.units)
        shown = across if self.is_round else _three(wanted, words.units)
        ask = (
            tr("Measure the {part} across, with a tape or a ruler. It was to be {size}.",
               part=part, size=shown)
            if self.is_round
            else tr("Measure the {part}: along, across, through. It was to be {size}.",
                    part=part, size=shown)
        )  # fmt: skip
        told = QLabel(ask + " " + tr("From this Bambola learns how close your hands felt."))
        told.setWordWrap(True)
        told.setMinimumWidth(theme.px(380))
        told.setFont(theme.text(16))
        self.line = QLineEdit(shown)
        self.line.setFont(theme.text(20))
        self.line.setAccessibleName(tr("Size"))
        self.line.selectAll()
        self.fault = QLabel()
        self.fault.setWordWrap(True)
        buttons = take_or_leave(self, tr("Keep it"), tr("Not now"))
        column = QVBoxLayout(self)
        for widget in (told, self.line, self.fault, buttons):
            column.addWidget(widget)
        self.line.setFocus()

    def accept(self) -> None:
        try:
            self.size_mm = self._read()
        except QuantityError as error:
            self.fault.setText(error_words(error, self.words))
            return
        if self.size_mm is None:
            self.fault.setText(
                tr("One size, of a ball, or three, along × across × through; each above 0.")
            )
            return
        super().accept()

    def _read(self) -> Size3 | None:
        sizes = parse_sides(self.line.text(), self.words.units.length)
        if any(mm <= 0 for mm in sizes):
            return None
        if len(sizes) == 1:
            return sizes[0], sizes[0], sizes[0]
        return (sizes[0], sizes[1], sizes[2]) if len(sizes) == 3 else None


class EndBox(QDialog):
    """The end of a piece one has learned on: what the hands have taught, and what may come next."""

    def __init__(
        self, parent: QWidget, theme: Theme, lines: list[str], following: str | None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Finished"))
        title = QLabel(tr("It is made."))
        title.setFont(theme.title(26))
        column = QVBoxLayout(self)
        column.setSpacing(theme.px(12))
        column.addWidget(title)
        for line in lines:
            told = QLabel(line)
            told.setWordWrap(True)
            told.setMinimumWidth(theme.px(440))
            told.setFont(theme.text(16))
            column.addWidget(told)
        column.addWidget(take_or_leave(self, following, tr("Close")))


def taught(
    estimates: tuple[Estimate, ...], words: Words, wools: dict[str, str], known: int
) -> list[str]:
    """What pieces measured and timed have taught, as one would say it; ``wools`` are their names."""
    told = []
    for found in estimates:
        ratio = found.value / found.start
        if found.what == "pace":
            usual = abs(ratio - 1) < _LIKE
            n = round(abs(ratio - 1) * 20) * 5
            told.append(
                tr("You work at the usual pace.")
                if usual
                else tr("You take {n} % longer than usual; hours follow.", n=n)
                if ratio > 1
                else tr("You take {n} % less time than usual; hours follow.", n=n)
            )
        elif found.what.startswith("density") and found.wool in wools:
            usual = abs(ratio - 1) < _LIKE
            n, wool = round(abs(ratio - 1) * 20) * 5, wools[found.wool].lower()
            told.append(
                tr("You felt {wool} about as close as is usual.", wool=wool)
                if usual
                else tr("You felt {wool} {n} % closer than usual; weights follow.", wool=wool, n=n)
                if ratio > 1
                else tr("You felt {wool} {n} % looser than usual; weights follow.", wool=wool, n=n)
            )
    if known:
        told.append(
            trn(
                "{n} way of working is known now: its text is folded, and H unfolds it.",
                "{n} ways of working are known now: their text is folded, and H unfolds it.",
                known,
            )
        )
    return told


def _three(size: Size3, units: Units) -> str:
    return " × ".join(show_length(mm, units, with_unit=i == 2) for i, mm in enumerate(size))
