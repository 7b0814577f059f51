"""What a making teaches, laid before its maker: nothing is learned before she takes it."""

from __future__ import annotations

from PyQt6.QtWidgets import QCheckBox, QLabel, QVBoxLayout, QWidget

from bambola.core.bench import Record
from bambola.core.quantities import show_length, show_mass
from bambola.core.words import Words
from bambola.desk.kit.buttons import lead_label, take_or_leave
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.learned import lesson_lines
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.bench_desk import BenchDesk
from bambola.language import tr, trn


class LessonsBox(FittedDialog):
    """Says what would change, and on which pieces it rests; those that look like slips, and times that are
    hard to believe, count only if she ticks them. ``is_done``: the figure is made; else only what is not
    begun of it is to follow."""

    def __init__(
        self, parent: QWidget, theme: Theme, desk: BenchDesk, making: str, is_done: bool
    ) -> None:
        super().__init__(parent)
        self.desk, self.making, self.is_done = desk, making, is_done
        self.words: Words = desk.studio.words
        self.setWindowTitle(tr("What it teaches"))
        found = desk.lessons(making)
        said = (
            tr(
                "This figure stays as it was told. What you take here is counted on for the next ones."
            )
            if is_done
            else tr(
                "What is begun stays as it was told. What you take here is used for the parts that are "
                "not begun; at the end you are asked again for the next figures."
            )
        )
        lead = lead_label(said)
        self.changes = QLabel()
        self.changes.setWordWrap(True)
        set_role(self.changes, "large")
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setSpacing(theme.px(8))
        column.addWidget(self.changes)
        self.pieces: dict[int, QCheckBox] = {}
        rests = QLabel(tr("It rests on these pieces; untick one that went wrong:"))
        rests.setVisible(bool(found.records) and is_done)
        column.addWidget(rests)
        for record in found.records if is_done else ():
            box = QCheckBox(self._piece_words(record, record.n in found.doubtful))
            box.setChecked(record.n not in found.doubtful)
            box.toggled.connect(self.refresh)
            column.addWidget(box)
            self.pieces[record.n] = box
        n = len(found.odd)
        odd = QLabel(
            trn(
                "{n} step was paged over or left on the clock: its time does not count.",
                "{n} steps were paged over or left on the clock: their times do not count.",
                n,
            )
        )
        self.odd = QCheckBox(tr("Count them all the same"))
        for label in (rests, odd):
            label.setWordWrap(True)
        for shown in (odd, self.odd):
            shown.setVisible(bool(n) and is_done)
            column.addWidget(shown)
        self.odd.toggled.connect(self.refresh)
        column.addStretch(1)
        take = tr("Count on it") if is_done else tr("Use it for the rest")
        whole = QVBoxLayout(self)
        whole.setSpacing(theme.px(10))
        whole.addWidget(lead)
        whole.addWidget(scroll_area(inside), 1)
        whole.addWidget(take_or_leave(self, take, tr("Not now")))
        self.refresh()
        self.set_size(theme, 560, 600 if self.pieces else 360)

    @property
    def left_out(self) -> tuple[int, ...]:
        """The numbers of the records that are not to be learned from."""
        return tuple(n for n, box in self.pieces.items() if not box.isChecked())

    def refresh(self) -> None:
        """Say what would change with the pieces that are ticked."""
        lessons = self.desk.lessons(self.making, self.left_out, self.odd.isChecked())
        wools = {wool.id: wool.name for wool in self.desk.base.wools}
        said = lesson_lines(lessons.changed, wools)
        self.changes.setText("\n".join(said) or tr("Nothing changes: you work as was counted on."))

    def _piece_words(self, record: Record, is_doubtful: bool) -> str:
        units = self.words.units
        told = [show_mass(record.grams, units)]
        if record.finished_mm:
            sides = record.finished_mm
            told.append(
                " × ".join(show_length(mm, units, with_unit=i == 2) for i, mm in enumerate(sides))
            )
        if record.minutes is not None:
            told.append(tr("{minutes:.0f} min", minutes=record.minutes))
        said = tr("{part}: {told}", part=record.part, told=", ".join(told))
        return tr("{piece} (a slip?)", piece=said) if is_doubtful else said

    def accept(self) -> None:
        """Learn it; of a figure half made, whoever asked plans the rest by it."""
        if not self.is_done or self.desk.take_lessons(
            self.making, self.left_out, self.odd.isChecked()
        ):
            super().accept()
