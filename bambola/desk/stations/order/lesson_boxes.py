"""Dialogs of a lesson: the size and weight of a piece, and at the end what the hands have taught."""

from __future__ import annotations

from PyQt6.QtWidgets import QLabel, QLineEdit, QVBoxLayout, QWidget

from bambola.core.bench.wools import Size3
from bambola.core.quantities import (
    QuantityError,
    Units,
    parse_mass,
    parse_sides,
    show_length,
    show_mass,
)
from bambola.core.wool.learning import Estimate
from bambola.core.words import Words, error_words
from bambola.desk.kit.buttons import take_or_leave
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.theme import Theme, set_role
from bambola.language import tr, trn

MOST_G = 1_000_000
"""No piece weighs more than this."""
_LIKE = 0.05
"""Nearer than this to the usual number it is the usual one. Judged."""


class SizeBox(FittedDialog):
    """Asks for the three sizes of the piece just felted (one for a ball) and its weight; either may be left
    empty. The expected values are shown: ``wanted`` (mm) and between which weights ``planned_g`` lies, None
    if it cannot be measured or weighed."""

    def __init__(
        self,
        parent: QWidget,
        theme: Theme,
        words: Words,
        part: str,
        wanted: Size3 | None,
        planned_g: tuple[float, float] | None = None,
    ) -> None:
        super().__init__(parent)
        self.words = words
        self.size_mm: Size3 | None = None
        self.grams: float | None = None
        self.setWindowTitle(tr("How did it come out?"))
        self.line, self.weight = QLineEdit(), QLineEdit()
        self.fault = QLabel()
        self.fault.setWordWrap(True)
        column = QVBoxLayout(self)
        asked = []
        if wanted is not None:
            asked.append((_ask_size(part, wanted, words.units), self.line, tr("Size")))
            size = _shown_size(wanted, words.units)
            self.line.setPlaceholderText(size)
        if planned_g is not None:
            low, high = (show_mass(grams, words.units) for grams in planned_g)
            ask = tr("Lay it on the scale. As told it weighs {low} to {high}.", low=low, high=high)
            asked.append((ask, self.weight, tr("Weight")))
            self.weight.setPlaceholderText(tr("{low} to {high}", low=low, high=high))
        for ask, line, name in asked:
            told = QLabel(ask)
            told.setWordWrap(True)
            told.setMinimumWidth(theme.px(380))
            set_role(told, "large")
            set_role(line, "huge")
            line.setAccessibleName(name)
            column.addWidget(told)
            column.addWidget(line)
        why = QLabel(
            tr("From this Bambola learns how firmly you felt, and how much wool you lose.")
        )
        why.setWordWrap(True)
        column.addWidget(why)
        column.addWidget(self.fault)
        column.addWidget(take_or_leave(self, tr("Keep it"), tr("Not now")))
        asked[0][1].setFocus()

    def accept(self) -> None:
        try:
            size, grams = self._read_size(), self._read_grams()
        except QuantityError as error:
            self.fault.setText(error_words(error, self.words))
            return
        if size is None and grams is None:
            self.fault.setText(tr("Type its size or its weight, or choose “Not now”."))
            return
        self.size_mm, self.grams = size, grams
        super().accept()

    def _read_size(self) -> Size3 | None:
        if not self.line.text().strip():
            return None
        sizes = parse_sides(self.line.text(), self.words.units.length)
        if len(sizes) not in (1, 3) or any(mm <= 0 for mm in sizes):
            raise QuantityError(
                tr("One size, of a ball, or three, along × across × through; each above 0.")
            )
        return sizes[0], sizes[-2 if len(sizes) == 3 else 0], sizes[-1]

    def _read_grams(self) -> float | None:
        if not self.weight.text().strip():
            return None
        grams = parse_mass(self.weight.text(), self.words.units.mass)
        if not 0 < grams <= MOST_G:
            raise QuantityError(tr("A weight must lie above 0 and up to 1000 kg."))
        return grams


def _ask_size(part: str, wanted: Size3, units: Units) -> str:
    told = {"part": part, "size": _shown_size(wanted, units)}
    if _is_round(wanted):
        return tr(
            "Measure the {part:lower} across, with a tape or a ruler. It was to be {size}.", **told
        )
    return tr("Measure the {part:lower}: along, across, through. It was to be {size}.", **told)


def _is_round(size: Size3) -> bool:
    return max(size) - min(size) < 0.02 * max(size)


def _shown_size(size: Size3, units: Units) -> str:
    """Return the diameter of a ball, else three sizes, as text."""
    if _is_round(size):
        return show_length(size[0], units)
    return " × ".join(show_length(mm, units, with_unit=i == 2) for i, mm in enumerate(size))


class EndBox(FittedDialog):
    """The end of a lesson: what the hands have taught, and what may come next."""

    def __init__(
        self, parent: QWidget, theme: Theme, lines: list[str], following: str | None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Finished"))
        title = QLabel(tr("It is made."))
        set_role(title, "headline")
        column = QVBoxLayout(self)
        column.setSpacing(theme.px(12))
        column.addWidget(title)
        for line in lines:
            told = QLabel(line)
            told.setWordWrap(True)
            told.setMinimumWidth(theme.px(440))
            set_role(told, "large")
            column.addWidget(told)
        column.addWidget(take_or_leave(self, following, tr("Close")))


def lesson_sentences(
    estimates: tuple[Estimate, ...], words: Words, wools: dict[str, str], known: int
) -> list[str]:
    """Return sentences on what measured and timed pieces have taught; ``wools`` are their names."""
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
            n, wool = round(abs(ratio - 1) * 20) * 5, wools[found.wool]
            told.append(
                tr("You felt {wool:lower} about as close as is usual.", wool=wool)
                if usual
                else tr(
                    "You felt {wool:lower} {n} % closer than usual; weights follow.", wool=wool, n=n
                )
                if ratio > 1
                else tr(
                    "You felt {wool:lower} {n} % looser than usual; weights follow.", wool=wool, n=n
                )
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
