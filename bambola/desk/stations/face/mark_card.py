"""The marks of a face as a list, the current one typed or measured; and whether two sides are level."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QSpinBox,
    QWidget,
)

from bambola.core.face import Face, Mark, seat_at, seat_by_caliper
from bambola.core.face.marks import SAME_MM
from bambola.core.face.moving import level_of_marks, with_mark_at
from bambola.core.face.over_surface import Place
from bambola.core.figure.shapes import Shape
from bambola.core.plan.making.values import FittingPlan
from bambola.core.plan.reading.faces import FaceRow, MarkRow, face_advice, face_rows
from bambola.core.quantities import QuantityError, parse_length, show_bought, show_length, show_read
from bambola.core.solids import own_copy
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.device_row import DeviceRow
from bambola.desk.kit.flow import tab_before
from bambola.desk.kit.paper import SheetWidgets, labelled
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.face.piece_row import PieceRow
from bambola.language import tr, trn

MOST = 9999


class EyeBox(QWidget):
    """A number and what to buy; shown while the current mark is of eyes that come in sizes."""

    def __init__(self, desk: BenchDesk) -> None:
        super().__init__()
        self.desk = desk
        self._row: FittingPlan | None = None
        self._size, self.count, self.told = QLabel(), QSpinBox(), QLabel()
        self.count.setRange(0, MOST)
        self.count.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.count.setAccessibleName(tr("eyes of this size in the box"))
        self.told.setWordWrap(True)
        form = QFormLayout(self)
        form.setContentsMargins(0, 0, 0, 0)
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        form.addRow(self._size, self.count)
        form.addRow(self.told)
        self.count.editingFinished.connect(self._save_count)

    def show_mark(self, mark: Mark | None) -> None:
        """Show the eyes of a mark."""
        plan = self.desk.studio.plan
        about = mark.about if mark is not None and mark.kind == "fitting" else ""
        sold = (
            {f.id for f in plan.resized.figure.fittings if f.follows == "ready-made"}
            if plan
            else set()
        )
        self._row = (
            next((r for r in plan.fittings if r.id == about and r.id in sold), None)
            if plan
            else None
        )
        self.setVisible(self._row is not None)
        if self._row is None:
            return
        size = show_bought(self._row.use_mm, self.desk.studio.units)
        self._size.setText(tr("of {size} in the &box", size=size))
        self._size.setBuddy(self.count)
        if not self.count.hasFocus():
            self.count.setValue(self.desk.base.eyes_of(self._row.use_mm))
        self.told.setText(
            trn("{n} eye to buy.", "{n} eyes to buy.", self._row.buy)
            if self._row.buy
            else tr("Enough for what is planned.")
        )

    def _save_count(self) -> None:
        if self._row is not None and self.count.value() != self.desk.base.eyes_of(self._row.use_mm):
            self.desk.set_eyes(self._row.use_mm, self.count.value())


MOVED_MM = 0.05
"""What moved by less is not told."""


class MarkCard(SheetWidgets):
    """The marks from the crown down, the current one with fields as a strip reads it, and whether two sides
    are level."""

    taken = pyqtSignal(str)
    part_taken = pyqtSignal(str)

    def __init__(self, studio: EditorSession, theme: Theme, desk: BenchDesk) -> None:
        super().__init__(theme, tr("Marks of the face"))
        self.studio = studio
        self.mark: Mark | None = None
        self.part = ""
        self._filling = False
        self._title = self.label()
        self._faces = QHBoxLayout()
        self.box.addLayout(self._faces)
        self.face_buttons: dict[str, QPushButton] = {}
        self.advice = self.label()
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Marks from the crown down"))
        self.list.setWordWrap(True)
        self.list.currentRowChanged.connect(self._row_taken)
        self.box.addWidget(self.list, 1)
        self.pieces = PieceRow(studio)
        self.box.addWidget(self.pieces)
        self.eyes = EyeBox(desk)
        self.box.addWidget(self.eyes)
        self._typed_head = self.label(tr("Measured with a paper strip"))
        form = QFormLayout()
        self.down, self.aside = QLineEdit(), QLineEdit()
        for field, name in (
            (self.down, tr("from the &crown")),
            (self.aside, tr("from the &midline")),
        ):
            field.editingFinished.connect(self._move_to_typed)
            form.addRow(name, field)
        self.box.addLayout(form)
        self._level_head = self.label(tr("Level?"))
        self._level_told = self.label(tr("Read it on both sides, from the crown."))
        pair = QHBoxLayout()
        self.left, self.right = QLineEdit(), QLineEdit()
        for field, name in ((self.left, tr("left")), (self.right, tr("right"))):
            field.setAccessibleName(name)
            field.textChanged.connect(self._compare_sides)
            pair.addLayout(labelled(name, field))
        self.box.addLayout(pair)
        self.level = self.label()
        self._asked = self.down
        for field in (self.down, self.aside):
            field.installEventFilter(self)
        self.caliper = DeviceRow(
            studio,
            theme,
            "caliper",
            tr("straight from the crown; on the midline, the distance between the two"),
        )
        self.caliper.link.reading.connect(self._enter_reading)
        self.box.addWidget(self.caliper)
        set_role(self._title, "title")
        for head in (self._typed_head, self._level_head):
            set_role(head, "subtitle")
        for label in (self.advice, self._level_told, self.level):
            set_role(label, "note")
        set_role(self.list, "body")
        for field in (self.down, self.aside, self.left, self.right):
            set_role(field, "amount")
        self._apply_theme()

    def restyle(self) -> None:
        self.list.setSpacing(self.theme.px(3))

    def show_face(self, part: str, mark: Mark | None) -> None:
        """Show the marks on a part, one of them current."""
        plan = self.studio.plan
        rows = {row.part: row for row in face_rows(plan)} if plan else {}
        self.part, self.mark = part, mark
        self.eyes.show_mark(mark)
        self.pieces.show_piece(part or self.studio.selection.part or "", mark)
        self._title.setText(rows[part].name if part in rows else tr("No face"))
        self._offer_faces(rows, part)
        advice = face_advice(plan.scale) if plan and part in rows else None
        self.advice.setText(self.studio.say(advice) if advice else "")
        self.advice.setVisible(advice is not None)
        self._filling = True
        ids = [self.list.item(i).data(Qt.ItemDataRole.UserRole) for i in range(self.list.count())]  # type: ignore[union-attr]
        shown = self._shown_rows(rows[part].marks) if part in rows else []
        if ids != [row.id for row in shown]:
            self.list.clear()
            for row in shown:
                item = QListWidgetItem()
                item.setData(Qt.ItemDataRole.UserRole, row.id)
                self.list.addItem(item)
        for i, row in enumerate(shown):
            there = self.list.item(i)
            assert there is not None
            there.setText(self._row_words(row))
            if mark is not None and row.id == mark.id:
                self.list.setCurrentRow(i)
        units = self.studio.units
        for field, mm in (
            (self.down, mark.from_crown_mm if mark else None),
            (self.aside, mark.from_midline_mm if mark else None),
        ):
            if not field.hasFocus():
                field.setText("" if mm is None else show_length(mm, units))
            field.setEnabled(mm is not None)
        self.aside.setEnabled(mark is not None and mark.both)
        self._filling = False

    def _shown_rows(self, rows: tuple[MarkRow, ...]) -> list[MarkRow]:
        plan = self.studio.plan
        told = {m.id for face in (plan.faces if plan else ()) for m in face.named_marks}
        return [row for row in rows if row.id in told]

    def _row_words(self, row: MarkRow) -> str:
        units = self.studio.units
        lines = [self.studio.say(row.words)]
        was = show_length(row.was_mm["from_crown_mm"], units)
        down = show_length(row.from_crown_mm, units)
        lines.append(tr("{down} from the crown, was {was}", down=down, was=was))
        if row.both or row.from_midline_mm > SAME_MM:
            was = show_length(row.was_mm["from_midline_mm"], units)
            aside = show_length(row.from_midline_mm, units)
            lines.append(tr("{aside} from the midline, was {was}", aside=aside, was=was))
        if abs(row.moved_mm) >= MOVED_MM:
            by = show_length(abs(row.moved_mm), units)
            lines.append(
                tr("moved out by {by}: the eye is larger, the gap stays", by=by)
                if row.moved_mm > 0
                else tr("moved in by {by}: the eye is smaller, the gap stays", by=by)
            )
        return "\n".join(lines)

    def _offer_faces(self, rows: dict[str, FaceRow], part: str) -> None:
        """Show a button for each part with marks, if there are several."""
        if list(self.face_buttons) != list(rows):
            for button in self.face_buttons.values():
                button.deleteLater()
            self.face_buttons = {}
            for name, row in rows.items() if len(rows) > 1 else ():
                button = QPushButton(row.name)
                make_switch(button, lambda _, p=name: self.part_taken.emit(p))
                self._faces.addWidget(button)
                tab_before(button, self.list)
                self.face_buttons[name] = button
        for name, button in self.face_buttons.items():
            show_switch(button, name == part)

    def _row_taken(self, row: int) -> None:
        item = self.list.item(row)
        if item is not None and not self._filling:
            self.taken.emit(item.data(Qt.ItemDataRole.UserRole))

    def _move_to_typed(self) -> None:
        """Move the current mark to where the strip says. The number is of the new size, as a strip reads at
        its height."""
        plan, mark = self.studio.plan, self.mark
        if plan is None or mark is None or self._filling:
            return
        units = self.studio.units
        try:
            down = parse_length(self.down.text(), units.length)
            aside = parse_length(self.aside.text(), units.length) if mark.both else 0.0
        except QuantityError as error:
            self.studio.refuse(error)
            return
        shown = show_length(mark.from_crown_mm, units), show_length(mark.from_midline_mm, units)
        if (self.down.text(), self.aside.text()) == shown:
            return
        there = self._on_part()
        if there is None:
            return
        face, shape = there
        place = seat_at(shape, face.crown, down, aside)
        if place is not None:
            self._move_mark(place)
            return
        self.studio.refused.emit(
            tr(
                "There is no place on the {part:lower} {down} from the crown and {aside} from "
                "the midline.",
                part=face.name,
                down=show_length(down, units),
                aside=show_length(aside, units),
            )
        )

    def _enter_reading(self, mm: float) -> None:
        """Enter a caliper's reading: straight from the crown to the current mark, or between it and its twin
        if the distance from the midline is current."""
        there, mark = self._on_part(), self.mark
        if there is None or mark is None:
            return
        face, shape = there
        between = self._asked is self.aside and mark.both
        now = (mark.along, mark.around)
        place = seat_by_caliper(
            shape, face.crown, now, **({"apart": mm} if between else {"down": mm})
        )
        if place is None:
            told = tr("The caliper’s {mm} does not reach any place on the {part:lower}.",
                      part=face.name, mm=show_read(mm, self.studio.units))  # fmt: skip
            self.studio.refused.emit(told)
            return
        self._move_mark(place if mark.both else (place[0], 0.0))

    def _on_part(self) -> tuple[Face, Shape] | None:
        """Return the current face and the shape it is on."""
        plan = self.studio.plan
        if plan is None:
            return None
        copy = own_copy(plan.solids.placement, self.part)
        face = next((f for f in plan.faces if f.part == self.part), None)
        return (face, copy.shape) if copy is not None and face is not None else None

    def _move_mark(self, place: Place) -> None:
        mark = self.mark
        assert mark is not None
        name = self.studio.say(mark.name)
        self.studio.edit_by(
            tr("Move {mark:lower}", mark=name), lambda f: with_mark_at(f, mark, place)
        )

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Remember which of the two distances had the focus last."""
        taken_up = event is not None and event.type() == QEvent.Type.FocusIn
        if taken_up and isinstance(watched, QLineEdit):
            self._asked = watched
        return False

    def _compare_sides(self) -> None:
        texts = [field.text().strip() for field in (self.left, self.right)]
        if not all(texts):
            self.level.setText("")
            return
        try:
            left, right = (parse_length(text, self.studio.units.length) for text in texts)
        except QuantityError:
            self.level.setText(tr("Type both as the tape shows them, such as 31."))
            return
        self.level.setText(self.studio.say(level_of_marks(left, right)))
