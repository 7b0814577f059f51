"""A figure as a list of its parts: the list on the left, the resulting figure on the right."""

from __future__ import annotations

import re
from pathlib import Path

from PyQt6.QtGui import QShowEvent, QTextCursor
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.facts import Mm, fact
from bambola.core.figure import Figure
from bambola.core.figure.shapes import LEAST_MM
from bambola.core.notes.building import ListedFigure, colour_words, figure_of
from bambola.core.notes.reading import Entry, Notes, read_notes
from bambola.core.notes.writing import with_list
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.solids import place
from bambola.core.words import error_words
from bambola.desk.kit.buttons import show_as_next
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.file_dialogs import ask_open
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.notes_paper import NotesFigure, NotesPaper
from bambola.files import FileRefusedError
from bambola.files.spreadsheet import table_text
from bambola.language import N_, tr, trn
from bambola.shipped import body_plans

READ_MS = 120
FORMS = (
    ("sphere", N_("ball")),
    ("cone", N_("cone")),
    ("limb", N_("roll")),
    ("flat", N_("flat")),
    ("pad", N_("cushion")),
)
"""Words that tell a form, as they are written into a line, and as a button offers them."""


class NotesDialog(FittedDialog):
    """Reads the list while it is typed; ``figure`` is the result. With a ``base`` it edits the list of that
    figure, which keeps everything the list does not mention."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        text: str = "",
        base: Figure | None = None,
    ) -> None:
        super().__init__(parent)
        self.studio, self.theme = studio, theme
        name = tr("The parts as a list") if base else tr("From my notes")
        self.setWindowTitle(name)
        self.base = base
        self.found: ListedFigure | None = None
        self._changed: Figure | None = None
        self.notes = Notes("", None, None, (), ())
        self._plans = [plan.figure for plan in body_plans()]
        self.paper, self.picture = NotesPaper(theme), NotesFigure(theme, darkroom)
        self.paper.setPlaceholderText(
            tr("otter, stands\nbody 70 x 64 x 92\nhead 48\n2 ears 9 x 7\n2 arms 44 long 14")
        )
        self.title, self.lead = QLabel(name), QLabel()
        self.lead.setText(
            tr("Change sizes, add lines or take some away; the rest of the figure stays.")
            if base
            else tr("One line for each part, in your own words; the figure grows beside it.")
        )
        self.under, self.count, self.asked = QLabel(), QLabel(), QLabel()
        for label in (self.lead, self.under, self.asked):
            label.setWordWrap(True)
        self.height_ = QLineEdit()
        self.height_.setAccessibleName(tr("Height"))
        self.height_.setPlaceholderText(tr("as typed"))
        self.paste, self.take = QPushButton(tr("Paste a list")), QPushButton()
        self.open_ = QPushButton(tr("Open a list…"))
        self.take.setText(tr("Take it over") if base else tr("Put it on the table"))
        self.leave = QPushButton(tr("Cancel"))
        self.take.setDefault(True)
        show_as_next(self.take)
        self._chips = QWidget()
        self._chip_row = FlowLayout(self._chips)
        self._soon = one_shot_timer(self, READ_MS)
        self._compose()
        self._soon.timeout.connect(self.read)
        self.paper.textChanged.connect(self._soon.start)
        self.height_.textChanged.connect(lambda _: self._soon.start())
        self.paper.line_changed.connect(lambda _: self._light_current_part())
        self.paste.clicked.connect(lambda _=False: self._paste_list())
        self.open_.clicked.connect(lambda _=False: self._open_file())
        self.take.clicked.connect(lambda _=False: self._accept_figure())
        self.leave.clicked.connect(self.reject)
        set_role(self.title, "headline")
        set_role(self.lead, "body")
        set_role(self.under, "large")
        set_role(self.count, "amount")
        set_role(self.asked, "strong", "warning")
        theme.changed.connect(self._restyle)
        self._restyle()
        self.paper.setPlainText(text)
        self.read()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.paper.setFocus()

    @property
    def figure(self) -> Figure | None:
        """The figure that the list describes."""
        return self._changed or (self.found.figure if self.found else None)

    def _compose(self) -> None:
        left = QVBoxLayout()
        for widget in (self.title, self.lead):
            left.addWidget(widget)
        left.addWidget(self.paper, 1)
        left.addWidget(self.asked)
        left.addWidget(self._chips)
        high = QHBoxLayout()
        label = QLabel(tr("finished height"))
        label.setBuddy(self.height_)
        label.setVisible(self.base is None)
        self.height_.setVisible(self.base is None)
        high.addWidget(label)
        high.addWidget(self.height_)
        high.addStretch(1)
        left.addLayout(high)
        given, row = QHBoxLayout(), QHBoxLayout()
        given.addWidget(self.paste)
        given.addWidget(self.open_)
        given.addStretch(1)
        left.addLayout(given)
        row.addStretch(1)
        row.addWidget(self.leave)
        row.addWidget(self.take)
        left.addLayout(row)
        right = QVBoxLayout()
        right.addWidget(self.picture, 1)
        foot = QHBoxLayout()
        foot.addWidget(self.under, 1)
        foot.addWidget(self.count)
        right.addLayout(foot)
        whole = QHBoxLayout(self)
        whole.addLayout(left, 10)
        whole.addLayout(right, 11)

    def _restyle(self) -> None:
        px = self.theme.px
        self.height_.setFixedWidth(px(120))
        self.set_size(self.theme, 1180, 720)

    # Reading

    def _typed_height(self) -> float | None:
        text = self.height_.text().strip()
        if not text:
            return None
        try:
            mm = parse_length(text, self.studio.units.length)
        except QuantityError:
            return None
        return mm if mm >= LEAST_MM else None

    def read(self) -> None:
        """Read the list and show the result."""
        self._soon.stop()
        bench, text = self.studio.bench, self.paper.toPlainText()
        self.notes = read_notes(text, self.studio.units.length, colour_words(bench))
        if self.base is not None:
            self._read_change(self.base, text)
        else:
            self.found = figure_of(self.notes, bench, self._plans, self._typed_height())
        self._tell_lines()
        self._tell_foot()
        self._offer_meanings()
        self.picture.show_figure(self.figure, self._part_at(self.paper.line))

    def _read_change(self, base: Figure, text: str) -> None:
        """Apply the list to the open figure, or say why that fails."""
        unit, self._changed = self.studio.units.length, None
        try:
            self._changed = with_list(base, text, self.studio.bench, self._plans, unit)
        except ValueError as error:
            self.under.setText(error_words(error, self.studio.words))

    def _tell_lines(self) -> None:
        """Show beside each line what it was read as."""
        say = self.studio.say
        told: dict[int, str] = {}
        wrong = {fault.line for fault in self.notes.faults}
        told |= {fault.line: say(fault.why) for fault in self.notes.faults}
        if self.found is not None:
            names = {part.id: part.name for part in self.found.figure.parts}
            for part in self.found.figure.parts:
                line = self.found.lines.get(part.id, 0)
                words = [tr("a pair")] if part.pair else []
                if part.row:
                    words.append(trn("one", "{n} in a row", part.row.count))
                if part.id in self.found.figure.wired:
                    words.append(tr("wired"))
                if part.parent:
                    words.append(tr("on the {part:lower}", part=names[part.parent]))
                told.setdefault(line, ", ".join(words))
            for doubt in self.found.doubts:
                told[doubt.line] = say(doubt.what)
                wrong.add(doubt.line)
        self.paper.show_readings(told, frozenset(wrong))

    def _tell_foot(self) -> None:
        """Show the resulting height, the number of parts, and what was assumed."""
        found, say = self.found, self.studio.say
        lines = len(self.notes.entries) + len(self.notes.faults)
        good = len(self.notes.entries)
        self.count.setText(tr("{n} of {of} lines", n=good, of=lines) if lines else "")
        self.take.setEnabled(self.figure is not None and not self.notes.faults)
        if self.base is not None:
            if self.figure is not None:
                high = show_length(place(self.figure).height, self.studio.units)
                self.under.setText(tr("{length} high", length=high))
            return
        if found is None:
            self.under.setText("")
            return
        typed = Mm(found.height_mm)
        if abs(found.scale - 1) > 1e-3:
            high = say(fact("notes.scaled", typed=typed, percent=round(100 * found.scale)))
        else:
            high = say(fact("notes.high", typed=typed))
        line = self.paper.line
        taken = [say(told.what) for told in found.taken if told.line == line]
        self.under.setText(". ".join((high, *taken)))

    def _offer_meanings(self) -> None:
        """Offer meanings for the current line, else for the first that is not understood."""
        while (item := self._chip_row.takeAt(0)) is not None:
            if widget := item.widget():
                widget.hide()
                widget.deleteLater()
        doubtful = [entry for entry in self.notes.entries if not (entry.kind or entry.form)]
        entry = next((e for e in doubtful if e.line == self.paper.line), None)
        entry = entry or next(iter(doubtful), None)
        if self.base is not None:
            known = {part.name.casefold() for part in self.base.parts}
            entry = None if entry is None or entry.name.casefold() in known else entry
        self._chips.setVisible(entry is not None)
        self.asked.setVisible(entry is not None)
        if entry is None:
            return
        self.asked.setText(tr("Line {n}: what is “{name}”?", n=entry.line, name=entry.name))
        for likely in dict.fromkeys(entry.likely):
            self._add_meaning(likely, likely, entry)
        for word, name in FORMS:
            self._add_meaning(tr(name), word, entry)

    def _add_meaning(self, told: str, word: str, entry: Entry) -> None:
        button = QPushButton(told)
        button.clicked.connect(lambda _=False: self.answer(entry, word))
        self._chip_row.addWidget(button)

    def answer(self, entry: Entry, word: str) -> None:
        """Write the chosen meaning of a name into its line: another name, or a shape after it."""
        if word in entry.likely:
            text = re.sub(re.escape(entry.name), word, entry.text, count=1, flags=re.IGNORECASE)
        else:
            text = f"{entry.text}, {word}"
        self.paper.replace_line(entry.line, text)
        self.read()
        self.paper.setFocus()

    def _part_at(self, line: int) -> str:
        """Return the part that a line describes."""
        lines = self.found.lines if self.found else {}
        if self.base is not None:  # its parts stand in the list as they bear each other
            lines = {part.id: n for n, part in enumerate(self.base.parents_first, 2)}
        known = {part.id for part in self.figure.parts} if self.figure else set()
        return next((id for id, n in lines.items() if n == line and id in known), "")

    def _light_current_part(self) -> None:
        self.picture.light(self._part_at(self.paper.line))
        self._tell_foot()

    def _paste_list(self) -> None:
        """Add the list or table on the clipboard."""
        clipboard = QApplication.clipboard()
        self._append_text(clipboard.text() if clipboard else "")

    def _open_file(self) -> None:
        """Add the contents of a file: a list as text, or a table."""
        words = tr("Lists (*.txt *.csv *.tsv *.ods);;All files (*)")
        path = ask_open(self, tr("Open a list"), words)
        if not path:
            return
        try:
            self._append_text(table_text(Path(path)))
        except FileRefusedError as error:
            self.under.setText(str(error))

    def _append_text(self, text: str) -> None:
        """Append ``text``; one undo removes it."""
        if text.strip():
            cursor = self.paper.textCursor()
            cursor.movePosition(QTextCursor.MoveOperation.End)
            here = self.paper.toPlainText()
            cursor.insertText(text if not here.strip() or here.endswith("\n") else f"\n{text}")
        self.paper.setFocus()

    def _accept_figure(self) -> None:
        self.read()
        if self.take.isEnabled():
            self.accept()
