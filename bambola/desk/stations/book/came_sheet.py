"""How a making came out: hours, what failed and helped, sizes and weights, and what to do next time."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from pathlib import Path

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QPixmap
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QFormLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Making
from bambola.core.bench.making import nth_of
from bambola.core.figure.fields import MOST_NOTE
from bambola.core.plan import Plan
from bambola.core.quantities import QuantityError, parse_length, parse_mass, show_length, show_mass
from bambola.core.words import error_words, kind
from bambola.desk.kit.buttons import make_switch, show_switch, take_or_leave
from bambola.desk.kit.file_dialogs import PictureDialog
from bambola.desk.kit.lessons_box import LessonsBox
from bambola.desk.kit.locale import day_words
from bambola.desk.kit.paper import SheetWidgets
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.background import Background, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.book.reading import OpenPage
from bambola.files import ExportError
from bambola.files.picture_job import PictureError
from bambola.files.pictures import read_picture
from bambola.language import tr, trn
from bambola.store.photographs import Photographs

_SMALL_PX = 84


class PhotoStrip(QWidget):
    """Thumbnails in a row; Enter or a double click shows one large, Delete removes it."""

    changed = pyqtSignal(tuple)
    refused = pyqtSignal(str)

    def __init__(self, theme: Theme, photographs: Photographs) -> None:
        super().__init__()
        self.theme, self.photographs = theme, photographs
        self.names: tuple[str, ...] = ()
        self._background = Background("photographs")
        self.list = QListWidget()
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setFlow(QListWidget.Flow.LeftToRight)
        self.list.setWrapping(False)
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setAccessibleName(tr("Photographs"))
        self.list.hide()
        self.list.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemActivated.connect(lambda item: self.enlarge(self.list.row(item)))
        self.add = QPushButton(tr("Photograph…"))
        self.add.setToolTip(tr("A picture of the figure: a smaller copy is kept beside the book"))
        self.add.clicked.connect(lambda _=False: self.ask())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.list)
        column.addWidget(self.add, 0, Qt.AlignmentFlag.AlignLeft)
        self.restyle()

    def restyle(self) -> None:
        """Apply the present look."""
        side = self.theme.px(_SMALL_PX)
        self.list.setIconSize(QSize(side, side))
        self.list.setFixedHeight(side + self.theme.px(26))

    def show_names(self, names: tuple[str, ...]) -> None:
        """Show these photographs; a missing file is reported."""
        if names == self.names and self.list.count() == len(names):
            return
        self.names = names
        self.list.clear()
        for n, name in enumerate(names, 1):
            path = self.photographs.path(name)
            told = tr("photograph {n}", n=n) if path else tr("photograph {n}: gone", n=n)
            item = QListWidgetItem(QIcon(str(path)) if path else QIcon(), "" if path else told)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, told)
            self.list.addItem(item)
        self.list.setVisible(bool(names))

    def keyPressEvent(self, event: object) -> None:
        key = getattr(event, "key", lambda: None)()
        row = self.list.currentRow()
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and row >= 0:
            self.changed.emit(self.names[:row] + self.names[row + 1 :])

    def ask(self) -> None:
        """Choose photographs."""
        for path in PictureDialog.ask_many(self, tr("Photographs"), ""):
            self.add_picture(Path(path))

    def add_picture(self, path: Path) -> None:
        """Read a picture off the interface thread, and save a copy."""

        def read() -> str:
            return self.photographs.save(read_picture(path).pixels)

        def kept(name: str) -> None:
            if name not in self.names:
                self.names = (*self.names, name)  # the next may come before the page is shown anew
                self.changed.emit(self.names)

        def failed(error: Exception) -> None:
            known = isinstance(error, (PictureError, ExportError))
            if not isinstance(error, CalledOffError):
                self.refused.emit(str(error) if known else log_error(error))

        self._background.do(read, kept, failed)

    def enlarge(self, row: int) -> None:
        """Look at a photograph large."""
        path = self.photographs.path(self.names[row]) if 0 <= row < len(self.names) else None
        if path is None:
            return
        dialog = QDialog(self)
        dialog.setWindowTitle(tr("Photograph"))
        picture = QLabel()
        screen = self.screen()
        room = screen.availableSize() * 0.8 if screen else QSize(900, 700)
        keep, smooth = (
            Qt.AspectRatioMode.KeepAspectRatio,
            Qt.TransformationMode.SmoothTransformation,
        )
        picture.setPixmap(QPixmap(str(path)).scaled(room, keep, smooth))
        column = QVBoxLayout(dialog)
        column.addWidget(picture)
        column.addWidget(take_or_leave(dialog, None, tr("Close")))
        dialog.exec()

    def close_down(self) -> None:
        """Stop reading."""
        self._background.close()


MOST_TOLD = 6
"""So many sittings and steps that failed are told: of sittings the last, and how many there were."""


class CameSheet(SheetWidgets):
    """The selected making; edits are saved at once."""

    another = pyqtSignal()

    def __init__(self, studio: EditorSession, theme: Theme, desk: BenchDesk) -> None:
        super().__init__(theme, tr("How it turned out"))
        self.studio, self.desk = studio, desk
        self.page: OpenPage | None = None
        self.part = ""
        self._title, self._facts = self.label(), self.label()
        self.learned = QCheckBox(tr("learn from its hours"))
        make_switch(self.learned, lambda on: self._save_change(aside=not on))
        self.box.addWidget(self.learned)
        self.lessons = QPushButton(tr("What it teaches…"))
        self.lessons.setToolTip(tr("Nothing of it is counted on for the next figures yet"))
        self.lessons.clicked.connect(lambda _=False: self.ask_lessons())
        self.box.addWidget(self.lessons, 0, Qt.AlignmentFlag.AlignLeft)
        self.another_one = QPushButton(tr("Make another"))
        self.another_one.clicked.connect(lambda _=False: self.another.emit())
        self.box.addWidget(self.another_one, 0, Qt.AlignmentFlag.AlignLeft)
        self.photos = PhotoStrip(theme, Photographs(desk.book.path))
        self.photos.changed.connect(lambda names: self._save_change(photographs=names))
        self.photos.refused.connect(studio.refused)
        self.box.addWidget(self.photos)
        self.form = QFormLayout()
        self.form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        self.reached = self._make_field(tr("&How high it came out"), self._save_height)
        self.next_time = self._make_field(tr("&Next time"), self._save_next_time)
        self.next_time.setMaxLength(MOST_NOTE)
        self.next_time.setPlaceholderText(tr("what to do differently"))
        self.box.addLayout(self.form)
        self._part_name = self.label()
        self.measures = QWidget()
        self._measures = QFormLayout(self.measures)
        self._measures.setContentsMargins(0, 0, 0, 0)
        self.box.addWidget(self.measures)
        self.join = QComboBox()
        self.join.setAccessibleName(tr("its join"))
        for words, held in (
            (tr("not looked at"), None),
            (tr("held"), True),
            (tr("came loose"), False),
        ):
            self.join.addItem(words, held)
        self._join_row = QWidget()
        join_row = QFormLayout(self._join_row)
        join_row.setContentsMargins(0, 0, 0, 0)
        join_row.addRow(tr("its join"), self.join)
        self.box.addWidget(self._join_row)
        self.join.activated.connect(lambda _: self._save_join())
        self.fields: dict[str, QLineEdit] = {}
        """By measure; the weight under an empty name."""
        self.fault = self.label()
        self.fault.hide()
        set_role(self._title, "title")
        set_role(self._part_name, "subtitle")
        set_role(self._facts, "note")
        set_role(self.fault, tone="warning")
        self._apply_theme()

    def _make_field(self, name: str, keep: Callable[[str], None]) -> QLineEdit:
        field = QLineEdit()
        field.setAccessibleName(name.replace("&", ""))
        field.editingFinished.connect(lambda: self._save_field(field, keep))
        label = QLabel(name)
        label.setBuddy(field)
        self.form.addRow(label)
        self.form.addRow(field)
        return field

    def restyle(self) -> None:
        self.photos.restyle()

    # What is shown

    def show_page(self, page: OpenPage) -> None:
        """Show a making."""
        self.page = page
        making, units = page.making, self.studio.units
        self._title.setText(making.figure or tr("unnamed"))
        self._facts.setText("\n".join(self._step_names(making, page.plan)))
        self.another_one.setVisible(nth_of(page.name)[0] == self.studio.design)
        self.photos.show_names(making.photographs)
        waits = bool(making.finished) and making.kept is not None and not making.taught
        self.learned.setVisible(bool(making.planned) and (making.teaches or making.aside))
        self.lessons.setVisible(waits and bool(self.desk.lessons(page.name)))
        show_switch(self.learned, not making.aside)
        if not self.reached.hasFocus():
            high = making.reached_mm
            self.reached.setText("" if high is None else show_length(high, units))
        planned = making.height_mm
        self.reached.setPlaceholderText(
            tr("planned {height}", height=show_length(planned, units)) if planned else ""
        )
        if not self.next_time.hasFocus():
            self.next_time.setText(making.next_time)
            self.next_time.setCursorPosition(0)
        self.show_part(self.part)

    def _step_names(self, making: Making, plan: Plan | None) -> list[str]:
        steps = {str(s.key): self.studio.say(s.text) for s in plan.steps} if plan else {}
        told = [tr("{hours:.1f} h of work", hours=making.spent / 60)]
        if plan is not None and making.spent > 0 and making.finished:
            told[0] += tr(", {hours:.1f} h planned", hours=plan.minutes / plan.count / 60)
        if making.kept is not None:
            told += [
                tr("Told at the start: {notice}", notice=n) for n in making.kept.notices[:MOST_TOLD]
            ]
        if making.sittings:
            said = ", ".join(
                tr(
                    "{day} {minutes:.0f} min",
                    day=day_words(date.fromisoformat(sitting.day)),
                    minutes=sitting.minutes,
                )
                for sitting in making.sittings[-MOST_TOLD:]
            )
            n = len(making.sittings)
            told.append(trn("{n} sitting: {said}", "{n} sittings, the last: {said}", n, said=said))
        for key in making.failed[:MOST_TOLD]:
            helped = "; ".join(making.mended.get(key, ()))
            words = {"step": steps.get(key, key), "how": helped}
            told.append(
                tr("Failed: {step}. What helped: {how}", **words)
                if helped
                else tr("Failed: {step}.", **words)
            )
        told += [
            tr("{step}: “{note}”", step=steps.get(key, key), note=note)
            for key, note in making.notes.items()
            if note
        ]
        return told

    def ask_lessons(self) -> None:
        """Ask which of what the making teaches is to be counted on."""
        if self.page is not None:
            LessonsBox(self, self.theme, self.desk, self.page.name, is_done=True).open()

    def show_part(self, part: str) -> None:
        """Ask for the sizes and weight of a finished part."""
        self.part, page = part, self.page
        plan = page.plan if page else None
        here = next((row for row in plan.parts if row.id == part), None) if plan else None
        for shown in (self._part_name, self.measures, self._join_row):
            shown.setVisible(here is not None)
        if page is None or here is None:
            return
        self._part_name.setText(tr("{part} as it came out", part=here.name))
        if list(self.fields) != [*here.to_mm, ""]:
            self._lay_fields([*here.to_mm, ""])
        units, making = self.studio.units, page.making
        for name, mm in here.to_mm.items():
            known = making.sizes.get(part, {}).get(name)
            told = "" if known is None else show_length(known, units)
            self._fill_field(name, told, show_length(mm, units))
        grams = making.weights.get(part)
        told = "" if grams is None else show_mass(grams, units)
        self._fill_field("", told, show_mass(here.grams, units))
        join = self._join_key()
        self._join_row.setVisible(join is not None)
        self.join.setCurrentIndex(self.join.findData(making.held.get(join or "")))

    def _lay_fields(self, names: list[str]) -> None:
        """Create a field for each measure, and one for the weight."""
        while self._measures.rowCount():
            self._measures.removeRow(0)
        self.fields.clear()
        last = self.next_time
        for name in names:
            words = self.studio.say(kind("measure", name)) if name else tr("weight")
            field, label = QLineEdit(), QLabel(words)
            field.setAccessibleName(words)
            field.editingFinished.connect(
                lambda f=field, n=name: self._save_field(
                    f, lambda text: self._save_measure(n, text)
                )
            )
            label.setBuddy(field)
            self._measures.addRow(label, field)
            QWidget.setTabOrder(last, field)
            last = self.fields[name] = field
        QWidget.setTabOrder(last, self.join)

    def _fill_field(self, name: str, text: str, planned: str) -> None:
        field = self.fields[name]
        field.setPlaceholderText(tr("planned {size}", size=planned))
        if not (field.hasFocus() and field.isModified()):  # what is being typed stays
            field.setText(text)

    # What is typed

    def _save_field(self, field: QLineEdit, keep: Callable[[str], None]) -> None:
        if self.page is None or not field.isModified():
            return
        field.setModified(False)
        try:
            keep(field.text().strip())
        except QuantityError as error:
            self.fault.setText(error_words(error, self.studio.words))
            self.fault.show()
        else:
            self.fault.hide()

    def _parse_length_or_none(self, text: str) -> float | None:
        return parse_length(text, self.studio.units.length) if text else None

    def _stored_making(self) -> Making:
        """Return the making from the database, since its page may still be loading."""
        assert self.page is not None
        return self.desk.book.making(self.page.name)

    def _save_change(self, **changes: object) -> None:
        if self.page is not None:
            self.desk.change_making(self.page.name, **changes)

    def _save_height(self, text: str) -> None:
        self._save_change(reached_mm=self._parse_length_or_none(text))

    def _save_next_time(self, text: str) -> None:
        self._save_change(next_time=text)

    def _save_measure(self, name: str, text: str) -> None:
        making = self._stored_making()
        if not name:
            grams = parse_mass(text, self.studio.units.mass) if text else None
            weights = {k: v for k, v in making.weights.items() if k != self.part}
            self._save_change(weights=weights if grams is None else {**weights, self.part: grams})
            return
        mm = self._parse_length_or_none(text)
        own = {k: v for k, v in making.sizes.get(self.part, {}).items() if k != name}
        own |= {} if mm is None else {name: mm}
        others = {k: v for k, v in making.sizes.items() if k != self.part}
        self._save_change(sizes={**others, self.part: own} if own else others)

    def _join_key(self) -> str | None:
        """Return how the selected part is joined, from the database; None if it is not joined."""
        plan = self.page.plan if self.page else None
        joins = (j for j in plan.joins if j.part == self.part) if plan is not None else iter(())
        return next((f"{j.part}:{j.kind}" for j in joins), None)

    def _save_join(self) -> None:
        """Save whether the part's join held."""
        join = self._join_key()
        if join is None:
            return
        held = {
            k: v for k, v in self._stored_making().held.items() if k.rpartition(":")[0] != self.part
        }
        found = self.join.currentData()
        self._save_change(held=held if found is None else {**held, join: found})
